import { randomUUID } from 'node:crypto';
import type { ReelRecord, VelocityRecord } from '@near-spoke/contracts';
import { enter, jobWithLink, startApp, type Caller, type TestApp } from './harness.js';

const newReel = (change: object = {}) => ({
  id: randomUUID(),
  name: `Drum ${randomUUID().slice(0, 8)}`,
  kind: 'drum',
  cableTypeId: 'rg6',
  lot: 'L7',
  labelledM: 250,
  ...change,
});
const drawn = (lengthM: number, change: object = {}) => ({
  id: randomUUID(),
  what: 'drawn',
  lengthM,
  ...change,
});
const measured = (lengthM: number, change: object = {}) => ({
  id: randomUUID(),
  what: 'measured',
  lengthM,
  u95M: 0.4,
  velocityFactor: 0.831,
  ...change,
});
const velocity = (change: object = {}) => ({
  id: randomUUID(),
  cableTypeId: 'rg6',
  lot: 'L7',
  velocityFactor: 0.831,
  u95: 0.003,
  pieces: [{ name: 'ten.csv', lengthM: 10, delayNs: 80.3 }],
  ...change,
});

describe('Reels', () => {
  let app: TestApp;
  let technician: Caller;
  let lead: Caller;
  let viewer: Caller;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
    technician = await enter(app, 'technician');
    viewer = await enter(app, 'viewer');
  });
  afterAll(() => app.close());

  const enterReel = async (change: object = {}): Promise<ReturnType<typeof newReel>> => {
    const given = newReel(change);
    await technician.post('/api/reels', given).expect(200);
    return given;
  };
  const ledgerOf = async (id: string): Promise<ReelRecord['entries']> => {
    const { body } = await viewer.get('/api/reels').expect(200);
    return (body as ReelRecord[]).find((reel) => reel.id === id)?.entries ?? [];
  };

  it('keep what was labelled, drawn and measured in order, with who and for which link', async () => {
    const { linkId } = await jobWithLink(lead, {
      cableTypeId: 'rg6',
      nearConnectorId: 'coax-f',
      farConnectorId: 'coax-f',
    });
    const { id } = await enterReel();
    await technician.post(`/api/reels/${id}/entries`, drawn(31.4, { linkId })).expect(200);
    await lead.post(`/api/reels/${id}/entries`, measured(218.1)).expect(200);
    const entries = await ledgerOf(id);
    expect(entries.map(({ what, lengthM, by }) => [what, lengthM, by])).toEqual([
      ['labelled', 250, 'technician'],
      ['drawn', 31.4, 'technician'],
      ['measured', 218.1, 'lead'],
    ]);
    expect(entries[1]?.linkLabel).toBe('L-01');
    expect(entries[2]?.u95M).toBe(0.4);
  });

  describe('pulled from', () => {
    const coax = { cableTypeId: 'rg6', nearConnectorId: 'coax-f', farConnectorId: 'coax-f' };
    const aLink = async (): Promise<string> => (await jobWithLink(lead, coax)).linkId;
    const pull = (reels: object[], pieces: [reelId: string, linkId: string, lengthM: number][]) => ({
      reels,
      pieces: pieces.map(([reelId, linkId, lengthM]) => ({ id: randomUUID(), reelId, linkId, lengthM })),
    });

    it('by several pieces at once, with a box that was opened for them, once however often that is told', async () => {
      const there = await enterReel();
      const [one, two] = [await aLink(), await aLink()];
      const opened = newReel({ name: 'Box 7', kind: 'box', labelledM: 305 });
      const told = pull([opened], [[there.id, one, 31], [opened.id, two, 42]]); // prettier-ignore
      const eight = await Promise.all(
        Array.from({ length: 8 }, () => technician.post('/api/reels/pulls', told)),
      );
      expect(eight.map(({ status }) => status)).toEqual(Array.from({ length: 8 }, () => 200));
      expect((await ledgerOf(there.id)).map(({ lengthM }) => lengthM)).toEqual([250, 31]);
      const entries = await ledgerOf(opened.id);
      expect(entries.map(({ what, lengthM, linkId }) => [what, lengthM, linkId])).toEqual([
        ['labelled', 305, null],
        ['drawn', 42, two],
      ]);
    });

    it('all or not at all: a link that is drawn already is named with its drum, and nothing is opened', async () => {
      const there = await enterReel();
      const [one, two] = [await aLink(), await aLink()];
      await technician.post('/api/reels/pulls', pull([], [[there.id, one, 31]])).expect(200);
      const opened = newReel({ name: 'Box 8' });
      const again = pull([opened], [[opened.id, two, 12], [there.id, one, 31]]); // prettier-ignore
      const { body } = await technician.post('/api/reels/pulls', again).expect(409);
      expect(body.errors[0].path).toBe('pieces[1].linkId');
      expect(body.errors[0].message).toContain(`is drawn from ${there.name} already`);
      expect(await ledgerOf(opened.id)).toEqual([]);
      // Taken back by a line of nothing, its piece may come from elsewhere.
      const first = (await ledgerOf(there.id)).find(({ what }) => what === 'drawn');
      const none = drawn(0, { linkId: one, corrects: first?.id });
      await technician.post(`/api/reels/${there.id}/entries`, none).expect(200);
      await technician.post('/api/reels/pulls', again).expect(200);
      await viewer.post('/api/reels/pulls', again).expect(403);
    });

    it('by two who tell of the same pull at one time once', async () => {
      const there = await enterReel();
      const link = await aLink();
      const answers = await Promise.all(
        [technician, lead].map((who) => who.post('/api/reels/pulls', pull([], [[there.id, link, 20]]))),
      );
      expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
      expect((await ledgerOf(there.id)).filter(({ what }) => what === 'drawn').length).toBe(1);
    });
  });

  it('are entered once, however often that is sent', async () => {
    const given = await enterReel();
    await technician.post('/api/reels', given).expect(200);
    const draw = drawn(5);
    await technician.post(`/api/reels/${given.id}/entries`, draw).expect(200);
    await technician.post(`/api/reels/${given.id}/entries`, draw).expect(200);
    expect((await ledgerOf(given.id)).length).toBe(2);
    await technician.post('/api/reels', { ...given, name: 'Another' }).expect(409);
  });

  it('have each entry corrected at most once, by one of its kind, and nothing is taken away', async () => {
    const { id } = await enterReel();
    const wrong = drawn(50);
    await technician.post(`/api/reels/${id}/entries`, wrong).expect(200);
    const right = drawn(5, { corrects: wrong.id });
    await technician.post(`/api/reels/${id}/entries`, right).expect(200);
    const again = await technician.post(`/api/reels/${id}/entries`, drawn(6, { corrects: wrong.id }));
    expect([again.status, again.body.detail]).toEqual([409, jasmine.stringMatching(/corrected already/)]);
    await technician.post(`/api/reels/${id}/entries`, measured(6, { corrects: right.id })).expect(422);
    const { id: other } = await enterReel();
    await technician.post(`/api/reels/${other}/entries`, drawn(6, { corrects: wrong.id })).expect(422);
    expect((await ledgerOf(id)).map(({ lengthM }) => lengthM)).toEqual([250, 50, 5]);
  });

  it('refuse what cannot be', async () => {
    const { id, name } = await enterReel();
    const { linkId } = await jobWithLink(lead, { cableTypeId: 'cat6-u' });
    const other = await technician.post(`/api/reels/${id}/entries`, drawn(5, { linkId }));
    expect([other.status, other.body.detail]).toEqual([
      422,
      jasmine.stringMatching(/planned in cat6-u, not rg6/),
    ]);
    await technician.post(`/api/reels/${id}/entries`, drawn(-1)).expect(400);
    await technician.post(`/api/reels/${id}/entries`, measured(5, { u95M: 0 })).expect(400);
    await technician.post(`/api/reels/${randomUUID()}/entries`, drawn(5)).expect(404);
    await technician.post('/api/reels', newReel({ cableTypeId: 'rg-none' })).expect(422);
    await technician.post('/api/reels', newReel({ name: name.toUpperCase() })).expect(409);
    await viewer.post('/api/reels', newReel()).expect(403);
    expect((await ledgerOf(id)).length).toBe(1);
  });

  it('keep velocities with the cable, the lot and the reel they were measured on, newest first', async () => {
    const { id: reelId } = await enterReel();
    const [first, second] = [velocity(), velocity({ reelId, velocityFactor: 0.829 })];
    await technician.post('/api/velocities', first).expect(200);
    const { body } = await technician.post('/api/velocities', second).expect(200);
    expect((body as VelocityRecord[])[0]).toEqual(
      jasmine.objectContaining({ id: second.id, reelId, velocityFactor: 0.829, by: 'technician', lot: 'L7' }),
    );
    expect((body as VelocityRecord[])[0]?.loss).toBeNull();
    const lossy = velocity({ loss: [{ mhz: 60, dbPer100m: 5.2 }] });
    const kept = (await technician.post('/api/velocities', lossy).expect(200)).body as VelocityRecord[];
    expect(kept[0]?.loss).toEqual([{ mhz: 60, dbPer100m: 5.2 }]);
    await technician.post('/api/velocities', velocity({ loss: [{ mhz: 0, dbPer100m: 5 }] })).expect(400);
    await technician.post('/api/velocities', second).expect(200);
    const { rows } = await app.query('SELECT count(*)::int AS n FROM velocity_figure WHERE id = $1', [
      second.id,
    ]);
    expect(rows[0].n).toBe(1);
  });

  it('refuse a velocity that no cable has, one of nothing, and one of another cable’s reel', async () => {
    const { id: reelId } = await enterReel();
    await technician.post('/api/velocities', velocity({ velocityFactor: 1.2 })).expect(400);
    await technician.post('/api/velocities', velocity({ pieces: [] })).expect(400);
    const other = await technician.post('/api/velocities', velocity({ reelId, cableTypeId: 'rg213' }));
    expect([other.status, other.body.detail]).toEqual([422, jasmine.stringMatching(/holds rg6, not rg213/)]);
  });
});
