import { randomUUID } from 'node:crypto';
import type { Server } from 'node:net';
import type { LinkDetail } from '@near-spoke/contracts';
import pg from 'pg';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { loadDemo } from '../src/demo/load.js';
import {
  DEMO,
  demoStandIn,
  enter,
  jobWithLink,
  mapTest,
  newLink,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

describe('testing many links', () => {
  let app: TestApp;
  let tech: Caller;
  let other: Caller;
  beforeAll(async () => {
    app = await startApp();
    tech = await enter(app, 'lead', 'Tech');
    other = await enter(app, 'technician', 'Other');
  });
  afterAll(() => app.close());

  const twoLinks = async () => {
    const { jobId, linkId } = await jobWithLink(tech);
    const second = newLink({ label: 'L-02' });
    await tech.post(`/api/jobs/${jobId}/links`, { links: [second] }).expect(200);
    return { jobId, ids: [linkId, second.id as string] as const };
  };
  const testsOf = async (linkId: string): Promise<unknown[]> =>
    (await tech.get(`/api/links/${linkId}`)).body.tests as unknown[];

  it('keeps all readings of an import, or none when one cannot be', async () => {
    const { jobId, ids } = await twoLinks();
    const at = `/api/jobs/${jobId}/tests`;
    const bad = [
      { linkId: ids[0], test: mapTest() },
      { linkId: ids[1], test: mapTest({ ...straight, 9: ['9'] }) },
    ];
    const refused = await tech.post(at, { tests: bad }).expect(422);
    expect(refused.body.detail).toMatch(/^tests\[1\]: .*no contact 9|no 9.*Nothing was kept/);
    expect(await testsOf(ids[0])).toEqual([]);
    const foreign = [{ linkId: randomUUID(), test: mapTest() }];
    expect((await tech.post(at, { tests: foreign }).expect(422)).body.errors[0].path).toBe('tests[0].linkId');
    const one = mapTest();
    const twice = ids.map((linkId) => ({ linkId, test: one }));
    expect((await tech.post(at, { tests: twice }).expect(409)).body.detail).toMatch(
      /^tests\[1\]: .*Nothing was kept/,
    );
    expect(await testsOf(ids[0])).toEqual([]);
    const good = ids.map((linkId) => ({ linkId, test: mapTest() }));
    expect((await tech.post(at, { tests: good }).expect(200)).body).toEqual({ kept: 2 });
    await tech.post(at, { tests: good }).expect(200);
    expect((await testsOf(ids[1])).length).toBe(1);
  });

  it('answers what became of each link, where a device sends what it read without a network', async () => {
    const { jobId, ids } = await twoLinks();
    const at = `/api/jobs/${jobId}/tests`;
    const known = mapTest();
    await tech.post(`/api/links/${ids[0]}/tests`, known).expect(200);
    const tests = [
      { linkId: ids[0], test: known },
      { linkId: ids[1], test: mapTest({ ...straight, 3: [] }) },
    ];
    const { body } = await tech.post(at, { tests, answer: 'records' }).expect(200);
    expect(body.kept).toBe(2);
    for (const [n, id] of ids.entries())
      expect(body.records[n]).toEqual((await tech.get(`/api/links/${id}`)).body);
    // Its answer was lost: sent again it is the same, and nothing is there twice.
    expect((await tech.post(at, { tests, answer: 'records' }).expect(200)).body).toEqual(body);
    const many = Array.from({ length: 51 }, () => ({ linkId: ids[0], test: mapTest() }));
    const refused = await tech.post(at, { tests: many, answer: 'records' }).expect(400);
    expect(refused.body.errors[0].message).toBe(
      'At most 50 readings at once are answered with their records.',
    );
  });

  it('keeps a reading that fails by a dozen statements, and answers what is then kept', async () => {
    const { ids } = await twoLinks();
    const at = `/api/links/${ids[0]}`;
    for (const side of ['near', 'far'] as const)
      await tech.post(`${at}/terminations`, termination(side)).expect(200);
    await tech.post(`${at}/tests`, mapTest({ ...straight, 3: [] })).expect(200);
    const asked = spyOn(pg.Client.prototype, 'query').and.callThrough();
    const failing = mapTest({ ...straight, 3: [] });
    const { body } = await tech.post(`${at}/tests`, failing).expect(200);
    expect(asked.calls.count()).toBeLessThanOrEqual(12);
    expect(body.link.stage).toBe('failed');
    expect((await tech.get(at)).body).toEqual(body);
    // Sent again it is there once, and the same is answered.
    expect((await tech.post(`${at}/tests`, failing).expect(200)).body).toEqual(body);
    await tech.post(`/api/links/${ids[1]}/tests`, failing).expect(409);
  });

  it('has one round open at a time, which any device sees, with the test before', async () => {
    const { jobId, ids } = await twoLinks();
    const at = `/api/jobs/${jobId}/round-of-tests`;
    await tech.post(`/api/links/${ids[0]}/tests`, mapTest({ ...straight, 4: [] })).expect(200);
    expect((await tech.get(at)).body).toBeNull();
    const body = { id: randomUUID() };
    await tech.post(at, body).expect(200);
    await tech.post(at, body).expect(200);
    await tech.post(`/api/links/${ids[0]}/tests`, mapTest()).expect(200);
    const seen = (await other.get(at)).body;
    expect([seen.id, seen.by]).toEqual([body.id, 'Tech']);
    expect(seen.tested.map((t: { linkId: string; before: string }) => [t.linkId, t.before])).toEqual([
      [ids[0], '4 open'],
    ]);
    await other.post(at, { id: randomUUID() }).expect(200);
    expect((await tech.get(at)).body.by).toBe('Other');
    expect((await tech.post(at, body).expect(200)).body.by).toBe('Other');
    await tech.delete(at).expect(200);
    expect((await tech.get(at)).body).toBeNull();
  });

  it('counts a fault once its repair is proved, and the crew’s practice moves with it', async () => {
    const { jobId, linkId } = await jobWithLink(tech);
    const at = `/api/links/${linkId}`;
    await tech.post(`${at}/terminations`, termination('near')).expect(200);
    await tech.post(`${at}/terminations`, termination('far')).expect(200);
    const before = (await tech.get(at)).body.practice.rates['reversed-pair'] as number;
    await tech.post(`${at}/tests`, mapTest({ ...straight, 1: ['2'], 2: ['1'] })).expect(200);
    expect((await tech.get(`/api/jobs/${jobId}/figures`)).body.job.byKind).toEqual([]);
    await tech.post(`${at}/terminations`, termination('far')).expect(200);
    await tech.post(`${at}/tests`, mapTest()).expect(200);
    const { job, crew } = (await tech.get(`/api/jobs/${jobId}/figures`)).body;
    expect(job.byKind).toEqual([{ kind: 'reversed', count: 1 }]);
    expect(crew.byKind[0].count).toBe(1);
    expect([job.firstPass.count, job.firstPass.of]).toEqual([0, 1]);
    // What is judged from now on knows of it.
    const next = await jobWithLink(tech);
    const { practice } = (await tech.get(`/api/links/${next.linkId}`)).body as LinkDetail;
    expect(practice.rates['reversed-pair']).toBeGreaterThan(before);
    await tech.post(`${at}/tests`, mapTest()).expect(200);
    expect((await tech.get(`/api/jobs/${jobId}/figures`)).body.job.byKind[0].count).toBe(1);
  });

  it('tells once what several links have wrong in common', async () => {
    const { jobId, ids } = await twoLinks();
    const mixed = { ...straight, 1: ['3'], 2: ['6'], 3: ['1'], 6: ['2'] };
    for (const id of ids) await tech.post(`/api/links/${id}/tests`, mapTest(mixed)).expect(200);
    const patterns = (await tech.get(`/api/jobs/${jobId}/patterns`)).body as {
      kind: string;
      links: string[];
    }[];
    expect(patterns.map((p) => [p.kind, p.links.length])).toEqual([['same-slip', 2]]);
  });

  it('records that the outlet was made sure of, and no longer takes it for the wrong one', async () => {
    const { linkId } = await jobWithLink(tech);
    const at = `/api/links/${linkId}`;
    const nothing = Object.fromEntries(Object.keys(straight).map((c) => [c, []]));
    const first = await tech.post(`${at}/tests`, mapTest(nothing)).expect(200);
    expect(first.body.diagnosis.explanations[0].faults[0].kind).toBe('not-connected');
    await tech.post(`${at}/cable-work`, { id: randomUUID(), kind: 'outlet' }).expect(200);
    const again = await tech.post(`${at}/tests`, mapTest(nothing)).expect(200);
    expect(again.body.diagnosis.explanations[0].faults[0].kind).toBe('open');
    expect(again.body.diagnosis.explanations[0].faults[0].end).toBe('cable');
  });
});

describe('practice', () => {
  let app: TestApp;
  let standIn: Server;
  let tech: Caller;
  beforeAll(async () => {
    const { client, server } = await demoStandIn();
    standIn = server;
    app = await startApp({ instruments: client });
    await inCrew(FIRST_CREW, () => loadDemo(app.database.db, client, DEMO));
    tech = await enter(app, 'technician', 'Learner');
  });
  afterAll(async () => {
    await app.close();
    standIn.close();
  });
  const plan = { cable: 'cat6-u', scheme: 'T568B', lengthM: 30, near: 'jack-punched', far: 'plug-closed' };

  it('breaks a link of its own, reads it and lays it open, the same for the same seed', async () => {
    const begin = async (seed: number) =>
      (await tech.post('/api/practice', { count: 2, seed, plan }).expect(200)).body.practiceId as string;
    const [a, b] = [await begin(5), await begin(5)];
    const truth = async (id: string) => (await tech.get(`/api/practice/${id}`).expect(200)).body.faults;
    expect(await truth(a)).toEqual(await truth(b));
    expect((await truth(a)).length).toBeGreaterThan(0);
    const reading = await tech
      .post(`/api/practice/${a}/readings`, { instrument: 'coded-mapper-crosstalk' })
      .expect(200);
    expect(Object.keys(reading.body.reading.arrivals).length).toBe(8);
  });

  it('has the tester prove itself on a cord known to be good', async () => {
    const { body } = await tech.post('/api/instruments/cord', { instrument: 'coded-mapper' }).expect(200);
    expect([body.right, body.headline]).toEqual([true, 'Map right']);
  });

  it('refuses what is no practice link, and a plan that cannot be', async () => {
    await tech.get(`/api/practice/${randomUUID()}`).expect(400);
    await tech.get('/api/practice/00000000-0000-4000-9000-00000000beef').expect(422);
    const refused = await tech.post('/api/practice', { count: 4, seed: 1, plan }).expect(400);
    expect(refused.body.errors[0].path).toBe('count');
  });

  it('takes touches that were asked for, one by one, from the stand-in', async () => {
    const [job] = (await tech.get('/api/jobs')).body as { id: string }[];
    const links = (await tech.get(`/api/jobs/${job?.id}/links`)).body as { id: string; label: string }[];
    const linkId = links.find((l) => l.label === 'P1-16')?.id;
    const touch = (c: string) => ({
      from: { end: 'near', contacts: [c] },
      to: { end: 'far', contacts: [c] },
      closed: false,
    });
    const asked = { instrument: 'beeper', touches: [touch('3'), touch('4')] };
    const { body } = await tech
      .post('/api/instruments/readings', { linkId, instrument: 'beeper', plan: asked })
      .expect(200);
    expect(body.reading.touches.map((t: { closed: boolean }) => t.closed)).toEqual([true, false]);
  });
});
