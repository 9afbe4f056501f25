import { readFileSync } from 'node:fs';
import { historyFile, type AdapterRecord, type AdapterSummary } from '@near-spoke/contracts';
import { addPerson } from '../src/crew/people.js';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { demoAdapters, keepDemoAdapters } from '../src/demo/adapters.js';
import { DEMO, enter, startApp, type Caller, type TestApp } from './harness.js';

const read = (name: string): unknown => JSON.parse(readFileSync(`${DEMO}/${name}`, 'utf8'));

describe('the demo’s bench', () => {
  let app: TestApp;
  let visitor: Caller;
  beforeAll(async () => {
    app = await startApp();
    const { crew } = historyFile.parse(read('history.json'));
    await inCrew(FIRST_CREW, () =>
      app.database.db.transaction(async (tx) => {
        for (const { id, name, role } of crew)
          await addPerson(tx, { id, name, role, passphraseHash: 'none' });
        await keepDemoAdapters(tx, demoAdapters.parse(read('adapters.json')), read);
      }),
    );
    visitor = await enter(app, 'viewer', 'Visitor');
  });
  afterAll(() => app.close());

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
