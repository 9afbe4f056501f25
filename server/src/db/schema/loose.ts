import type { MadeTouch } from '@near-spoke/core';
import { sql } from 'drizzle-orm';
import { bigserial, check, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { now } from './columns.js';
import { buildVerdict } from './adapters.js';
import { crewMember } from './crew.js';
import { job, schemeId } from './jobs.js';
import { cableType, connectorType } from './kit.js';
import { attemptOutcome } from './links.js';

/** The loose-work book: ends made without a job. */
export const looseEnd = pgTable(
  'loose_end',
  {
    id: uuid('id').primaryKey(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    name: text('name').notNull(),
    cableTypeId: text('cable_type_id')
      .notNull()
      .references(() => cableType.id),
    connectorTypeId: text('connector_type_id')
      .notNull()
      .references(() => connectorType.id),
    scheme: schemeId('scheme').notNull(),
    outcome: attemptOutcome('outcome').notNull(),
    connectorsSpoiled: integer('connectors_spoiled').notNull(),
    reason: text('reason').notNull(),
    lot: text('lot').notNull(),
    tool: text('tool').notNull(),
    stopgap: text('stopgap').notNull(),
    /** What was touched and heard; null where nobody metered. */
    touched: jsonb('touched').$type<readonly MadeTouch[]>(),
    proof: buildVerdict('proof'),
  },
  (t) => [
    check('loose_end_spoiled', sql`${t.connectorsSpoiled} BETWEEN 0 AND 50`),
    check('loose_end_proof', sql`(${t.touched} IS NULL) = (${t.proof} IS NULL)`),
  ],
);

/** Ends of the book that went to a job, each once. */
export const looseGiven = pgTable(
  'loose_given',
  {
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
