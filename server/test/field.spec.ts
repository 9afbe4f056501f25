import { randomUUID } from 'node:crypto';
import type { Kit, LinkDetail } from '@near-spoke/contracts';
import { seededRandom } from '@near-spoke/core';
import { fold, type RecordId } from '../../web/src/app/field/fold.js';
import {
  enter,
  jobWithLink,
  mapTest,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

/** Links worked on, and how often each. */
const WALKS = 10;
const STEPS = 7;
const PATHS: Readonly<Record<RecordId, string>> = {
  addTermination: '/terminations',
  addCableWork: '/cable-work',
  addTest: '/tests',
  addNote: '/notes',
  changeLink: '',
};

describe('What a device makes of a record without the server', () => {
  let app: TestApp;
  let tech: Caller;
  let lead: Caller;
  let kit: Kit;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead', 'Lead');
    tech = await enter(app, 'technician', 'Tech');
    kit = (await tech.get('/api/kit').expect(200)).body as Kit;
  });
  afterAll(() => app.close());

  const send = (id: RecordId, linkId: string, body: object) =>
    id === 'changeLink'
      ? tech.patch(`/api/links/${linkId}`, body)
      : tech.post(`/api/links/${linkId}${PATHS[id]}`, body);

  const maps = [
    straight,
    straight,
    { ...straight, 1: ['2'], 2: ['1'] },
    { ...straight, 4: [] },
    { ...straight, 3: ['6'], 6: ['3'] },
  ];
  /** Something that a person might do next. */
  function something(random: () => number, version: number): [RecordId, object] {
    const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)] as T;
    const id = randomUUID();
    const does: (() => [RecordId, object])[] = [
      () => ['addTermination', { ...termination('near'), id }],
      () => [
        'addTermination',
        { ...termination('far'), id, outcome: pick(['good', 'good', 'spoiled']), connectorsSpoiled: 1 },
      ],
      () => ['addTest', { ...mapTest(pick(maps)), id }],
      () => ['addTest', { ...mapTest(pick(maps)), id }],
      () => ['addTest', { ...mapTest(pick(maps)), id }],
      () => ['addCableWork', { id, kind: pick(['mended', 'replaced', 'unplug']), atM: 3 }],
      () => ['addNote', { id, end: 'far', words: 'behind the third tile' }],
      () => ['changeLink', { version, room: pick(['hall', 'loft']), lengthM: pick([28, 31.4]) }],
    ];
    return pick(does)();
  }

  /** What has to be the same, whichever of them says it; times and figures of belief are each one's own. */
  const told = ({ link, terminations, cableWork, tests, notes, diagnosis }: LinkDetail) => {
    const bare = <R extends { at: string; deviceAt?: string | undefined }>({
      at: _,
      deviceAt: __,
      ...rest
    }: R) => rest;
    const { updatedAt: _, ...plan } = link;
    return {
      plan,
      terminations: terminations.map(bare),
      cableWork: cableWork.map(bare),
      tests: tests.map((test) => {
        const { diagnosis: verdict, ...rest } = bare(test);
        return { ...rest, says: [verdict.result, verdict.headline] };
      }),
      notes: notes.map(bare),
      says: diagnosis && [diagnosis.result, diagnosis.headline, diagnosis.proves],
    };
  };

  it(
    'is what the server makes of it: records, stage, verdict and next step',
    async () => {
      const random = seededRandom(20_261_201);
      let verdicts = 0;
      for (let walk = 0; walk < WALKS; walk++) {
        const { linkId } = await jobWithLink(lead, { label: `F-${walk}` });
        const detail = async (): Promise<LinkDetail> =>
          (await tech.get(`/api/links/${linkId}`).expect(200)).body;
        for (let step = 0; step < STEPS; step++) {
          const before = await detail();
          const [id, body] = something(random, before.link.version);
          const folded = fold({
            id,
            body,
            detail: before,
            kit,
            hub: before.link.near.hub,
            by: 'Tech',
            at: new Date().toISOString(),
          });
          if ('refused' in folded) throw new Error(`${id}: ${folded.refused.detail}`);
          await send(id, linkId, body).expect(200);
          const after = await detail();
          expect(told(folded.detail))
            .withContext(`${id} ${JSON.stringify(body)}`)
            .toEqual(told(after));
          if (folded.judged) verdicts++;
        }
      }
      expect(verdicts).toBeGreaterThan(WALKS);
    },
    WALKS * STEPS * 5000,
  );

  it('is refused as the server refuses it, in its words', async () => {
    const { linkId } = await jobWithLink(lead, { label: 'F-bad' });
    const detail = (await tech.get(`/api/links/${linkId}`).expect(200)).body as LinkDetail;
    const bad: [RecordId, object][] = [
      [
        'addTermination',
        { ...termination('near'), id: randomUUID(), outcome: 'spoiled', connectorsSpoiled: 0 },
      ],
      ['addTest', { ...mapTest({ ...straight, 9: ['9'] }), id: randomUUID() }],
      ['addCableWork', { id: randomUUID(), kind: 'blessed' }],
      ['addNote', { id: randomUUID(), words: '' }],
    ];
    for (const [id, body] of bad) {
      const folded = fold({ id, body, detail, kit, hub: 'CR-1', by: 'Tech', at: new Date().toISOString() });
      const { body: problem } = await send(id, linkId, body);
      expect('refused' in folded && [folded.refused.status, folded.refused.title, folded.refused.detail])
        .withContext(id)
        .toEqual([problem.status, problem.title, problem.detail]);
    }
  });

  it('keeps the time of the device beside the server’s, and is the same record however often it is sent', async () => {
    const { linkId } = await jobWithLink(lead, { label: 'F-late' });
    const at = '2026-11-30T10:42:00.000Z';
    const made = { ...termination('near'), id: randomUUID() };
    const noted = { id: randomUUID(), words: 'wet' };
    const read = mapTest(straight);
    const worked = { id: randomUUID(), kind: 'unplug' };
    // Sent at once, and its answer lost: from then on it waits, and has a time.
    await tech.post(`/api/links/${linkId}/terminations`, made).expect(200);
    for (let again = 0; again < 2; again++) {
      await tech.post(`/api/links/${linkId}/terminations`, { ...made, deviceAt: at }).expect(200);
      await tech.post(`/api/links/${linkId}/notes`, { ...noted, deviceAt: at }).expect(200);
      await tech.post(`/api/links/${linkId}/tests`, { ...read, deviceAt: at }).expect(200);
      await tech.post(`/api/links/${linkId}/cable-work`, { ...worked, deviceAt: at }).expect(200);
    }
    const { terminations, notes, tests, cableWork } = (await tech.get(`/api/links/${linkId}`))
      .body as LinkDetail;
    expect([terminations.length, notes.length, tests.length, cableWork.length]).toEqual([1, 1, 1, 1]);
    expect(terminations[0] && 'deviceAt' in terminations[0]).toBeFalse();
    for (const one of [notes[0], tests[0], cableWork[0]]) {
      expect(one?.deviceAt).toBe(at);
      expect(one?.at).not.toBe(at);
    }
  });
});
