import { randomUUID } from 'node:crypto';
import type { GoodTrace, TraceHead } from '@near-spoke/contracts';
import {
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

describe('Reflectometer traces', () => {
  let app: TestApp;
  let technician: Caller;
  let lead: Caller;
  let viewer: Caller;
  let linkId: string;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
    technician = await enter(app, 'technician');
    viewer = await enter(app, 'viewer');
    const job = newJob();
    const link = newLink();
    await lead.post('/api/jobs', job).expect(200);
    await lead.post(`/api/jobs/${job.id}/links`, { links: [link] }).expect(200);
    linkId = link.id;
  });
  afterAll(() => app.close());

  it('are kept with their link as they were taken, newest first', async () => {
    const [first, second] = [newTrace(), newTrace({ end: 'far', name: 'other.csv' })];
    await technician.post(`/api/links/${linkId}/traces`, first).expect(200);
    await technician.post(`/api/links/${linkId}/traces`, second).expect(200);
    const { body } = await viewer.get(`/api/links/${linkId}/traces`).expect(200);
    const traces = (body as TraceHead[]).filter(({ id }) => id === first.id || id === second.id);
    expect(traces.map(({ name }) => name)).toEqual(['other.csv', 'trace.csv']);
    expect(traces[1]).toEqual(jasmine.objectContaining({ told: first.told, by: technician.name }));
    // A list of traces carries none of their samples; each has its own address.
    expect(JSON.stringify(body)).not.toContain('volts');
    const one = await viewer.get(`/api/links/${linkId}/traces/${first.id}`).expect(200);
    expect(one.body).toEqual({ ...traces[1], trace: first.trace });
    await viewer.get(`/api/links/${linkId}/traces/${randomUUID()}`).expect(404);
    await viewer.get(`/api/links/${randomUUID()}/traces/${first.id}`).expect(404);
  });

  it('are kept once, however often they are sent', async () => {
    const trace = newTrace({ name: 'twice.csv' });
    await technician.post(`/api/links/${linkId}/traces`, trace).expect(200);
    const { body } = await technician.post(`/api/links/${linkId}/traces`, trace).expect(200);
    expect((body as TraceHead[]).filter(({ name }) => name === 'twice.csv').length).toBe(1);
  });

  it('are refused where they are no traces, or nothing was unplugged, or by someone who only looks', async () => {
    const short = newTrace({ trace: { intervalS: 1e-9, startS: 0, volts: [1, 2] } });
    const refused = await technician.post(`/api/links/${linkId}/traces`, short).expect(400);
    expect(JSON.stringify(refused.body)).toContain('at least 16 samples');
    await technician.post(`/api/links/${linkId}/traces`, newTrace({ unplugged: false })).expect(400);
    await viewer.post(`/api/links/${linkId}/traces`, newTrace()).expect(403);
    await technician.post(`/api/links/${randomUUID()}/traces`, newTrace()).expect(404);
    await technician.get(`/api/links/${randomUUID()}/traces`).expect(404);
  });

  it('of other links of the cable that are in order, and were not worked on since, are what a good one looks like', async () => {
    const taken = async (change: object = {}): Promise<{ linkId: string; traceId: string }> => {
      const { linkId } = await jobWithLink(lead, change);
      await proved(linkId);
      const trace = newTrace();
      await technician.post(`/api/links/${linkId}/traces`, trace).expect(200);
      return { linkId, traceId: trace.id };
    };
    const proved = async (id: string): Promise<void> => {
      for (const side of ['near', 'far'] as const)
        await technician.post(`/api/links/${id}/terminations`, termination(side)).expect(200);
      await technician.post(`/api/links/${id}/tests`, mapTest()).expect(200);
    };
    const good = await taken({ label: 'G-01', lengthM: 27 });
    const another = await taken({ cableTypeId: 'cat5e-u' });
    const mended = await taken();
    await technician.post(`/api/links/${mended.linkId}/terminations`, termination('far')).expect(200);
    await technician.post(`/api/links/${mended.linkId}/tests`, mapTest()).expect(200);
    const failed = await taken();
    await technician
      .post(`/api/links/${failed.linkId}/tests`, mapTest({ ...straight, '1': [], '2': [] }))
      .expect(200);
    const { body } = await viewer.get(`/api/links/${linkId}/good-traces`).expect(200);
    const told = (body as GoodTrace[]).filter(({ id }) =>
      [good, another, mended, failed].some(({ traceId }) => traceId === id),
    );
    expect(told.map(({ id }) => id)).toEqual([good.traceId]);
    expect(told[0]).toEqual(jasmine.objectContaining({ linkId: good.linkId, label: 'G-01', lengthM: 27 }));
    expect(JSON.stringify(body)).not.toContain('volts');
    // A link's own trace is no other's.
    const own = await viewer.get(`/api/links/${good.linkId}/good-traces`).expect(200);
    expect((own.body as GoodTrace[]).map(({ id }) => id)).not.toContain(good.traceId);
    await viewer.get(`/api/links/${randomUUID()}/good-traces`).expect(404);
  });

  it('leave word in what the crew did', async () => {
    await technician.post(`/api/links/${linkId}/traces`, newTrace({ end: 'far' })).expect(200);
    const { rows } = await app.query('SELECT what FROM activity WHERE link_id = $1', [linkId]);
    expect(rows.map(({ what }: { what: string }) => what)).toContain(
      'kept a reflectometer trace from the far end',
    );
  });
});
