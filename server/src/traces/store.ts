import type { GoodTrace, newTrace, TraceHead, TraceRecord } from '@near-spoke/contracts';
import { and, desc, eq, getTableColumns, inArray, isNull, ne, notExists, sql } from 'drizzle-orm';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import type { Sql } from '../db/open.js';
import { cableWork, crewMember, link, terminationAttempt, traceRecord } from '../db/schema.js';
import { drawTurn } from '../links/record.js';
import { inOrder } from '../links/standing.js';
import { idTaken, notFound, refuseOther } from '../problems.js';

type NewTrace = z.output<typeof newTrace>;

/** Samples are long, and are asked for trace by trace. */
const { trace: _samples, ...HEAD_COLUMNS } = getTableColumns(traceRecord);

/** The traces of a link, newest first, without their samples. */
export async function readTraces(db: Sql, linkId: string): Promise<TraceHead[]> {
  const [known] = await db.select({ id: link.id }).from(link).where(eq(link.id, linkId));
  if (!known) throw notFound('link');
  const rows = await db
    .select({ record: HEAD_COLUMNS, by: crewMember.name })
    .from(traceRecord)
    .innerJoin(crewMember, eq(crewMember.id, traceRecord.by))
    .where(eq(traceRecord.linkId, linkId))
    .orderBy(desc(traceRecord.seq));
  return rows.map(({ record, by }) => headOf(record, by));
}

const headOf = (
  { id, at, end, pair, name, told }: Omit<typeof traceRecord.$inferSelect, 'trace'>,
  by: string,
): TraceHead => ({ id, at: at.toISOString(), by, end, pair, name, told });

/** So many traces of good links are offered. */
const MOST_GOOD = 20;

/**
 * What a good line of a link's cable looks like: of each other link, end and pair the newest trace, where the link is in
 * order and nothing was worked on since the trace was taken. Those of the same job first, then the newest.
 */
export async function goodTraces(db: Sql, linkId: string): Promise<GoodTrace[]> {
  const [known] = await db
    .select({ jobId: link.jobId, cableTypeId: link.cableTypeId })
    .from(link)
    .where(eq(link.id, linkId));
  if (!known) throw notFound('link');
  const workedOnSince = (of: typeof terminationAttempt | typeof cableWork) =>
    db
      .select({ one: sql`1` })
      .from(of)
      .where(and(eq(of.linkId, traceRecord.linkId), sql`${of.turn} > ${traceRecord.turn}`));
  const newest = db
    .selectDistinctOn([traceRecord.linkId, traceRecord.end, traceRecord.pair], { id: traceRecord.id })
    .from(traceRecord)
    .innerJoin(link, eq(link.id, traceRecord.linkId))
    .where(
      and(
        eq(link.cableTypeId, known.cableTypeId),
        ne(link.id, linkId),
        isNull(link.outAt),
        inOrder,
        notExists(workedOnSince(terminationAttempt)),
        notExists(workedOnSince(cableWork)),
      ),
    )
    .orderBy(traceRecord.linkId, traceRecord.end, traceRecord.pair, desc(traceRecord.turn));
  const rows = await db
    .select({ record: HEAD_COLUMNS, by: crewMember.name, label: link.label, lengthM: link.lengthM })
    .from(traceRecord)
    .innerJoin(crewMember, eq(crewMember.id, traceRecord.by))
    .innerJoin(link, eq(link.id, traceRecord.linkId))
    .where(inArray(traceRecord.id, newest))
    .orderBy(desc(eq(link.jobId, known.jobId)), desc(traceRecord.seq))
    .limit(MOST_GOOD);
  return rows.map(({ record, label, lengthM, by }) => ({
    ...headOf(record, by),
    linkId: record.linkId,
    label,
    lengthM,
  }));
}

/** One trace of a link with its samples. */
export async function readTrace(db: Sql, linkId: string, traceId: string): Promise<TraceRecord> {
  const [row] = await db
    .select({ record: traceRecord, by: crewMember.name })
    .from(traceRecord)
    .innerJoin(crewMember, eq(crewMember.id, traceRecord.by))
    .where(and(eq(traceRecord.linkId, linkId), eq(traceRecord.id, traceId)));
  if (!row) throw notFound('trace');
  const { id, at, end, pair, name, trace, told } = row.record;
  return { id, at: at.toISOString(), by: row.by, end, pair, name, trace, told };
}

/** Of each of these links, end and pair the newest trace; of all of them so many, the newest. */
export async function newestTraces(
  db: Sql,
  linkIds: readonly string[],
  most: number,
): Promise<(TraceRecord & { linkId: string; turn: number })[]> {
  if (linkIds.length === 0) return [];
  const newest = db
    .selectDistinctOn([traceRecord.linkId, traceRecord.end, traceRecord.pair], { id: traceRecord.id })
    .from(traceRecord)
    .where(inArray(traceRecord.linkId, [...linkIds]))
    .orderBy(traceRecord.linkId, traceRecord.end, traceRecord.pair, desc(traceRecord.turn));
  const rows = await db
    .select({ record: traceRecord, by: crewMember.name })
    .from(traceRecord)
    .innerJoin(crewMember, eq(crewMember.id, traceRecord.by))
    .where(inArray(traceRecord.id, newest))
    .orderBy(desc(traceRecord.seq))
    .limit(most);
  return rows.map(({ record: { seq: _, ofCrew: _ofCrew, at, ...record }, by }) => ({
    ...record,
    at: at.toISOString(),
    by,
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
