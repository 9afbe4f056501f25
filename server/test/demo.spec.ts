import type { Server } from 'node:net';
import request from 'supertest';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { harmless } from '../src/handover/csv.js';
import { loadDemo } from '../src/demo/load.js';
import {
  DEMO,
  demoStandIn,
  enter,
  newJob,
  newLink,
  startApp,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

describe('the demo', () => {
  let it1: TestApp;
  let standIn: Server;
  let lead: Caller;
  let jobId: string;
  beforeAll(async () => {
    const { client, server } = await demoStandIn();
    standIn = server;
    it1 = await startApp({ instruments: client });
    await inCrew(FIRST_CREW, () => loadDemo(it1.database.db, client, DEMO));
    lead = await enter(it1, 'lead', 'Visitor');
    jobId = (await lead.get('/api/jobs')).body[0].id as string;
  });
  afterAll(async () => {
    await it1.close();
    standIn.close();
  });

  const linkId = async (label: string): Promise<string> =>
    ((await lead.get(`/api/jobs/${jobId}/links`)).body as { id: string; label: string }[]).find(
      (l) => l.label === label,
    )?.id ?? '';

  it('opens with 12 handed over, 9 proved, 6 wrong, 4 at one end, 3 planned, and a second job planned', async () => {
    const [first, second] = (await lead.get('/api/jobs')).body;
    expect(first.stages).toEqual({
      'handed-over': 12,
      proved: 9,
      failed: 6,
      'both-ends': 0,
      'one-end': 4,
      planned: 3,
    });
    expect(second.stages.planned).toBe(9);
    expect([second.units, second.scheme]).toEqual(['imperial', 'T568A']);
  });

  it('tells six different failures', async () => {
    const links = (await lead.get(`/api/jobs/${jobId}/links`)).body as {
      label: string;
      stage: string;
      standing: string;
    }[];
    expect(links.filter((l) => l.stage === 'failed').map((l) => `${l.label} ${l.standing}`)).toEqual([
      'P1-05 1 and 2 exchanged',
      'P1-09 One end is T568A, the other T568B',
      'P1-13 Split pairs on 3-6 and 4-5',
      'P1-16 4 open; open at 23.0 m on 4-5',
      'P1-22 Screen open',
      'C-02 Low impedance at 27.0 m',
    ]);
  });

  it('has the lamp tester pass P1-13 before the mapper fails it', async () => {
    const { tests } = (await lead.get(`/api/links/${await linkId('P1-13')}`)).body;
    expect(tests[0].diagnosis).toEqual(jasmine.objectContaining({ result: 'pass', proves: 'loops' }));
    expect(tests[1].diagnosis.result).toBe('fail');
  });

  it('is loaded once: a second loading changes nothing', async () => {
    const before = (await it1.query('SELECT count(*)::int AS n FROM activity')).rows[0].n;
    const { client, server } = await demoStandIn();
    await inCrew(FIRST_CREW, () => loadDemo(it1.database.db, client, DEMO));
    server.close();
    expect((await it1.query('SELECT count(*)::int AS n FROM activity')).rows[0].n).toBe(before);
  });

  it('lets its three people in by one click, from this machine by its own name only', async () => {
    const { body } = await request(it1.app).get('/api/session').set('Host', '127.0.0.1');
    expect(body.demoPeople.map((p: { name: string }) => p.name)).toEqual([
      'Ines Varga',
      'Tobi Lund',
      'Marit Osei',
    ]);
    const crewId = body.demoPeople[1].id as string;
    await request(it1.app).post('/api/session/demo').set('Host', '127.0.0.1').send({ crewId }).expect(200);
    await request(it1.app)
      .post('/api/session/demo')
      .set('Host', 'spoke.example')
      .send({ crewId })
      .expect(403);
    const elsewhere = await request(it1.app).get('/api/session').set('Host', 'spoke.example');
    expect(elsewhere.body.demoPeople).toEqual([]);
  });

  it('makes a PDF, a CSV with a row per link, and a complete JSON of the job', async () => {
    const pdf = await lead
      .get(`/api/jobs/${jobId}/report/summary,links,stories,seal/report.pdf`)
      .buffer(true)
      .expect(200);
    expect(pdf.headers['content-type']).toBe('application/pdf');
    expect((pdf.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    const csv = await lead.get(`/api/jobs/${jobId}/handover.csv`).expect(200);
    expect(csv.text.trim().split('\r\n').length).toBe(35);
    expect(csv.text).toContain('"P1-05","CR-1 P1 port 05","Ticket hall, departures 1"');
    const json = JSON.parse((await lead.get(`/api/jobs/${jobId}/handover.json`).expect(200)).text) as {
      format: string;
      links: unknown[];
    };
    expect([json.format, json.links.length]).toEqual(['near-spoke/handover', 34]);
  });

  it('exports a cell that a spreadsheet would run as harmless text', async () => {
    for (const cell of ['=1+1', '+1', '-1', '@SUM(A1)', '\tx', '\rx'])
      expect(harmless(cell)).toBe(`'${cell}`);
    expect(harmless('P1-05')).toBe('P1-05');
    const job = newJob();
    await lead.post('/api/jobs', job).expect(200);
    const other = job.id;
    await lead
      .post(`/api/jobs/${other}/links`, {
        links: [newLink({ label: 'Z-1', room: '=HYPERLINK("http://x")', outlet: '"quoted"' })],
      })
      .expect(200);
    const { text } = await lead.get(`/api/jobs/${other}/handover.csv`);
    expect(text).toContain(`"'=HYPERLINK(""http://x""), ""quoted"""`);
  });
});

describe('work on a demo link', () => {
  it('mends the simulated link only when the right end is redone', async () => {
    const { client, server } = await demoStandIn();
    const it1 = await startApp({ instruments: client });
    await inCrew(FIRST_CREW, () => loadDemo(it1.database.db, client, DEMO));
    const lead = await enter(it1, 'lead', 'Visitor');
    const [job] = (await lead.get('/api/jobs')).body as { id: string }[];
    const links = (await lead.get(`/api/jobs/${job?.id}/links`)).body as { id: string; label: string }[];
    const id = links.find((l) => l.label === 'P1-09')?.id ?? '';
    const ask = { linkId: id, instrument: 'coded-mapper' };
    const arrivalOf1 = async () =>
      (await lead.post('/api/instruments/readings', ask).expect(200)).body.reading.arrivals['1'];
    expect(await arrivalOf1()).toEqual(['3']);
    await lead.post(`/api/links/${id}/terminations`, termination('near')).expect(200);
    expect(await arrivalOf1()).toEqual(['3']);
    await lead.post(`/api/links/${id}/terminations`, termination('far')).expect(200);
    expect(await arrivalOf1()).toEqual(['1']);
    await it1.close();
    server.close();
  });
});
