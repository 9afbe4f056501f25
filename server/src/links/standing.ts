import type { Link } from '@near-spoke/contracts';
import {
  expectLink,
  practiceFrom,
  standingWith,
  type Diagnosis,
  type LinkExpectation,
  type LinkHistory,
  type Practice,
  type SchemeId,
  type SlipKind,
  type Standing,
} from '@near-spoke/core';
import { and, eq, exists, inArray, isNull, sql, type SQL } from 'drizzle-orm';
import type { Context } from '../context.js';
import { asAtHand, AT_HAND } from '../crew/at-hand.js';
import type { Database, Sql } from '../db/open.js';
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
import { readLink, readRecord } from './store.js';

/** What a link is meant to be, from its plan in the tables. */
export async function expectationOf(db: Sql, planned: Link): Promise<LinkExpectation> {
  const [jobRow] = await db.select({ scheme: job.scheme }).from(job).where(eq(job.id, planned.jobId));
  const [cable] = await db.select().from(cableType).where(eq(cableType.id, planned.cableTypeId));
  const connectors = await db.select().from(connectorType);
  const sheet = (id: string) => connectors.find((row) => row.id === id)?.sheet;
  const [near, far] = [sheet(planned.near.connectorId), sheet(planned.far.connectorId)];
  if (!jobRow || !cable || !near || !far) throw new Error(`link ${planned.id} refers to types that are gone`);
  return expectLink({
    cable: cable.sheet,
    lengthM: planned.lengthM,
    scheme: jobRow.scheme as SchemeId,
    near,
    far,
    label: planned.label,
  });
}

/** Attempts that no later one takes back. */
export const attemptStands = sql`NOT EXISTS (SELECT FROM ${terminationAttempt} AS later WHERE later.corrects = ${terminationAttempt.id})`;

/** How often this crew meets each slip: what is typical, moved by what was found and proved gone. */
export async function practiceOf(db: Sql): Promise<Practice> {
  const found = await db
    .select({ slip: faultFound.slip, count: sql<number>`count(*)::int` })
    .from(faultFound)
    .groupBy(faultFound.slip);
  const [ends] = await db
    .select({
      count: sql<number>`count(*)::int`,
      // Beside the count: a verdict costs as few statements as before.
      atHand: sql<
        string | null
      >`(${db.select({ value: setting.value }).from(setting).where(eq(setting.name, AT_HAND))})`,
    })
    .from(terminationAttempt)
    .where(and(eq(terminationAttempt.outcome, 'good'), attemptStands));
  const counts: Partial<Record<SlipKind, number>> = {};
  for (const { slip, count } of found) counts[slip as SlipKind] = count;
  const { owned } = asAtHand(ends?.atHand ?? null);
  return { ...practiceFrom(counts, ends?.count ?? 0), ...(owned ? { owned } : {}) };
}

/** Changes whenever the same record may be judged otherwise: verdicts given by other rules are given anew. */
const RULES = 3;

/** Keeps a link's stage, its standing in words, and the verdict they follow from. */
export async function keepStanding(
  tx: Sql,
  linkId: string,
  standing: Standing,
  practice: Practice,
): Promise<void> {
  const { diagnosis } = standing;
  await tx
    .update(link)
    .set({
      stage: standing.stage,
      standing: standing.words,
      nextStep: standing.nextStep,
      nearDone: standing.nearDone,
      farDone: standing.farDone,
      judged: true,
      verdict: diagnosis && { rules: RULES, diagnosis, practice },
    })
    .where(eq(link.id, linkId));
  await refreshSearch(tx, eq(link.id, linkId));
}

/** Judges a link by its record as it is now; call it in the transaction that added to the record. */
export async function refreshStanding(tx: Sql, linkId: string): Promise<Standing> {
  const expected = await expectationOf(tx, await readLink(tx, linkId));
  const record = await readRecord(tx, linkId);
  const practice = await practiceOf(tx);
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
    practice ??= await practiceOf(db);
    if (record.tests.length === 0) {
      verdicts.push({ practice, diagnosis: null });
      continue;
    }
    const expected = await expectationOf(db, planned);
    verdicts.push({ practice, diagnosis: (await judge({ expected, record, practice })).diagnosis });
  }
  return verdicts;
}

/** So many links are judged again at once, with what changed; more wait for `judgeWaiting`. */
const AT_ONCE = 12;

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

/** Judges what waits, beside other work; what is left stays marked, and is judged at the next start at the latest. */
export function judgeLater({ db, log }: Pick<Context, 'db' | 'log'>): void {
  judgeWaiting(db).catch((error: unknown) => log.error({ err: error }, 'links are still to be judged again'));
}

/** Judges links that wait for it, one transaction each, until none is left. */
export async function judgeWaiting(db: Database): Promise<void> {
  for (let left = true; left;)
    left = await db.transaction(async (tx) => {
      const [one] = await tx
        .select({ id: link.id })
        .from(link)
        .where(and(eq(link.judged, false), isNull(link.outAt)))
        .limit(1)
        .for('update', { skipLocked: true });
      if (one) await refreshStanding(tx, one.id);
      return one !== undefined;
    });
}
