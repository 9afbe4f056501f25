import type { Carries, Diagnosis, Practice, RouteStretch, StretchConditions } from '@near-spoke/core';
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
  text,
  unique,
  uniqueIndex,
  uuid,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { moment, now, ofCrew } from './columns.js';
import { crewMember } from './crew.js';
import { cableType } from './kit.js';

// Jobs, places and links, and what happened on them.

/** A verdict as it was given: by which rules, and by which rates of the crew's slips. */
export interface StoredVerdict {
  rules: number;
  diagnosis: Diagnosis;
  practice: Practice;
}

export const schemeId = pgEnum('scheme_id', ['T568A', 'T568B']);

export const unitSystem = pgEnum('unit_system', ['metric', 'imperial']);

export const placeKind = pgEnum('place_kind', ['building', 'room', 'panel', 'port', 'outlet']);

export const linkStage = pgEnum('link_stage', [
  'planned',
  'one-end',
  'both-ends',
  'failed',
  'proved',
  'handed-over',
]);

const edited = {
  version: integer('version').notNull().default(1),
  updatedAt: now('updated_at'),
  updatedBy: uuid('updated_by')
    .notNull()
    .references(() => crewMember.id),
};

export const job = pgTable('job', {
  ofCrew: ofCrew(),
  id: uuid('id').primaryKey(),
  site: text('site').notNull(),
  title: text('title').notNull(),
  hub: text('hub').notNull(),
  scheme: schemeId('scheme').notNull(),
  units: unitSystem('units').notNull(),
  stretches: jsonb('stretches').$type<StretchConditions[]>().notNull().default([]),
  /** When it was closed; null while it is worked on. */
  closedAt: moment('closed_at'),
  createdAt: now('created_at'),
  ...edited,
});

export const place = pgTable(
  'place',
  {
    ofCrew: ofCrew(),
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

export const link = pgTable(
  'link',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id),
    label: text('label').notNull(),
    position: integer('position').notNull(),
    /** Where it begins; null in the job's own hub. */
    hub: text('hub'),
    cableTypeId: text('cable_type_id').notNull(),
    lengthM: doublePrecision('length_m').notNull(),
    route: jsonb('route').$type<RouteStretch[]>().notNull().default([]),
    /** What it is to carry, as far as anybody has said. */
    carries: jsonb('carries').$type<Carries>().notNull().default({}),
    /** Projection of the record, rewritten in the transaction that adds to it (links/standing.ts). */
    stage: linkStage('stage').notNull().default('planned'),
    standing: text('standing').notNull().default(''),
    nextStep: text('next_step').notNull().default(''),
    nearDone: boolean('near_done').notNull().default(false),
    farDone: boolean('far_done').notNull().default(false),
    /** Turns drawn by its records so far. */
    turns: integer('turns').notNull().default(0),
    /** The verdict of its record, with what it was given by; null before any reading, or until it is asked for. */
    verdict: jsonb('verdict').$type<StoredVerdict>(),
    /** False while what its verdict rests on has changed, and it is to be judged again. */
    judged: boolean('judged').notNull().default(true),
    /** Since when it is no part of the job any more, by whom and why. Its record stays. */
    outAt: moment('out_at'),
    outBy: uuid('out_by').references(() => crewMember.id),
    outReason: text('out_reason').notNull().default(''),
    createdAt: now('created_at'),
    ...edited,
  },
  (t) => [
    foreignKey({
      name: 'link_cable',
      columns: [t.ofCrew, t.cableTypeId],
      foreignColumns: [cableType.ofCrew, cableType.id],
    }),
    uniqueIndex('link_label_once')
      .on(t.jobId, t.label)
      .where(sql`${t.outAt} IS NULL`),
    index('link_of_job').on(t.jobId, t.position),
    index('link_to_judge')
      .on(t.id)
      .where(sql`NOT ${t.judged}`),
    check('link_length', sql`${t.lengthM} > 0`),
  ],
);

export const activity = pgTable(
  'activity',
  {
    ofCrew: ofCrew(),
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    jobId: uuid('job_id').references(() => job.id),
    linkId: uuid('link_id').references(() => link.id),
    what: text('what').notNull(),
    /** Of this installation alone, and no part of the job where it goes elsewhere. */
    hereOnly: boolean('here_only').notNull().default(false),
  },
  (t) => [index('activity_of_job').on(t.jobId, t.at.desc(), t.id.desc())],
);

/** An address by which somebody without an account looks at a job's report. */
export const shareLink = pgTable(
  'share_link',
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
    forWhom: text('for_whom').notNull(),
    /** SHA-256 of what the address holds: the table alone opens nothing. */
    tokenHash: text('token_hash').notNull().unique(),
    days: integer('days').notNull(),
    expiresAt: moment('expires_at').notNull(),
    revokedAt: moment('revoked_at'),
    opened: integer('opened').notNull().default(0),
    openedAt: moment('opened_at'),
  },
  (t) => [index('share_link_of_job').on(t.jobId)],
);
