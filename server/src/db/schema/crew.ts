import type { NewForm } from '@near-spoke/contracts';
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  text,
  uniqueIndex,
  uuid,
  varchar,
} from 'drizzle-orm/pg-core';
import { moment, now } from './columns.js';

// People, their sessions, and what is set for all.

export const crewRole = pgEnum('crew_role', ['lead', 'technician', 'viewer']);

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

/** Tries at a door that failed lately, counted for whichever process the next one comes to; names and addresses only as digests. */
export const failedTry = pgTable(
  'failed_try',
  {
    key: varchar('key', { length: 255 }).primaryKey(),
    points: integer('points').notNull().default(0),
    /** When it is forgotten, milliseconds since 1970. */
    expire: bigint('expire', { mode: 'number' }),
  },
  (t) => [index('failed_try_expire').on(t.expire)],
);

export const setting = pgTable('setting', {
  name: text('name').primaryKey(),
  value: text('value').notNull(),
});

export const crewFormKind = pgEnum('crew_form_kind', ['report', 'label-stock', 'label-lines', 'search']);

/** What the crew keeps as its own for reports and labels. */
export const crewForm = pgTable(
  'crew_form',
  {
    id: uuid('id').primaryKey(),
    kind: crewFormKind('kind').notNull(),
    name: text('name').notNull(),
    body: jsonb('body').$type<NewForm['body']>().notNull(),
    updatedAt: now('updated_at'),
    updatedBy: uuid('updated_by')
      .notNull()
      .references(() => crewMember.id),
  },
  (t) => [uniqueIndex('crew_form_name').on(t.kind, sql`lower(${t.name})`)],
);
