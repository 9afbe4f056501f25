import { randomUUID } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { OpenByTwo, TogetherState } from '@near-spoke/contracts';
import { pino } from 'pino';
import request from 'supertest';
import { Failures } from '../src/access/failures.js';
import { createApp } from '../src/app.js';
import { openDatabase, type OpenDatabase } from '../src/db/open.js';
import { InstrumentClient } from '../src/instruments/client.js';
import { ScopeClient } from '../src/instruments/scope.js';
import { endListening } from '../src/together/routes.js';
import { enter, jobWithLink, MIGRATIONS, startApp, type Caller, type TestApp } from './harness.js';

/** States as a device sees them come. */
class Followed {
  readonly states: TogetherState[] = [];
  private readonly abort = new AbortController();
  private waiting: (() => void)[] = [];
  /** When the other side has ended it. */
  readonly over: Promise<void>;

  constructor(address: string, cookie: string) {
    // That it was left is no failure.
    this.over = this.read(address, cookie).catch((error: unknown) => {
      if (!this.abort.signal.aborted) throw error;
    });
  }

  private async read(address: string, cookie: string): Promise<void> {
    const answer = await fetch(address, { headers: { cookie }, signal: this.abort.signal });
    let text = '';
    for await (const piece of answer.body as unknown as AsyncIterable<Uint8Array>) {
      text += Buffer.from(piece).toString();
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const data = text
          .slice(0, end)
          .split('\n')
          .find((line) => line.startsWith('data: '));
        if (data) this.states.push(JSON.parse(data.slice(6)) as TogetherState);
        text = text.slice(end + 2);
        this.wake();
      }
    }
  }

  /** The newest state, once it is as asked. */
  async until(is: (state: TogetherState) => boolean): Promise<TogetherState> {
    for (;;) {
      const last = this.states[this.states.length - 1];
      if (last && is(last)) return last;
      await new Promise<void>((resolve) => this.waiting.push(resolve));
    }
  }

  leave(): void {
    this.abort.abort();
  }

  private wake(): void {
    for (const one of this.waiting.splice(0)) one();
  }
}

