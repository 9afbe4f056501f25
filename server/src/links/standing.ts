import type { Link, LinkDetail } from '@near-spoke/contracts';
import {
  expectLink,
  practiceFrom,
  standingWith,
  type Diagnosis,
  type LinkExpectation,
  type LinkHistory,
  type Practice,
  type SlipKind,
  type Standing,
} from '@near-spoke/core';
import { and, eq, exists, inArray, isNull, notInArray, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Context } from '../context.js';
import { asSaid, AT_HAND } from '../crew/said.js';
import { isAway } from '../db/failures.js';
import { crewsToJudge, inCrew } from '../db/crew.js';
import type { Sql } from '../db/open.js';
import {
  cableType,
  connectorType,
  faultFound,
  job,
  link,
  linkEnd,
  setting,
  terminationAttempt,
  testRecord,
} from '../db/schema.js';
import { judge } from '../judge/judge.js';
import { refreshSearch } from '../search/refresh.js';
import { notFound } from '../problems.js';
import { readRecord } from './store.js';

/** Attempts that no later one takes back. */
export const attemptStands = sql`NOT EXISTS (SELECT FROM ${terminationAttempt} AS later WHERE later.corrects = ${terminationAttempt.id})`;

/** What practice is worked out from, each a figure of the whole crew. */
const PRACTICE = {
  found: sql<Record<string, number>>`(SELECT coalesce(jsonb_object_agg(slip, found), '{}')
    FROM (SELECT ${faultFound.slip} AS slip, count(*)::int AS found FROM ${faultFound} GROUP BY ${faultFound.slip}) AS slips)`,
  ends: sql<number>`(SELECT count(*)::int FROM ${terminationAttempt}
    WHERE ${terminationAttempt.outcome} = 'good' AND ${attemptStands})`,
  atHand: sql<
    string | null
  >`(SELECT ${setting.value} FROM ${setting} WHERE ${setting.name} = ${AT_HAND.name})`,
};
interface PracticeFigures {
  found: Record<string, number>;
  ends: number;
  atHand: string | null;
}

/** How often this crew meets each slip: what is typical, moved by what was found and proved gone. */
export async function practiceOf(db: Sql): Promise<Practice> {
  const { found, ends, atHand } = PRACTICE;
  const { rows } = await db.execute<PracticeFigures & Record<string, unknown>>(
    sql`SELECT ${found} AS found, ${ends} AS ends, ${atHand} AS "atHand"`,
  );
  return toPractice(rows[0] as PracticeFigures);
}

function toPractice({ found, ends, atHand }: PracticeFigures): Practice {
  const { owned } = asSaid(AT_HAND, atHand);
  return {
    ...practiceFrom(found as Partial<Record<SlipKind, number>>, ends),
    ...(owned ? { owned } : {}),
  };
}

/** What a verdict rests on beside the record, and how its job is set. */
export interface Grounds {
  expected: LinkExpectation;
  practice: Practice;
  scheme: LinkDetail['scheme'];
  units: LinkDetail['units'];
  /** Whether the job is closed: it is read, and not added to. */
  closed: boolean;
}

const nearEnd = alias(linkEnd, 'near_end');
const farEnd = alias(linkEnd, 'far_end');
const nearType = alias(connectorType, 'near_type');
const farType = alias(connectorType, 'far_type');

/** What links are meant to be, from their plans in the tables, and how this crew works: by one statement. */
export async function groundsOfLinks(db: Sql, linkIds: readonly string[]): Promise<Map<string, Grounds>> {
  const rows = await db
    .select({
      id: link.id,
      label: link.label,
      lengthM: link.lengthM,
      scheme: job.scheme,
      units: job.units,
      closedAt: job.closedAt,
      cable: cableType.sheet,
      near: nearType.sheet,
      far: farType.sheet,
      ...PRACTICE,
    })
    .from(link)
    .innerJoin(job, eq(job.id, link.jobId))
    .innerJoin(cableType, eq(cableType.id, link.cableTypeId))
    .innerJoin(nearEnd, and(eq(nearEnd.linkId, link.id), eq(nearEnd.side, 'near')))
    .innerJoin(nearType, eq(nearType.id, nearEnd.connectorTypeId))
    .innerJoin(farEnd, and(eq(farEnd.linkId, link.id), eq(farEnd.side, 'far')))
    .innerJoin(farType, eq(farType.id, farEnd.connectorTypeId))
    .where(inArray(link.id, [...linkIds]));
  const [first] = rows;
  const practice = first && toPractice(first);
  return new Map(
    rows.map(({ id, scheme, units, closedAt, cable, near, far, lengthM, label }): [string, Grounds] => [
      id,
      {
        expected: expectLink({ cable, lengthM, scheme, near, far, label }),
        practice: practice as Practice,
        scheme,
        units,
        closed: closedAt !== null,
      },
    ]),
  );
}

