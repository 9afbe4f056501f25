import type { Figures, Pattern, Practice, ToldFault, Diagnosis, InstrumentClass } from '@near-spoke/core';
import type { Workmanship } from '@near-spoke/core/workmanship';
import * as z from 'zod';
import { link } from './jobs.js';
import { jpegPicture, photoHead } from './photos.js';
import { instrumentClass, linkEnd, reading } from './readings.js';
import { line, note, timestamp, uuid } from './text.js';

/** Order among all that is recorded of a link, whatever the clocks said. */
const turn = z.int().positive();

/** When it was made by the clock of the device it waited on; left out where it was sent at once. No order rests on it. */
const deviceAt = timestamp.optional();

/** One try at an end: the connector is good, or spoiled. */
export const termination = z.object({
  id: uuid,
  turn,
  side: linkEnd,
  at: timestamp,
  deviceAt,
  by: z.string(),
  connectorTypeId: z.string(),
  outcome: z.enum(['good', 'spoiled']),
  connectorsSpoiled: z.int(),
  reason: z.string(),
  /** Lot or bag of the connectors, as printed on it. */
  lot: z.string(),
  /** The tool it was made with, as it is marked; left out where nobody said. */
  tool: z.string().optional(),
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
    deviceAt,
    side: linkEnd,
    connectorTypeId: line(40),
    outcome: z.enum(['good', 'spoiled']),
    connectorsSpoiled: z.int().min(0).max(50, { error: 'At most 50 connectors.' }),
    reason: note.default(''),
    lot: z.string().trim().max(60, { error: 'At most 60 characters.' }).default(''),
    tool: z
      .string()
      .trim()
      .max(60, { error: 'At most 60 characters.' })
      .transform((text) => (text === '' ? undefined : text))
      .optional(),
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
  turn,
  at: timestamp,
  deviceAt,
  by: z.string(),
  kind: z.enum(['mended', 'replaced', 'outlet', 'unplug']),
  atM: z.number().nullable(),
  note: z.string(),
});
export type CableWork = z.infer<typeof cableWork>;
export const newCableWork = z.strictObject({
  id: uuid,
  deviceAt,
  kind: z.enum(['mended', 'replaced', 'outlet', 'unplug'], {
    error: 'The cable was mended or replaced, its outlet made sure of, or both ends unplugged.',
  }),
  atM: z.number().min(0).max(10_000).nullable().default(null),
  note: note.default(''),
});
export type NewCableWork = z.input<typeof newCableWork>;

const diagnosis = z.custom<Diagnosis>((value) => typeof value === 'object' && value !== null);

/** A reading as it was taken, with the verdict that all the evidence gave at that moment. */
export const testRecord = z.object({
  id: uuid,
  turn,
  at: timestamp,
  deviceAt,
  by: z.string(),
  source: z.enum(['instrument', 'keyed']),
  /** Whether the instrument was a simulated one: then it says nothing of a real link. */
  simulated: z.boolean(),
  instrumentName: z.string(),
  reading,
  diagnosis,
  corrects: uuid.nullable(),
  /** Why an earlier reading that showed a fault was no good; empty where nobody said. */
  misread: z.string(),
  note: z.string(),
});
export type TestRecord = z.infer<typeof testRecord>;
const misread = z.string().trim().max(300, { error: 'At most 300 characters.' }).default('');
export const newTest = z.strictObject({
  id: uuid,
  deviceAt,
  /** The reading that an instrument gave under this id; without it the reading was keyed in. */
  takenId: uuid.optional(),
  instrumentName: line(80),
  reading,
  corrects: uuid.nullable().default(null),
  misread,
  note: note.default(''),
  /** The person confirmed for this round that both ends are unplugged and dead. */
  unplugged: z.literal(true, { error: 'Confirm first that both ends are unplugged and dead.' }),
});
export type NewTest = z.input<typeof newTest>;

/** A reading to be taken by an instrument and kept, in one go. */
export const takenTest = z.strictObject({
  id: uuid,
  instrument: instrumentClass,
  end: linkEnd.default('near'),
  plan: reading.optional(),
  corrects: uuid.nullable().default(null),
  misread,
  note: note.default(''),
  unplugged: z.literal(true, { error: 'Confirm first that both ends are unplugged and dead.' }),
});
export type TakenTest = z.input<typeof takenTest>;

export const handover = z.object({ id: uuid, turn, at: timestamp, by: z.string(), testId: uuid });
export type Handover = z.infer<typeof handover>;
export const newHandover = z.strictObject({ id: uuid });

/** A handover taken back. */
export const reopening = z.object({ id: uuid, turn, at: timestamp, by: z.string(), reason: z.string() });
export type Reopening = z.infer<typeof reopening>;
export const newReopening = z.strictObject({ id: uuid, reason: line(300) });
export type NewReopening = z.input<typeof newReopening>;

