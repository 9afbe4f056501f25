import { randomUUID } from 'node:crypto';
import type { Server } from 'node:net';
import type { LinkDetail, TakenReading } from '@near-spoke/contracts';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { loadDemo } from '../src/demo/load.js';
import {
  DEMO,
  demoStandIn,
  enter,
  jobWithLink,
  mapTest,
  startApp,
  straight,
  type Caller,
  type TestApp,
} from './harness.js';

describe('where a reading came from', () => {
  let it1: TestApp;
  let standIn: Server;
  let lead: Caller;
  let linkId: string;

  beforeAll(async () => {
    const { client, server } = await demoStandIn();
    standIn = server;
    it1 = await startApp({ instruments: client });
    await inCrew(FIRST_CREW, () => loadDemo(it1.database.db, client, DEMO));
    lead = await enter(it1, 'lead', 'Visitor');
    const [job] = (await lead.get('/api/jobs')).body as { id: string }[];
    const links = (await lead.get(`/api/jobs/${job?.id}/links`)).body as { id: string; label: string }[];
    linkId = links.find((l) => l.label === 'P1-01')?.id ?? '';
  });
  afterAll(async () => {
    await it1.close();
    standIn.close();
  });

  const detail = async (): Promise<LinkDetail> => (await lead.get(`/api/links/${linkId}`)).body as LinkDetail;
  const taken = (change: object = {}) => ({
    id: randomUUID(),
    instrument: 'coded-mapper',
    end: 'near',
    unplugged: true,
    ...change,
  });

  it('is said by the server: taking and keeping is one request, and marked simulated', async () => {
    const test = taken();
    const kept = (await lead.post(`/api/links/${linkId}/tests/taken`, test).expect(200)).body as LinkDetail;
    const last = kept.tests.at(-1);
    expect([last?.id, last?.source, last?.simulated]).toEqual([test.id, 'instrument', true]);
    expect(kept.diagnosis?.simulated).toBeTrue();
    expect(kept.link.standing).toContain('simulated');
    // The same press sent again is the same record.
    await lead.post(`/api/links/${linkId}/tests/taken`, test).expect(200);
    expect((await detail()).tests.length).toBe(kept.tests.length);
  });

  it('is keyed in, unless the server took it: a claim alone is refused', async () => {
    await lead.post(`/api/links/${linkId}/tests`, { ...mapTest(), source: 'instrument' }).expect(400);
    await lead.post(`/api/links/${linkId}/tests`, mapTest(straight, { takenId: randomUUID() })).expect(409);
    const body = (
      await lead.post('/api/instruments/readings', { linkId, instrument: 'coded-mapper' }).expect(200)
    ).body as TakenReading;
    const test = mapTest(straight, { takenId: body.takenId, reading: body.reading });
    const altered = { ...test, reading: { ...body.reading, arrivals: { ...straight, 1: ['2'], 2: ['1'] } } };
    await lead.post(`/api/links/${linkId}/tests`, altered).expect(409);
    const kept = (await lead.post(`/api/links/${linkId}/tests`, test).expect(200)).body as LinkDetail;
    expect(kept.tests.at(-1)?.source).toBe('instrument');
  });

  it('goes with it onto sheet, table and file, and into the log', async () => {
    const { link } = await detail();
    const csv = (await lead.get(`/api/jobs/${link.jobId}/handover.csv`)).text;
    expect(csv).toMatch(/P1-01.*simulated/);
    const file = JSON.stringify((await lead.get(`/api/jobs/${link.jobId}/handover.json`)).body);
    expect(file).toContain('"simulated":true');
    const log = (await lead.get(`/api/jobs/${link.jobId}/activity`)).body as {
      label: string;
      what: string;
    }[];
    expect(log.some(({ label, what }) => label === 'P1-01' && what.includes('simulated'))).toBeTrue();
  });

  it('cannot be a simulated instrument where those are switched off', async () => {
    const { client, server } = await demoStandIn();
    const bare = await startApp({ instruments: client, simulation: false });
    const person = await enter(bare, 'lead');
    const here = await jobWithLink(person);
    expect((await person.get('/api/instruments')).body).toEqual([]);
    const refused = await person.post(`/api/links/${here.linkId}/tests/taken`, taken());
    expect(refused.status).toBe(422);
    const none = (await person.get(`/api/links/${here.linkId}`)).body as LinkDetail;
    expect(none.tests).toEqual([]);
    await bare.close();
    server.close();
  });

  it('a remote that no link is called by is refused in words, and nothing is kept', async () => {
    const before = (await detail()).tests.length;
    const test = mapTest();
    const answer = await lead.post(`/api/links/${linkId}/tests`, {
      ...test,
      reading: { ...test.reading, remote: 'P9-99' },
    });
    expect(answer.status).toBe(422);
    expect(JSON.stringify(answer.body)).toContain('No link of this job is called P9-99');
    expect((await detail()).tests.length).toBe(before);
  });

  it('a reason given with a reading is kept with it', async () => {
    const test = mapTest(straight, { misread: 'the cord was on port 6' });
    const kept = (await lead.post(`/api/links/${linkId}/tests`, test).expect(200)).body as LinkDetail;
    expect(kept.tests.at(-1)?.misread).toBe('the cord was on port 6');
  });
});
