import type { TraceRecord, TraceTold, VelocityRecord } from '@near-spoke/contracts';
import type {
  AdapterDesign,
  BuildHeard,
  CableType,
  ConnectorType,
  Diagnosis,
  Reading,
  RouteStretch,
  ToolType,
} from '@near-spoke/core';
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
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';

const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });
const now = (name: string) => moment(name).notNull().defaultNow();

export const crewRole = pgEnum('crew_role', ['lead', 'technician', 'viewer']);
export const schemeId = pgEnum('scheme_id', ['T568A', 'T568B']);
export const unitSystem = pgEnum('unit_system', ['metric', 'imperial']);
export const placeKind = pgEnum('place_kind', ['building', 'room', 'panel', 'port', 'outlet']);
export const linkSide = pgEnum('link_side', ['near', 'far']);
export const linkStage = pgEnum('link_stage', [
  'planned',
  'one-end',
  'both-ends',
  'failed',
  'proved',
  'handed-over',
]);
export const attemptOutcome = pgEnum('attempt_outcome', ['good', 'spoiled']);
export const cableWorkKind = pgEnum('cable_work_kind', ['mended', 'replaced', 'outlet', 'unplug']);
export const readingSource = pgEnum('reading_source', ['instrument', 'keyed']);

export const crewMember = pgTable(
  'crew_member',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    role: crewRole('role').notNull(),
    passphraseHash: text('passphrase_hash').notNull(),
    active: boolean('active').notNull().default(true),
    version: integer('version').notNull().default(1),
    createdAt: now('created_at'),
  },
  (t) => [
    uniqueIndex('crew_member_name').on(sql`lower(${t.name})`),
    check('crew_member_name_given', sql`${t.name} <> ''`),
  ],
);

export const session = pgTable(
  'session',
  {
    /** SHA-256 of the cookie's value: the table alone opens nothing. */
    tokenHash: text('token_hash').primaryKey(),
    crewId: uuid('crew_id')
      .notNull()
      .references(() => crewMember.id),
    forgeryToken: text('forgery_token').notNull(),
    createdAt: now('created_at'),
    expiresAt: moment('expires_at').notNull(),
  },
  (t) => [index('session_expires').on(t.expiresAt)],
);

export const setting = pgTable('setting', {
  name: text('name').primaryKey(),
  value: text('value').notNull(),
});

const edited = {
  version: integer('version').notNull().default(1),
  updatedAt: now('updated_at'),
  updatedBy: uuid('updated_by')
    .notNull()
    .references(() => crewMember.id),
};

export const job = pgTable('job', {
  id: uuid('id').primaryKey(),
  site: text('site').notNull(),
  title: text('title').notNull(),
  hub: text('hub').notNull(),
  scheme: schemeId('scheme').notNull(),
  units: unitSystem('units').notNull(),
  createdAt: now('created_at'),
  ...edited,
});

export const place = pgTable(
  'place',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id),
    parentId: uuid('parent_id').references((): AnyPgColumn => place.id),
    kind: placeKind('kind').notNull(),
    name: text('name').notNull(),
  },
  (t) => [unique('place_once').on(t.jobId, t.parentId, t.kind, t.name).nullsNotDistinct()],
);

const head = {
  id: text('id').primaryKey(),
  version: integer('version').notNull().default(1),
};
export const cableType = pgTable('cable_type', {
  ...head,
  sheet: jsonb('sheet').$type<CableType>().notNull(),
});
export const connectorType = pgTable('connector_type', {
  ...head,
  sheet: jsonb('sheet').$type<ConnectorType>().notNull(),
});
export const toolType = pgTable('tool_type', { ...head, sheet: jsonb('sheet').$type<ToolType>().notNull() });

export const kitKind = pgEnum('kit_kind', ['cable', 'connector', 'tool']);

/** Every version of every sheet: a card made last month is made from these again. */
export const kitSheet = pgTable(
  'kit_sheet',
  {
    kind: kitKind('kind').notNull(),
    typeId: text('type_id').notNull(),
    version: integer('version').notNull(),
    at: now('at'),
    /** Null for a sheet that shipped with the application. */
    by: uuid('by').references(() => crewMember.id),
    sheet: jsonb('sheet').$type<CableType | ConnectorType | ToolType>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.kind, t.typeId, t.version] }),
    check('kit_sheet_version', sql`${t.version} > 0`),
  ],
);

