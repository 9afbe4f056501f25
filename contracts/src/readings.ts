import type { Reading } from '@near-spoke/core';
import * as z from 'zod';

/** A contact by its own numbering; `S` is the screen, `C` a coax centre. */
export const contact = z.string().regex(/^(?:[1-9]\d?|S|C|a|b)$/, {
  error: 'A contact is a number, S for the screen, C for a centre, a or b for a leg.',
});
const contactPair = z
  .string()
  .regex(/^[\dCSab]{1,2}-[\dCSab]{1,2}$/, { error: 'Write a contact pair as 1-2.' });
const contacts = z.array(contact).max(50);
export const linkEnd = z.enum(['near', 'far'], { error: 'An end is near or far.' });

const mapReading = z.strictObject({
  instrument: z.enum(['stepping-lamps', 'coded-mapper', 'coded-mapper-crosstalk']),
  arrivals: z.record(contact, contacts),
  joins: z
    .array(contacts.min(2, { error: 'A join names at least two contacts.' }))
    .max(50)
    .default([]),
  splits: z.array(contactPair).max(25).nullable().default(null),
});

const lampReading = z.strictObject({
  instrument: z.literal('lamp-pairs'),
  lamps: z.record(contactPair, z.boolean()),
});

const echo = z.strictObject({
  kind: z.enum(['open', 'short', 'low', 'high']),
  distanceM: z.number().min(0, { error: 'A distance is not negative.' }).max(10_000),
});

const echoReading = z.strictObject({
  instrument: z.literal('pair-reflectometer'),
  from: linkEnd,
  pairs: z.record(contactPair, z.array(echo).max(50)),
});

const colourReading = z.strictObject({
  instrument: z.literal('eye'),
  end: linkEnd,
  colours: z.record(contact, z.string().max(12).nullable()),
});

const anyReading = z.discriminatedUnion('instrument', [mapReading, lampReading, echoReading, colourReading], {
  error:
    'Name the instrument: stepping-lamps, coded-mapper, coded-mapper-crosstalk, lamp-pairs, pair-reflectometer or eye.',
});
export type ReadingInput = z.input<typeof anyReading>;
/** A reading of any instrument class. */
export const reading: z.ZodType<Reading, ReadingInput | Reading> = anyReading;

export const instrumentClass = z.enum(
  ['lamp-pairs', 'stepping-lamps', 'coded-mapper', 'coded-mapper-crosstalk', 'pair-reflectometer', 'eye'],
  { error: 'That is not an instrument class we know.' },
);
