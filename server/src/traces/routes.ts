import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { goodTraces, keepTrace, readTrace, readTraces } from './store.js';

export function traceHandlers({
  db,
}: Context): Pick<Handlers, 'listTraces' | 'goodTraces' | 'readTrace' | 'addTrace'> {
  return {
    listTraces: ({ params }) => readTraces(db, params.linkId),
    goodTraces: ({ params }) => goodTraces(db, params.linkId),
    readTrace: ({ params }) => readTrace(db, params.linkId, params.traceId),
    addTrace: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        await keepTrace(tx, params.linkId, body, { crewId: crew.id });
        return readTraces(tx, params.linkId);
      }),
  };
}
