import type { CableType, ConnectorType, ToolType } from '@near-spoke/core';
import { sql } from 'drizzle-orm';
import { check, integer, jsonb, pgEnum, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { now, ofCrew } from './columns.js';
import { crewMember } from './crew.js';

// Sheets of cables, connectors and tools in all their versions.

const head = {
  ofCrew: ofCrew(),
  id: text('id').notNull(),
  version: integer('version').notNull().default(1),
};

export const cableType = pgTable(
  'cable_type',
  { ...head, sheet: jsonb('sheet').$type<CableType>().notNull() },
  (t) => [primaryKey({ columns: [t.ofCrew, t.id] })],
);

export const connectorType = pgTable(
  'connector_type',
  { ...head, sheet: jsonb('sheet').$type<ConnectorType>().notNull() },
  (t) => [primaryKey({ columns: [t.ofCrew, t.id] })],
);

export const toolType = pgTable(
  'tool_type',
  { ...head, sheet: jsonb('sheet').$type<ToolType>().notNull() },
  (t) => [primaryKey({ columns: [t.ofCrew, t.id] })],
);

export const kitKind = pgEnum('kit_kind', ['cable', 'connector', 'tool']);

/** Every version of every sheet: a card made last month is made from these again. */
export const kitSheet = pgTable(
  'kit_sheet',
  {
    ofCrew: ofCrew(),
    kind: kitKind('kind').notNull(),
    typeId: text('type_id').notNull(),
    version: integer('version').notNull(),
    at: now('at'),
    /** Null for a sheet that shipped with the application. */
    by: uuid('by').references(() => crewMember.id),
    sheet: jsonb('sheet').$type<CableType | ConnectorType | ToolType>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.ofCrew, t.kind, t.typeId, t.version] }),
    check('kit_sheet_version', sql`${t.version} > 0`),
  ],
);

/** Sheets that a crew lets the other crews of the installation see, as they were when it said so. */
export const sharedSheet = pgTable(
  'shared_sheet',
  {
    ofCrew: ofCrew(),
    kind: kitKind('kind').notNull(),
    typeId: text('type_id').notNull(),
    version: integer('version').notNull(),
    /** What the crew was called. */
    crewName: text('crew_name').notNull(),
    at: now('at'),
    by: uuid('by')
      .notNull()
      .references(() => crewMember.id),
    sheet: jsonb('sheet').$type<CableType | ConnectorType | ToolType>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.ofCrew, t.kind, t.typeId] })],
);
