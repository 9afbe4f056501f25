import { canonicalJson } from './canonical.js';
import type { JobSeal, LinkSeal, RecordKind, SealedJob, SealedRecord } from './seal.js';

/** Something that is not as it was when it was sealed. */
export type SealChange =
  | { code: 'job-changed'; field: string; from: unknown; to: unknown }
  | { code: 'link-gone'; linkId: string; label: string }
  | { code: 'plan-changed'; linkId: string; label: string; field: string; from: unknown; to: unknown }
  /** Work or a reading since: the record goes on, and what was sealed still stands. */
  | { code: 'record-added'; linkId: string; label: string; kind: RecordKind; at: string; by: string }
  /** A record says something else than it did, or is no more: records are never rewritten, so this was no ordinary work. */
  | {
      code: 'record-altered' | 'record-missing';
      linkId: string;
      label: string;
      kind: RecordKind;
      id: string;
    };

/** Whether a change can come about by work alone; the others mean that somebody reached past the application. */
export const isOrdinary = ({ code }: SealChange): boolean =>
  code !== 'record-altered' && code !== 'record-missing' && code !== 'link-gone';

/**
 * What is not as it was sealed: field by field for the plan, record by record for what was done and read. Links that
 * the seal does not hold are no change of it.
 * @param now a seal of the same job, made later; of more links than the first if need be
 */
export function changesSince(seal: JobSeal, { job, links }: Pick<JobSeal, 'job' | 'links'>): SealChange[] {
  const now = new Map(links.map((link) => [link.linkId, link]));
  const heads = (Object.keys(seal.job) as (keyof SealedJob)[]).flatMap((field): SealChange[] =>
    seal.job[field] === job[field]
      ? []
      : [{ code: 'job-changed', field, from: seal.job[field], to: job[field] }],
  );
  return [
    ...heads,
    ...seal.links.flatMap((sealed): SealChange[] => {
      const { linkId, label } = sealed;
      const link = now.get(linkId);
      if (!link) return [{ code: 'link-gone', linkId, label }];
      return [...planChanges(sealed, link), ...recordChanges(sealed, link)];
    }),
  ];
}

function planChanges({ linkId, label, plan }: LinkSeal, link: LinkSeal): SealChange[] {
  const fields = [...new Set([...Object.keys(plan), ...Object.keys(link.plan)])];
  return fields.flatMap((field): SealChange[] => {
    const [from, to] = [plan[field] ?? null, link.plan[field] ?? null];
    return canonicalJson(from) === canonicalJson(to)
      ? []
      : [{ code: 'plan-changed', linkId, label, field, from, to }];
  });
}

function recordChanges({ linkId, label, records }: LinkSeal, link: LinkSeal): SealChange[] {
  const now = new Map<string, SealedRecord>(link.records.map((one) => [`${one.kind} ${one.id}`, one]));
  const altered = records.flatMap(({ kind, id, digest }): SealChange[] => {
    const one = now.get(`${kind} ${id}`);
    now.delete(`${kind} ${id}`);
    if (!one) return [{ code: 'record-missing', linkId, label, kind, id }];
    return one.digest === digest ? [] : [{ code: 'record-altered', linkId, label, kind, id }];
  });
  const added = [...now.values()].map(({ kind, at, by }): SealChange => ({
    code: 'record-added',
    linkId,
    label,
    kind,
    at,
    by,
  }));
  return [...altered, ...added];
}
