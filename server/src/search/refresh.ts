import { sql, type SQL } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import { link } from '../db/schema.js';

/** Gathers anew what is looked for of some links; call it in the transaction that changed them. */
export async function refreshSearch(tx: Sql, which: SQL): Promise<void> {
  await tx.execute(
    sql`SELECT link_search_refresh((SELECT array_agg(${link.id}) FROM ${link} WHERE ${which}))`,
  );
}
