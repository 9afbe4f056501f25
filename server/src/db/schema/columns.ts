import { sql } from 'drizzle-orm';
import { timestamp, uuid } from 'drizzle-orm/pg-core';

export const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });

export const now = (name: string) => moment(name).notNull().defaultNow();

/**
 * Whose a row is: the crew that its connection works for (`inCrew`). Row-level security shows each crew its own alone, and
 * what a row points to is of the same crew (migration 0035).
 */
export const ofCrew = () =>
  uuid('of_crew')
    .notNull()
    .default(sql`crew_now()`);
