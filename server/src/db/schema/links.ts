import type { PhotoHead, TakenReading, TraceRecord, TraceTold } from '@near-spoke/contracts';
import type { Diagnosis, Reading } from '@near-spoke/core';
import type { JobSeal } from '@near-spoke/core/report';
import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  check,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  pgView,
  primaryKey,
  text,
  timestamp,
  uuid,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { moment, now, ofCrew } from './columns.js';
import { crewMember } from './crew.js';
import { connectorType } from './kit.js';
import { job, link, linkStage, place, schemeId } from './jobs.js';

// What was done to links and read on them: append only.

export const linkSide = pgEnum('link_side', ['near', 'far']);

export const attemptOutcome = pgEnum('attempt_outcome', ['good', 'spoiled']);

export const cableWorkKind = pgEnum('cable_work_kind', ['mended', 'replaced', 'outlet', 'unplug']);

export const readingSource = pgEnum('reading_source', ['instrument', 'keyed']);

export const linkEnd = pgTable(
  'link_end',
  {
    ofCrew: ofCrew(),
    linkId: uuid('link_id')
      .notNull()
      .references(() => link.id),
    side: linkSide('side').notNull(),
    placeId: uuid('place_id')
      .notNull()
      .references(() => place.id),
    connectorTypeId: text('connector_type_id').notNull(),
  },
  (t) => [
    foreignKey({
      name: 'link_end_connector',
      columns: [t.ofCrew, t.connectorTypeId],
      foreignColumns: [connectorType.ofCrew, connectorType.id],
    }),
    primaryKey({ columns: [t.linkId, t.side] }),
  ],
);

const recorded = {
  id: uuid('id').primaryKey(),
  linkId: uuid('link_id')
    .notNull()
    .references(() => link.id),
  at: now('at'),
  by: uuid('by')
    .notNull()
    .references(() => crewMember.id),
  seq: bigserial('seq', { mode: 'number' }).notNull(),
  /** Order among all that is recorded of its link, drawn under the link's lock: no clock has a say in it. */
  turn: integer('turn').notNull(),
};

/** A record that may have waited on a device without a network: when it was made by the clock of that device. */
const recordedAnywhere = { ...recorded, deviceAt: timestamp('device_at', { withTimezone: true }) };

export const terminationAttempt = pgTable(
  'termination_attempt',
  {
    ofCrew: ofCrew(),
    ...recordedAnywhere,
    side: linkSide('side').notNull(),
    connectorTypeId: text('connector_type_id').notNull(),
    outcome: attemptOutcome('outcome').notNull(),
    connectorsSpoiled: integer('connectors_spoiled').notNull(),
    reason: text('reason').notNull().default(''),
    lot: text('lot').notNull().default(''),
    /** The tool it was made with, as it is marked; nothing where nobody said. */
    tool: text('tool'),
    stopgap: text('stopgap').notNull().default(''),
    connectorVersion: integer('connector_version').notNull().default(1),
    cableVersion: integer('cable_version').notNull().default(1),
    corrects: uuid('corrects').references((): AnyPgColumn => terminationAttempt.id),
  },
  (t) => [
    foreignKey({
      name: 'termination_attempt_connector',
      columns: [t.ofCrew, t.connectorTypeId],
      foreignColumns: [connectorType.ofCrew, connectorType.id],
    }),
    index('attempt_of_link').on(t.linkId),
    check('attempt_spoiled', sql`${t.connectorsSpoiled} >= 0`),
  ],
);

export const cableWork = pgTable(
  'cable_work',
  {
    ofCrew: ofCrew(),
    ...recordedAnywhere,
    kind: cableWorkKind('kind').notNull(),
    atM: doublePrecision('at_m'),
    note: text('note').notNull().default(''),
  },
  (t) => [index('cable_work_of_link').on(t.linkId)],
);

/** What was wrong and is proved gone; made from the record when a link passes. */
export const faultFound = pgTable(
  'fault_found',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey().defaultRandom(),
    linkId: uuid('link_id')
      .notNull()
      .references(() => link.id),
    testId: uuid('test_id')
      .notNull()
      .references(() => testRecord.id),
    at: now('at'),
    slip: text('slip').notNull(),
    kind: text('kind').notNull(),
    place: text('place').notNull(),
    connectorTypeId: text('connector_type_id'),
    faultId: text('fault_id').notNull().default(''),
    words: text('words').notNull(),
  },
  (t) => [index('fault_found_of_link').on(t.linkId)],
);

/** A round of tests over a job; at most one is open at a time. */
export const testingRound = pgTable(
  'testing_round',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id),
    startedAt: now('started_at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    closed: boolean('closed').notNull().default(false),
  },
  (t) => [index('round_of_job').on(t.jobId)],
);

export const testRecord = pgTable(
  'test_record',
  {
    ofCrew: ofCrew(),
    ...recordedAnywhere,
    source: readingSource('source').notNull(),
    simulated: boolean('simulated').notNull().default(false),
    instrumentName: text('instrument_name').notNull(),
    reading: jsonb('reading').$type<Reading>().notNull(),
    diagnosis: jsonb('diagnosis').$type<Diagnosis>().notNull(),
    corrects: uuid('corrects').references((): AnyPgColumn => testRecord.id),
    misread: text('misread').notNull().default(''),
    note: text('note').notNull().default(''),
  },
  (t) => [index('test_of_link').on(t.linkId)],
);

