import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { giveLooseEnds, keepLooseEnd, readLooseEnds } from './store.js';

export function looseHandlers({
  db,
}: Context): Pick<Handlers, 'listLooseEnds' | 'addLooseEnd' | 'giveLooseEnds'> {
  return {
    listLooseEnds: () => readLooseEnds(db),
    addLooseEnd: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await keepLooseEnd(tx, body, crew.id);
        return readLooseEnds(tx);
      }),
    giveLooseEnds: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await giveLooseEnds(tx, body, crew.id);
        return readLooseEnds(tx);
      }),
  };
}
