import type { Link } from '@near-spoke/contracts';
import {
  expectLink,
  practiceFrom,
  standingOf,
  type LinkExpectation,
  type Practice,
  type SchemeId,
  type SlipKind,
  type Standing,
} from '@near-spoke/core';
import { eq, sql } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import { cableType, connectorType, faultFound, job, link, terminationAttempt } from '../db/schema.js';
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
  });
}

/** How often this crew meets each slip: what is typical, moved by what was found and proved gone. */
export async function practiceOf(db: Sql): Promise<Practice> {
  const found = await db
    .select({ slip: faultFound.slip, count: sql<number>`count(*)::int` })
    .from(faultFound)
    .groupBy(faultFound.slip);
  const [ends] = await db
    .select({ count: sql<number>`count(*)::int` })
    .from(terminationAttempt)
    .where(eq(terminationAttempt.outcome, 'good'));
  const counts: Partial<Record<SlipKind, number>> = {};
  for (const { slip, count } of found) counts[slip as SlipKind] = count;
  return practiceFrom(counts, ends?.count ?? 0);
}

/** Rewrites a link's stage and standing from its record; call it in the transaction that added to the record. */
export async function refreshStanding(tx: Sql, linkId: string): Promise<Standing> {
  const planned = await readLink(tx, linkId);
  const standing = standingOf(
    await expectationOf(tx, planned),
    await readRecord(tx, linkId),
    await practiceOf(tx),
  );
  await tx
    .update(link)
    .set({
      stage: standing.stage,
      standing: standing.words,
      nextStep: standing.nextStep,
      nearDone: standing.nearDone,
      farDone: standing.farDone,
    })
    .where(eq(link.id, linkId));
  return standing;
}
