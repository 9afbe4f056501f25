import * as z from 'zod';
import {
  adapterRecord,
  adapterSummary,
  adapterVersion,
  newAdapterPhoto,
  newAdapterVersion,
  newBuild,
} from '../adapters.js';
import { uuid } from '../text.js';
import { everyone, workers, type Endpoint } from './endpoint.js';

const ofAdapter = z.object({ adapterId: uuid });
const ofVersion = ofAdapter.extend({
  version: z.string().regex(/^[1-9]\d{0,5}$/, { error: 'A version is a number from 1.' }),
});

/** Adapters in their versions, what was built of them, and what is given out. */
export const adaptersEndpoints = {
  listAdapters: {
    method: 'get',
    path: '/api/adapters',
    summary: 'Adapters, with what is wrong with each and how many were built and proved',
    access: everyone,
    response: z.array(adapterSummary),
  },
  readAdapter: {
    method: 'get',
    path: '/api/adapters/:adapterId',
    summary: 'An adapter with its versions, builds and photos',
    access: everyone,
    params: ofAdapter,
    response: adapterRecord,
  },
  readAdapterVersion: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version',
    summary: 'An adapter as it was',
    access: everyone,
    params: ofVersion,
    response: adapterVersion,
  },
  keepAdapter: {
    method: 'post',
    path: '/api/adapters',
    summary: 'Keep an adapter: a new one, or the next version',
    access: workers,
    body: newAdapterVersion,
    response: adapterRecord,
  },
  addBuild: {
    method: 'post',
    path: '/api/adapters/:adapterId/builds',
    summary: 'Keep what proving a built lead gave',
    access: workers,
    params: ofAdapter,
    body: newBuild,
    response: adapterRecord,
  },
  addAdapterPhoto: {
    method: 'post',
    path: '/api/adapters/:adapterId/photos',
    summary: 'Keep a photo of how a connector lies',
    access: workers,
    params: ofAdapter,
    body: newAdapterPhoto,
    response: adapterRecord,
  },
  adapterPhoto: {
    method: 'get',
    path: '/api/adapters/:adapterId/photos/:photoId',
    summary: 'A photo of how a connector lies',
    access: everyone,
    params: ofAdapter.extend({ photoId: uuid }),
    file: 'image/jpeg',
  },
  adapterSheet: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version/sheet-:scale.pdf',
    summary: 'The build sheet: joining table, both faces of each connector at a scale, rules, proof',
    access: everyone,
    params: ofVersion.extend({ scale: z.enum(['1', '2', '3', '4']) }),
    file: 'application/pdf',
  },
  adapterDrawing: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version/lead.svg',
    summary: 'The lead as a drawing',
    access: everyone,
    params: ofVersion,
    file: 'image/svg+xml',
  },
  adapterTable: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version/joints.csv',
    summary: 'The joining table',
    access: everyone,
    params: ofVersion,
    file: 'text/csv',
  },
  adapterFile: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version/adapter.json',
    summary: 'The adapter as a file, to be read by anyone’s',
    access: everyone,
    params: ofVersion,
    file: 'application/json',
  },
} as const satisfies Record<string, Endpoint>;
