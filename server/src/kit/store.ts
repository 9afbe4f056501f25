import { CABLE_TYPES, CONNECTOR_TYPES, type CableType, type ConnectorType } from '@near-spoke/core';
import { sql } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import { cableType, connectorType } from '../db/schema.js';

/** Puts the generic types into the tables and brings their figures up to date. */
export async function stockKit(db: Sql): Promise<void> {
  const excluded = { sheet: sql`excluded.sheet` };
  await db
    .insert(cableType)
    .values(CABLE_TYPES.map((sheet) => ({ id: sheet.id, sheet })))
    .onConflictDoUpdate({ target: cableType.id, set: excluded });
  await db
    .insert(connectorType)
    .values(CONNECTOR_TYPES.map((sheet) => ({ id: sheet.id, sheet })))
    .onConflictDoUpdate({ target: connectorType.id, set: excluded });
}

export interface KitShelf {
  cables: CableType[];
  connectors: ConnectorType[];
}

export async function readKit(db: Sql): Promise<KitShelf> {
  const cables = await db.select().from(cableType).orderBy(cableType.id);
  const connectors = await db.select().from(connectorType).orderBy(connectorType.id);
  return { cables: cables.map((row) => row.sheet), connectors: connectors.map((row) => row.sheet) };
}
