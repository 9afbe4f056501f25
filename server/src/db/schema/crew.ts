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
  primaryKey,
  text,
  uniqueIndex,
  uuid,
  varchar,
} from 'drizzle-orm/pg-core';
import { moment, now, ofCrew } from './columns.js';

// Crews, people, their sessions, and what is set for all.

export const crewRole = pgEnum('crew_role', ['lead', 'technician', 'viewer']);

/** Who works together: everything but people themselves is of one crew, and seen by it alone. */
export const crew = pgTable(
  'crew',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    version: integer('version').notNull().default(1),
    createdAt: now('created_at'),
  },
  () => [check('crew_name_given', sql`name <> ''`)],
);

/** A person, once for all crews; a crew sees those who are or were in it. */
export const crewMember = pgTable(
  'crew_member',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    passphraseHash: text('passphrase_hash').notNull(),
    createdAt: now('created_at'),
  },
  (t) => [
    // Who came with an archive signs in nowhere, and may be called as somebody of another crew.
    uniqueIndex('crew_member_name')
      .on(sql`lower(${t.name})`)
      .where(sql`passphrase_hash <> '-'`),
    check('crew_member_name_given', sql`${t.name} <> ''`),
  ],
);

/** Who is in which crew, and as what. */
export const membership = pgTable(
  'membership',
  {
    ofCrew: ofCrew().references(() => crew.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => crewMember.id),
    role: crewRole('role').notNull(),
    active: boolean('active').notNull().default(true),
    version: integer('version').notNull().default(1),
    since: now('since'),
  },
  (t) => [primaryKey({ columns: [t.ofCrew, t.personId] }), index('membership_of_person').on(t.personId)],
);

/** A code by which somebody who is in another crew comes into this one, once. */
export const crewInvitation = pgTable('crew_invitation', {
  id: uuid('id').primaryKey(),
  ofCrew: ofCrew().references(() => crew.id),
  role: crewRole('role').notNull(),
  /** SHA-256 of the code: the table alone lets nobody in. */
  codeHash: text('code_hash').notNull().unique(),
  by: uuid('by')
    .notNull()
    .references(() => crewMember.id),
  at: now('at'),
  expiresAt: moment('expires_at').notNull(),
  /** Who came by it. */
  usedBy: uuid('used_by').references(() => crewMember.id),
});

export const session = pgTable(
  'session',
  {
    /** SHA-256 of the cookie's value: the table alone opens nothing. */
    tokenHash: text('token_hash').primaryKey(),
    crewId: uuid('crew_id')
      .notNull()
      .references(() => crewMember.id),
    /** The crew that is worked in by it. */
    ofCrew: ofCrew().references(() => crew.id),
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

export const setting = pgTable(
  'setting',
  {
    ofCrew: ofCrew(),
    name: text('name').notNull(),
    value: text('value').notNull(),
  },
  (t) => [primaryKey({ columns: [t.ofCrew, t.name] })],
);

export const crewFormKind = pgEnum('crew_form_kind', ['report', 'label-stock', 'label-lines', 'search']);

/** What the crew keeps as its own for reports and labels. */
export const crewForm = pgTable(
  'crew_form',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    kind: crewFormKind('kind').notNull(),
    name: text('name').notNull(),
    body: jsonb('body').$type<NewForm['body']>().notNull(),
    updatedAt: now('updated_at'),
    updatedBy: uuid('updated_by')
      .notNull()
      .references(() => crewMember.id),
  },
  (t) => [uniqueIndex('crew_form_name').on(t.ofCrew, t.kind, sql`lower(${t.name})`)],
);
