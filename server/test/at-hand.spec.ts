import type { InstrumentsAtHand, LinkDetail } from '@near-spoke/contracts';
import {
  enter,
  jobWithLink,
  mapTest,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

describe('Instruments at hand', () => {
  let app: TestApp;
  let lead: Caller;
  let linkId: string;
  const path = '/api/instruments-at-hand';
  const read = async (caller: Caller = lead): Promise<InstrumentsAtHand> =>
    (await caller.get(path).expect(200)).body as InstrumentsAtHand;
  const detail = async (): Promise<LinkDetail> =>
    (await lead.get(`/api/links/${linkId}`).expect(200)).body as LinkDetail;
  const looks = ({ diagnosis }: LinkDetail): string[] =>
    [diagnosis?.nextLook, ...(diagnosis?.otherLooks ?? [])].flatMap((look) =>
      look ? [look.instrument] : [],
    );

  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead', 'Ines');
    ({ linkId } = await jobWithLink(lead));
    for (const side of ['near', 'far'] as const)
      await lead.post(`/api/links/${linkId}/terminations`, termination(side)).expect(200);
    const joined = {
      instrument: 'coded-mapper' as const,
      arrivals: { ...straight, 1: ['1', '2'], 2: ['1', '2'] },
      joins: [['1', '2']],
      splits: null,
    };
    await lead.post(`/api/links/${linkId}/tests`, { ...mapTest(), reading: joined }).expect(200);
  });
  afterAll(() => app.close());

  it('are any until somebody says, then only those that a look is asked for with', async () => {
    const before = await read();
    expect(looks(await detail())).toContain('pair-reflectometer');
    const said = { owned: ['coded-mapper', 'ohmmeter'], version: before.version };
    const kept = (await lead.patch(path, said).expect(200)).body as InstrumentsAtHand;
    expect(kept).toEqual({ owned: ['coded-mapper', 'ohmmeter'], version: before.version + 1 });
    const after = await detail();
    expect(looks(after)).toContain('ohmmeter');
    expect(looks(after)).not.toContain('pair-reflectometer');
    expect(after.practice.owned).toEqual(['coded-mapper', 'ohmmeter']);
    await lead.patch(path, { owned: null, version: kept.version }).expect(200);
    expect(looks(await detail())).toContain('pair-reflectometer');
  });

  it('are said by a lead, read by everybody', async () => {
    const technician = await enter(app, 'technician', 'Tobi');
    const { version } = await read(technician);
    await technician.patch(path, { owned: [], version }).expect(403);
    expect((await read()).version).toBe(version);
  });

  it('are not lost between two leads who say at once', async () => {
    const { version } = await read();
    const both = await Promise.all(
      [['beeper'], ['ohmmeter']].map((owned) => lead.patch(path, { owned, version })),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const won = both.find(({ status }) => status === 200)?.body as InstrumentsAtHand;
    expect(await read()).toEqual(won);
    await lead.patch(path, { owned: null, version: won.version }).expect(200);
  });

  it('are of our list, each once', async () => {
    const { version } = await read();
    await lead.patch(path, { owned: ['eye'], version }).expect(400);
    await lead.patch(path, { owned: ['beeper', 'beeper'], version }).expect(400);
    expect((await read()).version).toBe(version);
  });
});