/** Something to know about a link, for whoever opens the wall next; with a photo where one says more. */
export const linkNote = z.object({
  id: uuid,
  turn,
  at: timestamp,
  deviceAt,
  by: z.string(),
  /** The end it is about; null for the cable, or all of it. */
  end: linkEnd.nullable(),
  words: z.string(),
  photo: photoHead.nullable(),
});
export type LinkNote = z.infer<typeof linkNote>;
export const newLinkNote = z
  .strictObject({
    id: uuid,
    deviceAt,
    end: linkEnd.nullable().default(null),
    words: note.default(''),
    jpeg: jpegPicture.nullable().default(null),
  })
  .refine(({ words, jpeg }) => words !== '' || jpeg !== null, {
    path: ['words'],
    error: 'Write something, or take a photo.',
  });
export type NewLinkNote = z.input<typeof newLinkNote>;

/** Everything known of one link. */
export const linkDetail = z.object({
  link,
  scheme: z.enum(['T568A', 'T568B']),
  units: z.enum(['metric', 'imperial']),
  terminations: z.array(termination),
  cableWork: z.array(cableWork),
  tests: z.array(testRecord),
  handovers: z.array(handover),
  reopenings: z.array(reopening),
  notes: z.array(linkNote).default([]),
  /** The verdict of all evidence that holds now; null before any reading. */
  diagnosis: diagnosis.nullable(),
  /** How often this crew meets each slip, from its own record. */
  practice: z.custom<Practice>((value) => typeof value === 'object' && value !== null),
});
export type LinkDetail = z.infer<typeof linkDetail>;

export const takeReading = z.strictObject({
  linkId: uuid,
  instrument: instrumentClass,
  end: linkEnd.default('near'),
  /** Touches, tones or volts to be taken: a reading whose answers are ignored. */
  plan: reading.optional(),
});
export type TakeReading = z.input<typeof takeReading>;
export const takenReading = z.object({
  /** Names it for keeping: the server remembers what it took, and from what. */
  takenId: uuid,
  instrumentName: z.string(),
  simulated: z.boolean(),
  reading,
});
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

/** Readings that are answered with the whole records of their links are few at once. */
const MOST_ANSWERED = 50;
/** Readings of several links at once: all are kept, or none. */
export const newTests = z
  .strictObject({
    tests: z
      .array(z.strictObject({ linkId: uuid, test: newTest }))
      .min(1, { error: 'Give at least one reading.' })
      .max(1000, { error: 'At most 1000 readings at once.' }),
    /** What is answered: how many were kept, or what became of each link too. */
    answer: z
      .enum(['count', 'records'], { error: 'What is answered is a count, or records.' })
      .default('count'),
  })
  .refine(({ tests, answer }) => answer === 'count' || tests.length <= MOST_ANSWERED, {
    path: ['tests'],
    error: `At most ${MOST_ANSWERED} readings at once are answered with their records.`,
  });
export const testsKept = z.object({ kept: z.int(), records: z.array(linkDetail).optional() });

/** A round of tests over a job's links; what it holds follows from the readings taken since. */
export const testingRound = z.object({
  id: uuid,
  jobId: uuid,
  startedAt: timestamp,
  by: z.string(),
  /** Links with a reading since, oldest first, with the reading before it where there was one. */
  tested: z.array(
    z.object({
      linkId: uuid,
      testId: uuid,
      at: timestamp,
      headline: z.string(),
      result: z.enum(['pass', 'fail', 'cannot-tell']),
      before: z.string().nullable(),
    }),
  ),
});
export type TestingRound = z.infer<typeof testingRound>;
export const newRound = z.strictObject({ id: uuid });

export const jobFigures = z.object({
  job: z.custom<Figures>((value) => typeof value === 'object' && value !== null),
  crew: z.custom<Figures>((value) => typeof value === 'object' && value !== null),
});
export type JobFigures = z.infer<typeof jobFigures>;
/** The crew's work as the record has it; of each repeat whether it is to be told. */
export const crewWorkmanship = z.custom<Workmanship & { told: readonly string[] }>(
  (value) => typeof value === 'object' && value !== null,
);
export type CrewWorkmanship = z.infer<typeof crewWorkmanship>;
export const toldRepeat = z.strictObject({ key: line(300), count: z.int().min(1).max(1_000_000) });

export const jobPatterns = z.array(z.custom<Pattern>((value) => typeof value === 'object' && value !== null));

/** A practice link for the stand-in to break. */
export const practiceBreak = z.strictObject({
  count: z.int().min(0).max(3),
  seed: z
    .int()
    .min(0)
    .max(2 ** 31 - 1),
  noise: z.boolean().default(false),
  plan: z.strictObject({
    cable: line(40),
    scheme: z.enum(['T568A', 'T568B']),
    lengthM: z.number().min(1).max(500),
    near: line(40),
    far: line(40),
  }),
});
export type PracticeBreak = z.output<typeof practiceBreak>;
export const practiceId = z.object({
  practiceId: z.string().regex(/^00000000-0000-4000-9000-[0-9a-f]{12}$/),
});
export const practiceRead = z.strictObject({ instrument: instrumentClass, end: linkEnd.default('near') });
export const practiceStarted = z.object({ practiceId: z.string() });
export const practiceRevealed = z.object({ faults: z.array(z.custom<ToldFault>()) });

/** The known-good cord, read before a round: a bad tester fails every link, or none. */
export const checkCord = z.strictObject({ instrument: instrumentClass });
export const cordChecked = z.object({ instrumentName: z.string(), right: z.boolean(), headline: z.string() });