/** The same of one link. */
export async function groundsOf(db: Sql, linkId: string): Promise<Grounds> {
  const grounds = (await groundsOfLinks(db, [linkId])).get(linkId);
  if (!grounds) throw notFound('link');
  return grounds;
}

/** Changes whenever the same record may be judged otherwise: verdicts given by other rules are given anew. */
const RULES = 5;

/** How a link stands by now, and how many records it has where one was added. */
interface NewStanding {
  linkId: string;
  standing: Standing;
  practice: Practice;
  turns?: number;
}

/** Keeps a link's stage, its standing in words, and the verdict they follow from. */
export const keepStanding = (
  tx: Sql,
  linkId: string,
  standing: Standing,
  practice: Practice,
): Promise<void> => keepStandings(tx, [{ linkId, standing, practice }]);

/** The same of many links. */
export async function keepStandings(tx: Sql, all: readonly NewStanding[]): Promise<void> {
  if (all.length === 0) return;
  for (const { linkId, standing, practice, turns } of all) {
    const { diagnosis, stage, words, nextStep, nearDone, farDone } = standing;
    await tx
      .update(link)
      .set({
        stage,
        standing: words,
        nextStep,
        nearDone,
        farDone,
        judged: true,
        verdict: diagnosis && { rules: RULES, diagnosis, practice },
        ...(turns === undefined ? {} : { turns }),
      })
      .where(eq(link.id, linkId));
  }
  await refreshSearch(
    tx,
    inArray(
      link.id,
      all.map(({ linkId }) => linkId),
    ),
  );
}

/** Judges a link by its record as it is now; call it in the transaction that added to the record. */
export async function refreshStanding(tx: Sql, linkId: string): Promise<Standing> {
  const { expected, practice } = await groundsOf(tx, linkId);
  const record = await readRecord(tx, linkId);
  const { diagnosis } = await judge({ expected, record, practice });
  const standing = standingWith(record, diagnosis);
  await keepStanding(tx, linkId, standing, practice);
  return standing;
}

export interface Verdict {
  diagnosis: Diagnosis | null;
  practice: Practice;
}

/** The verdict that is kept of a link, or a new one where none is, or one by other rules. */
export async function verdictNow(db: Sql, planned: Link, record: LinkHistory): Promise<Verdict> {
  const [verdict] = await verdictsNow(db, [{ planned, record }]);
  return verdict as Verdict;
}

/** The verdicts of many links, in their order: those that are kept by one statement, the others given anew. */
export async function verdictsNow(
  db: Sql,
  links: readonly { planned: Link; record: LinkHistory }[],
): Promise<Verdict[]> {
  const rows = await db
    .select({ id: link.id, judged: link.judged, verdict: link.verdict })
    .from(link)
    .where(
      inArray(
        link.id,
        links.map(({ planned }) => planned.id),
      ),
    );
  const kept = new Map(
    rows.flatMap(({ id, judged, verdict }) =>
      judged && verdict?.rules === RULES ? [[id, verdict as Verdict]] : [],
    ),
  );
  const verdicts: Verdict[] = [];
  let practice: Practice | null = null;
  for (const { planned, record } of links) {
    const known = kept.get(planned.id);
    if (known) {
      verdicts.push(known);
      continue;
    }
    if (record.tests.length === 0) {
      practice ??= await practiceOf(db);
      verdicts.push({ practice, diagnosis: null });
      continue;
    }
    const { expected, practice: own } = await groundsOf(db, planned.id);
    practice = own;
    verdicts.push({ practice, diagnosis: (await judge({ expected, record, practice })).diagnosis });
  }
  return verdicts;
}

