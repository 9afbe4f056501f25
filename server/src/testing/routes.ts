import type { TestingRound } from '@near-spoke/contracts';
import { and, asc, desc, eq, gte, inArray, lt } from 'drizzle-orm';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import type { Sql } from '../db/open.js';
import { sourceOf } from '../instruments/taken.js';
import { crewMember, job, link, testingRound, testRecord } from '../db/schema.js';
import { recordTests, RefusedReading } from '../links/readings.js';
import { readDetail } from '../links/record.js';
import { badField, idTaken, notFound, Refusal } from '../problems.js';
import { endBecomes } from '../together/store.js';

type Ids = 'addTests' | 'currentRound' | 'beginRound' | 'closeRound';

/** Testing many links: rounds that any device can go on with, and readings brought in together. */
export function testingHandlers({ db }: Context): Pick<Handlers, Ids> {
  return {
    addTests: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        const wanted = [...new Set(body.tests.map(({ linkId }) => linkId))];
        const rows = await tx
          .select({ id: link.id })
          .from(link)
          .where(and(eq(link.jobId, params.jobId), inArray(link.id, wanted)));
        const known = new Set(rows.map((row) => row.id));
        const stranger = body.tests.findIndex(({ linkId }) => !known.has(linkId));
        if (stranger >= 0) throw badField(`tests[${stranger}].linkId`, 'This job has no such link.');
        const tests = body.tests.map(({ linkId, test: { takenId, ...test } }) => ({
          linkId,
          test,
          source: () => sourceOf(tx, linkId, takenId, test.reading),
        }));
        const added = await recordTests(tx, tests, { crewId: crew.id, name: crew.name }).catch(
          (error: unknown) => {
            if (!(error instanceof RefusedReading)) throw error;
            // The whole import falls: the person learns which row it was.
            const { status, title } = error.refusal.problem;
            throw new Refusal(status, title, `tests[${error.at}]: ${error.message} Nothing was kept.`);
          },
        );
        await endBecomes(
          tx,
          tests.map(({ linkId, test }) => ({ linkId, id: test.id })),
        );
        const kept = body.tests.length;
        if (body.answer === 'count') return { kept };
        // Of a link whose readings were all kept before, nothing was added.
        const records = await Promise.all(
          wanted.map(async (linkId) => added.get(linkId) ?? (await readDetail(tx, linkId))),
        );
        return { kept, records };
      }),
    currentRound: ({ params }) => openRound(db, params.jobId),
    beginRound: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        const [found] = await tx
          .select({ id: job.id })
          .from(job)
          .where(eq(job.id, params.jobId))
          .for('update');
        if (!found) throw notFound('job');
        const [known] = await tx.select().from(testingRound).where(eq(testingRound.id, body.id));
        if (known && known.jobId !== params.jobId) throw idTaken();
        if (!known) {
          await closeRounds(tx, params.jobId);
          await tx.insert(testingRound).values({ id: body.id, jobId: params.jobId, by: crew.id });
        }
        const round = await openRound(tx, params.jobId);
        if (!round) throw new Refusal(409, 'Round closed', 'That round is closed: begin a new one.');
        return round;
      }),
    closeRound: async ({ params }) => {
      await closeRounds(db, params.jobId);
      return { closed: true as const };
    },
  };
}

async function closeRounds(db: Sql, jobId: string): Promise<void> {
  await db.update(testingRound).set({ closed: true }).where(eq(testingRound.jobId, jobId));
}

async function openRound(db: Sql, jobId: string): Promise<TestingRound | null> {
  const [row] = await db
    .select({ round: testingRound, by: crewMember.name })
    .from(testingRound)
    .innerJoin(crewMember, eq(crewMember.id, testingRound.by))
    .where(and(eq(testingRound.jobId, jobId), eq(testingRound.closed, false)))
    .orderBy(desc(testingRound.startedAt))
    .limit(1);
  if (!row) return null;
  const { id, startedAt } = row.round;
  const columns = {
    id: testRecord.id,
    linkId: testRecord.linkId,
    at: testRecord.at,
    diagnosis: testRecord.diagnosis,
  };
  const ofJob = db.select(columns).from(testRecord).innerJoin(link, eq(link.id, testRecord.linkId));
  const since = await ofJob
    .where(and(eq(link.jobId, jobId), gte(testRecord.at, startedAt)))
    .orderBy(asc(testRecord.at), asc(testRecord.seq));
  const earlier = await db
    .selectDistinctOn([testRecord.linkId], { linkId: testRecord.linkId, diagnosis: testRecord.diagnosis })
    .from(testRecord)
    .innerJoin(link, eq(link.id, testRecord.linkId))
    .where(and(eq(link.jobId, jobId), lt(testRecord.at, startedAt)))
    .orderBy(testRecord.linkId, desc(testRecord.at), desc(testRecord.seq));
  const before = new Map(earlier.map((test) => [test.linkId, test.diagnosis.headline]));
  const last = new Map(since.map((test) => [test.linkId, test]));
  return {
    id,
    jobId,
    startedAt: startedAt.toISOString(),
    by: row.by,
    tested: [...last.values()]
      .sort((a, b) => a.at.getTime() - b.at.getTime())
      .map((test) => ({
        linkId: test.linkId,
        testId: test.id,
        at: test.at.toISOString(),
        headline: test.diagnosis.headline,
        result: test.diagnosis.result,
        before: before.get(test.linkId) ?? null,
      })),
  };
}
