import { EVENT_KINDS, reportParts } from '@near-spoke/core';
import type { ReportData } from '@near-spoke/core/report';
import * as z from 'zod';
import { jobStretches } from './carries.js';
import { signOff } from './handovers.js';
import { link, scheme, units } from './jobs.js';
import { photoHead } from './photos.js';
import { linkEnd } from './readings.js';
import { linkDetail } from './records.js';
import { timestamp, uuid } from './text.js';

const digest = z.string().regex(/^[0-9a-f]{64}$/, { error: 'A digest is 64 hexadecimal digits.' });
const sealedJob = z.object({
  id: uuid,
  site: z.string(),
  title: z.string(),
  hub: z.string(),
  scheme: z.string(),
});
/** A seal as it lies in a file. */
const sealInFile = z.object({
  job: sealedJob,
  links: z.array(
    z.object({
      linkId: uuid,
      label: z.string(),
      plan: z.record(z.string(), z.unknown()),
      records: z.array(
        z.object({
          kind: z.enum(['termination', 'cable-work', 'test', 'handover', 'reopening', 'note']),
          id: uuid,
          at: timestamp,
          by: z.string(),
          digest,
        }),
      ),
      digest,
    }),
  ),
  digest,
});
/** A link as a report has it: what it says of one, and no more. */
const reportLink = linkDetail.omit({ practice: true }).extend({
  link: link
    .pick({
      id: true,
      label: true,
      stage: true,
      standing: true,
      cableTypeId: true,
      lengthM: true,
      route: true,
      carries: true,
    })
    .extend({
      near: z.object({ hub: z.string(), panel: z.string(), port: z.string(), connectorId: z.string() }),
      far: z.object({ room: z.string(), outlet: z.string(), connectorId: z.string() }),
    }),
  traces: z
    .array(
      z.object({
        at: timestamp,
        by: z.string(),
        end: linkEnd,
        pair: z.string().nullable(),
        name: z.string(),
        velocityFactor: z.number(),
        from: z.number(),
        to: z.number(),
        seen: z.array(z.number()).max(2000),
        model: z.array(z.number()).max(2000),
        events: z.array(
          z.object({
            kind: z.enum(EVENT_KINDS),
            distanceM: z.number(),
            u95M: z.number(),
            probability: z.number(),
          }),
        ),
        main: z.int().nullable(),
        unexplained: z.boolean(),
      }),
    )
    .optional(),
});
const reportAdapter = z.object({
  id: uuid,
  version: z.int(),
  at: timestamp,
  by: z.string(),
  design: z.looseObject({ name: z.string(), ends: z.array(z.looseObject({ id: z.string() })) }),
  builds: z.array(
    z.object({
      name: z.string(),
      version: z.int(),
      at: timestamp,
      by: z.string(),
      verdict: z.enum(['proved', 'failed', 'unfinished']),
      note: z.string(),
    }),
  ),
  photos: z.array(z.object({ end: z.string().nullable(), words: z.string(), photo: photoHead })),
});
const reportLooseEnd = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  name: z.string(),
  cable: z.string(),
  connector: z.string(),
  outcome: z.enum(['good', 'spoiled']),
  lot: z.string(),
  tool: z.string(),
  stopgap: z.string(),
  proof: z.enum(['proved', 'failed', 'unfinished']).nullable(),
  notAsCard: z.array(z.string()).nullable(),
  functionTest: z.array(z.object({ what: z.string(), does: z.boolean().nullable() })),
  photos: z.array(photoHead),
});
const reportShape = z.object({
  format: z.literal('near-spoke/report', { error: 'This is no near-spoke/report.' }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  wording: z.int(),
  made: z.object({ at: timestamp, by: z.string() }),
  address: z.string(),
  parts: z
    .array(z.string())
    .refine((ids) => reportParts(ids) !== null, { error: 'These are no parts of a report.' }),
  job: sealedJob.extend({ scheme, units, stretches: jobStretches }),
  links: z.array(reportLink).max(20_000),
  cables: z.array(z.object({ id: z.string(), name: z.string() })),
  connectors: z.array(z.object({ id: z.string(), name: z.string() })),
  signOffs: z.array(signOff.omit({ id: true, by: true })),
  adapters: z.array(reportAdapter).max(500).optional(),
  looseEnds: z.array(reportLooseEnd).max(2000).optional(),
  seal: sealInFile,
});

/** A file that has a shape, kept as it came: digests are over all of it, and nothing may be left out or added. */
const keptAsItIs = <T>(shape: z.ZodType) =>
  z.unknown().transform((value, context): T => {
    for (const issue of shape.safeParse(value).error?.issues ?? [])
      context.addIssue({ code: 'custom', path: [...issue.path], message: issue.message });
    return value as T;
  });

/** `near-spoke/report`: all that a report is made from, as it lies inside it. */
export const reportFile = keptAsItIs<ReportData>(reportShape);

const handoverShape = z.object({
  format: z.literal('near-spoke/handover', { error: 'This is no near-spoke/handover.' }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  job: sealedJob,
  links: z.array(linkDetail).max(20_000),
});
export type HandoverRecord = z.infer<typeof handoverShape>;

/** `near-spoke/handover`: the whole record of a job, as it is exported. */
export const handoverFile = keptAsItIs<HandoverRecord>(handoverShape);