/** What instruments gave lately and nobody has kept yet: the only word on where a reading came from. */
export const takenReading = pgTable(
  'taken_reading',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    linkId: uuid('link_id')
      .notNull()
      .references(() => link.id, { onDelete: 'cascade' }),
    taken: jsonb('taken').$type<Omit<TakenReading, 'takenId'>>().notNull(),
    at: now('at'),
  },
  (t) => [index('taken_reading_at').on(t.at)],
);

/** Reflectometer traces as they were taken; what they hold is worked out anew whenever it is asked. */
export const traceRecord = pgTable(
  'trace_record',
  {
    ofCrew: ofCrew(),
    ...recorded,
    end: linkSide('end').notNull(),
    pair: text('pair'),
    name: text('name').notNull(),
    trace: jsonb('trace').$type<TraceRecord['trace']>().notNull(),
    told: jsonb('told').$type<TraceTold>().notNull(),
  },
  (t) => [index('trace_of_link').on(t.linkId)],
);

export const handover = pgTable(
  'handover',
  {
    ofCrew: ofCrew(),
    ...recorded,
    testId: uuid('test_id')
      .notNull()
      .references(() => testRecord.id),
  },
  (t) => [index('handover_of_link').on(t.linkId)],
);

/** A handover taken back by a person, with the reason. */
export const reopening = pgTable(
  'reopening',
  {
    ofCrew: ofCrew(),
    ...recorded,
    reason: text('reason').notNull(),
  },
  (t) => [index('reopening_of_link').on(t.linkId), check('reopening_reason_given', sql`${t.reason} <> ''`)],
);

/** Something to know about a link, with a photo where one says more. */
export const linkNote = pgTable(
  'link_note',
  {
    ofCrew: ofCrew(),
    ...recordedAnywhere,
    end: linkSide('end'),
    words: text('words').notNull().default(''),
    /** A JPEG without what a camera wrote into it, base64. */
    jpegBase64: text('jpeg_base64'),
    /** Worked out by the database whenever the bytes change: who exchanges a photo in the table changes its digest. */
    photoSha256: text('photo_sha256').generatedAlwaysAs(
      sql`encode(sha256(decode(jpeg_base64, 'base64')), 'hex')`,
    ),
    photo: jsonb('photo').$type<Omit<PhotoHead, 'sha256'>>(),
  },
  (t) => [
    index('note_of_link').on(t.linkId),
    check('note_says_something', sql`${t.words} <> '' OR ${t.jpegBase64} IS NOT NULL`),
    check('note_photo_whole', sql`(${t.jpegBase64} IS NULL) = (${t.photo} IS NULL)`),
  ],
);

/** Who accepted what was handed over of a job, and the seal over it as it then was. */
export const signOff = pgTable(
  'sign_off',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    name: text('name').notNull(),
    role: text('role').notNull(),
    note: text('note').notNull().default(''),
    digest: text('digest').notNull(),
    seal: jsonb('seal').$type<JobSeal>().notNull(),
  },
  (t) => [index('sign_off_of_job').on(t.jobId), check('sign_off_name_given', sql`${t.name} <> ''`)],
);

/** What a link is looked for by. */
const lookedFor = () => ({
  /** Everything it is called by and that was said of it, in lower case. */
  words: text('words').notNull(),
  stage: linkStage('stage').notNull(),
  scheme: schemeId('scheme').notNull(),
  madeBy: uuid('made_by').array().notNull(),
  testedBy: uuid('tested_by').array().notNull(),
  handedOverBy: uuid('handed_over_by').array().notNull(),
  /** Kinds of instrument that its verdict rests on. */
  restsOn: text('rests_on').array().notNull(),
  /** Kinds of fault that a reading of it ever showed. */
  faults: text('faults').array().notNull(),
  firstAt: moment('first_at'),
  lastAt: moment('last_at'),
});

/** What is looked for of a link, gathered from its plan and its records (`link_search_refresh`). */
export const linkSearch = pgTable(
  'link_search',
  {
    ofCrew: ofCrew(),
    linkId: uuid('link_id')
      .primaryKey()
      .references(() => link.id),
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id),
    ...lookedFor(),
  },
  (t) => [
    index('link_search_newest').on(t.lastAt.desc().nullsLast(), t.linkId),
    // Words begin with the label: who types one wants that link before all others.
    index('link_search_label').on(sql`left(${t.words}, 40) text_pattern_ops`),
    index('link_search_stage').on(t.stage, t.lastAt.desc().nullsLast()),
    index('link_search_people').using('gin', t.madeBy, t.testedBy, t.handedOverBy),
    index('link_search_faults').using('gin', t.faults),
  ],
);

/** The same of the crew that is worked for: what is read; the table itself is closed. */
export const linkSearchHere = pgView('link_search_here', {
  linkId: uuid('link_id').notNull(),
  jobId: uuid('job_id').notNull(),
  ...lookedFor(),
}).existing();

/** Repeats that the crew's leads have been told of, and how often it was met by then. */
export const toldRepeat = pgTable(
  'told_repeat',
  {
    ofCrew: ofCrew(),
    key: text('key').notNull(),
    count: integer('count').notNull(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
  },
  (t) => [primaryKey({ columns: [t.ofCrew, t.key] })],
);
