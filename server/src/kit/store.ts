import type { Kit, KitFile, KitKind, KitVersion, NewSheet, SpoilCount } from '@near-spoke/contracts';
import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  TOOL_TYPES,
  type CableType,
  type ConnectorType,
  type ToolType,
} from '@near-spoke/core';
import { and, desc, eq, sql } from 'drizzle-orm';
import { isDeepStrictEqual } from 'node:util';
import { logActivity } from '../activity.js';
import type { Sql } from '../db/open.js';
import {
  cableType,
  connectorType,
  crewMember,
  kitSheet,
  link,
  linkEnd,
  terminationAttempt,
  toolType,
} from '../db/schema.js';
import { attemptStands, judgeAgain, ofCable, ofConnector } from '../links/standing.js';
import { badField, changedSince, notFound } from '../problems.js';

type Sheet = CableType | ConnectorType | ToolType;
const HEADS = { cable: cableType, connector: connectorType, tool: toolType } as const;
const SHIPPED: Readonly<Record<KitKind, readonly Sheet[]>> = {
  cable: CABLE_TYPES,
  connector: CONNECTOR_TYPES,
  tool: TOOL_TYPES,
};
const KINDS = ['cable', 'connector', 'tool'] as const;

/** The same sheet, whatever the order of its fields. */
const alike = (a: unknown, b: unknown): boolean =>
  isDeepStrictEqual(JSON.parse(JSON.stringify(a)), JSON.parse(JSON.stringify(b)));

async function writeVersions(
  tx: Sql,
  kind: KitKind,
  rows: readonly { sheet: Sheet; version: number }[],
  by: string | null,
): Promise<void> {
  if (rows.length === 0) return;
  const head = HEADS[kind];
  await tx
    .insert(head)
    .values(rows.map(({ sheet, version }) => ({ id: sheet.id, version, sheet }) as typeof head.$inferInsert))
    .onConflictDoUpdate({
      target: [head.ofCrew, head.id],
      set: { version: sql`excluded.version`, sheet: sql`excluded.sheet` },
    });
  await tx
    .insert(kitSheet)
    .values(rows.map(({ sheet, version }) => ({ kind, typeId: sheet.id, version, by, sheet })));
}

/**
 * Puts the generic sheets into the kit, and brings those up to date that no one has edited: a
 * crew's own figures stay.
 */
export async function stockKit(db: Sql): Promise<void> {
  const newest = await db
    .selectDistinctOn([kitSheet.kind, kitSheet.typeId])
    .from(kitSheet)
    .orderBy(kitSheet.kind, kitSheet.typeId, desc(kitSheet.version));
  const known = new Map(newest.map((row) => [`${row.kind}/${row.typeId}`, row]));
  for (const kind of KINDS) {
    const rows = SHIPPED[kind].flatMap((sheet) => {
      const last = known.get(`${kind}/${sheet.id}`);
      if (last && (last.by !== null || alike(last.sheet, sheet))) return [];
      return [{ sheet, version: (last?.version ?? 0) + 1 }];
    });
    await writeVersions(db, kind, rows, null);
  }
}

export async function readKit(db: Sql): Promise<Kit> {
  const cables = await db.select().from(cableType).orderBy(cableType.id);
  const connectors = await db.select().from(connectorType).orderBy(connectorType.id);
  const tools = await db.select().from(toolType).orderBy(toolType.id);
  const versions = (rows: readonly { id: string; version: number }[]): Record<string, number> =>
    Object.fromEntries(rows.map((row) => [row.id, row.version]));
  return {
    cables: cables.map((row) => row.sheet),
    connectors: connectors.map((row) => row.sheet),
    tools: tools.map((row) => row.sheet),
    versions: { cable: versions(cables), connector: versions(connectors), tool: versions(tools) },
  };
}

/** Every version of a sheet, newest first. */
export async function readVersions(db: Sql, kind: KitKind, typeId: string): Promise<KitVersion[]> {
  const rows = await db
    .select({ row: kitSheet, who: crewMember.name })
    .from(kitSheet)
    .leftJoin(crewMember, eq(crewMember.id, kitSheet.by))
    .where(and(eq(kitSheet.kind, kind), eq(kitSheet.typeId, typeId)))
    .orderBy(desc(kitSheet.version));
  if (rows.length === 0) throw notFound(`${kind} type`);
  return rows.map(({ row, who }) => ({
    kind,
    id: row.typeId,
    version: row.version,
    at: row.at.toISOString(),
    by: who,
    sheet: row.sheet,
  }));
}

/** One version of a sheet. */
export async function readSheet<K extends KitKind>(
  db: Sql,
  kind: K,
  typeId: string,
  version: number,
): Promise<K extends 'cable' ? CableType : K extends 'connector' ? ConnectorType : ToolType> {
  const [row] = await db
    .select({ sheet: kitSheet.sheet })
    .from(kitSheet)
    .where(and(eq(kitSheet.kind, kind), eq(kitSheet.typeId, typeId), eq(kitSheet.version, version)));
  if (!row) throw notFound(`version ${version} of ${typeId}`);
  return row.sheet as K extends 'cable' ? CableType : K extends 'connector' ? ConnectorType : ToolType;
}

