import type { Link, LinkDetail } from '@near-spoke/contracts';
import { proofOf, standingWith } from '@near-spoke/core';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import type { PgTable } from 'drizzle-orm/pg-core';
import type * as z from 'zod';
import type { newCableWork, newReopening, newTermination } from '@near-spoke/contracts';
import { logActivity } from '../activity.js';
import type { Sql } from '../db/open.js';
import {
  cableType,
  cableWork,
  connectorType,
  handover,
  job,
  link,
  type linkNote,
  reopening,
  terminationAttempt,
  type testRecord,
} from '../db/schema.js';
import { badField, jobClosed, notFound, refuseOther, Refusal } from '../problems.js';
import { judge } from '../judge/judge.js';
import { groundsOf, keepStanding, refreshStanding, verdictsNow, type Verdict } from './standing.js';
import { readLink, readRecord, readRecords, type LinkRecord } from './store.js';

type Attempt = z.output<typeof newTermination>;
type Work = z.output<typeof newCableWork>;
/** Who records, and when: now, unless a record is being brought in from elsewhere. */
export interface Recorder {
  crewId: string;
  at?: Date;
}

export interface LinkRow {
  id: string;
  jobId: string;
  label: string;
  /** How many records it has. */
  turns: number;
}

/** Locks the link, so that verdicts follow one after another. */
export async function lockLink(tx: Sql, linkId: string): Promise<LinkRow> {
  const [row] = await lockLinks(tx, [linkId]);
  return row as LinkRow;
}

/** Locks links in one order, so that two who lock many wait instead of blocking each other. */
export async function lockLinks(tx: Sql, linkIds: readonly string[]): Promise<LinkRow[]> {
  const rows = await tx
    .select({ id: link.id, jobId: link.jobId, label: link.label, turns: link.turns })
    .from(link)
    .where(inArray(link.id, [...linkIds]))
    .orderBy(asc(link.id))
    .for('update');
  if (rows.length < linkIds.length) throw notFound('link');
  return rows;
}

/**
 * The place of a new record among all of its link; call it with the link locked.
 *
 * @throws Refusal 409 where the link is no part of its job any more, or the job is closed
 */
export async function drawTurn(tx: Sql, linkId: string): Promise<number> {
  const [row] = await tx
    .update(link)
    .set({ turns: sql`${link.turns} + 1` })
    .where(eq(link.id, linkId))
    .returning({
      turns: link.turns,
      label: link.label,
      outAt: link.outAt,
      closed: sql<boolean>`(SELECT ${job.closedAt} IS NOT NULL FROM ${job} WHERE ${job.id} = ${link.jobId})`,
    });
  if (!row) throw notFound('link');
  refuseOver(row.label, row.outAt !== null, row.closed);
  return row.turns;
}

/** Nothing is recorded of a link that is no part of its job any more, nor in a job that is closed. */
export function refuseOver(label: string, isOut: boolean, isClosed: boolean): void {
  if (isOut)
    throw new Refusal(
      409,
      'Taken out of the job',
      `${label} was taken out of the job: nothing is recorded of it. Bring it back first.`,
    );
  if (isClosed) throw jobClosed();
}

type RecordTable =
  | typeof terminationAttempt
  | typeof cableWork
  | typeof testRecord
  | typeof handover
  | typeof reopening
  | typeof linkNote;

/**
 * Whether this id is already recorded: on this link with the same content a repeat, which changes nothing;
 * otherwise a mistake, which is told with what is there.
 */
export async function alreadyRecorded(
  tx: Sql,
  table: RecordTable,
  linkId: string,
  sent: { id: string } & Record<string, unknown>,
): Promise<boolean> {
  const [row] = await tx
    .select()
    .from(table as PgTable)
    .where(eq(table.id, sent.id));
  if (!row) return false;
  // The first time it may have been sent at once, and its answer lost.
  const { deviceAt: _, ...content } = sent;
  // On another link it is other content, whatever it says.
  refuseOther(row, { ...content, linkId } as typeof sent);
  return true;
}

