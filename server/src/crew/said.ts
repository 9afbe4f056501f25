import { crewHands, instrumentsAtHand, type CrewHands, type InstrumentsAtHand } from '@near-spoke/contracts';
import { eq } from 'drizzle-orm';
import type * as z from 'zod';
import type { Sql } from '../db/open.js';
import { setting } from '../db/schema.js';
import { changedSince } from '../problems.js';

/** What a crew says once for all; each saying has a version, so that none is written over unseen. */
export interface Said<T extends { version: number }> {
  /** Where it stands among the settings. */
  name: string;
  shape: z.ZodType<T>;
  nobodySaid: T;
}

/** Which instruments the crew has. */
export const AT_HAND: Said<InstrumentsAtHand> = {
  name: 'instruments-at-hand',
  shape: instrumentsAtHand,
  nobodySaid: { owned: null, version: 0 },
};

/** What touching costs its hands. */
export const HANDS: Said<CrewHands> = {
  name: 'hands',
  shape: crewHands,
  nobodySaid: { hands: null, version: 0 },
};

/** What stands among the settings, as it was said. */
export const asSaid = <T extends { version: number }>(
  { shape, nobodySaid }: Said<T>,
  value: string | null,
): T => (value === null ? nobodySaid : shape.parse(JSON.parse(value)));

/** What the crew last said. */
export async function readSaid<T extends { version: number }>(db: Sql, said: Said<T>): Promise<T> {
  const [row] = await db.select().from(setting).where(eq(setting.name, said.name));
  return asSaid(said, row?.value ?? null);
}

/** Says it anew, over the version that was seen; what somebody else said meanwhile is refused with it. */
export async function say<T extends { version: number }>(tx: Sql, said: Said<T>, next: T): Promise<T> {
  const { name, nobodySaid } = said;
  await tx
    .insert(setting)
    .values({ name, value: JSON.stringify(nobodySaid) })
    .onConflictDoNothing();
  await tx.select().from(setting).where(eq(setting.name, name)).for('update');
  const before = await readSaid(tx, said);
  if (before.version !== next.version) throw changedSince(before, 'somebody else', new Date().toISOString());
  const after = { ...next, version: before.version + 1 };
  await tx
    .update(setting)
    .set({ value: JSON.stringify(after) })
    .where(eq(setting.name, name));
  return after;
}
