import type { Server } from 'node:net';
import { randomUUID } from 'node:crypto';
import { endpoints, sessionState, type Endpoint, type SessionState } from '@near-spoke/contracts';
import { CABLE_TYPES, CONNECTOR_TYPES } from '@near-spoke/core';
import fc from 'fast-check';
import request from 'supertest';
import { FIRST_CREW } from '../src/db/crew.js';
import { anyBody, type Vocabulary } from './any-body.js';
import {
  demoStandIn,
  enter,
  jobWithLink,
  mapTest,
  startApp,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

/** What would end the caller's own session, or is told apart by how often it is asked. */
const LEFT_OUT = new Set(['signOut', 'signIn', 'demoSignIn', 'setup']);
const RUNS = 40;
/** Refused in words; 502 to 504 are an instrument's, which says why. */
const REFUSALS = new Set([400, 404, 409, 413, 422, 502, 503, 504]);
const LEAKS = /node_modules|\bat .*\.ts:\d|Error:|\bundefined\b|\[object/;

/** The session as it is after an answer that may have changed it. */
function follow(from: Pick<Caller, 'cookie' | 'token'>, answer: request.Response): typeof from {
  const [set] = (answer.headers['set-cookie'] as unknown as string[] | undefined) ?? [];
  const state = answer.body as SessionState;
  if (state.state !== 'signed-in') throw new Error(`Signed out by it: ${answer.text}`);
  return { cookie: set?.split(';')[0] ?? from.cookie, token: state.token };
}

describe('whatever is sent', () => {
  let it1: TestApp;
  let standIn: Server;
  let lead: Caller;
  let viewer: Caller;
  /** Whoever goes over to another crew: each time the session has another token. */
  let mover: Pick<Caller, 'cookie' | 'token'>;
  let known: Vocabulary;
  let pool: Record<string, string[]>;

  beforeAll(async () => {
    const { client, server } = await demoStandIn();
    standIn = server;
    it1 = await startApp({ instruments: client });
    lead = await enter(it1, 'lead');
    viewer = await enter(it1, 'viewer');
    mover = await enter(it1, 'lead', 'mover');
    const places = [await jobWithLink(lead), await jobWithLink(lead, { label: 'L-02' })];
    const linkId = places[0]?.linkId ?? '';
    await lead.post(`/api/links/${linkId}/terminations`, termination('near'));
    await lead.post(`/api/links/${linkId}/terminations`, termination('far'));
    await lead.post(`/api/links/${linkId}/tests`, mapTest());
    const reelId = randomUUID();
    await lead.post('/api/reels', {
      id: reelId,
      name: 'Drum',
      kind: 'drum',
      cableTypeId: 'cat6-u',
      lot: '',
      labelledM: 300,
    });
    const plan = { cable: 'cat6-u', scheme: 'T568B', lengthM: 30, near: 'jack-punched', far: 'plug-closed' };
    const practice = await lead.post('/api/practice', { count: 2, seed: 5, plan }).expect(200);
    pool = {
      practiceId: [(practice.body as { practiceId: string }).practiceId],
      jobId: places.map((place) => place.jobId),
      linkId: places.map((place) => place.linkId),
      reelId: [reelId],
      crewId: [viewer.id],
    };
    known = {
      ids: [...Object.values(pool).flat(), FIRST_CREW],
      words: [
        ...CABLE_TYPES.slice(0, 3).map(({ id }) => id),
        ...CONNECTOR_TYPES.slice(0, 4).map(({ id }) => id),
        ...['1', '2', '8', 'S', 'A', 'WH-OG', 'OG', 'BU', 'BK', '1-2', '3-6', 'L-01', 'desk 1'],
        ...['near', 'd-sub-9', 'usb-c', '2026-11-02T08:00:00.000Z'],
      ],
    };
  });
  afterAll(async () => {
    await it1.close();
    standIn.close();
  });

  const addressOf = (endpoint: Endpoint, pick: number): string =>
    endpoint.path.replace(/:(\w+)/g, (_, name: string) => {
      const ids = pool[name] ?? [];
      if (name === 'version' || name === 'scale') return '1';
      if (name === 'kind') return 'connector';
      if (name === 'typeId') return 'plug-closed';
      if (name === 'side') return 'near';
      return ids[pick % (ids.length + 1)] ?? randomUUID();
    });

  it('is refused in words where it lies in itself thousands deep', async () => {
    const deep = `${'['.repeat(50_000)}${']'.repeat(50_000)}`;
    for (const body of [deep, `{"id":${deep}}`, `{"a":${'{"a":'.repeat(50_000)}1${'}'.repeat(50_000)}}`]) {
      const { status, body: problem } = await request(it1.app)
        .post('/api/jobs')
        .set('Cookie', lead.cookie)
        .set('x-near-spoke-token', lead.token)
        .set('Content-Type', 'application/json')
        .send(body);
      expect(status).toBe(400);
      expect((problem as { detail: string }).detail).toContain('deeper than anything here');
    }
  });

  for (const [id, endpoint] of Object.entries(endpoints as Record<string, Endpoint>)) {
    const { body } = endpoint;
    if (!body || LEFT_OUT.has(id)) continue;
    it(`${id}: is taken and answered in the agreed shape, or refused in words; never a 5xx of our own`, async () => {
      await fc.assert(
        fc.asyncProperty(anyBody(body, known), fc.nat({ max: 5 }), async (sent, pick) => {
          const moves = endpoint.response === sessionState;
          const { cookie, token } = moves ? mover : lead;
          const answer = await request(it1.app)
            [endpoint.method](addressOf(endpoint, pick))
            .set('Cookie', cookie)
            .set('x-near-spoke-token', token)
            .set('Content-Type', 'application/json')
            .send(JSON.stringify(sent));
          // A file that was made has no text.
          const said = `${answer.status} ${((answer.text as string | undefined) ?? '').slice(0, 600)}`;
          if (answer.status === 200) {
            if (endpoint.response) endpoint.response.parse(answer.body);
            if (moves) mover = follow(mover, answer);
            return;
          }
          // Who is no helper is told so where anybody may ask.
          const stranger = answer.status === 401 && endpoint.access === 'anyone';
          if (!REFUSALS.has(answer.status) && !stranger) throw new Error(`No refusal: ${said}`);
          if (!String(answer.headers['content-type']).includes('application/problem+json'))
            throw new Error(`Not in words: ${said}`);
          const { detail } = JSON.parse(answer.text) as { detail: string };
          if (detail.length <= 10 || LEAKS.test(answer.text)) throw new Error(`Not for a person: ${said}`);
        }),
        { numRuns: RUNS },
      );
      // Whatever came, the caller is still who they are and the rest still stands.
      expect((await lead.get('/api/jobs')).status).toBe(200);
    });
  }
});
