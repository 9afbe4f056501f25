import { sql } from 'drizzle-orm';
import pg from 'pg';
import { openDatabase } from '../src/db/open.js';
import { isAway, isInTheWay, isTooLong } from '../src/db/failures.js';
import {
  emptyDatabase,
  enter,
  MIGRATIONS,
  jobWithLink,
  mapTest,
  newJob,
  newLink,
  startApp,
  straight,
  type Caller,
  type TestApp,
} from './harness.js';

describe('A server whose database is in trouble', () => {
  let app: TestApp;
  let lead: Caller;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
  });
  afterAll(() => app.close());

  it('lives on when its connections are cut, and answers again by itself', async () => {
    const { jobId, linkId } = await jobWithLink(lead);
    const writing = Array.from({ length: 12 }, () => mapTest());
    const answers = Promise.all(
      writing.map(async (test) => {
        const { status } = await lead.post(`/api/links/${linkId}/tests`, test);
        return { test, status };
      }),
    );
    for (let i = 0; i < 4; i++)
      await app.query(
        'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
      );
    for (const { test, status } of await answers) {
      expect([200, 503]).toContain(status);
      if (status === 503) await lead.post(`/api/links/${linkId}/tests`, test).expect(200);
    }
    const { body } = await lead.get(`/api/links/${linkId}`).expect(200);
    expect(body.tests.map(({ id }: { id: string }) => id).sort()).toEqual(writing.map(({ id }) => id).sort());
    await lead.get(`/api/jobs/${jobId}/links`).expect(200);
  });

  it('loses no place for a connection to work that was cut and never gave it back', async () => {
    const two = await openDatabase(app.url, MIGRATIONS);
    const pool = two.db.$client;
    for (const givesBack of [...Array<boolean>(12).fill(true), ...Array<boolean>(12).fill(false)]) {
      const held = await pool.connect();
      const ended = new Promise((resolve) => held.once('end', resolve));
      const { rows } = await held.query<{ pid: number }>('SELECT pg_backend_pid() AS pid');
      await app.query('SELECT pg_terminate_backend($1)', [rows[0]?.pid]);
      await ended;
      if (givesBack) expect(() => held.release()).not.toThrow();
    }
    const { rows } = await two.db.execute<{ answer: number }>(sql`SELECT 42 AS answer`);
    expect(rows[0]?.answer).toBe(42);
    await two.close();
  });

  it('says 503 and when to come back for what passes, and only for that', async () => {
    const error = (code: string): Error => Object.assign(new Error('failed'), { cause: { code } });
    expect([error('57P01'), error('08006'), error('ECONNREFUSED')].map(isAway)).toEqual([true, true, true]);
    expect([error('40P01'), error('40001')].map(isInTheWay)).toEqual([true, true]);
    expect([error('57014'), error('55P03')].map(isTooLong)).toEqual([true, true]);
    expect([error('23505'), error('22P02'), new Error('a mistake')].map(isAway)).toEqual([
      false,
      false,
      false,
    ]);
    const { linkId } = await jobWithLink(lead);
    const holder = new pg.Client({ connectionString: app.url });
    await holder.connect();
    await holder.query('BEGIN');
    await holder.query('SELECT 1 FROM link WHERE id = $1 FOR UPDATE', [linkId]);
    const waiting = await lead.post(`/api/links/${linkId}/tests`, mapTest());
    expect([waiting.status, waiting.headers['retry-after']]).toEqual([503, '2']);
    expect(waiting.body.detail).toContain('Nothing was kept: send it again.');
    await holder.query('ROLLBACK');
    await holder.end();
    const { body } = await lead.get(`/api/links/${linkId}`);
    expect(body.tests).toEqual([]);
  });

  it('is healthy while many wait for one link', async () => {
    const { linkId } = await jobWithLink(lead);
    const holder = new pg.Client({ connectionString: app.url });
    await holder.connect();
    await holder.query('BEGIN');
    await holder.query('SELECT 1 FROM link WHERE id = $1 FOR UPDATE', [linkId]);
    const waiting = Array.from({ length: 12 }, () =>
      lead.post(`/api/links/${linkId}/tests`, mapTest()).then(),
    );
    await new Promise((resolve) => setTimeout(resolve, 300));
    const health = await lead.get('/api/health').expect(200);
    expect(health.body.database).toBe('ok');
    await holder.query('ROLLBACK');
    await holder.end();
    expect((await Promise.all(waiting)).map(({ status }) => status)).toEqual(waiting.map(() => 200));
  });

  it('keeps two imports that meet in opposite order, both whole', async () => {
    const job = newJob();
    await lead.post('/api/jobs', job).expect(200);
    const links = Array.from({ length: 6 }, (_, i) => newLink({ label: `D-${i}` }));
    await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    const of = (ids: string[]) => ({ tests: ids.map((linkId) => ({ linkId, test: mapTest(straight) })) });
    const ids = links.map(({ id }) => id);
    for (let i = 0; i < 5; i++) {
      const both = await Promise.all([
        lead.post(`/api/jobs/${job.id}/tests`, of(ids)),
        lead.post(`/api/jobs/${job.id}/tests`, of([...ids].reverse())),
      ]);
      expect(both.map(({ status }) => status)).toEqual([200, 200]);
    }
  });

  it('never leaves a crew without a lead, nor fails, when two leads remove each other', async () => {
    const two = await startApp();
    const [a, b] = [await enter(two, 'lead', 'Ada'), await enter(two, 'lead', 'Bo')];
    const both = await Promise.all([
      a.patch(`/api/crew/${b.id}`, { version: 1, active: false }),
      b.patch(`/api/crew/${a.id}`, { version: 1, active: false }),
    ]);
    for (const { status } of both) expect(status).toBeLessThan(500);
    const left = await two.query("SELECT count(*)::int AS n FROM membership WHERE role = 'lead' AND active");
    expect(left.rows[0].n).toBe(1);
    await two.close();
  });

  it('is brought up to date once by two that start together', async () => {
    const { url, drop } = await emptyDatabase();
    const open = await Promise.all([0, 1, 2].map(() => openDatabase(url, MIGRATIONS)));
    for (const each of open) await each.close();
    await drop();
    expect(open.length).toBe(3);
  });
});

describe('Text that no UTF-8 can hold, or that turns around', () => {
  let app: TestApp;
  let lead: Caller;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead');
  });
  afterAll(() => app.close());

  it('is refused with the field, in a name, deep in a reading and in a key', async () => {
    const half = '\ud800';
    const job = await lead.post('/api/jobs', newJob({ title: `Quay ${half}` })).expect(400);
    expect(job.body.errors[0].path).toBe('title');
    const { linkId } = await jobWithLink(lead);
    const deep = await lead
      .post(`/api/links/${linkId}/tests`, mapTest({ ...straight, 3: [half] }))
      .expect(400);
    expect(deep.body.errors[0].path).toBe('reading.arrivals.3[0]');
    await lead.post(`/api/links/${linkId}/tests`, mapTest({ ...straight, [half]: ['1'] })).expect(400);
    await lead.post('/api/jobs', newJob({ title: 'Quay \u{1F6A2}' })).expect(200);
  });

  it('is refused in a note where it hides what it says', async () => {
    const { linkId } = await jobWithLink(lead);
    const { body } = await lead
      .post(`/api/links/${linkId}/tests`, mapTest(straight, { note: 'all \u202egnorw' }))
      .expect(400);
    expect(body.errors[0].path).toBe('note');
  });
});
