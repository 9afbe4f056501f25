import type { CrewHands } from '@near-spoke/contracts';
import { USUAL_HANDS } from '@near-spoke/core';
import { enter, startApp, type Caller, type TestApp } from './harness.js';

describe('What touching costs a crew’s hands', () => {
  let app: TestApp;
  let lead: Caller;
  let technician: Caller;
  const path = '/api/hands';
  const slow = { ...USUAL_HANDS, bothS: 6, besideS: 0.9 };
  const read = async (caller: Caller): Promise<CrewHands> =>
    (await caller.get(path).expect(200)).body as CrewHands;
  beforeAll(async () => {
    app = await startApp();
    [lead, technician] = [await enter(app, 'lead'), await enter(app, 'technician')];
  });
  afterAll(() => app.close());

  // The specs share a crew and come in any order.
  beforeEach(async () => {
    const { hands, version } = await read(lead);
    if (hands !== null) await lead.patch(path, { hands: null, version }).expect(200);
  });

  it('is as usual until a lead says otherwise; everybody reads it', async () => {
    const { hands, version } = await read(technician);
    expect(hands).toBeNull();
    await technician.patch(path, { hands: slow, version }).expect(403);
    const { body } = await lead.patch(path, { hands: slow, version }).expect(200);
    expect(body).toEqual({ hands: slow, version: version + 1 });
    expect(await read(technician)).toEqual({ hands: slow, version: version + 1 });
    await lead.patch(path, { hands: null, version: version + 1 }).expect(200);
    expect((await read(technician)).hands).toBeNull();
  });

  it('holds the usual walk where it was said before walks were asked for', async () => {
    const { version } = await read(lead);
    const { walkS, ...rest } = slow;
    const { body } = await lead.patch(path, { hands: rest, version }).expect(200);
    expect((body as CrewHands).hands?.walkS).toBe(walkS);
    await lead.patch(path, { hands: { ...slow, walkS: 0 }, version: version + 1 }).expect(400);
  });

  it('is not said over what another lead said meanwhile', async () => {
    const { version } = await read(lead);
    const both = await Promise.all(
      [slow, { ...slow, clipS: 4 }].map((hands) => lead.patch(path, { hands, version })),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const refused = both.find(({ status }) => status === 409)?.body as { current: CrewHands };
    expect(refused.current).toEqual(await read(lead));
  });

  it('is time that passes, of every kind', async () => {
    const { version } = await read(lead);
    const { clipS: _, ...rest } = slow;
    for (const hands of [
      rest,
      { ...slow, oneS: 0 },
      { ...slow, oneS: -1 },
      { ...slow, turnS: 1e9 },
      { ...slow, feet: 2 },
    ])
      await lead.patch(path, { hands, version }).expect(400);
    expect((await read(lead)).version).toBe(version);
  });
});