/** So many links are judged again at once, with what changed; more wait for `judgeWaiting`. */
const AT_ONCE = 12;

/** Links that are as they should be, by all that was read. */
export const inOrder = sql`${link.verdict}->'diagnosis'->>'result' = 'pass'`;
/** Links that want work or a look. */
export const notInOrder = sql`${link.verdict}->'diagnosis'->>'result' <> 'pass'`;
/** Links of a job, or whose cable or ends are of a type. */
export const ofJob = (jobId: string): SQL => eq(link.jobId, jobId);
export const ofCable = (id: string): SQL => eq(link.cableTypeId, id);
export const ofConnector = (tx: Sql, id: string): SQL =>
  exists(
    tx
      .select()
      .from(linkEnd)
      .where(and(eq(linkEnd.linkId, link.id), eq(linkEnd.connectorTypeId, id))),
  );

/**
 * What verdicts rest on has changed: those it touches are given again in the same transaction, or, where
 * there are many, taken back and marked. A link so marked is not proved and cannot be handed over; call
 * `judgeLater` once the transaction is through.
 */
export async function judgeAgain(tx: Sql, which: SQL): Promise<void> {
  const tested = await tx
    .select({ id: link.id })
    .from(link)
    .where(
      and(
        which,
        isNull(link.outAt),
        exists(tx.select().from(testRecord).where(eq(testRecord.linkId, link.id))),
      ),
    )
    .orderBy(link.id)
    .for('update');
  if (tested.length <= AT_ONCE) {
    for (const { id } of tested) await refreshStanding(tx, id);
    return;
  }
  const ids = tested.map(({ id }) => id);
  await tx
    .update(link)
    .set({
      judged: false,
      stage: sql`CASE WHEN ${link.stage} IN ('failed', 'proved', 'handed-over') THEN 'both-ends' ELSE ${link.stage} END`,
      standing: 'to be judged again',
      nextStep: '',
    })
    .where(inArray(link.id, ids));
  await refreshSearch(tx, inArray(link.id, ids));
}

/** Judges what waits, beside other work; what is left stays marked, and is found when any process looks again. */
export function judgeLater({ db, log }: Pick<Context, 'db' | 'log'>): void {
  judgeWaiting({ db, log }).catch((error: unknown) =>
    log.error({ err: error }, 'links are still to be judged again'),
  );
}

/** What waits is looked for so often, in every process: who marked it may be gone. */
const LOOK_EVERY_MS = 30_000;

/** Judges what waits now and from time to time. @returns ends that */
export function keepJudging(context: Pick<Context, 'db' | 'log'>): () => void {
  judgeLater(context);
  const looking = setInterval(() => judgeLater(context), LOOK_EVERY_MS).unref();
  return () => clearInterval(looking);
}

/**
 * Judges links that wait for it, one transaction each, until none is left: several processes share them, each takes those
 * that no other has in hand. One that cannot be judged keeps its mark and holds up no other.
 */
export async function judgeWaiting(context: Pick<Context, 'db' | 'log'>): Promise<void> {
  for (const crew of await crewsToJudge(context.db)) await inCrew(crew, () => judgeCrew(context));
}

async function judgeCrew({ db, log }: Pick<Context, 'db' | 'log'>): Promise<void> {
  const failed: string[] = [];
  for (let left = true; left;)
    left = await db.transaction(async (tx) => {
      const [one] = await tx
        .select({ id: link.id })
        .from(link)
        .where(and(eq(link.judged, false), isNull(link.outAt), notInArray(link.id, failed)))
        .limit(1)
        .for('update', { skipLocked: true });
      if (!one) return false;
      // What fails leaves no half of it behind.
      await tx
        .transaction((inner) => refreshStanding(inner, one.id))
        .catch((error: unknown) => {
          if (isAway(error)) throw error;
          failed.push(one.id);
          log.error({ err: error, link: one.id }, 'a link cannot be judged again');
        });
      return true;
    });
}
