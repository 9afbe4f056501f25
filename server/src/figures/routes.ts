import {
  expectLink,
  figuresOf,
  findPatterns,
  firstTestOf,
  linkEvents,
  evidenceOf,
  readingsThatHold,
  type Figures,
  type Pattern,
  type PatternLink,
  type SlipKind,
} from '@near-spoke/core';
import { and, asc, eq, sql } from 'drizzle-orm';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import type { Sql } from '../db/open.js';
import { connectorType, faultFound, link, terminationAttempt, testRecord } from '../db/schema.js';
import { readJob } from '../jobs/store.js';
import { readKit } from '../kit/store.js';
import { attemptStands } from '../links/standing.js';
import { readLinks, readRecord } from '../links/store.js';
import { keepTold, readWorkmanship } from './workmanship.js';

const connectorName = sql<string>`${connectorType.sheet} ->> 'name'`;

/** Figures and patterns over many links; what they mean is core's to say. */
export function figureHandlers({
  db,
}: Context): Pick<Handlers, 'jobFigures' | 'jobPatterns' | 'workmanship' | 'tellRepeat'> {
  return {
    jobFigures: async ({ params }) => {
      await readJob(db, params.jobId);
      return { job: await figures(db, params.jobId), crew: await figures(db, null) };
    },
    jobPatterns: ({ params }) => patterns(db, params.jobId),
    workmanship: () => readWorkmanship(db),
    tellRepeat: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await keepTold(tx, body, crew.id);
        return readWorkmanship(tx);
      }),
  };
}

async function figures(db: Sql, jobId: string | null): Promise<Figures> {
  const ofJob = jobId === null ? undefined : eq(link.jobId, jobId);
  const tests = await db
    .select({
      id: testRecord.id,
      linkId: testRecord.linkId,
      turn: testRecord.turn,
      at: sql<string>`${testRecord.at}::text`,
      reading: testRecord.reading,
      corrects: testRecord.corrects,
      result: sql<string>`${testRecord.diagnosis} ->> 'result'`,
    })
    .from(testRecord)
    .innerJoin(link, eq(link.id, testRecord.linkId))
    .where(ofJob)
    .orderBy(asc(testRecord.linkId), asc(testRecord.turn));
  const ofLink = new Map<string, typeof tests>();
  for (const test of tests) ofLink.set(test.linkId, [...(ofLink.get(test.linkId) ?? []), test]);
  const first = [...ofLink.values()].flatMap((ofOne) => firstTestOf(ofOne) ?? []);
  const found = await db
    .select({ slip: faultFound.slip, kind: faultFound.kind, connector: connectorName })
    .from(faultFound)
    .innerJoin(link, eq(link.id, faultFound.linkId))
    .leftJoin(connectorType, eq(connectorType.id, faultFound.connectorTypeId))
    .where(ofJob);
  const ends = await db
    .select({ connector: connectorName, count: sql<number>`count(*)::int` })
    .from(terminationAttempt)
    .innerJoin(link, eq(link.id, terminationAttempt.linkId))
    .innerJoin(connectorType, eq(connectorType.id, terminationAttempt.connectorTypeId))
    .where(and(eq(terminationAttempt.outcome, 'good'), attemptStands, ofJob))
    .groupBy(connectorName);
  return figuresOf({
    firstTests: first.map(({ result }) => ({ passed: result === 'pass' })),
    found: found.map((row) => ({ ...row, slip: row.slip as SlipKind })),
    ends,
  });
}

async function patterns(db: Sql, jobId: string): Promise<Pattern[]> {
  const { scheme } = await readJob(db, jobId);
  const kit = await readKit(db);
  const planned = await readLinks(db, { jobId });
  const links: PatternLink[] = [];
  for (const one of planned) {
    if (one.stage !== 'failed') continue;
    const cable = kit.cables.find((c) => c.id === one.cableTypeId);
    const [near, far] = [one.near, one.far].map((end) =>
      kit.connectors.find((c) => c.id === end.connectorId),
    );
    if (!cable || !near || !far) continue;
    links.push({
      id: one.id,
      label: one.label,
      panel: one.near.panel,
      port: Number.parseInt(one.near.port, 10) || one.position,
      expected: expectLink({ cable, lengthM: one.lengthM, scheme, near, far }),
      readings: readingsThatHold(evidenceOf(linkEvents(await readRecord(db, one.id)))),
      wrong: true,
    });
  }
  return findPatterns(links);
}
