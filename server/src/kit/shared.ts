import type { SharedSheet, sheetToShare } from '@near-spoke/contracts';
import { and, asc, eq } from 'drizzle-orm';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import { crewHere } from '../db/crew.js';
import type { Sql } from '../db/open.js';
import { crew, sharedSheet } from '../db/schema.js';
import { notFound } from '../problems.js';
import { readVersions } from './store.js';

type Which = z.output<typeof sheetToShare>;

/** Sheets that crews let each other see; the one table that shows more than one's own. */
export async function readShared(db: Sql): Promise<SharedSheet[]> {
  const rows = await db
    .select()
    .from(sharedSheet)
    .orderBy(
      asc(sharedSheet.crewName),
      asc(sharedSheet.kind),
      asc(sharedSheet.typeId),
      asc(sharedSheet.ofCrew),
    );
  return rows.map(({ ofCrew, kind, typeId, version, crewName, at, sheet }) => ({
    kind,
    id: typeId,
    version,
    crew: crewName,
    own: ofCrew === crewHere(),
    at: at.toISOString(),
    sheet,
  }));
}

/** Lets the other crews see the newest version of a sheet; said again, it is the newest by now. */
export async function share(tx: Sql, { kind, id }: Which, by: string): Promise<void> {
  const [newest] = await readVersions(tx, kind, id);
  const [own] = await tx.select({ name: crew.name }).from(crew);
  if (!newest || !own) throw notFound(`${kind} type`);
  const row = { version: newest.version, sheet: newest.sheet, crewName: own.name, at: new Date(), by };
  await tx
    .insert(sharedSheet)
    .values({ kind, typeId: id, ...row })
    .onConflictDoUpdate({ target: [sharedSheet.ofCrew, sharedSheet.kind, sharedSheet.typeId], set: row });
  await logActivity(tx, { by, what: `let the other crews see the sheet of ${newest.sheet.name}` });
}

/** Lets the other crews see it no longer; a second time changes nothing. */
export async function unshare(tx: Sql, { kind, id }: Which, by: string): Promise<void> {
  const gone = await tx
    .delete(sharedSheet)
    .where(and(eq(sharedSheet.ofCrew, crewHere()), eq(sharedSheet.kind, kind), eq(sharedSheet.typeId, id)))
    .returning({ sheet: sharedSheet.sheet });
  for (const { sheet } of gone)
    await logActivity(tx, { by, what: `lets the other crews see the sheet of ${sheet.name} no longer` });
}
