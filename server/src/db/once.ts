import { eq } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import { idTaken, refuseOther } from '../problems.js';
import type { Sql } from './open.js';

type Named = PgTable & { id: PgColumn };

/**
 * Keeps a row under the id it brings, once: of several that send the same at one time one keeps it and the
 * others find it kept. Other content under an id that is taken is refused with both.
 * @param sent what is compared with what is kept; all of the row if left out
 * @returns whether it was kept now
 */
export async function keepOnce<T extends Named>(
  tx: Sql,
  table: T,
  row: T['$inferInsert'] & { id: string },
  sent: { id: string } & Record<string, unknown> = row,
): Promise<boolean> {
  const added = await tx
    .insert(table as PgTable)
    .values(row as PgTable['$inferInsert'])
    .onConflictDoNothing({ target: table.id })
    .returning({ id: table.id });
  if (added.length > 0) return true;
  const [kept] = await tx
    .select()
    .from(table as PgTable)
    .where(eq(table.id, row.id));
  // Taken, and not to be seen: by a record of another crew.
  if (!kept) throw idTaken();
  refuseOther(kept, sent);
  return false;
}
