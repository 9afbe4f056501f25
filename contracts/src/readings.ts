import { POWER_TYPE_IDS, type Evidence, type Reading } from '@near-spoke/core';
import * as z from 'zod';
import { chosen, line } from './text.js';

/** A contact by its own name; `S` is the screen, `C` a coax centre, `a` and `b` the legs of a line. */
export const contact = z.string().regex(/^(?:[1-9]\d?|[A-Za-z][A-Za-z0-9]{0,2})$/, {
  error:
    'A contact is a number from 1 to 99, or a short name: S for the screen, C for a centre, a or b for a leg.',
});
export const contactPair = z
  .string()
  .regex(/^[A-Za-z0-9]{1,3}-[A-Za-z0-9]{1,3}$/, { error: 'Write a contact pair as 1-2.' });
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
  remote: line(24).optional(),
  screenEarthed: z.enum(['one-end', 'both-ends']).optional(),
});

const lampReading = z.strictObject({
  instrument: z.enum(['lamp-pairs', 'lamps-one-return']),
  lamps: z.record(contactPair, z.boolean()),
});

const echo = z.strictObject({
  kind: z.enum(['open', 'short', 'low', 'high']),
  distanceM: z.number().min(0, { error: 'A distance is not negative.' }).max(10_000),
  uM: z.number().min(0, { error: 'An uncertainty is not negative.' }).max(1000).optional(),
  probability: z.number().min(0).max(1, { error: 'A probability is at most 1.' }).optional(),
});

const echoReading = z.strictObject({
  instrument: z.literal('pair-reflectometer'),
  by: z.enum(['cursors', 'capacitance', 'resistance']).optional(),
  from: linkEnd,
  pairs: z.record(contactPair, z.array(echo).max(50)),
});

/** What lies on each contact, as a person saw it: a conductor, nothing (`empty`), or what could not be told. */
export const sight = z.strictObject({
  colours: z.record(contact, z.string().max(12).nullable()),
  empty: contacts.optional(),
});
export type Sight = z.infer<typeof sight>;

const colourReading = z.strictObject({ instrument: z.literal('eye'), end: linkEnd, ...sight.shape });

const group = z.strictObject({
  end: linkEnd,
  contacts: contacts.min(1, { error: 'Name at least one contact.' }),
});

const touchReading = z.strictObject({
  instrument: z.enum(['beeper', 'ohmmeter']),
  touches: z
    .array(
      z.strictObject({
        from: group,
        to: group,
        joined: z.array(group).max(50).optional(),
        closed: z.boolean({ error: 'closed is true where it beeped, false where it did not.' }),
        ohm: z.number().min(0, { error: 'Ohms are not negative.' }).max(1e9).nullish(),
      }),
    )
    .min(1, { error: 'Give at least one touch.' })
    .max(400, { error: 'At most 400 touches make one reading: keep these, then go on in another.' }),
});

const toneReading = z.strictObject({
  instrument: z.literal('tone-probe'),
  end: linkEnd,
  tones: z
    .array(z.strictObject({ on: contacts.min(1), heard: contacts }))
    .min(1)
    .max(200),
});

const twoContacts = z.tuple([contact, contact], { error: 'Name two contacts: plus lead, minus lead.' });
const volts = z.number().min(-1000).max(1000, { error: 'That is no voltage to measure on a line.' });
const voltageReading = z.strictObject({
  instrument: z.literal('dc-voltage'),
  end: linkEnd,
  feed: z.strictObject({ contacts: twoContacts, volts }),
  across: z
    .array(z.strictObject({ contacts: twoContacts, volts }))
    .min(1)
    .max(200),
});

