import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { judgeLater } from '../links/standing.js';
import { readShared, share, unshare } from './shared.js';
import { countSpoils, importKit, readKit, readVersions, saveSheet } from './store.js';

type Ids =
  | 'kit'
  | 'saveSheet'
  | 'kitVersions'
  | 'exportKit'
  | 'importKit'
  | 'listSharedSheets'
  | 'shareSheet'
  | 'unshareSheet'
  | 'spoilCounts';

export function kitHandlers(context: Context): Pick<Handlers, Ids> {
  const { db } = context;
  return {
    kit: () => readKit(db),
    saveSheet: async ({ body, crew }) => {
      const kept = await db.transaction((tx) => saveSheet(tx, body, crew.id));
      judgeLater(context);
      return kept;
    },
    kitVersions: ({ params }) => readVersions(db, params.kind, params.typeId),
    exportKit: async ({ response }) => {
      const { versions: _, ...sheets } = await readKit(db);
      const file = { format: 'near-spoke/kit', formatVersion: 1, ...sheets };
      response
        .type('application/json')
        .attachment('kit.json')
        .send(JSON.stringify(file, null, 2));
    },
    importKit: async ({ body, crew }) => {
      const counts = await db.transaction((tx) => importKit(tx, body, crew.id));
      judgeLater(context);
      return counts;
    },
    listSharedSheets: () => readShared(db),
    shareSheet: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await share(tx, body, crew.id);
        return readShared(tx);
      }),
    unshareSheet: ({ params, crew }) =>
      db.transaction(async (tx) => {
        await unshare(tx, { kind: params.kind, id: params.typeId }, crew.id);
        return readShared(tx);
      }),
    spoilCounts: () => countSpoils(db),
  };
}
