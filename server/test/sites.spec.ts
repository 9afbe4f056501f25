import { randomUUID } from 'node:crypto';
import type { SiteActivity, SiteAsBuilt, SiteSummary } from '@near-spoke/contracts';
import {
  enter,
  mapTest,
  newJob,
  newLink,
  startApp,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

describe('A building as it is built', () => {
  let app: TestApp;
  let lead: Caller;
  const [first, second, other] = [
    newJob({ site: 'Salt store', title: 'Offices' }),
    newJob({ site: ' salt  Store', title: 'Second floor', hub: 'CR-2' }),
    newJob({ site: 'Boat house', title: 'Slip' }),
  ];
  const links = [
    newLink({ label: 'S-01', room: 'Annex / Ground', outlet: 'desk 1' }),
    newLink({ label: 'S-02', room: 'Annex / Ground', outlet: 'desk 2', port: '2' }),
  ];
  const above = newLink({ label: 'S-01', room: 'Annex / 2nd', outlet: 'desk 1' });
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead', 'Ines');
    for (const job of [first, second, other]) await lead.post('/api/jobs', job).expect(200);
    await lead.post(`/api/jobs/${first.id}/links`, { links }).expect(200);
    await lead.post(`/api/jobs/${second.id}/links`, { links: [above] }).expect(200);
    const [done] = links;
    for (const side of ['near', 'far'] as const)
      await lead.post(`/api/links/${done?.id}/terminations`, termination(side)).expect(200);
    await lead.post(`/api/links/${done?.id}/tests`, mapTest()).expect(200);
    await lead.post(`/api/links/${done?.id}/handover`, { id: randomUUID() }).expect(200);
    await lead.post(`/api/links/${above.id}/notes`, { id: randomUUID(), words: 'in the riser' }).expect(200);
  });
  afterAll(() => app.close());

  it('is one site over jobs that name it alike but for capitals and blanks', async () => {
    const sites = (await lead.get('/api/sites').expect(200)).body as SiteSummary[];
    expect(sites.map(({ jobs, links: count, handedOver }) => [jobs, count, handedOver])).toEqual([
      [1, 0, 0],
      [2, 3, 1],
    ]);
    expect(sites[0]?.at).toBeNull();
    expect(Date.parse(sites[1]?.at ?? '')).toBeGreaterThan(0);
  });

  it('tells the links of all its jobs with their ends, ways, notes and handovers', async () => {
    const built = (await lead.get(`/api/sites/${encodeURIComponent('SALT STORE')}`).expect(200))
      .body as SiteAsBuilt;
    expect(built.jobs.map(({ title }) => title)).toEqual(['Offices', 'Second floor']);
    expect(built.links.map(({ label, far, notes, stage }) => [label, far.room, notes, stage])).toEqual([
      ['S-01', 'Annex / Ground', 0, 'handed-over'],
      ['S-02', 'Annex / Ground', 0, 'planned'],
      ['S-01', 'Annex / 2nd', 1, 'planned'],
    ]);
    expect(built.links.map(({ handedOverAt }) => handedOverAt !== null)).toEqual([true, false, false]);
  });

  it('tells what happened there over all jobs, newest first, and nothing of elsewhere', async () => {
    const log = (await lead.get('/api/sites/salt%20store/activity').expect(200)).body as SiteActivity[];
    expect(log[0]).toEqual(jasmine.objectContaining({ job: 'Second floor', label: 'S-01' }));
    expect(log[0]?.what).toContain('in the riser');
    expect(new Set(log.map(({ job }) => job))).toEqual(new Set(['Offices', 'Second floor']));
    const times = log.map(({ at }) => at);
    expect(times).toEqual([...times].sort().reverse());
  });

  it('is not there where no job names it', async () => {
    for (const path of ['/api/sites/nowhere', '/api/sites/nowhere/activity'])
      expect((await lead.get(path)).status)
        .withContext(path)
        .toBe(404);
  });
});
