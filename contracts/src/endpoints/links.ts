import * as z from 'zod';
import { link, linkChange } from '../jobs.js';
import { linkEnd } from '../readings.js';
import { linkDetail, newCableWork, newHandover, newTermination, newTest, takenTest } from '../records.js';
import { newTrace, traceRecord } from '../reflectometry.js';
import { uuid } from '../text.js';
import { everyone, workers, onLink, type Endpoint } from './endpoint.js';

/** One link: its plan, its ends, its readings and its traces. */
export const linksEndpoints = {
  getLink: {
    method: 'get',
    path: '/api/links/:linkId',
    summary: 'One link with its whole record',
    access: everyone,
    params: onLink,
    response: linkDetail,
  },
  changeLink: {
    method: 'patch',
    path: '/api/links/:linkId',
    summary: 'Change a link’s plan',
    access: workers,
    params: onLink,
    body: linkChange,
    response: link,
  },
  addTermination: {
    method: 'post',
    path: '/api/links/:linkId/terminations',
    summary: 'Record a try at an end',
    access: workers,
    params: onLink,
    body: newTermination,
    response: linkDetail,
  },
  cardPdf: {
    method: 'get',
    path: '/api/links/:linkId/cards/:side.pdf',
    summary: 'The work card of an end on one page, with a gauge at true scale',
    access: everyone,
    params: z.object({ linkId: uuid, side: linkEnd }),
    file: 'application/pdf',
  },
  attemptCardPdf: {
    method: 'get',
    path: '/api/links/:linkId/terminations/:attemptId/card.pdf',
    summary: 'The card that a recorded try was made by, from the sheets of that day',
    access: everyone,
    params: z.object({ linkId: uuid, attemptId: uuid }),
    file: 'application/pdf',
  },
  addCableWork: {
    method: 'post',
    path: '/api/links/:linkId/cable-work',
    summary: 'Record work on the cable',
    access: workers,
    params: onLink,
    body: newCableWork,
    response: linkDetail,
  },
  addTest: {
    method: 'post',
    path: '/api/links/:linkId/tests',
    summary: 'Record a reading',
    access: workers,
    params: onLink,
    body: newTest,
    response: linkDetail,
  },
  takeTest: {
    method: 'post',
    path: '/api/links/:linkId/tests/taken',
    summary: 'Have an instrument take a reading, and record it',
    access: workers,
    params: onLink,
    body: takenTest,
    response: linkDetail,
  },
  listTraces: {
    method: 'get',
    path: '/api/links/:linkId/traces',
    summary: 'Reflectometer traces of a link, newest first',
    access: everyone,
    params: onLink,
    response: z.array(traceRecord),
  },
  addTrace: {
    method: 'post',
    path: '/api/links/:linkId/traces',
    summary: 'Keep a reflectometer trace',
    access: workers,
    params: onLink,
    body: newTrace,
    response: z.array(traceRecord),
  },
  handOver: {
    method: 'post',
    path: '/api/links/:linkId/handover',
    summary: 'Hand a proved link over',
    access: workers,
    params: onLink,
    body: newHandover,
    response: linkDetail,
  },
} as const satisfies Record<string, Endpoint>;