/** The time of the device that a record waited on, as the tables keep it. */
export const onDevice = ({ deviceAt }: { deviceAt?: string | undefined }): { deviceAt: Date | null } => ({
  deviceAt: deviceAt === undefined ? null : new Date(deviceAt),
});

async function refuseUnknownCorrection(
  tx: Sql,
  table: typeof terminationAttempt,
  corrects: string | null,
  linkId: string,
): Promise<void> {
  if (corrects === null) return;
  const rows = await tx
    .select({ linkId: table.linkId })
    .from(table as PgTable)
    .where(eq(table.id, corrects));
  if (rows[0]?.linkId !== linkId) throw badCorrection();
}

export const badCorrection = (): Refusal => badField('corrects', 'It names no earlier record of this link.');

/** The versions of the sheets an attempt was made by: those it names, or those that hold now. */
async function sheetsOfAttempt(
  tx: Sql,
  linkId: string,
  attempt: Attempt,
): Promise<{ connectorVersion: number; cableVersion: number }> {
  const [connector] = await tx
    .select({ version: connectorType.version })
    .from(connectorType)
    .where(eq(connectorType.id, attempt.connectorTypeId));
  if (!connector)
    throw badField('connectorTypeId', `There is no connector type ${attempt.connectorTypeId} in the kit.`);
  const [cable] = await tx
    .select({ version: cableType.version })
    .from(link)
    .innerJoin(cableType, eq(cableType.id, link.cableTypeId))
    .where(eq(link.id, linkId));
  const now = { connectorVersion: connector.version, cableVersion: cable?.version ?? 1 };
  for (const field of ['connectorVersion', 'cableVersion'] as const) {
    const named = attempt[field];
    if (named !== undefined && named > now[field])
      throw badField(field, `That sheet has no version ${named} yet: the newest is ${now[field]}.`);
  }
  return {
    connectorVersion: attempt.connectorVersion ?? now.connectorVersion,
    cableVersion: attempt.cableVersion ?? now.cableVersion,
  };
}

export async function recordTermination(
  tx: Sql,
  linkId: string,
  attempt: Attempt,
  by: Recorder,
): Promise<void> {
  const row = await lockLink(tx, linkId);
  if (await alreadyRecorded(tx, terminationAttempt, linkId, sameSheets(attempt))) return;
  const made = await sheetsOfAttempt(tx, linkId, attempt);
  await refuseUnknownCorrection(tx, terminationAttempt, attempt.corrects, linkId);
  const at = by.at ?? new Date();
  const turn = await drawTurn(tx, linkId);
  await tx
    .insert(terminationAttempt)
    .values({ ...attempt, ...made, ...onDevice(attempt), linkId, by: by.crewId, at, turn });
  const spoiled = attempt.connectorsSpoiled > 0 ? `, ${attempt.connectorsSpoiled} spoiled` : '';
  const stopgap = attempt.stopgap ? `, with a stopgap: ${attempt.stopgap}` : '';
  const what =
    attempt.outcome === 'good'
      ? `terminated the ${attempt.side} end${spoiled}${stopgap}`
      : `spoiled the ${attempt.side} end${spoiled}`;
  await logActivity(tx, { by: by.crewId, at, jobId: row.jobId, linkId, what });
  await refreshStanding(tx, linkId);
}

const WORK_WORDS = {
  mended: 'mended the cable',
  replaced: 'replaced the cable',
  outlet: 'made sure of the outlet',
  unplug: 'unplugged both ends',
} as const;

export async function recordCableWork(tx: Sql, linkId: string, work: Work, by: Recorder): Promise<void> {
  const row = await lockLink(tx, linkId);
  if (await alreadyRecorded(tx, cableWork, linkId, work)) return;
  const at = by.at ?? new Date();
  const turn = await drawTurn(tx, linkId);
  await tx.insert(cableWork).values({ ...work, ...onDevice(work), linkId, by: by.crewId, at, turn });
  const where = work.atM === null ? '' : ` at ${work.atM.toFixed(1)} m`;
  await logActivity(tx, {
    by: by.crewId,
    at,
    jobId: row.jobId,
    linkId,
    what: `${WORK_WORDS[work.kind]}${where}`,
  });
  await refreshStanding(tx, linkId);
}

