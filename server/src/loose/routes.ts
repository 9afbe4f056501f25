import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { giveLooseEnds, keepLooseEnd, keepLoosePhoto, readLooseEnds, readLoosePhoto } from './store.js';

export function looseHandlers({
  db,
}: Context): Pick<
  Handlers,
  'listLooseEnds' | 'addLooseEnd' | 'addLoosePhoto' | 'loosePhoto' | 'giveLooseEnds'
> {
  return {
    listLooseEnds: () => readLooseEnds(db),
    addLooseEnd: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await keepLooseEnd(tx, body, crew.id);
        return readLooseEnds(tx);
      }),
    addLoosePhoto: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        await keepLoosePhoto(tx, params.endId, body, crew.id);
        return readLooseEnds(tx);
      }),
    loosePhoto: async ({ params, response }) => {
      const jpeg = await readLoosePhoto(db, params.endId, params.photoId);
      response.type('image/jpeg').send(Buffer.from(jpeg, 'base64'));
    },
    giveLooseEnds: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await giveLooseEnds(tx, body, crew.id);
        return readLooseEnds(tx);
      }),
  };
}
