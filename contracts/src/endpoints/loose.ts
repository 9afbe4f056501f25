import * as z from 'zod';
import { looseEnd, looseGiving, newLooseEnd, newLoosePhoto } from '../loose.js';
import { uuid } from '../text.js';
import { everyone, workers, type Endpoint } from './endpoint.js';

/** Work that belongs to no job. */
export const looseEndpoints = {
  listLooseEnds: {
    method: 'get',
    path: '/api/loose-ends',
    summary: 'The loose-work book: ends made without a job, newest first',
    access: everyone,
    response: z.array(looseEnd),
  },
  addLooseEnd: {
    method: 'post',
    path: '/api/loose-ends',
    summary: 'Keep an end that was made without a job',
    access: workers,
    body: newLooseEnd,
    response: z.array(looseEnd),
  },
  addLoosePhoto: {
    method: 'post',
    path: '/api/loose-ends/:endId/photos',
    summary: 'Keep a photo of an end that was made without a job',
    access: workers,
    params: z.object({ endId: uuid }),
    body: newLoosePhoto,
    response: z.array(looseEnd),
  },
  loosePhoto: {
    method: 'get',
    path: '/api/loose-ends/:endId/photos/:photoId',
    summary: 'A photo of an end that was made without a job',
    access: everyone,
    params: z.object({ endId: uuid, photoId: uuid }),
    file: 'image/jpeg',
  },
  giveLooseEnds: {
    method: 'post',
    path: '/api/loose-ends/given',
    summary: 'Give ends of the loose-work book to a job',
    access: workers,
    body: looseGiving,
    response: z.array(looseEnd),
  },
} as const satisfies Record<string, Endpoint>;