export const link = pgTable(
  'link',
  {
    id: uuid('id').primaryKey(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id),
    label: text('label').notNull(),
    position: integer('position').notNull(),
    cableTypeId: text('cable_type_id')
      .notNull()
      .references(() => cableType.id),
    lengthM: doublePrecision('length_m').notNull(),
    route: jsonb('route').$type<RouteStretch[]>().notNull().default([]),
    /** Projection of the record, rewritten in the transaction that adds to it (links/standing.ts). */
    stage: linkStage('stage').notNull().default('planned'),
    standing: text('standing').notNull().default(''),
    nextStep: text('next_step').notNull().default(''),
    nearDone: boolean('near_done').notNull().default(false),
    farDone: boolean('far_done').notNull().default(false),
    createdAt: now('created_at'),
    ...edited,
  },
  (t) => [
    unique('link_label_once').on(t.jobId, t.label),
    index('link_of_job').on(t.jobId, t.position),
    check('link_length', sql`${t.lengthM} > 0`),
  ],
);

export const linkEnd = pgTable(
  'link_end',
  {
    linkId: uuid('link_id')
      .notNull()
      .references(() => link.id),
    side: linkSide('side').notNull(),
    placeId: uuid('place_id')
      .notNull()
      .references(() => place.id),
    connectorTypeId: text('connector_type_id')
      .notNull()
      .references(() => connectorType.id),
  },
  (t) => [primaryKey({ columns: [t.linkId, t.side] })],
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
  /** Order of recording; times may repeat. */
  seq: bigserial('seq', { mode: 'number' }).notNull(),
};

export const terminationAttempt = pgTable(
  'termination_attempt',
  {
    ...recorded,
    side: linkSide('side').notNull(),
    connectorTypeId: text('connector_type_id')
      .notNull()
      .references(() => connectorType.id),
    outcome: attemptOutcome('outcome').notNull(),
    connectorsSpoiled: integer('connectors_spoiled').notNull(),
    reason: text('reason').notNull().default(''),
    lot: text('lot').notNull().default(''),
    stopgap: text('stopgap').notNull().default(''),
    connectorVersion: integer('connector_version').notNull().default(1),
    cableVersion: integer('cable_version').notNull().default(1),
    corrects: uuid('corrects').references((): AnyPgColumn => terminationAttempt.id),
  },
  (t) => [index('attempt_of_link').on(t.linkId), check('attempt_spoiled', sql`${t.connectorsSpoiled} >= 0`)],
);

export const cableWork = pgTable(
  'cable_work',
  {
    ...recorded,
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
    words: text('words').notNull(),
  },
  (t) => [index('fault_found_of_link').on(t.linkId)],
);

/** A round of tests over a job; at most one is open at a time. */
export const testingRound = pgTable(
  'testing_round',
  {
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
    ...recorded,
    source: readingSource('source').notNull(),
    instrumentName: text('instrument_name').notNull(),
    reading: jsonb('reading').$type<Reading>().notNull(),
    diagnosis: jsonb('diagnosis').$type<Diagnosis>().notNull(),
    corrects: uuid('corrects').references((): AnyPgColumn => testRecord.id),
    note: text('note').notNull().default(''),
  },
  (t) => [index('test_of_link').on(t.linkId)],
);

/** Reflectometer traces as they were taken; what they hold is worked out anew whenever it is asked. */
export const traceRecord = pgTable(
  'trace_record',
  {
    ...recorded,
    end: linkSide('end').notNull(),
    pair: text('pair'),
    name: text('name').notNull(),
    trace: jsonb('trace').$type<TraceRecord['trace']>().notNull(),
    told: jsonb('told').$type<TraceTold>().notNull(),
  },
  (t) => [index('trace_of_link').on(t.linkId)],
);

export const reelKind = pgEnum('reel_kind', ['drum', 'box']);
export const reelEventKind = pgEnum('reel_event_kind', ['labelled', 'drawn', 'measured']);

export const reel = pgTable(
  'reel',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    kind: reelKind('kind').notNull(),
    cableTypeId: text('cable_type_id')
      .notNull()
      .references(() => cableType.id),
    lot: text('lot').notNull().default(''),
    createdAt: now('created_at'),
  },
  (t) => [uniqueIndex('reel_name').on(sql`lower(${t.name})`)],
);

