import type { TakenReading } from '@near-spoke/contracts';
import type { Reading } from '@near-spoke/core';
import { and, eq, lt, sql } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import { takenReading } from '../db/schema.js';
import { Refusal } from '../problems.js';

/** A reading that nobody has kept by then is forgotten. */
const REMEMBERED_FOR = sql`now() - interval '24 hours'`;

/** Remembers what an instrument gave on a link, for whichever process it is sent to by whoever keeps it. */
export async function rememberTaken(db: Sql, linkId: string, taken: TakenReading): Promise<TakenReading> {
  const { takenId, ...given } = taken;
  await db.delete(takenReading).where(lt(takenReading.at, REMEMBERED_FOR));
  await db.insert(takenReading).values({ id: takenId, linkId, taken: given });
  return taken;
}

/**
 * Where a reading that is to be kept came from: the server alone says so. One that no instrument is known to have given,
 * or that differs from what it gave, is refused: it can be read again, or keyed in.
 */
export async function sourceOf(
  db: Sql,
  linkId: string,
  takenId: string | undefined,
  reading: Reading,
): Promise<Source> {
  if (takenId === undefined) return { source: 'keyed', simulated: false };
  const [known] = await db
    .select({ taken: takenReading.taken })
    .from(takenReading)
    .where(and(eq(takenReading.id, takenId), eq(takenReading.linkId, linkId)));
  if (!known || !sameReading(known.taken.reading, reading))
    throw new Refusal(
      409,
      'No instrument gave that reading',
      'This reading is not known to come from an instrument on this link. Read it again, or key it in.',
    );
  const { instrumentName, simulated } = known.taken;
  return { source: 'instrument', simulated, instrumentName };
}

export interface Source {
  source: 'instrument' | 'keyed';
  simulated: boolean;
  instrumentName?: string;
}

const sameReading = (a: Reading, b: Reading): boolean => sorted(a) === sorted(b);

/** A text that is equal for two values whatever the order of their fields. */
const sorted = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'object' && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => a.localeCompare(b)))
      : part,
  );
