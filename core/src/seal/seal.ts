import { digestOf, type Digest } from './digest.js';

/** What was recorded of a link, whole, as the record has it. */
export interface SealableRecord {
  kind: RecordKind;
  record: Recorded;
}

export type RecordKind = 'termination' | 'cable-work' | 'test' | 'handover' | 'reopening' | 'note';

/** All of a link that a report tells and that nobody may change unseen. */
export interface SealableLink {
  linkId: string;
  label: string;
  /** What it was meant to be, and where its ends are. */
  plan: Readonly<Record<string, unknown>>;
  /** In the order of their turns. */
  records: readonly SealableRecord[];
}

/** What is known of a record from its seal alone. */
export interface SealedRecord {
  kind: RecordKind;
  id: string;
  at: string;
  by: string;
  digest: Digest;
}

/** A link's records by their digests; its plan stays readable, so that a change of it can be told field by field. */
export interface LinkSeal {
  linkId: string;
  label: string;
  plan: Readonly<Record<string, unknown>>;
  records: readonly SealedRecord[];
  digest: Digest;
}

/** The head of a job, as a seal covers it. */
export interface SealedJob {
  id: string;
  site: string;
  title: string;
  hub: string;
  scheme: string;
}

export interface JobSeal {
  job: SealedJob;
  /** By the ids of the links, so that their order in a report does not matter. */
  links: readonly LinkSeal[];
  digest: Digest;
}

/** The parts of a link's detail that are sealed. */
interface LinkRecordLike {
  link: {
    id: string;
    label: string;
    near: { hub: string; panel: string; port: string; connectorId: string };
    far: { room: string; outlet: string; connectorId: string };
    cableTypeId: string;
    lengthM: number;
    route: readonly unknown[];
    carries: unknown;
  };
  scheme: string;
  terminations: readonly Recorded[];
  cableWork: readonly Recorded[];
  tests: readonly Recorded[];
  handovers: readonly Recorded[];
  reopenings: readonly Recorded[];
  /** Left out where it was recorded before there were notes. */
  notes?: readonly Recorded[] | undefined;
}

interface Recorded {
  id: string;
  turn: number;
  at: string;
  by: string;
}

/** What is sealed of a link: its plan and all its records. What follows from them (stage, verdict, next step) is not. */
export function sealable({ link, scheme, ...record }: LinkRecordLike): SealableLink {
  const { near, far } = link;
  const of = (kind: RecordKind, some: readonly Recorded[]): SealableRecord[] =>
    some.map((record) => ({ kind, record }));
  return {
    linkId: link.id,
    label: link.label,
    plan: {
      label: link.label,
      hub: near.hub,
      panel: near.panel,
      port: near.port,
      nearConnectorId: near.connectorId,
      room: far.room,
      outlet: far.outlet,
      farConnectorId: far.connectorId,
      cableTypeId: link.cableTypeId,
      lengthM: link.lengthM,
      route: link.route,
      carries: link.carries,
      scheme,
    },
    records: [
      ...of('termination', record.terminations),
      ...of('cable-work', record.cableWork),
      ...of('test', record.tests),
      ...of('handover', record.handovers),
      ...of('reopening', record.reopenings),
      ...of('note', record.notes ?? []),
    ].sort((a, b) => a.record.turn - b.record.turn),
  };
}

/** Seals one link. */
export function sealLink({ linkId, label, plan, records }: SealableLink): LinkSeal {
  const sealed = {
    linkId,
    label,
    plan,
    records: records.map((one) => ({
      kind: one.kind,
      id: one.record.id,
      at: one.record.at,
      by: one.record.by,
      digest: digestOf(one),
    })),
  };
  return { ...sealed, digest: digestOf(sealed) };
}

/** Seals a job's links: one digest that changes with any of their records, and with who they are of. */
export function sealJob(job: SealedJob, links: readonly LinkSeal[]): JobSeal {
  const sorted = [...links].sort((a, b) => (a.linkId < b.linkId ? -1 : 1));
  const head = { id: job.id, site: job.site, title: job.title, hub: job.hub, scheme: job.scheme };
  return {
    job: head,
    links: sorted,
    digest: digestOf({ job: head, links: sorted.map(({ linkId, digest }) => ({ linkId, digest })) }),
  };
}

/** Whether a seal's own digests fit together: each link's with its list, the whole with all. */
export function sealHolds(seal: JobSeal): boolean {
  const links = seal.links.map(({ digest: _, ...sealed }) => ({ ...sealed, digest: digestOf(sealed) }));
  return (
    links.every(({ digest }, n) => digest === seal.links[n]?.digest) &&
    sealJob(seal.job, links).digest === seal.digest
  );
}
