import type { LinkDetail } from '@near-spoke/contracts';
import { checkReading, faultsFound, INSTRUMENTS, standingOf, type FoundFault } from '@near-spoke/core';
import { eq } from 'drizzle-orm';
import type { PgTable } from 'drizzle-orm/pg-core';
import type * as z from 'zod';
import type { newCableWork, newTermination, newTest } from '@near-spoke/contracts';
import { pathInWords } from '@near-spoke/contracts';
import { logActivity } from '../activity.js';
import type { Sql } from '../db/open.js';
import {
  cableType,
  cableWork,
  connectorType,
  faultFound,
  handover,
  job,
  link,
  terminationAttempt,
  testRecord,
} from '../db/schema.js';
import { badField, idTaken, notFound, Refusal } from '../problems.js';
import { expectationOf, practiceOf, refreshStanding } from './standing.js';
import { readLink, readRecord } from './store.js';

type Attempt = z.output<typeof newTermination>;
type Work = z.output<typeof newCableWork>;
type Test = z.output<typeof newTest>;

/** Who records, and when: now, unless a record is being brought in from elsewhere. */
export interface Recorder {
  crewId: string;
  at?: Date;
}

interface LinkRow {
  id: string;
  jobId: string;
  label: string;
}

/** Locks the link, so that verdicts follow one after another. */
async function lockLink(tx: Sql, linkId: string): Promise<LinkRow> {
  const [row] = await tx
    .select({ id: link.id, jobId: link.jobId, label: link.label })
    .from(link)
    .where(eq(link.id, linkId))
    .for('update');
  if (!row) throw notFound('link');
  return row;
}

type RecordTable = typeof terminationAttempt | typeof cableWork | typeof testRecord | typeof handover;

/** Whether this id is already recorded: on this link a repeat, elsewhere a mistake. */
async function alreadyRecorded(tx: Sql, table: RecordTable, id: string, linkId: string): Promise<boolean> {
  const [row] = await tx
    .select({ linkId: table.linkId })
    .from(table as PgTable)
    .where(eq(table.id, id));
  if (row && row.linkId !== linkId) throw idTaken();
  return row !== undefined;
}

async function refuseUnknownCorrection(
  tx: Sql,
  table: typeof terminationAttempt | typeof testRecord,
  corrects: string | null,
  linkId: string,
): Promise<void> {
  if (corrects === null) return;
  const rows = await tx
    .select({ linkId: table.linkId })
    .from(table as PgTable)
    .where(eq(table.id, corrects));
  if (rows[0]?.linkId !== linkId) throw badField('corrects', 'It names no earlier record of this link.');
}

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
  if (await alreadyRecorded(tx, terminationAttempt, attempt.id, linkId)) return;
  const made = await sheetsOfAttempt(tx, linkId, attempt);
  await refuseUnknownCorrection(tx, terminationAttempt, attempt.corrects, linkId);
  await tx.insert(terminationAttempt).values({ ...attempt, ...made, linkId, by: by.crewId, at: by.at });
  const spoiled = attempt.connectorsSpoiled > 0 ? `, ${attempt.connectorsSpoiled} spoiled` : '';
  const stopgap = attempt.stopgap ? `, with a stopgap: ${attempt.stopgap}` : '';
  const what =
    attempt.outcome === 'good'
      ? `terminated the ${attempt.side} end${spoiled}${stopgap}`
      : `spoiled the ${attempt.side} end${spoiled}`;
  await logActivity(tx, { by: by.crewId, at: by.at, jobId: row.jobId, linkId, what });
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
  if (await alreadyRecorded(tx, cableWork, work.id, linkId)) return;
  await tx.insert(cableWork).values({ ...work, linkId, by: by.crewId, at: by.at });
  const where = work.atM === null ? '' : ` at ${work.atM.toFixed(1)} m`;
  await logActivity(tx, {
    by: by.crewId,
    at: by.at,
    jobId: row.jobId,
    linkId,
    what: `${WORK_WORDS[work.kind]}${where}`,
  });
  await refreshStanding(tx, linkId);
}