/** What happened to a reel; a wrong entry is corrected by a later one, never changed. */
export const reelEntry = pgTable(
  'reel_entry',
  {
    id: uuid('id').primaryKey(),
    reelId: uuid('reel_id')
      .notNull()
      .references(() => reel.id),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    what: reelEventKind('what').notNull(),
    lengthM: doublePrecision('length_m').notNull(),
    u95M: doublePrecision('u95_m'),
    velocityFactor: doublePrecision('velocity_factor'),
    linkId: uuid('link_id').references(() => link.id),
    corrects: uuid('corrects').references((): AnyPgColumn => reelEntry.id),
    words: text('words').notNull().default(''),
  },
  (t) => [
    index('reel_entry_of_reel').on(t.reelId),
    unique('reel_entry_corrected_once').on(t.corrects),
    check('reel_entry_length', sql`${t.lengthM} >= 0`),
    check('reel_entry_measured', sql`(${t.what} = 'measured') = (${t.u95M} is not null)`),
  ],
);

/** Velocity factors that were measured, with what they were measured on. */
export const velocityFigure = pgTable(
  'velocity_figure',
  {
    id: uuid('id').primaryKey(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    cableTypeId: text('cable_type_id')
      .notNull()
      .references(() => cableType.id),
    lot: text('lot').notNull().default(''),
    reelId: uuid('reel_id').references(() => reel.id),
    velocityFactor: doublePrecision('velocity_factor').notNull(),
    u95: doublePrecision('u95').notNull(),
    pieces: jsonb('pieces').$type<VelocityRecord['pieces']>().notNull(),
  },
  (t) => [
    index('velocity_of_cable').on(t.cableTypeId),
    check('velocity_factor_possible', sql`${t.velocityFactor} between 0.3 and 1`),
  ],
);

export const adapter = pgTable('adapter', {
  id: uuid('id').primaryKey(),
  version: integer('version').notNull(),
});

/** Every version of every adapter; what was built of one stays true of it. */
export const adapterVersion = pgTable(
  'adapter_version',
  {
    adapterId: uuid('adapter_id')
      .notNull()
      .references(() => adapter.id),
    version: integer('version').notNull(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    note: text('note').notNull().default(''),
    design: jsonb('design').$type<AdapterDesign>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.adapterId, t.version] }),
    check('adapter_version_counts', sql`${t.version} > 0`),
  ],
);

export const buildVerdict = pgEnum('build_verdict', ['proved', 'failed', 'unfinished']);

/** What proving one built lead gave. */
export const adapterBuild = pgTable(
  'adapter_build',
  {
    id: uuid('id').primaryKey(),
    adapterId: uuid('adapter_id').notNull(),
    version: integer('version').notNull(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    name: text('name').notNull(),
    heard: jsonb('heard').$type<BuildHeard>().notNull(),
    verdict: buildVerdict('verdict').notNull(),
    note: text('note').notNull().default(''),
  },
  (t) => [
    foreignKey({
      name: 'build_of_version',
      columns: [t.adapterId, t.version],
      foreignColumns: [adapterVersion.adapterId, adapterVersion.version],
    }),
    index('build_of_adapter').on(t.adapterId),
  ],
);

export const adapterPhoto = pgTable(
  'adapter_photo',
  {
    id: uuid('id').primaryKey(),
    adapterId: uuid('adapter_id')
      .notNull()
      .references(() => adapter.id),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    end: text('end'),
    words: text('words').notNull(),
    jpegBase64: text('jpeg_base64').notNull(),
  },
  (t) => [index('photo_of_adapter').on(t.adapterId)],
);

export const handover = pgTable(
  'handover',
  {
    ...recorded,
    testId: uuid('test_id')
      .notNull()
      .references(() => testRecord.id),
  },
  (t) => [index('handover_of_link').on(t.linkId)],
);

export const activity = pgTable(
  'activity',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    jobId: uuid('job_id').references(() => job.id),
    linkId: uuid('link_id').references(() => link.id),
    what: text('what').notNull(),
  },
  (t) => [index('activity_of_job').on(t.jobId, t.id)],
);
