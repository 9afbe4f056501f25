import * as z from 'zod';
import { madeTouch } from './adapters.js';
import { line, note, timestamp, uuid } from './text.js';

const words = (most: number) =>
  z
    .string()
    .trim()
    .max(most, { error: `At most ${most} characters.` })
    .default('');

/** One end that was made without a job, as its card was worked through. */
export const newLooseEnd = z
  .strictObject({
    id: uuid,
    /** What it is, or for whom; may be left out. */
    name: words(80),
    cableTypeId: line(40),
    connectorTypeId: line(40),
    scheme: z.enum(['T568A', 'T568B']),
    outcome: z.enum(['good', 'spoiled']),
    connectorsSpoiled: z.int().min(0).max(50, { error: 'At most 50 connectors.' }).default(0),
    reason: note.default(''),
    lot: words(60),
    tool: words(60),
    stopgap: words(300),
    /** Touches between its contacts and the wires of the cable's other end, as they were heard; null where nobody metered. */
    touched: z
      .array(madeTouch)
      .max(3000, { error: 'A proof has at most 3,000 touches.' })
      .nullable()
      .default(null),
  })
  .refine((end) => end.outcome === 'good' || end.connectorsSpoiled > 0, {
    path: ['connectorsSpoiled'],
    error: 'A spoiled end costs at least one connector.',
  });
export type NewLooseEnd = z.input<typeof newLooseEnd>;

export const looseEnd = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  name: z.string(),
  cableTypeId: z.string(),
  cable: z.string(),
  connectorTypeId: z.string(),
  connector: z.string(),
  scheme: z.enum(['T568A', 'T568B']),
  outcome: z.enum(['good', 'spoiled']),
  connectorsSpoiled: z.int(),
  reason: z.string(),
  lot: z.string(),
  tool: z.string(),
  stopgap: z.string(),
  /** What metering it came to; null where nobody did. */
  proof: z.enum(['proved', 'failed', 'unfinished']).nullable(),
  /** The job that it was given to. */
  givenTo: z.object({ jobId: uuid, title: z.string(), at: timestamp, by: z.string() }).nullable(),
});
export type LooseEnd = z.infer<typeof looseEnd>;

/** Ends go to a job. */
export const looseGiving = z.strictObject({
  jobId: uuid,
  ends: z
    .array(uuid)
    .min(1, { error: 'Choose what goes to the job.' })
    .max(200, { error: 'At most 200 at once.' }),
});
export type LooseGiving = z.input<typeof looseGiving>;
