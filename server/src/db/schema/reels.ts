import type { VelocityRecord } from '@near-spoke/contracts';
import { sql } from 'drizzle-orm';
import {
  bigserial,
  check,
  doublePrecision,
  foreignKey,
  index,
  jsonb,
  pgEnum,
  pgTable,
  text,
  unique,
  uniqueIndex,
  uuid,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { now, ofCrew } from './columns.js';
import { crewMember } from './crew.js';
import { cableType } from './kit.js';
import { link } from './jobs.js';

// Drums and boxes with their ledgers; velocities measured on them.

export const reelKind = pgEnum('reel_kind', ['drum', 'box']);

export const reelEventKind = pgEnum('reel_event_kind', ['labelled', 'drawn', 'measured']);

export const reel = pgTable(
  'reel',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    kind: reelKind('kind').notNull(),
    cableTypeId: text('cable_type_id').notNull(),
    lot: text('lot').notNull().default(''),
    createdAt: now('created_at'),
  },
  (t) => [
    foreignKey({
      name: 'reel_cable',
      columns: [t.ofCrew, t.cableTypeId],
      foreignColumns: [cableType.ofCrew, cableType.id],
    }),
    uniqueIndex('reel_name').on(t.ofCrew, sql`lower(${t.name})`),
  ],
);

/** What happened to a reel; a wrong entry is corrected by a later one, never changed. */
export const reelEntry = pgTable(
  'reel_entry',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    reelId: uuid('reel_id')
      .notNull()
      .references(() => reel.id),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    what: reelEventKind('what').notNull(),
    lengthM: doublePrecision('length_m').notNull(),
    u95M: doublePrecision('u95_m'),
    velocityFactor: doublePrecision('velocity_factor'),
    linkId: uuid('link_id').references(() => link.id),
    corrects: uuid('corrects').references((): AnyPgColumn => reelEntry.id),
    words: text('words').notNull().default(''),
  },
  (t) => [
    index('reel_entry_of_reel').on(t.reelId),
    unique('reel_entry_corrected_once').on(t.corrects),
    check('reel_entry_length', sql`${t.lengthM} >= 0`),
    check('reel_entry_measured', sql`(${t.what} = 'measured') = (${t.u95M} is not null)`),
  ],
);

/** Velocity factors that were measured, with what they were measured on. */
export const velocityFigure = pgTable(
  'velocity_figure',
  {
    ofCrew: ofCrew(),
    id: uuid('id').primaryKey(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    cableTypeId: text('cable_type_id').notNull(),
    lot: text('lot').notNull().default(''),
    reelId: uuid('reel_id').references(() => reel.id),
    velocityFactor: doublePrecision('velocity_factor').notNull(),
    u95: doublePrecision('u95').notNull(),
    pieces: jsonb('pieces').$type<VelocityRecord['pieces']>().notNull(),
    loss: jsonb('loss').$type<VelocityRecord['loss']>(),
  },
  (t) => [
    foreignKey({
      name: 'velocity_figure_cable',
      columns: [t.ofCrew, t.cableTypeId],
      foreignColumns: [cableType.ofCrew, cableType.id],
    }),
    index('velocity_of_cable').on(t.cableTypeId),
    check('velocity_factor_possible', sql`${t.velocityFactor} between 0.3 and 1`),
  ],
);
