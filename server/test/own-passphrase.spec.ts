import request from 'supertest';
import type { OwnSession } from '@near-spoke/contracts';
import { enter, PASSPHRASE, startApp, type Caller, type TestApp } from './harness.js';

const NEW = 'another four short words';

describe('one’s own passphrase and sessions', () => {
  let it1: TestApp;
  let tobi: Caller;
  beforeEach(async () => {
    it1 = await startApp();
    tobi = await enter(it1, 'technician', 'Tobi');
  });
  afterEach(() => it1.close());
  const signIn = (passphrase: string) =>
    request(it1.app).post('/api/session').send({ name: 'Tobi', passphrase });
  const cookieOf = (response: request.Response): string =>
    (response.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '';
  const stateOf = async (cookie: string): Promise<string> =>
    ((await request(it1.app).get('/api/session').set('cookie', cookie)).body as { state: string }).state;

  it('a technician changes it with the old one; the other sessions end, this one stays', async () => {
    const elsewhere = cookieOf(await signIn(PASSPHRASE).expect(200));
    await tobi.post('/api/session/passphrase', { old: 'not the right one', next: NEW }).expect(422);
    await tobi.post('/api/session/passphrase', { old: PASSPHRASE, next: 'short' }).expect(400);
    await signIn(NEW).expect(401);
    const { body } = await tobi.post('/api/session/passphrase', { old: PASSPHRASE, next: NEW }).expect(200);
    expect((body as OwnSession[]).map(({ here }) => here)).toEqual([true]);
    expect([await stateOf(elsewhere), await stateOf(tobi.cookie)]).toEqual(['signed-out', 'signed-in']);
    await signIn(PASSPHRASE).expect(401);
    await signIn(NEW).expect(200);
  });

  it('sessions are listed without what would open them, and ended one by one, one’s own alone', async () => {
    const lead = await enter(it1, 'lead', 'Ines');
    const elsewhere = cookieOf(await signIn(PASSPHRASE).expect(200));
    const own = (await tobi.get('/api/session/all').expect(200)).body as OwnSession[];
    expect(own.map(({ here }) => here).sort()).toEqual([false, true]);
    for (const secret of [elsewhere.split('=')[1] ?? '?', tobi.token])
      expect(JSON.stringify(own)).not.toContain(secret);
    const other = own.find(({ here }) => !here)?.id ?? '';
    const mine = own.find(({ here }) => here)?.id ?? '';
    await lead.delete(`/api/session/all/${other}`).expect(404);
    await tobi.delete(`/api/session/all/${mine}`).expect(404);
    await tobi.delete('/api/session/all/%25').expect(400);
    expect(await stateOf(elsewhere)).toBe('signed-in');
    const left = (await tobi.delete(`/api/session/all/${other}`).expect(200)).body as OwnSession[];
    expect(left.map(({ id }) => id)).toEqual([mine]);
    expect(await stateOf(elsewhere)).toBe('signed-out');
  });

  it('one who has lost it is let in again on the machine itself, and only by a name that is in the crew', async () => {
    const path = '../../scripts/lib/new-passphrase.mjs';
    const { giveNewPassphrase } = (await import(path)) as {
      giveNewPassphrase(url: string, name: string, passphrase: string): Promise<void>;
    };
    await expectAsync(giveNewPassphrase(it1.url, 'Nobody', NEW)).toBeRejectedWithError(/The crew: Tobi/);
    await expectAsync(giveNewPassphrase(it1.url, 'Tobi', 'short')).toBeRejectedWithError(/too short/);
    expect(await stateOf(tobi.cookie)).toBe('signed-in');
    await giveNewPassphrase(it1.url, 'tobi', NEW);
    expect(await stateOf(tobi.cookie)).toBe('signed-out');
    await signIn(PASSPHRASE).expect(401);
    await signIn(NEW).expect(200);
  });

  it('guesses at the old one are slowed as at the door', async () => {
    const statuses = [];
    for (let n = 0; n < 14; n++)
      statuses.push(
        (await tobi.post('/api/session/passphrase', { old: `guess number ${n}`, next: NEW })).status,
      );
    expect(statuses.filter((status) => status === 422).length).toBeGreaterThan(2);
    expect(await stateOf(tobi.cookie)).toBe('signed-in');
  });
});