/**
 * Keeps a sheet: a new type (version 0), or the next version of the one that was opened. A sheet
 * that says nothing new makes no version, so that sending twice is harmless.
 */
export async function saveSheet(tx: Sql, given: NewSheet, by: string): Promise<KitVersion> {
  const { kind, sheet } = given;
  const head = HEADS[kind];
  const [current] = await tx
    .select({ version: head.version, sheet: head.sheet })
    .from(head)
    .where(eq(head.id, sheet.id))
    .for('update');
  if (current && !alike(current.sheet, sheet)) {
    if (given.version === 0)
      throw badField('sheet.id', `There is a ${kind} ${sheet.id} already: open it to change it.`, 409);
    if (current.version !== given.version) {
      const [last] = await readVersions(tx, kind, sheet.id);
      throw changedSince(current.sheet, last?.by ?? 'an update', last?.at ?? '');
    }
    await refuseMeaningChanged(tx, kind, current.sheet, sheet);
  }
  if (!current || !alike(current.sheet, sheet)) {
    await writeVersions(tx, kind, [{ sheet, version: (current?.version ?? 0) + 1 }], by);
    if (current && kind !== 'tool')
      await judgeAgain(tx, kind === 'cable' ? ofCable(sheet.id) : ofConnector(tx, sheet.id));
    await logActivity(tx, { by, jobId: null, linkId: null, what: `kept the sheet of ${sheet.name}` });
  }
  const [kept] = await readVersions(tx, kind, sheet.id);
  return kept as KitVersion;
}

/** What a link's readings are judged by may not change under links that are already planned. */
async function refuseMeaningChanged(tx: Sql, kind: KitKind, before: Sheet, after: Sheet): Promise<void> {
  const fields: Readonly<Record<KitKind, readonly string[]>> = {
    cable: ['family', 'pairs', 'conductors', 'screened'],
    connector: ['kind', 'contacts'],
    tool: [],
  };
  const changed = fields[kind].find(
    (field) =>
      !alike(
        (before as unknown as Record<string, unknown>)[field],
        (after as unknown as Record<string, unknown>)[field],
      ),
  );
  if (changed === undefined) return;
  const used =
    kind === 'cable'
      ? await tx.select({ id: link.id }).from(link).where(eq(link.cableTypeId, before.id)).limit(1)
      : await tx
          .select({ id: linkEnd.linkId })
          .from(linkEnd)
          .where(eq(linkEnd.connectorTypeId, before.id))
          .limit(1);
  if (used.length > 0) {
    throw badField(
      `sheet.${changed}`,
      `Links are planned with ${before.id}: their readings would change their meaning. Make a new type instead.`,
    );
  }
}

/** Takes sheets from a file. A sheet that is already there becomes its next version. */
export async function importKit(
  tx: Sql,
  file: KitFile,
  by: string,
): Promise<{ added: number; changed: number; same: number }> {
  const counts = { added: 0, changed: 0, same: 0 };
  const given = [
    ...file.cables.map((sheet) => ({ kind: 'cable' as const, sheet })),
    ...file.connectors.map((sheet) => ({ kind: 'connector' as const, sheet })),
    ...file.tools.map((sheet) => ({ kind: 'tool' as const, sheet })),
  ];
  // Locks are taken in one order, so that two files brought in at once wait instead of blocking each other.
  given.sort((a, b) => `${a.kind}/${a.sheet.id}`.localeCompare(`${b.kind}/${b.sheet.id}`));
  for (const each of given) {
    const head = HEADS[each.kind];
    const [current] = await tx
      .select({ version: head.version, sheet: head.sheet })
      .from(head)
      .where(eq(head.id, each.sheet.id));
    counts[!current ? 'added' : alike(current.sheet, each.sheet) ? 'same' : 'changed'] += 1;
    await saveSheet(tx, { ...each, version: current?.version ?? 0 } as NewSheet, by);
  }
  return counts;
}

/** Connectors used well and spoiled, by person and type; corrected records do not count. */
export async function countSpoils(db: Sql): Promise<SpoilCount[]> {
  const rows = await db
    .select({
      crewId: terminationAttempt.by,
      by: crewMember.name,
      connectorTypeId: terminationAttempt.connectorTypeId,
      good: sql<number>`count(*) filter (where ${terminationAttempt.outcome} = 'good')::int`,
      spoiled: sql<number>`sum(${terminationAttempt.connectorsSpoiled})::int`,
    })
    .from(terminationAttempt)
    .innerJoin(crewMember, eq(crewMember.id, terminationAttempt.by))
    .where(attemptStands)
    .groupBy(terminationAttempt.by, crewMember.name, terminationAttempt.connectorTypeId)
    .orderBy(crewMember.name, terminationAttempt.connectorTypeId);
  return rows;
}
