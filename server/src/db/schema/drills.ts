import { bigserial, boolean, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { now } from './columns.js';
import { crewMember } from './crew.js';

/** Drills as they were answered. */
export const drillAnswer = pgTable(
  'drill_answer',
  {
    id: uuid('id').primaryKey(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    kind: text('kind').notNull(),
    seed: integer('seed').notNull(),
    chosen: integer('chosen').notNull(),
    right: boolean('right').notNull(),
  },
  (t) => [index('drill_answer_of').on(t.by, t.seq)],
);