const shown = z.enum(['plus', 'minus', 'none'], {
  error: 'A set of pairs is fed with its first pair at plus, at minus, or not at all: plus, minus or none.',
});
const powerReading = z.strictObject({
  instrument: z.literal('power-tester'),
  end: linkEnd,
  feeds: z
    .enum(['a', 'b', 'both'], { error: 'A supply feeds a (1-2 and 3-6), b (4-5 and 7-8) or both.' })
    .nullable()
    .default(null),
  sets: z.strictObject({ a: shown, b: shown }),
  volts: z.number().min(0).max(1000, { error: 'That is no voltage to feed a device with.' }).optional(),
  offers: z
    .enum(POWER_TYPE_IDS as [string, ...string[]], {
      error: `A way of feeding is one of ${POWER_TYPE_IDS.join(', ')}.`,
    })
    .optional(),
});

const capacitanceReading = z.strictObject({
  instrument: z.literal('capacitance-meter'),
  end: linkEnd,
  nF: z.record(
    contactPair,
    z
      .number({ error: 'A capacitance is a number of nanofarads, or null where the meter shows no figure.' })
      .min(0, { error: 'A capacitance is not negative: take off no more than the leads’ own.' })
      .max(1e5, { error: 'That is no capacitance of a line: write nanofarads.' })
      .nullable(),
  ),
});

const wiggleReading = z.strictObject({
  instrument: z.literal('wiggle'),
  end: z.enum(['near', 'far', 'cable'], { error: 'What is wiggled is near, far or cable.' }),
  flickers: contacts,
});

const anyReading = z.discriminatedUnion(
  'instrument',
  [
    mapReading,
    lampReading,
    echoReading,
    colourReading,
    touchReading,
    toneReading,
    voltageReading,
    powerReading,
    capacitanceReading,
    wiggleReading,
  ],
  {
    error:
      'Name the instrument: coded-mapper, coded-mapper-crosstalk, stepping-lamps, lamp-pairs, lamps-one-return, beeper, ohmmeter, pair-reflectometer, tone-probe, dc-voltage, power-tester, capacitance-meter, wiggle or eye.',
  },
);
export type ReadingInput = z.input<typeof anyReading>;
/** A reading of any instrument class. */
export const reading: z.ZodType<Reading, ReadingInput | Reading> = anyReading;

/** Work done between readings. */
const workDone = z.strictObject({
  work: z.enum(['near', 'far', 'cable', 'replaced', 'outlet', 'unplug'], {
    error: 'Work is near, far, cable, replaced, outlet or unplug.',
  }),
});
/** Why a reading that showed a fault was no good, in the words of whoever took it again. */
const misreadReason = z.strictObject({ misread: line(300) });
/** When a reading was taken, and by whom: two like ones far enough apart are two, close together a copy. */
const taken = z
  .strictObject({
    at: z.iso.datetime({ offset: true, error: 'Write the time as 2026-03-04T09:30:00Z.' }).optional(),
    by: line(80).optional(),
  })
  .optional();

/** A reading with when and by whom, work done between two of them, or why one was no good. */
export const evidence: z.ZodType<Evidence, unknown> = chosen<Evidence>((value) => {
  if ('work' in value) return workDone as z.ZodType<Evidence>;
  if ('misread' in value) return misreadReason as z.ZodType<Evidence>;
  return takenReading as unknown as z.ZodType<Evidence>;
});

/** A reading beside which stands when it was taken. */
const takenReading = z
  .record(z.string(), z.unknown())
  .transform(({ taken: when, ...said }, context): unknown => {
    const parsed = z.object({ said: anyReading, taken }).safeParse({ said, taken: when });
    if (parsed.success)
      return { ...parsed.data.said, ...(parsed.data.taken ? { taken: parsed.data.taken } : {}) };
    for (const issue of parsed.error.issues)
      context.addIssue({
        ...issue,
        path: issue.path[0] === 'said' ? issue.path.slice(1) : issue.path,
      } as never);
    return z.NEVER;
  });

export const instrumentClass = z.enum(
  [
    'lamp-pairs',
    'lamps-one-return',
    'stepping-lamps',
    'coded-mapper',
    'coded-mapper-crosstalk',
    'beeper',
    'ohmmeter',
    'pair-reflectometer',
    'tone-probe',
    'dc-voltage',
    'power-tester',
    'capacitance-meter',
    'wiggle',
    'eye',
  ],
  { error: 'That is not an instrument class we know.' },
);
