import type { CableType, ConnectorType, ToolType } from '@near-spoke/core';
import { sql } from 'drizzle-orm';
import { check, integer, jsonb, pgEnum, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { now } from './columns.js';
import { crewMember } from './crew.js';

// Sheets of cables, connectors and tools in all their versions.

const head = {
  id: text('id').primaryKey(),
  version: integer('version').notNull().default(1),
};

export const cableType = pgTable('cable_type', {
  ...head,
  sheet: jsonb('sheet').$type<CableType>().notNull(),
});

export const connectorType = pgTable('connector_type', {
  ...head,
  sheet: jsonb('sheet').$type<ConnectorType>().notNull(),
});

export const toolType = pgTable('tool_type', { ...head, sheet: jsonb('sheet').$type<ToolType>().notNull() });

export const kitKind = pgEnum('kit_kind', ['cable', 'connector', 'tool']);

/** Every version of every sheet: a card made last month is made from these again. */
export const kitSheet = pgTable(
  'kit_sheet',
  {
    kind: kitKind('kind').notNull(),
    typeId: text('type_id').notNull(),
    version: integer('version').notNull(),
    at: now('at'),
    /** Null for a sheet that shipped with the application. */
    by: uuid('by').references(() => crewMember.id),
    sheet: jsonb('sheet').$type<CableType | ConnectorType | ToolType>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.kind, t.typeId, t.version] }),
    check('kit_sheet_version', sql`${t.version} > 0`),
  ],
);