/** An attempt that names no versions was made by those that held then; one that names no tool says nothing of it. */
function sameSheets(attempt: Attempt): { id: string } & Record<string, unknown> {
  const { connectorVersion, cableVersion, tool, ...sent } = attempt;
  return {
    ...sent,
    ...(tool === undefined ? {} : { tool }),
    ...(connectorVersion === undefined ? {} : { connectorVersion }),
    ...(cableVersion === undefined ? {} : { cableVersion }),
  };
}

export async function recordHandover(tx: Sql, linkId: string, id: string, by: Recorder): Promise<void> {
  const row = await lockLink(tx, linkId);
  if (await alreadyRecorded(tx, handover, linkId, { id })) return;
  // Judged here and now, under the lock: what was stored may rest on a plan or a practice of before.
  const { expected, practice } = await groundsOf(tx, linkId);
  const record = await readRecord(tx, linkId);
  const { diagnosis } = await judge({ expected, record, practice });
  const { stage, words } = standingWith(record, diagnosis);
  const proof = proofOf(record);
  if (stage !== 'proved' || !proof) {
    throw new Refusal(
      422,
      'Not proved',
      `${row.label} cannot be handed over: ${words || 'not tested'}. Prove its map first.`,
    );
  }
  const at = by.at ?? new Date();
  const turn = await drawTurn(tx, linkId);
  await tx.insert(handover).values({ id, linkId, by: by.crewId, at, turn, testId: proof.id });
  await logActivity(tx, { by: by.crewId, at, jobId: row.jobId, linkId, what: 'handed over' });
  const now = { ...record, handovers: [...record.handovers, { at: at.toISOString(), turn }] };
  await keepStanding(tx, linkId, standingWith(now, diagnosis), practice);
}

/** Takes a handover back: the link stands proved, and may be handed over again. */
export async function recordReopening(
  tx: Sql,
  linkId: string,
  sent: z.output<typeof newReopening>,
  by: Recorder,
): Promise<void> {
  const row = await lockLink(tx, linkId);
  if (await alreadyRecorded(tx, reopening, linkId, sent)) return;
  const standing = standingWith(await readRecord(tx, linkId), (await verdictOfLink(tx, linkId)).diagnosis);
  if (standing.stage !== 'handed-over')
    throw new Refusal(422, 'Not handed over', `${row.label} is not handed over: there is nothing to reopen.`);
  const at = by.at ?? new Date();
  const turn = await drawTurn(tx, linkId);
  await tx.insert(reopening).values({ ...sent, linkId, by: by.crewId, at, turn });
  await logActivity(tx, { by: by.crewId, at, jobId: row.jobId, linkId, what: `reopened: ${sent.reason}` });
  await refreshStanding(tx, linkId);
}

/** The verdict of a link as it is kept, or given now. */
async function verdictOfLink(tx: Sql, linkId: string): Promise<Verdict> {
  const planned = await readLink(tx, linkId);
  const [verdict] = await verdictsNow(tx, [{ planned, record: await readRecord(tx, linkId) }]);
  return verdict as Verdict;
}

/** The whole record of a link, as people see it. */
export async function readDetail(db: Sql, linkId: string): Promise<LinkDetail> {
  const planned = await readLink(db, linkId);
  const [jobRow] = await db.select().from(job).where(eq(job.id, planned.jobId));
  if (!jobRow) throw notFound('job');
  const [detail] = await readDetails(db, [planned], jobRow);
  return detail as LinkDetail;
}

/** The whole records of links of one job, in their order, by a handful of statements however many they are. */
export async function readDetails(
  db: Sql,
  links: readonly Link[],
  { scheme, units }: Pick<LinkDetail, 'scheme' | 'units'>,
): Promise<LinkDetail[]> {
  const records = await readRecords(
    db,
    links.map(({ id }) => id),
  );
  const whole = links.map((planned) => ({ planned, record: records.get(planned.id) as LinkRecord }));
  const verdicts = await verdictsNow(db, whole);
  return whole.map(({ planned, record }, n) => {
    const { diagnosis, practice } = verdicts[n] as Verdict;
    return { link: planned, scheme, units, ...record, diagnosis, practice };
  });
}
