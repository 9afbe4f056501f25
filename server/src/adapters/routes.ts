import { fileOf, type AdapterVersion } from '@near-spoke/contracts';
import { jointRows, USUAL_HANDS, workUp } from '@near-spoke/core';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { HANDS, readSaid } from '../crew/said.js';
import { csvOf } from '../handover/csv.js';
import { leadSvg } from './drawing.js';
import { sheetPdf } from './sheet.js';
import {
  addBuild,
  addPhoto,
  keepAdapter,
  readAdapter,
  readAdapters,
  readPhoto,
  readVersion,
} from './store.js';

type Ids =
  | 'listAdapters'
  | 'readAdapter'
  | 'readAdapterVersion'
  | 'keepAdapter'
  | 'addBuild'
  | 'addAdapterPhoto'
  | 'adapterPhoto'
  | 'adapterSheet'
  | 'adapterDrawing'
  | 'adapterTable'
  | 'adapterFile';

const COLUMNS = ['net', 'contacts', 'conductor', 'colour', 'because'];

/** A file name that every system takes. */
const fileName = ({ design, version }: AdapterVersion, extension: string): string =>
  `${
    design.name
      .normalize('NFKD')
      .replace(/[^\w]+/g, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'adapter'
  }-v${version}.${extension}`;

export function adapterHandlers({ db }: Context): Pick<Handlers, Ids> {
  const versionOf = ({ adapterId, version }: { adapterId: string; version: string }) =>
    readVersion(db, adapterId, Number(version));
  return {
    listAdapters: () => readAdapters(db),
    readAdapter: ({ params }) => readAdapter(db, params.adapterId),
    readAdapterVersion: ({ params }) => versionOf(params),
    keepAdapter: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await keepAdapter(tx, body, { crewId: crew.id });
        return readAdapter(tx, body.id);
      }),
    addBuild: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        await addBuild(tx, params.adapterId, body, { crewId: crew.id });
        return readAdapter(tx, params.adapterId);
      }),
    addAdapterPhoto: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        await addPhoto(tx, params.adapterId, body, { crewId: crew.id });
        return readAdapter(tx, params.adapterId);
      }),
    adapterPhoto: async ({ params, response }) => {
      const jpeg = await readPhoto(db, params.adapterId, params.photoId);
      response.type('image/jpeg').send(Buffer.from(jpeg, 'base64'));
    },
    adapterSheet: async ({ params, crew, response }) => {
      const kept = await versionOf(params);
      const { photos } = await readAdapter(db, params.adapterId);
      const pictures = await Promise.all(
        photos.map(async ({ id, words }) => ({ words, jpeg: await readPhoto(db, params.adapterId, id) })),
      );
      const made = `Made ${new Date().toISOString().slice(0, 10)} by ${crew.name}.`;
      const body = await sheetPdf(kept.design, workUp(kept.design), Number(params.scale), {
        version: kept.version,
        made,
        photos: pictures,
        hands: (await readSaid(db, HANDS)).hands ?? USUAL_HANDS,
      });
      response.type('application/pdf').attachment(fileName(kept, 'pdf')).send(body);
    },
    adapterDrawing: async ({ params, response }) => {
      const kept = await versionOf(params);
      const { svg } = leadSvg(kept.design, workUp(kept.design));
      response.type('image/svg+xml').attachment(fileName(kept, 'svg')).send(svg);
    },
    adapterTable: async ({ params, response }) => {
      const kept = await versionOf(params);
      const rows = jointRows(kept.design, workUp(kept.design));
      response.type('text/csv; charset=utf-8').attachment(fileName(kept, 'csv')).send(csvOf(COLUMNS, rows));
    },
    adapterFile: async ({ params, response }) => {
      const kept = await versionOf(params);
      response
        .type('application/json')
        .attachment(fileName(kept, 'adapter.json'))
        .send(JSON.stringify(fileOf(kept.design), null, 2));
    },
  };
}
