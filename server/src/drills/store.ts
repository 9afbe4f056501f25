import type { CrewPractice, newDrillAnswer, OwnPractice } from '@near-spoke/contracts';
import { isRightReply, makeDrill, type DrillKind } from '@near-spoke/core/drills';
import { desc, eq, gt, sql } from 'drizzle-orm';
import type * as z from 'zod';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { drillAnswer, faultFound } from '../db/schema.js';
import { badField } from '../problems.js';

/** Answers that a person's progress is worked out from. */
const REMEMBERED = 3000;
const LATELY = sql`now() - interval '90 days'`;

/** A person's own answers, oldest first, and what was found wrong at work lately. */
export async function readOwnPractice(db: Sql, crewId: string): Promise<OwnPractice> {
  const answers = await db
    .select({ id: drillAnswer.id, at: drillAnswer.at, kind: drillAnswer.kind, right: drillAnswer.right })
    .from(drillAnswer)
    .where(eq(drillAnswer.by, crewId))
    .orderBy(desc(drillAnswer.seq))
    .limit(REMEMBERED);
  const found = await db
    .select({ slip: faultFound.slip, times: sql<number>`count(*)::int` })
    .from(faultFound)
    .where(gt(faultFound.at, LATELY))
    .groupBy(faultFound.slip);
  return {
    answers: answers
      .reverse()
      .map(({ at, kind, ...answer }) => ({ ...answer, kind: kind as DrillKind, at: at.toISOString() })),
    found,
  };
}

/** Keeps an answer; whether it is right is worked out here from the drill itself. */
export async function keepDrillAnswer(
  tx: Sql,
  answer: z.output<typeof newDrillAnswer>,
  crewId: string,
): Promise<void> {
  const right = isRight(answer);
  await keepOnce(tx, drillAnswer, { ...answer, right, by: crewId }, answer);
}

function isRight({ kind, seed, ...reply }: z.output<typeof newDrillAnswer>): boolean {
  try {
    return isRightReply(makeDrill(kind, seed), reply);
  } catch (error) {
    if (error instanceof RangeError) throw badField(reply.laid ? 'laid' : 'chosen', error.message);
    throw error;
  }
}

/** Answers of all together, by kind. */
export async function readCrewPractice(db: Sql): Promise<CrewPractice> {
  const kinds = await db
    .select({
      kind: drillAnswer.kind,
      asked: sql<number>`count(*)::int`,
      right: sql<number>`(count(*) FILTER (WHERE ${drillAnswer.right}))::int`,
    })
    .from(drillAnswer)
    .where(gt(drillAnswer.at, LATELY))
    .groupBy(drillAnswer.kind)
    .orderBy(drillAnswer.kind);
  return { kinds: kinds.map((each) => ({ ...each, kind: each.kind as DrillKind })) };
}
