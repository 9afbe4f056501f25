import type { NewForm } from '@near-spoke/contracts';
import { sql } from 'drizzle-orm';
import {
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
