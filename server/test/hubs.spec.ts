import { randomUUID } from 'node:crypto';
import type { Link } from '@near-spoke/contracts';
import { enter, newJob, newLink, startApp, type Caller, type TestApp } from './harness.js';

describe('A job of several hubs', () => {
  let app: TestApp;
  let lead: Caller;
  let jobId: string;
  const job = newJob({ hub: 'CR-1' });
  const at = (label: string, change: object) => newLink({ label, ...change });
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
    jobId = job.id;
    await lead.post('/api/jobs', job).expect(200);
    await add(
      at('A-01', { panel: 'P1', port: '1' }),
      at('B-01', { hub: 'CR-2', panel: 'P1', port: '1' }),
      at('T-01', { panel: 'P1', port: '2', room: 'CR-2', outlet: 'P1/24' }),
      at('A-03', { hub: 'CR-1', panel: 'P1', port: '3' }),
    ).expect(200);
  });
  afterAll(() => app.close());

  const add = (...links: object[]) => lead.post(`/api/jobs/${jobId}/links`, { links });
  const links = async (): Promise<Map<string, Link>> =>
    new Map(((await lead.get(`/api/jobs/${jobId}/links`)).body as Link[]).map((link) => [link.label, link]));
  const change = async (label: string, to: object) => {
    const link = (await links()).get(label);
    return lead.patch(`/api/links/${link?.id}`, { version: link?.version, ...to });
  };

  it('has one port of one name in each, and a link from hub to hub takes one at either end', async () => {
    const kept = await links();
    // The job's own hub, said, is its own all the same.
    expect(['A-01', 'B-01', 'T-01', 'A-03'].map((label) => kept.get(label)?.near.otherHub)).toEqual([
      undefined,
      true,
      undefined,
      undefined,
    ]);
    const taken = await add(at('B-24', { hub: 'CR-2', panel: 'P1', port: '24' })).expect(409);
    expect(taken.body.detail).toContain('Port 24 of P1 is T-01’s already');
    const there = await add(at('T-02', { panel: 'P1', port: '9', room: 'CR-2', outlet: 'P1 port 1' })).expect(
      409,
    );
    expect(there.body.errors[0].path).toBe('links[0].outlet');
    await add(at('T-03', { panel: 'P1', port: '9', room: 'CR-2', outlet: 'the shelf' })).expect(200);
  });

  it('lets a link move from one to the other, where its port is free, and says so', async () => {
    expect((await change('A-01', { hub: 'CR-2' })).status).toBe(409);
    const moved = await change('A-01', { hub: 'CR-2', port: '11' });
    expect((moved.body as Link).near).toEqual(
      jasmine.objectContaining({ hub: 'CR-2', port: '11', otherHub: true }),
    );
    const { body } = await lead.get(`/api/jobs/${jobId}/activity`);
    expect(body[0].what).toMatch(/^changed port from 1 to 11; hub from \S+ to CR-2$/);
    expect((await change('A-01', { hub: '', port: '1' })).body.near.otherHub).toBeUndefined();
  });

  it('follows the job’s own hub where that is called otherwise, and leaves the others', async () => {
    const known = (await lead.get('/api/jobs')).body.find((one: { id: string }) => one.id === jobId);
    await lead.patch(`/api/jobs/${jobId}`, { version: known.version, hub: 'Main' }).expect(200);
    const kept = await links();
    expect([kept.get('A-01')?.near.hub, kept.get('B-01')?.near.hub]).toEqual(['Main', 'CR-2']);
    const found = await lead.get(`/api/search/${encodeURIComponent('CR-2 B-01')}`).expect(200);
    expect(JSON.stringify(found.body)).toContain('B-01');
  });

  it('goes along whole into a copy', async () => {
    const copy = { id: randomUUID(), site: 'Elsewhere', title: 'Again', hub: 'Main' };
    await lead.post(`/api/jobs/${jobId}/copies`, copy).expect(200);
    const copied = (await lead.get(`/api/jobs/${copy.id}/links`)).body as Link[];
    // What begins in the one job's own hub begins in the other's.
    const others = (all: Iterable<Link>): string[] =>
      [...all].flatMap(({ label, near }) => (near.otherHub ? [`${label} ${near.hub}`] : [])).sort();
    expect(others(copied)).toEqual(others((await links()).values()));
    expect(others(copied)).toContain('B-01 CR-2');
  });
});
