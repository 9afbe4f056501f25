import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { addEntry, addReel, keepVelocity, pullPieces, readReels, readVelocities } from './store.js';

type Ids = 'listReels' | 'addReel' | 'addReelEntry' | 'pullPieces' | 'listVelocities' | 'addVelocity';

export function reelHandlers({ db, instruments }: Context): Pick<Handlers, Ids> {
  return {
    listReels: () => readReels(db),
    addReel: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await addReel(tx, body, { crewId: crew.id });
        return readReels(tx);
      }),
    addReelEntry: async ({ params, body, crew }) => {
      const { reels, isNew } = await db.transaction(async (tx) => ({
        isNew: await addEntry(tx, params.reelId, body, { crewId: crew.id }),
        reels: await readReels(tx),
      }));
      if (isNew && body.what === 'drawn' && body.corrects === null)
        await instruments.draw(params.reelId, body.lengthM).catch(() => undefined);
      return reels;
    },
    pullPieces: async ({ body, crew }) => {
      const { added, reels } = await db.transaction(async (tx) => ({
        added: await pullPieces(tx, body, { crewId: crew.id }),
        reels: await readReels(tx),
      }));
      for (const { reelId, lengthM } of added) await instruments.draw(reelId, lengthM).catch(() => undefined);
      return reels;
    },
    listVelocities: () => readVelocities(db),
    addVelocity: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await keepVelocity(tx, body, { crewId: crew.id });
        return readVelocities(tx);
      }),
  };
}
