import type { touchesByTwo } from '@near-spoke/contracts';
import type { Doing } from '@near-spoke/core';
import { sql } from 'drizzle-orm';
import { check, integer, jsonb, pgTable, text, unique, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import type * as z from 'zod';
import { moment, now, ofCrew } from './columns.js';
import { crewMember } from './crew.js';
import { link } from './jobs.js';
import { linkSide } from './links.js';

/** Two people at the two ends of one cable, until it is ended. */
export const together = pgTable(
  'together',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    /** One of three: a link, unmarked conductors, or a list of touches. */
    linkId: uuid('link_id').references(() => link.id),
    wires: jsonb('wires').$type<{ count: number; hasReturn: boolean }>(),
    list: jsonb('list').$type<Omit<z.output<typeof touchesByTwo>, 'id'>>(),
    code: text('code').notNull(),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    at: now('at'),
    endedAt: moment('ended_at'),
  },
  (t) => [
    check('together_of_one', sql`num_nonnulls(${t.linkId}, ${t.wires}, ${t.list}) = 1`),
    uniqueIndex('together_code')
      .on(t.code)
      .where(sql`${t.endedAt} IS NULL`),
    uniqueIndex('together_of_link')
      .on(t.linkId)
      .where(sql`${t.endedAt} IS NULL`),
  ],
);

/** Who helps without an account; what they may is to tell at this one cable, until it is ended. */
export const togetherHelper = pgTable('together_helper', {
  ofCrew: ofCrew(),
  tokenHash: text('token_hash').primaryKey(),
  togetherId: uuid('together_id')
    .notNull()
    .references(() => together.id),
  end: linkSide('end').notNull(),
  name: text('name').notNull(),
  at: now('at'),
});

/** What was told, in the order in which it counted. */
export const togetherTold = pgTable(
  'together_told',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    togetherId: uuid('together_id')
      .notNull()
      .references(() => together.id),
    n: integer('n').notNull(),
    end: linkSide('end').notNull(),
    who: text('who').notNull(),
    doing: jsonb('doing').$type<Doing>().notNull(),
    at: now('at'),
  },
  (t) => [unique('together_told_order').on(t.togetherId, t.n)],
);
