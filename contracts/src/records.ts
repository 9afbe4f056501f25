import type { Diagnosis, InstrumentClass } from '@near-spoke/core';
import * as z from 'zod';
import { link } from './jobs.js';
import { instrumentClass, linkEnd, reading } from './readings.js';
import { line, note, timestamp, uuid } from './text.js';

/** One try at an end: the connector is good, or spoiled. */
export const termination = z.object({
  id: uuid,
  side: linkEnd,
  at: timestamp,
  by: z.string(),
  connectorTypeId: z.string(),
  outcome: z.enum(['good', 'spoiled']),
  connectorsSpoiled: z.int(),
  reason: z.string(),
  /** Lot or bag of the connectors, as printed on it. */
  lot: z.string(),
  /** What stood in for a missing tool; empty when nothing did. To be redone. */
  stopgap: z.string(),
  /** The sheets the card was made from. */
  connectorVersion: z.int(),
  cableVersion: z.int(),
  corrects: uuid.nullable(),
});
export type Termination = z.infer<typeof termination>;
export const newTermination = z
  .strictObject({
    id: uuid,
    side: linkEnd,
    connectorTypeId: line(40),
    outcome: z.enum(['good', 'spoiled']),
    connectorsSpoiled: z.int().min(0).max(50, { error: 'At most 50 connectors.' }),
    reason: note.default(''),
    lot: z.string().trim().max(60, { error: 'At most 60 characters.' }).default(''),
    stopgap: z.string().trim().max(300, { error: 'At most 300 characters.' }).default(''),
    connectorVersion: z.int().positive().optional(),
    cableVersion: z.int().positive().optional(),
    corrects: uuid.nullable().default(null),
  })
  .refine((attempt) => attempt.outcome === 'good' || attempt.connectorsSpoiled > 0, {
    path: ['connectorsSpoiled'],
    error: 'A spoiled end costs at least one connector.',
  });
export type NewTermination = z.input<typeof newTermination>;

/** Work on the cable itself. */
export const cableWork = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  kind: z.enum(['mended', 'replaced']),
  atM: z.number().nullable(),
  note: z.string(),
});
export type CableWork = z.infer<typeof cableWork>;
export const newCableWork = z.strictObject({
  id: uuid,
  kind: z.enum(['mended', 'replaced'], { error: 'The cable was mended or replaced.' }),
  atM: z.number().min(0).max(10_000).nullable().default(null),
  note: note.default(''),
});
export type NewCableWork = z.input<typeof newCableWork>;

const diagnosis = z.custom<Diagnosis>((value) => typeof value === 'object' && value !== null);

/** A reading as it was taken, with the verdict that all the evidence gave at that moment. */
export const testRecord = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  source: z.enum(['instrument', 'keyed']),
  instrumentName: z.string(),
  reading,
  diagnosis,
  corrects: uuid.nullable(),
  note: z.string(),
});
export type TestRecord = z.infer<typeof testRecord>;
export const newTest = z.strictObject({
  id: uuid,
  source: z.enum(['instrument', 'keyed']),
  instrumentName: line(80),
  reading,
  corrects: uuid.nullable().default(null),
  note: note.default(''),
  /** The person confirmed for this round that both ends are unplugged and dead. */
  unplugged: z.literal(true, { error: 'Confirm first that both ends are unplugged and dead.' }),
});
export type NewTest = z.input<typeof newTest>;

export const handover = z.object({ id: uuid, at: timestamp, by: z.string(), testId: uuid });
export type Handover = z.infer<typeof handover>;
export const newHandover = z.strictObject({ id: uuid });

/** Everything known of one link. */
export const linkDetail = z.object({
  link,
  scheme: z.enum(['T568A', 'T568B']),
  units: z.enum(['metric', 'imperial']),
  terminations: z.array(termination),
  cableWork: z.array(cableWork),
  tests: z.array(testRecord),
  handovers: z.array(handover),
  /** The verdict of all evidence that holds now; null before any reading. */
  diagnosis: diagnosis.nullable(),
});
export type LinkDetail = z.infer<typeof linkDetail>;

export const takeReading = z.strictObject({
  linkId: uuid,
  instrument: instrumentClass,
  end: linkEnd.default('near'),
});
export type TakeReading = z.input<typeof takeReading>;
export const takenReading = z.object({ instrumentName: z.string(), reading });
export type TakenReading = z.infer<typeof takenReading>;

export const instrument = z.object({
  name: z.string(),
  classes: z.array(z.custom<InstrumentClass>((v) => instrumentClass.safeParse(v).success)),
  connected: z.boolean(),
  simulated: z.boolean(),
});
export type Instrument = z.infer<typeof instrument>;

export const activity = z.object({
  id: z.int(),
  at: timestamp,
  by: z.string(),
  linkId: uuid.nullable(),
  label: z.string().nullable(),
  what: z.string(),
});
export type Activity = z.infer<typeof activity>;
