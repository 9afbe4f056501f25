import * as z from 'zod';
import { madeTouch } from './adapters.js';
import { jpegPicture } from './photos.js';
import { sight } from './readings.js';
import { line, note, timestamp, uuid } from './text.js';

const words = (most: number) =>
  z
    .string()
    .trim()
    .max(most, { error: `At most ${most} characters.` })
    .default('');

/** What has to happen once it is connected, and whether it does; null where nobody has tried. */
const trial = z.strictObject({ what: line(120), does: z.boolean().nullable() });
export type FunctionTrial = z.infer<typeof trial>;

/** Where schools differ on what goes to which contact: what was chosen on the card. */
const schools = z.strictObject({
  ringingWire: z.boolean().default(false),
  flatEnd: z.enum(['first', 'rolled']).default('first'),
});

/** One end that was made without a job, as its card was worked through. */
export const newLooseEnd = z
  .strictObject({
    id: uuid,
    /** What it is, or for whom; may be left out. */
    name: words(80),
    cableTypeId: line(40),
    connectorTypeId: line(40),
    scheme: z.enum(['T568A', 'T568B']),
    schools: schools.prefault({}),
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
    functionTest: z.array(trial).max(40, { error: 'A function test has at most 40 lines.' }).default([]),
    /** What was seen on its contacts; null where nobody looked. */
    seen: sight.nullable().default(null),
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
  schools,
  outcome: z.enum(['good', 'spoiled']),
  connectorsSpoiled: z.int(),
  reason: z.string(),
  lot: z.string(),
  tool: z.string(),
  stopgap: z.string(),
  /** What metering it came to; null where nobody did. */
  proof: z.enum(['proved', 'failed', 'unfinished']).nullable(),
  functionTest: z.array(trial),
  seen: sight.nullable(),
  /** Contacts on which the card of that time had something else than was seen; null where nobody looked. */
  notAsCard: z.array(z.string()).nullable(),
  /** Photos of it, the first one first. */
  photos: z.array(uuid),
  /** The job that it was given to. */
  givenTo: z.object({ jobId: uuid, title: z.string(), at: timestamp, by: z.string() }).nullable(),
});
export type LooseEnd = z.infer<typeof looseEnd>;

/** A photo of an end that is in the book. */
export const newLoosePhoto = z.strictObject({ id: uuid, jpeg: jpegPicture });
export type NewLoosePhoto = z.input<typeof newLoosePhoto>;

/** Ends go to a job. */
export const looseGiving = z.strictObject({
  jobId: uuid,
  ends: z
    .array(uuid)
    .min(1, { error: 'Choose what goes to the job.' })
    .max(200, { error: 'At most 200 at once.' }),
});
export type LooseGiving = z.input<typeof looseGiving>;
