import * as z from 'zod';
import {
  checkCord,
  cordChecked,
  instrument,
  practiceBreak,
  practiceId,
  practiceRead,
  practiceRevealed,
  practiceStarted,
  takeReading,
  takenReading,
} from '../records.js';
import { benchScope, takeTrace, takenTrace } from '../reflectometry.js';
import { everyone, workers, type Endpoint } from './endpoint.js';

/** Instruments within reach, and practice links for them to read. */
export const instrumentsEndpoints = {
  listInstruments: {
    method: 'get',
    path: '/api/instruments',
    summary: 'Instruments within reach',
    access: everyone,
    response: z.array(instrument),
  },
  takeReading: {
    method: 'post',
    path: '/api/instruments/readings',
    summary: 'Take a reading from an instrument',
    access: workers,
    body: takeReading,
    response: takenReading,
  },
  benchScope: {
    method: 'get',
    path: '/api/instruments/scope',
    summary: 'The bench oscilloscope with its pulser; null where none is set up',
    access: everyone,
    response: benchScope.nullable(),
  },
  takeTrace: {
    method: 'post',
    path: '/api/instruments/traces',
    summary: 'Take one trace with the bench oscilloscope; nothing is kept',
    access: workers,
    body: takeTrace,
    response: takenTrace,
  },
  checkCord: {
    method: 'post',
    path: '/api/instruments/cord',
    summary: 'Have the instrument read a cord known to be good',
    access: workers,
    body: checkCord,
    response: cordChecked,
  },
  beginPractice: {
    method: 'post',
    path: '/api/practice',
    summary: 'Have the stand-in break a practice link',
    access: workers,
    body: practiceBreak,
    response: practiceStarted,
  },
  readPractice: {
    method: 'post',
    path: '/api/practice/:practiceId/readings',
    summary: 'Read a practice link',
    access: workers,
    params: practiceId,
    body: practiceRead,
    response: takenReading,
  },
  revealPractice: {
    method: 'get',
    path: '/api/practice/:practiceId',
    summary: 'What the practice link really has',
    access: workers,
    params: practiceId,
    response: practiceRevealed,
  },
} as const satisfies Record<string, Endpoint>;
