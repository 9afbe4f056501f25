import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { addEntry, addReel, keepVelocity, readReels, readVelocities } from './store.js';

type Ids = 'listReels' | 'addReel' | 'addReelEntry' | 'listVelocities' | 'addVelocity';

export function reelHandlers({ db }: Context): Pick<Handlers, Ids> {
  return {
    listReels: () => readReels(db),
    addReel: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await addReel(tx, body, { crewId: crew.id });
        return readReels(tx);
      }),
    addReelEntry: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        await addEntry(tx, params.reelId, body, { crewId: crew.id });
        return readReels(tx);
      }),
    listVelocities: () => readVelocities(db),
    addVelocity: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await keepVelocity(tx, body, { crewId: crew.id });
        return readVelocities(tx);
      }),
  };
}
