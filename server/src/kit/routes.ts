import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { countSpoils, importKit, readKit, readVersions, saveSheet } from './store.js';

type Ids = 'kit' | 'saveSheet' | 'kitVersions' | 'exportKit' | 'importKit' | 'spoilCounts';

export function kitHandlers({ db }: Context): Pick<Handlers, Ids> {
  return {
    kit: () => readKit(db),
    saveSheet: ({ body, crew }) => db.transaction((tx) => saveSheet(tx, body, crew.id)),
    kitVersions: ({ params }) => readVersions(db, params.kind, params.typeId),
    exportKit: async ({ response }) => {
      const { versions: _, ...sheets } = await readKit(db);
      const file = { format: 'near-spoke/kit', formatVersion: 1, ...sheets };
      response
        .type('application/json')
        .attachment('kit.json')
        .send(JSON.stringify(file, null, 2));
    },
    importKit: ({ body, crew }) => db.transaction((tx) => importKit(tx, body, crew.id)),
    spoilCounts: () => countSpoils(db),
  };
}
