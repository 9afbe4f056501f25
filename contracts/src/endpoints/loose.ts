import * as z from 'zod';
import { looseEnd, looseGiving, newLooseEnd } from '../loose.js';
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
  giveLooseEnds: {
    method: 'post',
    path: '/api/loose-ends/given',
    summary: 'Give ends of the loose-work book to a job',
    access: workers,
    body: looseGiving,
    response: z.array(looseEnd),
  },
} as const satisfies Record<string, Endpoint>;