export async function recordTest(tx: Sql, linkId: string, test: Test, by: Recorder): Promise<void> {
  const row = await lockLink(tx, linkId);
  if (await alreadyRecorded(tx, testRecord, test.id, linkId)) return;
  await refuseUnknownCorrection(tx, testRecord, test.corrects, linkId);
  const expected = await expectationOf(tx, await readLink(tx, linkId));
  refuseImpossible(checkReading(expected, test.reading));
  const record = await readRecord(tx, linkId);
  const at = by.at ?? new Date();
  const { unplugged: _, ...fields } = test;
  const taken = { id: test.id, at: at.toISOString(), reading: test.reading, corrects: test.corrects };
  const now = { ...record, tests: [...record.tests, taken] };
  const practice = await practiceOf(tx);
  const { diagnosis } = standingOf(expected, now, practice);
  if (!diagnosis) throw new Error('a reading gave no verdict');
  await tx.insert(testRecord).values({ ...fields, linkId, by: by.crewId, at, diagnosis });
  if (diagnosis.result === 'pass' && diagnosis.proves === 'map')
    await recordFound(tx, linkId, test.id, at, faultsFound(expected, now, practice));
  await logActivity(tx, {
    by: by.crewId,
    at,
    jobId: row.jobId,
    linkId,
    what: `tested with ${INSTRUMENTS[test.reading.instrument].name}: ${diagnosis.headline}`,
  });
  await refreshStanding(tx, linkId);
}

/** Keeps what was wrong and is now proved gone, once: the crew's own record of its slips. */
async function recordFound(
  tx: Sql,
  linkId: string,
  testId: string,
  at: Date,
  found: readonly FoundFault[],
): Promise<void> {
  const known = await tx
    .select({ words: faultFound.words })
    .from(faultFound)
    .where(eq(faultFound.linkId, linkId));
  const planned = await readLink(tx, linkId);
  for (const { slip, kind, place, words } of found) {
    if (known.some((one) => one.words === words)) continue;
    const connectorTypeId = place === 'cable' ? null : planned[place].connectorId;
    await tx.insert(faultFound).values({ linkId, testId, at, slip, kind, place, words, connectorTypeId });
  }
}

function refuseImpossible(problems: ReturnType<typeof checkReading>): void {
  const [first] = problems;
  if (!first) return;
  const errors = problems.map((p) => ({ path: `reading.${pathInWords(p.path)}`, message: p.message }));
  throw new Refusal(422, 'This reading cannot be of this link', `${errors[0]?.path}: ${first.message}`, {
    errors,
  });
}

export async function recordHandover(tx: Sql, linkId: string, id: string, by: Recorder): Promise<void> {
  const row = await lockLink(tx, linkId);
  if (await alreadyRecorded(tx, handover, id, linkId)) return;
  const [{ stage, standing } = { stage: null, standing: '' }] = await tx
    .select({ stage: link.stage, standing: link.standing })
    .from(link)
    .where(eq(link.id, linkId));
  if (stage !== 'proved') {
    throw new Refusal(
      422,
      'Not proved',
      `${row.label} cannot be handed over: ${standing || 'not tested'}. Prove its map first.`,
    );
  }
  const proof = (await readRecord(tx, linkId)).tests.at(-1);
  if (!proof) throw new Error('a proved link has no test');
  await tx.insert(handover).values({ id, linkId, by: by.crewId, at: by.at, testId: proof.id });
  await logActivity(tx, { by: by.crewId, at: by.at, jobId: row.jobId, linkId, what: 'handed over' });
  await refreshStanding(tx, linkId);
}

/** The whole record of a link, as people see it. */
export async function readDetail(db: Sql, linkId: string): Promise<LinkDetail> {
  const planned = await readLink(db, linkId);
  const [jobRow] = await db.select().from(job).where(eq(job.id, planned.jobId));
  if (!jobRow) throw notFound('job');
  const record = await readRecord(db, linkId);
  const practice = await practiceOf(db);
  const { diagnosis } = standingOf(await expectationOf(db, planned), record, practice);
  return { link: planned, scheme: jobRow.scheme, units: jobRow.units, ...record, diagnosis, practice };
}
