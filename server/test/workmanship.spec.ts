import { randomUUID } from 'node:crypto';
import type { CrewWorkmanship, LinkDetail } from '@near-spoke/contracts';
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

const exchanged = { ...straight, 1: ['2'], 2: ['1'] };

describe('The crew’s work', () => {
  let app: TestApp;
  let ines: Caller;
  let tobi: Caller;
  let marit: Caller;
  beforeAll(async () => {
    app = await startApp();
    ines = await enter(app, 'lead', 'Ines');
    tobi = await enter(app, 'technician', 'Tobi');
    marit = await enter(app, 'technician', 'Marit');
    const job = newJob();
    await ines.post('/api/jobs', job).expect(200);
    const links = Array.from({ length: 24 }, (_, n) =>
      newLink({ label: `W-${n + 1}`, port: String(n + 1), outlet: `desk ${n}` }),
    );
    await ines.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    for (const [n, { id }] of links.entries()) {
      // Tobi exchanges two wires at the far end of every other link; Marit mends it.
      const slips = n % 2 === 0 && n < 20;
      const record = (who: Caller, what: string, body: object) =>
        who.post(`/api/links/${id}/${what}`, body).expect(200);
      await record(marit, 'terminations', termination('near', { tool: 'press 1' }));
      await record(
        tobi,
        'terminations',
        termination('far', { tool: ' press 2 ', connectorsSpoiled: slips ? 1 : 0 }),
      );
      if (slips) {
        await record(marit, 'tests', mapTest(exchanged));
        await record(marit, 'terminations', termination('far', { tool: 'press 1' }));
      }
      await record(marit, 'tests', mapTest());
    }
  });
  afterAll(() => app.close());
  const read = async (): Promise<CrewWorkmanship> =>
    (await ines.get('/api/workmanship').expect(200)).body as CrewWorkmanship;

  it('is told by person and tool: a fault is the hand’s that made the end, not the one that mended it', async () => {
    const { groups } = await read();
    const of = (kind: string, name: string) =>
      groups.find((group) => group.kind === kind && group.name === name);
    const hand = of('person', 'Tobi');
    expect([hand?.made, hand?.right.of, hand?.spoiled]).toEqual([24, 24, 10]);
    expect(hand?.right.count).toBeLessThan(24);
    expect(of('person', 'Marit')?.right.count).toBe(of('person', 'Marit')?.right.of);
    expect(of('tool', 'press 2')?.right.count).toBe(hand?.right.count);
    expect(hand?.lostMinutes).toBeGreaterThan(0);
  });

  it('keeps the tool with the end, and a record from before tools were named as it was', async () => {
    const [{ id: linkId }] = (await app.query('SELECT id FROM link LIMIT 1')).rows as [{ id: string }];
    const { terminations } = (await ines.get(`/api/links/${linkId}`)).body as LinkDetail;
    expect(terminations.map(({ tool }) => tool)).toContain('press 2');
    const none = termination('near', { tool: '  ' });
    const { body } = await ines.post(`/api/links/${linkId}/terminations`, none).expect(200);
    const kept = (body as LinkDetail).terminations.find(({ id }) => id === none.id);
    expect(Object.keys(kept ?? {})).not.toContain('tool');
    await ines.post(`/api/links/${linkId}/terminations`, none).expect(200);
  });

  it('tells a repeat to a lead once, and again only when it has been met several times more', async () => {
    const { repeats, told } = await read();
    expect(repeats.length).toBeGreaterThan(0);
    for (const { key, count } of repeats) {
      expect(told).toContain(key);
      const after = (await ines.post('/api/workmanship/told', { key, count }).expect(200))
        .body as CrewWorkmanship;
      expect(after.told).not.toContain(key);
      expect(after.repeats.map((one) => one.key)).toContain(key);
      await app.query('UPDATE told_repeat SET count = count - 3');
      expect((await read()).told).toContain(key);
    }
  });

  it('is for leads: nobody else is shown whose hand it was', async () => {
    for (const who of [tobi, marit]) {
      expect((await who.get('/api/workmanship')).status).toBe(403);
      expect((await who.post('/api/workmanship/told', { key: randomUUID(), count: 1 })).status).toBe(403);
    }
  });
});
