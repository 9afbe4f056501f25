import type { CrewWorkmanship } from '@near-spoke/contracts';
import type { SlipKind } from '@near-spoke/core';
import { madeEnds, workmanship, type LinkWork } from '@near-spoke/core/workmanship';
import { desc, eq, inArray, sql } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import {
  connectorType,
  crewMember,
  faultFound,
  terminationAttempt,
  testRecord,
  toldRepeat,
} from '../db/schema.js';
import { readKit } from '../kit/store.js';

/** So many of the newest ends tell how a crew works now. */
const NEWEST = 10_000;
/** What was told is told again when it has been met so often since. */
const AGAIN_AFTER = 3;

/** How long the crew's newest ends took, by connector. */
export const readEndTimes = async (db: Sql): Promise<CrewWorkmanship['times']> => (await readWork(db)).times;

async function readWork(db: Sql) {
  const kit = await readKit(db);
  const planned = new Map(kit.connectors.map(({ name, minutes }) => [name, minutes]));
  const ends = (await newestWork(db)).flatMap(madeEnds);
  return workmanship(ends, (connector) => planned.get(connector) ?? 0);
}

/** The crew's work over all jobs, its newest ends; and which repeats were told already. */
export async function readWorkmanship(db: Sql): Promise<CrewWorkmanship> {
  const made = await readWork(db);
  const known = new Map((await db.select().from(toldRepeat)).map(({ key, count }) => [key, count]));
  const told = made.repeats
    .filter(({ key, count }) => count >= (known.get(key) ?? -AGAIN_AFTER) + AGAIN_AFTER)
    .map(({ key }) => key);
  return { ...made, told };
}

/** Takes down that a repeat was told. */
export async function keepTold(
  tx: Sql,
  { key, count }: { key: string; count: number },
  by: string,
): Promise<void> {
  await tx
    .insert(toldRepeat)
    .values({ key, count, by, at: new Date() })
    .onConflictDoUpdate({ target: [toldRepeat.ofCrew, toldRepeat.key], set: { count, by, at: new Date() } });
}

async function newestWork(db: Sql): Promise<LinkWork[]> {
  const attempts = await db
    .select({
      row: terminationAttempt,
      by: crewMember.name,
      connector: sql<string>`${connectorType.sheet} ->> 'name'`,
    })
    .from(terminationAttempt)
    .innerJoin(crewMember, eq(crewMember.id, terminationAttempt.by))
    .innerJoin(connectorType, eq(connectorType.id, terminationAttempt.connectorTypeId))
    .orderBy(desc(terminationAttempt.seq))
    .limit(NEWEST);
  const ids = [...new Set(attempts.map(({ row }) => row.linkId))];
  if (ids.length === 0) return [];
  const tests = await db
    .select({
      id: testRecord.id,
      linkId: testRecord.linkId,
      turn: testRecord.turn,
      result: sql<'pass' | 'fail' | 'cannot-tell'>`${testRecord.diagnosis} ->> 'result'`,
    })
    .from(testRecord)
    .where(inArray(testRecord.linkId, ids));
  const found = await db.select().from(faultFound).where(inArray(faultFound.linkId, ids));
  const work = new Map(
    ids.map((linkId) => [linkId, { linkId, terminations: [], tests: [], found: [] } as Gathered]),
  );
  for (const { row, by, connector } of attempts)
    work
      .get(row.linkId)
      ?.terminations.push({ ...row, at: row.at.toISOString(), by, connector, tool: row.tool ?? '' });
  for (const { linkId, ...test } of tests) work.get(linkId)?.tests.push(test);
  for (const { linkId, testId, place, slip } of found)
    work
      .get(linkId)
      ?.found.push({ testId, place: place as 'near' | 'far' | 'cable', slip: slip as SlipKind });
  return [...work.values()];
}

interface Gathered extends LinkWork {
  terminations: LinkWork['terminations'][number][];
  tests: LinkWork['tests'][number][];
  found: LinkWork['found'][number][];
}
