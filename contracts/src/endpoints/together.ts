import * as z from 'zod';
import {
  beginningTogether,
  newHelper,
  newToldThing,
  openByTwo,
  togetherState,
  touchesByTwo,
  wiresToTell,
} from '../together.js';
import { uuid } from '../text.js';
import { onLink, workers, type Endpoint } from './endpoint.js';

const inTogether = z.object({ togetherId: uuid });
const EVENTS = 'text/event-stream';

/** Two people at the two ends of one cable. */
export const togetherEndpoints = {
  beginTogether: {
    method: 'post',
    path: '/api/links/:linkId/together',
    summary: 'Prove a link with somebody at its other end; where that is begun already, go on with it',
    access: workers,
    params: onLink,
    body: beginningTogether,
    response: togetherState,
  },
  beginWires: {
    method: 'post',
    path: '/api/together',
    summary: 'Tell unmarked conductors apart with somebody at the other end',
    access: workers,
    body: wiresToTell,
    response: togetherState,
  },
  beginTouches: {
    method: 'post',
    path: '/api/together/touches',
    summary: 'Make a list of touches with somebody at the other end',
    access: workers,
    body: touchesByTwo,
    response: togetherState,
  },
  openTogether: {
    method: 'get',
    path: '/api/together',
    summary: 'What is being done by two just now, oldest first',
    access: workers,
    response: z.array(openByTwo),
  },
  readTogether: {
    method: 'get',
    path: '/api/together/:togetherId',
    summary: 'How far two people have come with one cable',
    access: workers,
    params: inTogether,
    response: togetherState,
  },
  followTogether: {
    method: 'get',
    path: '/api/together/:togetherId/events',
    summary: 'The same as it goes on, as server-sent events; each carries the whole state',
    access: workers,
    params: inTogether,
    file: EVENTS,
  },
  tellTogether: {
    method: 'post',
    path: '/api/together/:togetherId/told',
    summary: 'Tell the other end what was done at this one',
    access: workers,
    params: inTogether,
    body: newToldThing,
    response: togetherState,
  },
  endTogether: {
    method: 'delete',
    path: '/api/together/:togetherId',
    summary: 'End it: its code opens nothing any more',
    access: workers,
    params: inTogether,
    response: togetherState,
  },
  joinAsHelper: {
    method: 'post',
    path: '/api/helping',
    summary: 'Come to the other end of a cable by its code, without an account',
    access: 'anyone',
    body: newHelper,
    response: togetherState,
  },
  readAsHelper: {
    method: 'get',
    path: '/api/helping',
    summary: 'What this device helps with; null where it helps nobody',
    access: 'anyone',
    response: togetherState.nullable(),
  },
  followAsHelper: {
    method: 'get',
    path: '/api/helping/events',
    summary: 'The same as it goes on, as server-sent events',
    access: 'anyone',
    file: EVENTS,
  },
  tellAsHelper: {
    method: 'post',
    path: '/api/helping/told',
    summary: 'Tell the other end what was done at this one',
    access: 'anyone',
    body: newToldThing,
    response: togetherState,
  },
} as const satisfies Record<string, Endpoint>;
