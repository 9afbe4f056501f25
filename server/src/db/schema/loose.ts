import type { FunctionTrial, LooseEnd, Sight } from '@near-spoke/contracts';
import type { MadeTouch } from '@near-spoke/core';
import { sql } from 'drizzle-orm';
import {
  bigserial,
  check,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import { now, ofCrew } from './columns.js';
import { buildVerdict } from './adapters.js';
import { crewMember } from './crew.js';
import { job, schemeId } from './jobs.js';
import { cableType, connectorType } from './kit.js';
import { attemptOutcome } from './links.js';

/** The loose-work book: ends made without a job. */
export const looseEnd = pgTable(
  'loose_end',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    name: text('name').notNull(),
    cableTypeId: text('cable_type_id').notNull(),
    connectorTypeId: text('connector_type_id').notNull(),
    scheme: schemeId('scheme').notNull(),
    /** What was chosen on the card where schools differ. */
    schools: jsonb('schools')
      .$type<LooseEnd['schools']>()
      .notNull()
      .default({ ringingWire: false, flatEnd: 'first' }),
    outcome: attemptOutcome('outcome').notNull(),
    connectorsSpoiled: integer('connectors_spoiled').notNull(),
    reason: text('reason').notNull(),
    lot: text('lot').notNull(),
    tool: text('tool').notNull(),
    stopgap: text('stopgap').notNull(),
    /** What was touched and heard; null where nobody metered. */
    touched: jsonb('touched').$type<readonly MadeTouch[]>(),
    proof: buildVerdict('proof'),
    functionTest: jsonb('function_test').$type<readonly FunctionTrial[]>().notNull().default([]),
    /** What was seen on the contacts, and on which the card had something else; null where nobody looked. */
    seen: jsonb('seen').$type<Sight>(),
    notAsCard: jsonb('not_as_card').$type<readonly string[]>(),
  },
  (t) => [
    foreignKey({
      name: 'loose_end_connector',
      columns: [t.ofCrew, t.connectorTypeId],
      foreignColumns: [connectorType.ofCrew, connectorType.id],
    }),
    foreignKey({
      name: 'loose_end_cable',
      columns: [t.ofCrew, t.cableTypeId],
      foreignColumns: [cableType.ofCrew, cableType.id],
    }),
    check('loose_end_spoiled', sql`${t.connectorsSpoiled} BETWEEN 0 AND 50`),
    check('loose_end_proof', sql`(${t.touched} IS NULL) = (${t.proof} IS NULL)`),
    check('loose_end_seen', sql`(${t.seen} IS NULL) = (${t.notAsCard} IS NULL)`),
  ],
);

/** Photos of ends in the book. */
export const loosePhoto = pgTable(
  'loose_photo',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    looseEndId: uuid('loose_end_id')
      .notNull()
      .references(() => looseEnd.id),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    jpegBase64: text('jpeg_base64').notNull(),
  },
  (t) => [index('photo_of_loose_end').on(t.looseEndId)],
);

/** Ends of the book that went to a job, each once. */
export const looseGiven = pgTable(
  'loose_given',
  {
    ofCrew: ofCrew(),
    looseEndId: uuid('loose_end_id')
      .primaryKey()
      .references(() => looseEnd.id),
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
  },
  (t) => [index('loose_given_to_job').on(t.jobId)],
);
