import { randomUUID } from 'node:crypto';
import type { SearchFound } from '@near-spoke/contracts';
import {
  enter,
  mapTest,
  newJob,
  newLink,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

describe('the search', () => {
  let it1: TestApp;
  let ines: Caller;
  let tobi: Caller;
  const job = newJob({ site: 'Osk Hill', title: 'Visitor dome', hub: 'CR-7', scheme: 'T568A' });
  const other = newJob({ site: 'Salt store', title: 'Office' });
  const links = [
    newLink({ label: 'D-01', room: '3rd floor', outlet: 'desk 1' }),
    newLink({ label: 'D-02', room: '3rd floor', outlet: 'desk 2', port: '02' }),
    newLink({ label: 'D-10', room: 'Cellar', outlet: 'pump', port: '10' }),
  ];
  const far = newLink({ label: 'S-01', room: 'Loft 100%', outlet: 'fan' });
  beforeAll(async () => {
    it1 = await startApp();
    ines = await enter(it1, 'lead', 'Ines Varga');
    tobi = await enter(it1, 'technician', 'Tobi Lund');
    await ines.post('/api/jobs', job).expect(200);
    await ines.post('/api/jobs', other).expect(200);
    await ines.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    await ines.post(`/api/jobs/${other.id}/links`, { links: [far] }).expect(200);
    for (const side of ['near', 'far'] as const) {
      await tobi.post(`/api/links/${links[0]?.id}/terminations`, termination(side)).expect(200);
      await ines
        .post(`/api/links/${links[1]?.id}/terminations`, termination(side, { reason: 'blunt blade' }))
        .expect(200);
    }
    await ines.post(`/api/links/${links[0]?.id}/tests`, mapTest()).expect(200);
    await ines.post(`/api/links/${links[1]?.id}/tests`, mapTest({ ...straight, 1: [] })).expect(200);
  });
  afterAll(() => it1.close());

  const find = async (text: string): Promise<SearchFound> =>
    (await ines.get(`/api/search/${encodeURIComponent(text)}`).expect(200)).body as SearchFound;
  const labels = async (text: string): Promise<string[]> =>
    (await find(text)).links.map(({ label }) => label).sort();

  it('finds links of all jobs by label, place, hub, site, fault in words, note and cable', async () => {
    expect(await labels('D-01')).toEqual(['D-01']);
    expect(await labels('3rd floor')).toEqual(['D-01', 'D-02']);
    expect(await labels('cr-7 pump')).toEqual(['D-10']);
    expect(await labels('salt')).toEqual(['S-01']);
    expect(await labels('blunt')).toEqual(['D-02']);
    expect(await labels('1 open')).toEqual(['D-02']);
    expect(await labels('nothing like it')).toEqual([]);
  });

  it('finds them by who did what, stage, scheme, instrument, fault and day', async () => {
    expect(await labels('who made 3rd floor')).toEqual(['D-01', 'D-02']);
    expect(await labels('made by Tobi dome')).toEqual(['D-01']);
    expect(await labels('tested by Ines')).toEqual(['D-01', 'D-02']);
    expect(await labels('tested by Tobi')).toEqual([]);
    expect(await labels('all T568A ends')).toEqual(['D-01', 'D-02', 'D-10']);
    expect(await labels('proved with a mapper only')).toEqual(['D-01']);
    expect(await labels('wrong')).toEqual(['D-02']);
    expect(await labels('open')).toEqual(['D-02']);
    expect(await labels('planned dome')).toEqual(['D-10']);
    expect(await labels('this year desk')).toEqual(['D-01', 'D-02']);
    expect(await labels('last year desk')).toEqual([]);
    expect((await find('made by Tobi today')).understood.map(({ as }) => as)[0]).toBe('made by Tobi Lund');
  });

  it('follows every change: of a plan, a job, a record, a correction by work', async () => {
    const id = links[2]?.id;
    await ines.patch(`/api/links/${id}`, { version: 1, outlet: 'heat pump' }).expect(200);
    expect(await labels('heat')).toEqual(['D-10']);
    const moved = newJob({ site: 'Water mill', title: 'Loft' });
    await ines.post('/api/jobs', moved).expect(200);
    await ines.post(`/api/jobs/${moved.id}/links`, { links: [newLink({ label: 'M-01' })] }).expect(200);
    expect([await labels('water'), await labels('granary')]).toEqual([['M-01'], []]);
    await ines.patch(`/api/jobs/${moved.id}`, { version: 1, site: 'Granary' }).expect(200);
    expect([await labels('water'), await labels('granary')]).toEqual([[], ['M-01']]);
    await tobi.post(`/api/links/${links[0]?.id}/handover`, { id: randomUUID() }).expect(200);
    expect(await labels('handed over')).toEqual(['D-01']);
    await tobi
      .post(`/api/links/${links[0]?.id}/reopenings`, { id: randomUUID(), reason: 'wrong faceplate' })
      .expect(200);
    expect([await labels('handed over'), await labels('faceplate')]).toEqual([[], ['D-01']]);
  });

  it('takes signs of patterns as they stand', async () => {
    expect(await labels('100%')).toEqual(['S-01']);
    expect(await labels('%')).toEqual(['S-01']);
    expect(await labels('_')).toEqual([]);
    expect(await labels("' OR 1=1 --")).toEqual([]);
    await ines.get('/api/search/%20').expect(400);
    await ines.get(`/api/search/${'x'.repeat(201)}`).expect(400);
  });

  it('finds jobs, adapters and reels by name, and names the label first that was typed', async () => {
    await ines
      .post('/api/reels', {
        id: randomUUID(),
        name: 'Drum blue',
        kind: 'drum',
        cableTypeId: 'rg6',
        lot: 'L9',
        labelledM: 100,
      })
      .expect(200);
    const others = async (text: string) =>
      (await find(text)).others.map(({ kind, name }) => `${kind} ${name}`);
    expect(await others('dome')).toEqual(['job Visitor dome']);
    expect(await others('drum')).toEqual(['reel Drum blue']);
    const named = [
      newLink({ label: 'Q-5', port: '76', outlet: 'x' }),
      newLink({ label: 'Q-4', port: '77', outlet: 'Q-5 spare' }),
    ];
    const apart = newJob({ site: 'Quarry' });
    await ines.post('/api/jobs', apart).expect(200);
    await ines.post(`/api/jobs/${apart.id}/links`, { links: named }).expect(200);
    await tobi.post(`/api/links/${named[1]?.id}/terminations`, termination('near')).expect(200);
    expect((await find('q-5')).links.map(({ label }) => label)).toEqual(['Q-5', 'Q-4']);
  });

  it('is not for strangers', async () => {
    const { status } = await it1
      .query('SELECT 1')
      .then(async () => (await import('supertest')).default(it1.app).get('/api/search/desk'));
    expect(status).toBe(401);
  });
});
