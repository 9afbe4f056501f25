import { sql } from 'drizzle-orm';
import { bigserial, boolean, check, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { now, ofCrew } from './columns.js';
import { crewMember } from './crew.js';

/** Drills as they were answered. */
export const drillAnswer = pgTable(
  'drill_answer',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    kind: text('kind').notNull(),
    seed: integer('seed').notNull(),
    /** The option that was chosen, or the piece in each place. */
    chosen: integer('chosen'),
    laid: jsonb('laid').$type<readonly number[]>(),
    right: boolean('right').notNull(),
  },
  (t) => [
    index('drill_answer_of').on(t.by, t.seq),
    check('drill_answer_one_way', sql`(${t.chosen} IS NULL) <> (${t.laid} IS NULL)`),
  ],
);
