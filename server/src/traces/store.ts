import type { newTrace, TraceRecord } from '@near-spoke/contracts';
import { desc, eq } from 'drizzle-orm';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import type { Sql } from '../db/open.js';
import { crewMember, link, traceRecord } from '../db/schema.js';
import { drawTurn } from '../links/record.js';
import { idTaken, notFound, refuseOther } from '../problems.js';

type NewTrace = z.output<typeof newTrace>;

/** The traces of a link, newest first. */
export async function readTraces(db: Sql, linkId: string): Promise<TraceRecord[]> {
  const [known] = await db.select({ id: link.id }).from(link).where(eq(link.id, linkId));
  if (!known) throw notFound('link');
  const rows = await db
    .select({ record: traceRecord, by: crewMember.name })
    .from(traceRecord)
    .innerJoin(crewMember, eq(crewMember.id, traceRecord.by))
    .where(eq(traceRecord.linkId, linkId))
    .orderBy(desc(traceRecord.seq));
  return rows.map(({ record: { id, at, end, pair, name, trace, told }, by }) => ({
    id,
    at: at.toISOString(),
    by,
    end,
    pair,
    name,
    trace,
    told,
  }));
}

/** Keeps a trace; one that is kept already is left as it is. */
export async function keepTrace(
  tx: Sql,
  linkId: string,
  { unplugged: _, ...trace }: NewTrace,
  by: { crewId: string; at?: Date },
): Promise<void> {
  const [row] = await tx.select({ jobId: link.jobId }).from(link).where(eq(link.id, linkId)).for('update');
  if (!row) throw notFound('link');
  const [known] = await tx.select().from(traceRecord).where(eq(traceRecord.id, trace.id));
  if (known && known.linkId !== linkId) throw idTaken();
  if (known) return refuseOther(known, trace);
  const at = by.at ?? new Date();
  await tx
    .insert(traceRecord)
    .values({ ...trace, linkId, by: by.crewId, at, turn: await drawTurn(tx, linkId) });
  await logActivity(tx, {
    by: by.crewId,
    at,
    jobId: row.jobId,
    linkId,
    what: `kept a reflectometer trace from the ${trace.end} end`,
  });
}
