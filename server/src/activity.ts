import type { Sql } from './db/open.js';
import { activity } from './db/schema.js';

/** Adds a line to the log of what happened. Call it in the transaction it speaks of. */
export async function logActivity(
  tx: Sql,
  entry: {
    by: string;
    what: string;
    jobId?: string | null;
    linkId?: string | null;
    at?: Date;
    hereOnly?: boolean;
  },
): Promise<void> {
  await tx.insert(activity).values(entry);
}
