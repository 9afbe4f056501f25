import { randomUUID } from 'node:crypto';
import type { Link } from '@near-spoke/contracts';
import { enter, newJob, newLink, startApp, type Caller, type TestApp } from './harness.js';

const roof = { name: 'roof', temperatureC: 45, space: 'outdoor', closed: false, ductMm: null, mainsMm: null };
const fed = { power: { type: 'type-2', deviceW: 25.5 }, data: '1000base-t' };

describe('The plan of a job', () => {
  let app: TestApp;
  let lead: Caller;
  let jobId: string;
  const planned = [
    newLink({ label: 'M-01', carries: fed }),
    newLink({ label: 'M-02' }),
    newLink({ label: 'M-03' }),
  ];
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
    const job = newJob();
    jobId = job.id;
    await lead.post('/api/jobs', job).expect(200);
    await lead.post(`/api/jobs/${jobId}/links`, { links: planned }).expect(200);
  });
  afterAll(() => app.close());

  const links = async (): Promise<Link[]> => (await lead.get(`/api/jobs/${jobId}/links`)).body as Link[];
  const log = async (): Promise<string[]> =>
    ((await lead.get(`/api/jobs/${jobId}/activity`)).body as { what: string }[]).map(({ what }) => what);

  it('keeps what a link carries, from the first and by change, and says in the log from what to what', async () => {
    const [first] = await links();
    expect(first?.carries).toEqual(fed as Link['carries']);
    const change = { version: first?.version, lengthM: 33, outlet: 'bridge', carries: { data: '10gbase-t' } };
    const changed = (await lead.patch(`/api/links/${first?.id}`, change).expect(200)).body as Link;
    expect(changed.carries).toEqual({ data: '10gbase-t' });
    expect((await log())[0]).toBe(
      'changed outlet from desk 1 to bridge; length in metres from 31.4 to 33; what it carries',
    );
  });

  it('keeps what its stretches are like, by a lead, and names in the log which', async () => {
    const job = (await lead.get('/api/jobs')).body.find((one: { id: string }) => one.id === jobId);
    const change = { version: job.version, stretches: [roof] };
    const technician = await enter(app, 'technician');
    await technician.patch(`/api/jobs/${jobId}`, change).expect(403);
    expect((await lead.patch(`/api/jobs/${jobId}`, change).expect(200)).body.stretches).toEqual([roof]);
    expect((await log())[0]).toBe('changed the job’s stretches (roof)');
    const twice = await lead
      .patch(`/api/jobs/${jobId}`, { version: job.version + 1, stretches: [roof, roof] })
      .expect(400);
    expect(twice.body.errors[0].path).toBe('stretches[1].name');
  });

  it('changes several links at once, all or none', async () => {
    const before = await links();
    const [, second, third] = before;
    const change = (link: Link | undefined, more: object) => ({
      id: link?.id,
      version: link?.version,
      ...more,
    });
    const path = `/api/jobs/${jobId}/links`;
    const stale = {
      changes: [change(second, { carries: fed }), { ...change(third, { carries: fed }), version: 99 }],
    };
    await lead.patch(path, stale).expect(409);
    const foreign = {
      changes: [change(second, { carries: fed }), { id: randomUUID(), version: 1, lengthM: 3 }],
    };
    expect((await lead.patch(path, foreign).expect(404)).body.errors[0].path).toBe('changes[1].id');
    const unknown = { changes: [change(second, {}), change(third, { cableTypeId: 'string' })] };
    expect((await lead.patch(path, unknown).expect(422)).body.errors[0].path).toBe('changes[1].cableTypeId');
    expect(await links()).toEqual(before);
    const both = {
      changes: [change(third, { carries: fed }), change(second, { carries: fed, lengthM: 40 })],
    };
    const after = (await lead.patch(path, both).expect(200)).body as Link[];
    expect(after.map(({ label, lengthM, carries }) => [label, lengthM, carries.power?.type])).toEqual([
      ['M-02', 40, 'type-2'],
      ['M-03', 31.4, 'type-2'],
    ]);
  });

  it('refuses what makes no sense, and says where', async () => {
    const [first] = await links();
    const wrong: [object, string][] = [
      [{ power: { type: 'type-9', deviceW: 5 } }, 'carries.power.type'],
      [{ power: { type: 'type-1', deviceW: 0 } }, 'carries.power.deviceW'],
      [{ load: { sourceV: 12, leastV: 14, loadW: 5, wires: 1 } }, 'carries.load.leastV'],
      [{ load: { sourceV: 12, leastV: 10, wires: 1 } }, 'carries.load.loadW'],
      [{ colour: 'red' }, 'carries'],
    ];
    for (const [carries, path] of wrong) {
      const { body } = await lead
        .patch(`/api/links/${first?.id}`, { version: first?.version, carries })
        .expect(400);
      expect(body.errors[0].path).withContext(path).toBe(path);
    }
  });
});
