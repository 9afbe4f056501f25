import type { Server } from 'node:net';
import type { AdapterRecord, AdapterSummary } from '@near-spoke/contracts';
import { loadDemo } from '../src/demo/load.js';
import { DEMO, demoStandIn, enter, startApp, type Caller, type TestApp } from './harness.js';

describe('the demo’s bench', () => {
  let app: TestApp;
  let standIn: Server;
  let visitor: Caller;
  beforeAll(async () => {
    const { client, server } = await demoStandIn();
    standIn = server;
    app = await startApp();
    await loadDemo(app.database.db, client, DEMO);
    visitor = await enter(app, 'viewer', 'Visitor');
  }, 30_000);
  afterAll(async () => {
    await app.close();
    standIn.close();
  });

  it('has four adapters with nothing against them, one of which was built three times and proved each time', async () => {
    const { body } = await visitor.get('/api/adapters').expect(200);
    const list = body as AdapterSummary[];
    expect(
      list.map(({ name, wrong, unsure, built, proved }) => [name, wrong + unsure, built, proved]),
    ).toEqual([
      ['Departure-board controller ribbon', 0, 3, 3],
      ['Dome shutter hand-box', 0, 0, 0],
      ['Gangway intercom tail', 0, 0, 0],
      ['Tide-gauge logger', 0, 1, 1],
    ]);
    const logger = list.find(({ name }) => name === 'Tide-gauge logger');
    const { body: record } = await visitor.get(`/api/adapters/${logger?.id}`).expect(200);
    expect((record as AdapterRecord).versions.map(({ version, by }) => [version, by])).toEqual([
      [2, 'Marit Osei'],
      [1, 'Marit Osei'],
    ]);
    expect((record as AdapterRecord).builds.map(({ version, verdict }) => [version, verdict])).toEqual([
      [2, 'proved'],
    ]);
  });
});