describe('Two people at one cable', () => {
  let it1: TestApp;
  let second: OpenDatabase;
  let servers: Server[];
  let bases: string[];
  let lead: Caller;
  let linkId: string;

  beforeAll(async () => {
    it1 = await startApp();
    // A second process of the same database: it shares nothing else with the first.
    second = await openDatabase(it1.url, MIGRATIONS);
    const other = createApp(
      {
        db: second.db,
        quick: second.quick,
        databaseUrl: second.url,
        connections: second.figures,
        log: pino({ level: 'silent' }),
        version: '9.9.9',
        instruments: new InstrumentClient(null),
        scope: new ScopeClient(null),
        failures: Failures.shared(second.quick.$client),
        simulation: true,
        signInLimit: 1000,
        separate: true,
        trustedProxies: '',
      },
      null,
    );
    servers = [it1.app, other].map((app) => createServer(app));
    bases = await Promise.all(
      servers.map(
        (server) =>
          new Promise<string>((resolve) =>
            server.listen(0, '127.0.0.1', () =>
              resolve(`http://127.0.0.1:${(server.address() as AddressInfo).port}`),
            ),
          ),
      ),
    );
    lead = await enter(it1, 'lead', 'Ines');
  });
  beforeEach(async () => ({ linkId } = await jobWithLink(lead)));
  afterAll(async () => {
    await endListening();
    for (const server of servers) {
      server.closeAllConnections();
      server.close();
    }
    await second.close();
    await it1.close();
  });

  const begin = async (): Promise<TogetherState> =>
    (await lead.post(`/api/links/${linkId}/together`, { id: randomUUID() }).expect(200))
      .body as TogetherState;
  const join = async (code: string, name = 'Marek', base = 0) => {
    const answer = await request(bases[base] as string)
      .post('/api/helping')
      .send({ code, name, end: 'far' });
    const cookie = String(answer.headers['set-cookie'] ?? '').split(';')[0] as string;
    return { answer, cookie, state: answer.body as TogetherState };
  };
  const tell = (id: string, doing: object, end: 'near' | 'far' = 'near') =>
    lead.post(`/api/together/${id}/told`, { id: randomUUID(), end, doing });
  const help = (cookie: string, doing: object, base = 0, id = randomUUID()) =>
    request(bases[base] as string)
      .post('/api/helping/told')
      .set('Cookie', cookie)
      .send({ id, end: 'far', doing });

  it('is begun once for a link, and the same proof is gone on with by whoever opens it', async () => {
    const [one, two] = await Promise.all([begin(), begin()]);
    expect(two.id).toBe(one.id);
    expect(one.code).toMatch(/^[BCDFGHJKLMNPQRSTVWXZ]{6}$/);
    expect(one.next?.from.end).toBe('near');
    await lead.delete(`/api/together/${one.id}`).expect(200);
    expect((await begin()).id).not.toBe(one.id);
  });

  it('is told to whoever may come to its other end, as long as it goes on', async () => {
    const open = async (): Promise<OpenByTwo[]> =>
      ((await lead.get('/api/together').expect(200)).body as OpenByTwo[]).filter(({ id }) =>
        mine.includes(id),
      );
    const mine: string[] = [];
    const begun = await begin();
    const wires = { id: randomUUID(), count: 4, hasReturn: true };
    const touch = {
      from: { end: 'near', contacts: ['1'] },
      to: { end: 'far', contacts: ['1'] },
      should: true,
    };
    const list = {
      id: randomUUID(),
      label: 'Gangway tail',
      ends: { near: 'A', far: 'B' },
      over: 'return',
      touches: [touch],
    };
    await lead.post('/api/together', wires).expect(200);
    await lead.post('/api/together/touches', list).expect(200);
    mine.push(begun.id, wires.id, list.id);
    await tell(begun.id, { does: 'came' }).expect(200);
    await tell(begun.id, { does: 'answered', touch: 0, closed: false }).expect(200);
    const [link, told, touches] = await open();
    expect(link).toEqual(
      jasmine.objectContaining({
        linkId,
        of: 'link',
        code: begun.code,
        label: begun.label,
        ends: begun.ends,
        people: { near: ['Ines'], far: [] },
        done: 1,
      }),
    );
    const { body } = await lead.get(`/api/links/${linkId}`).expect(200);
    expect(link?.jobId).toBe(body.link.jobId);
    expect(told).toEqual(jasmine.objectContaining({ of: 'wires', jobId: null, done: 0 }));
    expect(touches).toEqual(jasmine.objectContaining({ of: 'touches', label: 'Gangway tail' }));
    const viewer = await enter(it1, 'viewer');
    await viewer.get('/api/together').expect(403);
    for (const id of mine) await lead.delete(`/api/together/${id}`).expect(200);
    expect(await open()).toEqual([]);
  });

  it('shows each end what the other does, though another process serves it, until the map is known', async () => {
    const begun = await begin();
    const { cookie, state } = await join(begun.code, 'Marek', 1);
    expect(state.helper).toEqual({ name: 'Marek', end: 'far' });
    const there = new Followed(`${bases[1]}/api/helping/events`, cookie);
    const here = new Followed(`${bases[0]}/api/together/${begun.id}/events`, lead.cookie);
    await help(cookie, { does: 'came' }, 1).expect(200);
    expect((await here.until(({ people }) => people.far.length > 0)).people.far).toEqual(['Marek']);
    await help(cookie, { does: 'on', touch: 0 }, 1).expect(200);
    await here.until(({ on }) => on.far);
    await tell(begun.id, { does: 'called' }).expect(200);
    await there.until(({ calls }) => calls === 'near');
    for (let touch = 0; ; touch++) {
      const { next } = await there.until(({ answers }) => answers.length === touch);
      if (!next) break;
      await tell(begun.id, { does: 'answered', touch, closed: next.should }).expect(200);
    }
    const last = await here.until(({ next }) => next === null);
    expect(last.answers.length).toBe(15);
    // Each state is newer than the one before: none comes twice, none goes back.
    for (const { states } of [here, there]) {
      const told = states.map((one) => one.told);
      expect(told).toEqual([...new Set(told)].sort((a, b) => a - b));
    }
    await lead.delete(`/api/together/${begun.id}`).expect(200);
    await there.until(({ ended }) => ended);
    here.leave();
  });

  it('becomes one reading whoever of two saves it, and is ended by that', async () => {
    const begun = await begin();
    const other = await enter(it1, 'technician', 'Tobi');
    const reading = {
      instrument: 'beeper',
      touches: [...'12345678'].map((c) => ({
        from: { end: 'near', contacts: [c] },
        to: { end: 'far', contacts: [c] },
        closed: true,
      })),
    };
    const test = { id: begun.id, instrumentName: 'continuity beeper', reading, unplugged: true };
    const both = await Promise.all([lead, other].map((who) => who.post(`/api/links/${linkId}/tests`, test)));
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    const { body } = await lead.get(`/api/links/${linkId}`).expect(200);
    expect(body.tests.length).toBe(1);
    expect((await lead.get(`/api/together/${begun.id}`)).body.ended).toBeTrue();
    // Another reading of the link ends nothing.
    const next = await begin();
    await lead.post(`/api/links/${linkId}/tests`, { ...test, id: randomUUID() }).expect(200);
    expect((await lead.get(`/api/together/${next.id}`)).body.ended).toBeFalse();
  });

  it('counts an answer once: of both ends that answer at the same time one is first, and the other is told so', async () => {
    const begun = await begin();
    const { cookie } = await join(begun.code);
    const doing = { does: 'answered', touch: 0, closed: false };
    const both = await Promise.all([tell(begun.id, doing), help(cookie, doing)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(both.find(({ status }) => status === 409)?.body.title).toBe('The other end was first');
    const { body } = await lead.get(`/api/together/${begun.id}`).expect(200);
    expect(body.answers).toEqual([false]);
    // The same sent again, because no answer came, is no second one.
    const id = randomUUID();
    const again = { does: 'answered', touch: 1, closed: true };
    await help(cookie, again, 0, id).expect(200);
    await help(cookie, again, 1, id).expect(200);
    expect((await lead.get(`/api/together/${begun.id}`)).body.answers).toEqual([false, true]);
    await tell(begun.id, { does: 'took-back', touch: 1 }).expect(200);
    await tell(begun.id, { does: 'took-back', touch: 1 }).expect(409);
  });

  it('goes on where it was for a device that was switched off meanwhile', async () => {
    const begun = await begin();
    const { cookie } = await join(begun.code);
    const first = new Followed(`${bases[0]}/api/helping/events`, cookie);
    await first.until(() => true);
    first.leave();
    for (const touch of [0, 1, 2])
      await tell(begun.id, { does: 'answered', touch, closed: false }).expect(200);
    const back = new Followed(`${bases[1]}/api/helping/events`, cookie);
    expect((await back.until(() => true)).answers.length).toBe(3);
    back.leave();
  });

  it('hears again after the database was gone', async () => {
    const begun = await begin();
    const { cookie } = await join(begun.code);
    const there = new Followed(`${bases[0]}/api/helping/events`, cookie);
    await there.until(() => true);
    await it1.query(
      `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE query LIKE 'LISTEN%' AND datname = current_database()`,
    );
    await tell(begun.id, { does: 'came' }).expect(200);
    expect((await there.until(({ people }) => people.near.length > 0)).people.near).toEqual(['Ines']);
    there.leave();
  });

  it('sends nothing more to whose account was closed meanwhile', async () => {
    const technician = await enter(it1, 'technician', 'Marit');
    const begun = await begin();
    const there = new Followed(`${bases[1]}/api/together/${begun.id}/events`, technician.cookie);
    await there.until(() => true);
    const { body: crew } = await lead.get('/api/crew').expect(200);
    const { version } =
      (crew as { id: string; version: number }[]).find(({ id }) => id === technician.id) ?? {};
    await lead.patch(`/api/crew/${technician.id}`, { version, active: false }).expect(200);
    await tell(begun.id, { does: 'called' }).expect(200);
    await there.over;
    expect(there.states.at(-1)?.calls).toBeNull();
  });

  it('lets a helper do nothing else, and nothing more once it is ended', async () => {
    const begun = await begin();
    const { cookie } = await join(begun.code);
    for (const path of ['/api/jobs', `/api/links/${linkId}`, `/api/together/${begun.id}`])
      await request(bases[0] as string)
        .get(path)
        .set('Cookie', cookie)
        .expect(401);
    await lead.delete(`/api/together/${begun.id}`).expect(200);
    const late = await help(cookie, { does: 'came' }).expect(409);
    expect(late.body.title).toBe('It is ended');
    expect((await join(begun.code)).answer.status).toBe(404);
  });

  it('tells 25 unmarked wires apart at two ends and in two processes, one device of which is switched off in the middle', async () => {
    const sent = { id: randomUUID(), count: 25, hasReturn: true };
    const begun = (await lead.post('/api/together', sent).expect(200)).body as TogetherState;
    expect((await lead.post('/api/together', sent).expect(200)).body.code).toBe(begun.code);
    const { cookie } = await join(begun.code, 'Marek', 1);
    // At B they lie in some order: number n is called by the letter that comes seven later.
    const names = [...'ABCDEFGHIJKLMNOPQRSTUVWXY'];
    const nameOf = (n: number): string => names[(n + 6) % 25] as string;
    const short = await help(cookie, { does: 'named', names: names.slice(1) }, 1).expect(422);
    expect(short.body.errors[0].message).toContain('There are 25 conductors');
    await help(cookie, { does: 'named', names }, 1).expect(200);
    let here = new Followed(`${bases[0]}/api/together/${begun.id}/events`, lead.cookie);
    for (let round = 0; round < 5; round++) {
      const { wires } = await here.until((state) => state.wires?.found.length === round);
      await tell(begun.id, { does: 'joined', round }).expect(200);
      if (round === 2) {
        here.leave();
        here = new Followed(`${bases[1]}/api/together/${begun.id}/events`, lead.cookie);
      }
      const beep = (wires?.round?.join ?? []).map(nameOf);
      await help(cookie, { does: 'found', round, names: beep }, 1).expect(200);
      // Said twice, or by both: the second comes too late.
      await tell(begun.id, { does: 'found', round, names: beep }, 'far').expect(409);
    }
    const { wires } = await here.until((state) => state.wires?.told !== null);
    here.leave();
    expect(wires?.mistake).toBe('');
    expect(wires?.told).toEqual(
      Array.from({ length: 25 }, (_, i) => ({ number: i + 1, name: nameOf(i + 1) })),
    );
  });

  it('says of two wires without a return that they cannot be told', async () => {
    const refused = await lead
      .post('/api/together', { id: randomUUID(), count: 2, hasReturn: false })
      .expect(422);
    expect(refused.body.errors[0].message).toContain('Find a return');
  });

  it('takes a code however it is written, and says of a wrong one what to do', async () => {
    const { code } = await begin();
    const spaced = `${code.slice(0, 3).toLowerCase()} ${code.slice(3)}`;
    expect((await join(spaced)).answer.status).toBe(200);
    const wrong = await join('AEIOU1');
    expect(wrong.answer.status).toBe(400);
    expect(wrong.answer.body.errors[0].message).toContain('six letters');
    const none = await join(code === 'BCDFGH' ? 'BCDFGJ' : 'BCDFGH');
    expect(none.answer.status).toBe(404);
    expect(none.answer.body.detail).toContain('read out again');
    const nobody = await request(bases[0] as string)
      .get('/api/helping')
      .expect(200);
    expect(nobody.body).toBeNull();
    await request(bases[0] as string)
      .get('/api/helping/events')
      .expect(401);
  });

  describe('with a list of touches', () => {
    const near = (...contacts: string[]) => ({ end: 'near', contacts });
    const list = (change: object = {}) => ({
      id: randomUUID(),
      label: 'Mast lead',
      ends: { near: 'plug in the hut', far: 'socket up the mast' },
      over: 'joins',
      touches: [
        { from: near('A 1'), to: near('A 2', 'A 3'), should: false, sweep: true },
        { from: near('A 1'), to: near('A 2'), join: ['B 1', 'B 2'], should: true },
      ],
      ...change,
    });
    const start = (body: object) => lead.post('/api/together/touches', body);

    it('shows each its own part of the touch that is next, until all are answered', async () => {
      const begun = (await start(list()).expect(200)).body as TogetherState;
      expect([begun.label, begun.linkId, begun.list]).toEqual([
        'Mast lead',
        null,
        { over: 'joins', touches: 2 },
      ]);
      expect(begun.next).toEqual(
        jasmine.objectContaining({ to: near('A 2', 'A 3'), join: [], sweep: true, why: 'isolation' }),
      );
      const { cookie } = await join(begun.code, 'Marek', 1);
      const there = new Followed(`${bases[1]}/api/helping/events`, cookie);
      await tell(begun.id, { does: 'answered', touch: 0, closed: false }).expect(200);
      expect((await there.until(({ answers }) => answers.length === 1)).next?.join).toEqual(['B 1', 'B 2']);
      await help(cookie, { does: 'on', touch: 1 }, 1).expect(200);
      await help(cookie, { does: 'answered', touch: 1, closed: true }, 1).expect(200);
      const done = (await lead.get(`/api/together/${begun.id}`).expect(200)).body as TogetherState;
      expect([done.next, done.answers]).toEqual([null, [false, true]]);
      const late = await tell(begun.id, { does: 'answered', touch: 2, closed: true });
      expect([late.status, late.body.detail]).toEqual([422, jasmine.stringContaining('all are answered')]);
      there.leave();
    });

    it('is begun once, and of other content under its id not at all', async () => {
      const body = list();
      const eight = await Promise.all(Array.from({ length: 8 }, () => start(body)));
      expect(new Set(eight.map(({ body: state }) => (state as TogetherState).code)).size).toBe(1);
      await start({ ...body, label: 'Another' }).expect(409);
    });

    it('has something to touch, at ends that there are', async () => {
      const wrong = [
        { touches: [] },
        { over: 'hope' },
        { touches: [{ from: { end: 'middle', contacts: ['A 1'] }, to: near('A 2'), should: true }] },
        { touches: [{ from: near(), to: near('A 2'), should: true }] },
      ];
      for (const change of wrong) {
        const { status, body } = await start(list(change));
        expect([status, body.errors?.length > 0])
          .withContext(JSON.stringify(change))
          .toEqual([400, true]);
      }
    });
  });
});
