import * as z from 'zod';
import { kit, kitFile, kitImported, kitKind, kitVersion, newSheet, spoilCount, typeId } from '../kit.js';
import { newReel, newPull, newReelEntry, newVelocity, reelRecord, velocityRecord } from '../reels.js';
import { uuid } from '../text.js';
import { everyone, workers, type Endpoint } from './endpoint.js';

/** Sheets of cables, connectors and tools; drums and boxes; velocities. */
export const kitEndpoints = {
  kit: {
    method: 'get',
    path: '/api/kit',
    summary: 'Cable, connector and tool types as they are now',
    access: everyone,
    response: kit,
  },
  saveSheet: {
    method: 'post',
    path: '/api/kit',
    summary: 'Keep a sheet: a new type, or the next version of one',
    access: workers,
    body: newSheet,
    response: kitVersion,
  },
  kitVersions: {
    method: 'get',
    path: '/api/kit/:kind/:typeId',
    summary: 'Every version of one sheet, newest first',
    access: everyone,
    params: z.object({ kind: kitKind, typeId }),
    response: z.array(kitVersion),
  },
  exportKit: {
    method: 'get',
    path: '/api/kit.json',
    summary: 'The whole kit as a file',
    access: everyone,
    file: 'application/json',
  },
  importKit: {
    method: 'post',
    path: '/api/kit/import',
    summary: 'Take sheets from a file, all or none',
    access: workers,
    body: kitFile,
    response: kitImported,
  },
  spoilCounts: {
    method: 'get',
    path: '/api/spoils',
    summary: 'Connectors used and spoiled, by person and type',
    access: everyone,
    response: z.array(spoilCount),
  },
  listReels: {
    method: 'get',
    path: '/api/reels',
    summary: 'Drums and boxes of cable with their ledgers',
    access: everyone,
    response: z.array(reelRecord),
  },
  addReel: {
    method: 'post',
    path: '/api/reels',
    summary: 'Enter a drum or a box',
    access: workers,
    body: newReel,
    response: z.array(reelRecord),
  },
  addReelEntry: {
    method: 'post',
    path: '/api/reels/:reelId/entries',
    summary: 'Enter a draw or a measurement in a reel’s ledger, or correct one',
    access: workers,
    params: z.object({ reelId: uuid }),
    body: newReelEntry,
    response: z.array(reelRecord),
  },
  pullPieces: {
    method: 'post',
    path: '/api/reels/pulls',
    summary: 'Enter pieces that were pulled in together, all or none',
    access: workers,
    body: newPull,
    response: z.array(reelRecord),
  },
  listVelocities: {
    method: 'get',
    path: '/api/velocities',
    summary: 'Velocity factors that were measured, newest first',
    access: everyone,
    response: z.array(velocityRecord),
  },
  addVelocity: {
    method: 'post',
    path: '/api/velocities',
    summary: 'Keep a velocity factor that was measured',
    access: workers,
    body: newVelocity,
    response: z.array(velocityRecord),
  },
} as const satisfies Record<string, Endpoint>;
