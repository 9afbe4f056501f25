import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { endpoints, type EndpointId } from '@near-spoke/contracts';
import { soundAnswers, type AdapterDesign } from '@near-spoke/core';
import {
  DEMO,
  enter,
  jobWithLink,
  mapTest,
  newJob,
  newLink,
  newTrace,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';
import { picture } from './pictures.js';

const JPEG = picture().toString('base64');
const LOGGER = JSON.parse(readFileSync(`${DEMO}/adapters/tide-gauge-logger.adapter.json`, 'utf8')) as object;

/** A sending that brings its own id: where it goes, what it says, and the same with something else in it. */
interface Sending {
  path: string;
  body: object;
  other: object;
  /** Where the other goes, if not there too: what says nothing but its id. */
  otherPath?: string;
}

/** Where what is sent with an id is tried elsewhere, or why it needs no trial here. */
const ELSEWHERE: Partial<Record<EndpointId, string>> = {
  setup: 'there is one first person, and no second: access.spec',
  takeTest: 'what is kept under the id is not taken anew: provenance.spec',
  beginRound: 'one round of a job is open at a time, whoever begins it: verify.spec',
  beginTogether: 'a proof that is open is gone on with: together.spec',
  tellAsHelper: 'kept as what the crew tells: together.spec',
  addSignOff: 'of a job that is done: report.spec',
  addShareLink: 'its address is told once: shared.spec',
  keepAdapter: 'a version of its own: adapters.spec',
  foundCrew: 'by a person’s own session: crews.spec',
  addInvitation: 'its code is told once: crews.spec',
  shareSheet: 'names a sheet, and makes none: crews.spec',
};

/** A path whatever it is of. */
const pathOf = (path: string): string => path.replace(/:\w+|[0-9a-f]{8}-[0-9a-f-]{27}/g, '*');

describe('What is sent again, because no answer came', () => {
  let app: TestApp;
  let lead: Caller;
  let jobId: string;
  let linkId: string;
  let adapter: { id: string; version: number; design: AdapterDesign };
  let reelId: string;
  let togetherId: string;
  let looseId: string;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
    ({ jobId, linkId } = await jobWithLink(lead));
    adapter = (await lead.post('/api/adapters', { id: randomUUID(), version: 0, file: LOGGER })).body;
    reelId = randomUUID();
    await lead.post('/api/reels', reel({ id: reelId, name: 'Drum for cuts' })).expect(200);
    looseId = randomUUID();
    await lead.post('/api/loose-ends', looseEnd({ id: looseId })).expect(200);
    togetherId = randomUUID();
    await lead.post(`/api/links/${linkId}/together`, { id: togetherId }).expect(200);
    handed = await Promise.all([0, 1, 2].map(() => proved()));
    await lead.post(`/api/links/${handed[2]}/handover`, { id: randomUUID() }).expect(200);
  });
  afterAll(() => app.close());

  /** Links that are proved; the last is handed over. */
  let handed: string[];
  const proved = async (): Promise<string> => {
    const { linkId: id } = await jobWithLink(lead);
    for (const end of ['near', 'far'] as const)
      await lead.post(`/api/links/${id}/terminations`, termination(end)).expect(200);
    await lead.post(`/api/links/${id}/tests`, mapTest()).expect(200);
    return id;
  };

  const reel = (change: object = {}) => ({
    id: randomUUID(),
    name: 'Drum of retries',
    kind: 'drum',
    cableTypeId: 'rg6',
    lot: 'L7',
    labelledM: 250,
    ...change,
  });

  const looseEnd = (change: object = {}) => ({
    id: randomUUID(),
    cableTypeId: 'rg6',
    connectorTypeId: 'coax-f',
    scheme: 'T568B',
    outcome: 'good',
    ...change,
  });

  const sendings: Record<string, () => Sending> = {
    job: () => {
      const body = newJob({ title: 'Sent twice' });
      return { path: '/api/jobs', body, other: { ...body, title: 'Something else' } };
    },
    link: () => {
      const link = newLink({ label: 'R-01' });
      return {
        path: `/api/jobs/${jobId}/links`,
        body: { links: [link] },
        other: { links: [{ ...link, lengthM: 44 }] },
      };
    },
    person: () => {
      const body = {
        id: randomUUID(),
        name: 'Rosa',
        role: 'technician',
        passphrase: 'words that are long enough',
      };
      return { path: '/api/crew', body, other: { ...body, name: 'Lena' } };
    },
    termination: () => {
      const body = termination('near');
      return { path: `/api/links/${linkId}/terminations`, body, other: { ...body, side: 'far' } };
    },
    'cable work': () => {
      const body = { id: randomUUID(), kind: 'mended', atM: 12, note: '' };
      return { path: `/api/links/${linkId}/cable-work`, body, other: { ...body, atM: 13 } };
    },
    reading: () => {
      const body = mapTest();
      return {
        path: `/api/links/${linkId}/tests`,
        body,
        other: { ...mapTest({ ...straight, 4: [] }), id: body.id },
      };
    },
    reel: () => {
      const body = reel();
      return { path: '/api/reels', body, other: { ...body, lot: 'L8' } };
    },
    'reel entry': () => {
      const body = { id: randomUUID(), what: 'drawn', lengthM: 20 };
      return { path: `/api/reels/${reelId}/entries`, body, other: { ...body, lengthM: 30 } };
    },
    note: () => {
      const body = { id: randomUUID(), end: 'far', words: 'behind the shelf', jpeg: JPEG };
      return { path: `/api/links/${linkId}/notes`, body, other: { ...body, words: 'before it' } };
    },
    velocity: () => {
      const body = {
        id: randomUUID(),
        cableTypeId: 'rg6',
        velocityFactor: 0.831,
        u95: 0.003,
        pieces: [{ name: 'ten.csv', lengthM: 10, delayNs: 80.3 }],
      };
      return { path: '/api/velocities', body, other: { ...body, velocityFactor: 0.84 } };
    },
    'adapter build': () => {
      const { beeped, parts, supplies, functions } = soundAnswers(adapter.design);
      const body = { id: randomUUID(), version: 1, name: 'one', beeped, parts, supplies, functions };
      return { path: `/api/adapters/${adapter.id}/builds`, body, other: { ...body, name: 'two' } };
    },
    'drill answer': () => {
      const body = { id: randomUUID(), kind: 'how-far', seed: 7, chosen: 0 };
      return { path: '/api/practice-room/answers', body, other: { ...body, chosen: 1 } };
    },
    'loose end': () => {
      const body = looseEnd({ functionTest: [{ what: 'a picture', does: true }] });
      return { path: '/api/loose-ends', body, other: { ...body, lot: 'L8' } };
    },
    'photo of a loose end': () => {
      const body = { id: randomUUID(), jpeg: JPEG };
      const jpeg = picture(1).toString('base64');
      return { path: `/api/loose-ends/${looseId}/photos`, body, other: { ...body, jpeg } };
    },
    'told thing': () => {
      const body = { id: randomUUID(), end: 'near', doing: { does: 'came' } };
      return { path: `/api/together/${togetherId}/told`, body, other: { ...body, end: 'far' } };
    },
    trace: () => {
      const body = newTrace();
      return { path: `/api/links/${linkId}/traces`, body, other: { ...body, name: 'other.csv' } };
    },
    'copy of a job': () => {
      const body = { id: randomUUID(), site: 'Hall', title: 'Copied twice', hub: 'CR-9' };
      return { path: `/api/jobs/${jobId}/copies`, body, other: { ...body, hub: 'CR-8' } };
    },
    'form of the crew': () => {
      const body = {
        id: randomUUID(),
        kind: 'search',
        name: `Search ${randomUUID().slice(0, 8)}`,
        body: { text: 'P1-05' },
      };
      return { path: '/api/forms', body, other: { ...body, body: { text: 'P1-06' } } };
    },
    'list of touches by two': () => {
      const touch = {
        from: { end: 'near', contacts: ['1'] },
        to: { end: 'far', contacts: ['1'] },
        should: true,
      };
      const body = {
        id: randomUUID(),
        label: 'Tail',
        ends: { near: 'A', far: 'B' },
        over: 'joins',
        touches: [touch],
      };
      return { path: '/api/together/touches', body, other: { ...body, label: 'Head' } };
    },
    'wires by two': () => {
      const body = { id: randomUUID(), count: 4, hasReturn: true };
      return { path: '/api/together', body, other: { ...body, count: 5 } };
    },
    handover: () => {
      const body = { id: randomUUID() };
      return {
        path: `/api/links/${handed[0]}/handover`,
        body,
        other: body,
        otherPath: `/api/links/${handed[1]}/handover`,
      };
    },
    reopening: () => {
      const body = { id: randomUUID(), reason: 'another faceplate' };
      return { path: `/api/links/${handed[2]}/reopenings`, body, other: { ...body, reason: 'none' } };
    },
    photo: () => {
      const body = { id: randomUUID(), end: 'A', words: 'slot to the lid', jpeg: JPEG };
      return {
        path: `/api/adapters/${adapter.id}/photos`,
        body,
        other: { ...body, words: 'slot to the bench' },
      };
    },
  };

  for (const [what, make] of Object.entries(sendings))
    it(`keeps a ${what} once, of eight at the same time, and refuses other content under its id with both`, async () => {
      const { path, body, other, otherPath } = make();
      const eight = await Promise.all(Array.from({ length: 8 }, () => lead.post(path, body)));
      expect(eight.map(({ status }) => status)).toEqual(Array.from({ length: 8 }, () => 200));
      const lines = Number((await app.query('SELECT count(*)::int AS n FROM activity')).rows[0].n);
      await lead.post(path, body).expect(200);
      expect(Number((await app.query('SELECT count(*)::int AS n FROM activity')).rows[0].n)).toBe(lines);
      const refused = await lead.post(otherPath ?? path, other).expect(409);
      expect(refused.body.title).toBe('Kept before, with other content');
      expect(refused.body.current).toBeDefined();
      expect(refused.body.sent).toBeDefined();
      await lead.post(path, body).expect(200);
    });

  it('leaves out nothing that is sent with an id of its own', () => {
    const withId = Object.entries(endpoints).flatMap(([name, endpoint]) => {
      if (endpoint.method === 'get' || !('body' in endpoint)) return [];
      const { shape, options } = endpoint.body as { shape?: object; options?: readonly { shape: object }[] };
      const brings = options
        ? options.every((one) => 'id' in one.shape)
        : shape !== undefined && 'id' in shape;
      return brings ? [{ name, path: endpoint.path }] : [];
    });
    const tried = Object.values(sendings).map((make) => pathOf(make().path));
    const forgotten = withId.filter(
      ({ name, path }) => !(name in ELSEWHERE) && !tried.includes(pathOf(path)),
    );
    expect(forgotten).toEqual([]);
    expect(withId.length).toBeGreaterThan(25);
    // Nothing is said of what is gone.
    for (const name of Object.keys(ELSEWHERE)) expect(withId.map((one) => one.name)).toContain(name);
  });

  it('takes no sending for another’s of the same name, however close they come', async () => {
    // The later of two may meet the earlier's name before its id: about once in fifty.
    for (let n = 0; n < 100; n++) {
      const body = reel({ name: `Drum ${n}` });
      const eight = await Promise.all(Array.from({ length: 8 }, () => lead.post('/api/reels', body)));
      expect(new Set(eight.map(({ status }) => status))).toEqual(new Set([200]));
    }
    const taken = await lead.post('/api/reels', reel({ name: 'Drum 7' }));
    expect(taken.status).toBe(409);
  });

  it('writes one line of the log for eight sendings of one build', async () => {
    const { path, body } = (sendings['adapter build'] as () => Sending)();
    const count = async (): Promise<number> =>
      Number(
        (await app.query("SELECT count(*)::int AS n FROM activity WHERE what LIKE 'built %'")).rows[0].n,
      );
    const before = await count();
    await Promise.all(Array.from({ length: 8 }, () => lead.post(path, body).expect(200)));
    expect(await count()).toBe(before + 1);
  });
});
