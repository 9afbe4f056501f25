import { newReel, newReelEntry, newVelocity } from '@near-spoke/contracts';
import * as z from 'zod';
import type { Sql } from '../db/open.js';
import { addEntry, addReel, keepVelocity } from '../reels/store.js';

const done = { at: z.iso.datetime(), by: z.uuid() };

/** Reels of the demo with their ledgers, and the velocities measured on them. */
export const demoReels = z.strictObject({
  format: z.literal('near-spoke/demo-reels'),
  formatVersion: z.literal(1),
  reels: z.array(
    newReel.extend({
      ...done,
      entries: z.array(
        z
          .looseObject(done)
          .transform(({ at, by, ...entry }) => ({ at, by, entry: newReelEntry.parse(entry) })),
      ),
    }),
  ),
  velocities: z.array(newVelocity.extend(done)),
});

/** Enters the demo's reels and velocities as they were on their days. */
export async function enterDemoReels(
  tx: Sql,
  { reels, velocities }: z.output<typeof demoReels>,
): Promise<void> {
  for (const { entries, at, by, ...reel } of reels) {
    await addReel(tx, reel, { crewId: by, at: new Date(at) });
    for (const { entry, ...entered } of entries)
      await addEntry(tx, reel.id, entry, { crewId: entered.by, at: new Date(entered.at) });
  }
  for (const { at, by, ...figure } of velocities)
    await keepVelocity(tx, figure, { crewId: by, at: new Date(at) });
}
