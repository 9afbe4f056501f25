import * as z from 'zod';
import {
  crewChange,
  crewMember,
  demoSignIn,
  instrumentsAtHand,
  newInstrumentsAtHand,
  newCrewMember,
  ownSession,
  passphraseChange,
  sessionState,
  setup,
  signIn,
} from '../people.js';
import { uuid } from '../text.js';
import { everyone, leads, type Endpoint } from './endpoint.js';

const health = z.object({ status: z.string(), version: z.string(), database: z.string() });

/** Who is there, and who may do what. */
export const peopleEndpoints = {
  health: {
    method: 'get',
    path: '/api/health',
    summary: 'Whether the application can serve',
    access: 'anyone',
    response: health,
  },
  openapi: {
    method: 'get',
    path: '/api/openapi.json',
    summary: 'This description',
    access: 'anyone',
    response: z.record(z.string(), z.unknown()),
  },
  session: {
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in',
    access: 'anyone',
    response: sessionState,
  },
  signIn: {
    method: 'post',
    path: '/api/session',
    summary: 'Sign in',
    access: 'anyone',
    body: signIn,
    response: sessionState,
  },
  demoSignIn: {
    method: 'post',
    path: '/api/session/demo',
    summary: 'Enter the demo as one of its people (loopback only)',
    access: 'anyone',
    body: demoSignIn,
    response: sessionState,
  },
  signOut: {
    method: 'delete',
    path: '/api/session',
    summary: 'Sign out',
    access: everyone,
    response: sessionState,
  },
  ownSessions: {
    method: 'get',
    path: '/api/session/all',
    summary: 'Where the person who asks is signed in',
    access: everyone,
    response: z.array(ownSession),
  },
  endOwnSession: {
    method: 'delete',
    path: '/api/session/all/:sessionId',
    summary: 'End another session of one’s own',
    access: everyone,
    params: z.object({
      sessionId: z.string().regex(/^[0-9a-f]{16}$/, { error: 'Not the id of a session.' }),
    }),
    response: z.array(ownSession),
  },
  changeOwnPassphrase: {
    method: 'post',
    path: '/api/session/passphrase',
    summary: 'Change one’s own passphrase, which ends one’s other sessions',
    access: everyone,
    body: passphraseChange,
    response: z.array(ownSession),
  },
  setup: {
    method: 'post',
    path: '/api/setup',
    summary: 'Make the first lead',
    access: 'anyone',
    body: setup,
    response: sessionState,
  },
  listCrew: {
    method: 'get',
    path: '/api/crew',
    summary: 'The crew',
    access: everyone,
    response: z.array(crewMember),
  },
  addCrew: {
    method: 'post',
    path: '/api/crew',
    summary: 'Add a person',
    access: leads,
    body: newCrewMember,
    response: crewMember,
  },
  changeCrew: {
    method: 'patch',
    path: '/api/crew/:crewId',
    summary: 'Change a person’s role or passphrase',
    access: leads,
    params: z.object({ crewId: uuid }),
    body: crewChange,
    response: crewMember,
  },
  readAtHand: {
    method: 'get',
    path: '/api/instruments-at-hand',
    summary: 'Which instruments the crew has at hand',
    access: everyone,
    response: instrumentsAtHand,
  },
  keepAtHand: {
    method: 'patch',
    path: '/api/instruments-at-hand',
    summary: 'Say which instruments the crew has at hand; links that want a look are judged again',
    access: leads,
    body: newInstrumentsAtHand,
    response: instrumentsAtHand,
  },
} as const satisfies Record<string, Endpoint>;
