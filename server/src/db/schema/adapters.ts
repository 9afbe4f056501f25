import type { AdapterDesign, BuildHeard } from '@near-spoke/core';
import { sql } from 'drizzle-orm';
import {
  bigserial,
  check,
  foreignKey,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  primaryKey,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import { now, ofCrew } from './columns.js';
import { crewMember } from './crew.js';
import { job } from './jobs.js';

// Adapters in their versions, what was built of them, and photos.

export const adapter = pgTable('adapter', {
  ofCrew: ofCrew(),
  id: uuid('id').primaryKey(),
  version: integer('version').notNull(),
});

/** Every version of every adapter; what was built of one stays true of it. */
export const adapterVersion = pgTable(
  'adapter_version',
  {
    ofCrew: ofCrew(),
    adapterId: uuid('adapter_id')
      .notNull()
      .references(() => adapter.id),
    version: integer('version').notNull(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    note: text('note').notNull().default(''),
    design: jsonb('design').$type<AdapterDesign>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.adapterId, t.version] }),
    check('adapter_version_counts', sql`${t.version} > 0`),
  ],
);

export const buildVerdict = pgEnum('build_verdict', ['proved', 'failed', 'unfinished']);

/** What proving one built lead gave. */
export const adapterBuild = pgTable(
  'adapter_build',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    adapterId: uuid('adapter_id').notNull(),
    version: integer('version').notNull(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    name: text('name').notNull(),
    heard: jsonb('heard').$type<BuildHeard>().notNull(),
    verdict: buildVerdict('verdict').notNull(),
    note: text('note').notNull().default(''),
  },
  (t) => [
    foreignKey({
      name: 'build_of_version',
      columns: [t.adapterId, t.version],
      foreignColumns: [adapterVersion.adapterId, adapterVersion.version],
    }),
    index('build_of_adapter').on(t.adapterId),
  ],
);

export const adapterPhoto = pgTable(
  'adapter_photo',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    adapterId: uuid('adapter_id')
      .notNull()
      .references(() => adapter.id),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    end: text('end'),
    words: text('words').notNull(),
    jpegBase64: text('jpeg_base64').notNull(),
  },
  (t) => [index('photo_of_adapter').on(t.adapterId)],
);

/** Leads that go with a job when it is handed over. */
export const jobAdapter = pgTable(
  'job_adapter',
  {
    ofCrew: ofCrew(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id),
    adapterId: uuid('adapter_id')
      .notNull()
      .references(() => adapter.id),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
  },
  (t) => [primaryKey({ columns: [t.jobId, t.adapterId] })],
);
