import { instrumentsAtHand, type InstrumentsAtHand } from '@near-spoke/contracts';
import { eq } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import { setting } from '../db/schema.js';

/** Where it stands among the settings. */
export const AT_HAND = 'instruments-at-hand';
const NOBODY_SAID: InstrumentsAtHand = { owned: null, version: 0 };

/** What stands among the settings, as it was said. */
export const asAtHand = (value: string | null): InstrumentsAtHand =>
  value === null ? NOBODY_SAID : instrumentsAtHand.parse(JSON.parse(value));

/** Which instruments the crew has, as it last said. */
export async function readAtHand(db: Sql): Promise<InstrumentsAtHand> {
  const [row] = await db.select().from(setting).where(eq(setting.name, AT_HAND));
  return asAtHand(row?.value ?? null);
}

/** The same, held against others who would change it until the transaction ends. */
export async function holdAtHand(tx: Sql): Promise<InstrumentsAtHand> {
  await tx
    .insert(setting)
    .values({ name: AT_HAND, value: JSON.stringify(NOBODY_SAID) })
    .onConflictDoNothing();
  await tx.select().from(setting).where(eq(setting.name, AT_HAND)).for('update');
  return readAtHand(tx);
}

export async function writeAtHand(tx: Sql, said: InstrumentsAtHand): Promise<void> {
  await tx
    .update(setting)
    .set({ value: JSON.stringify(said) })
    .where(eq(setting.name, AT_HAND));
}
