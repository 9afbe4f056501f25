import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { endpoints, type Endpoint } from '@near-spoke/contracts';
import express from 'express';
import request from 'supertest';
import { servePages } from '../src/app.js';
import { contentPolicy } from '../src/policy.js';
import { enter, newJob, PASSPHRASE, startApp, type Caller, type TestApp } from './harness.js';

const all = Object.entries(endpoints) as [string, Endpoint][];
const addressOf = (endpoint: Endpoint): string =>
  endpoint.path.replace(/:\w+/g, '00000000-0000-4000-8000-00000000dead');

describe('access', () => {
  let it1: TestApp;
  let people: Record<'lead' | 'technician' | 'viewer', Caller>;

  beforeAll(async () => {
    it1 = await startApp();
    people = {
      lead: await enter(it1, 'lead'),
      technician: await enter(it1, 'technician'),
      viewer: await enter(it1, 'viewer'),
    };
  });
  afterAll(() => it1.close());

  const call = (endpoint: Endpoint, who: Caller | null): request.Test => {
    const test = request(it1.app)[endpoint.method](addressOf(endpoint));
    return who ? test.set('Cookie', who.cookie).set('x-near-spoke-token', who.token) : test;
  };

  for (const [id, endpoint] of all.filter(([, e]) => e.access !== 'anyone')) {
    it(`${id}: refuses strangers with 401 and other roles with 403, and lets its own roles past both`, async () => {
      expect((await call(endpoint, null)).status).toBe(401);
      for (const role of ['lead', 'technician', 'viewer'] as const) {
        if (id === 'signOut') continue;
        const { status } = await call(endpoint, people[role]);
        if (endpoint.access.includes(role)) expect([401, 403]).withContext(role).not.toContain(status);
        else expect(status).withContext(role).toBe(403);
      }
    });
  }

  for (const [id, endpoint] of all.filter(([, e]) => e.access !== 'anyone' && e.method !== 'get')) {
    it(`${id}: refuses a change without the session’s own token, and one sent from another site`, async () => {
      const bare = request(it1.app)[endpoint.method](addressOf(endpoint)).set('Cookie', people.lead.cookie);
      expect((await bare).status).toBe(403);
      expect((await call(endpoint, people.lead).set('Sec-Fetch-Site', 'cross-site')).status).toBe(403);
      expect((await call(endpoint, people.lead).set('Origin', 'http://elsewhere.example')).status).toBe(403);
    });
  }

  it('sets a cookie that scripts and other sites cannot use', async () => {
    const response = await request(it1.app)
      .post('/api/session')
      .send({ name: 'lead', passphrase: PASSPHRASE });
    const cookie = String(response.headers['set-cookie']);
    expect(cookie).toContain('HttpOnly');
    expect(cookie).toContain('SameSite=Strict');
    expect(cookie).not.toContain('Secure');
  });

  it('sets it for TLS alone where a proxy says that it speaks it', async () => {
    const response = await request(it1.app)
      .post('/api/session')
      .set('X-Forwarded-Proto', 'https')
      .send({ name: 'lead', passphrase: PASSPHRASE });
    expect(String(response.headers['set-cookie'])).toContain('Secure');
  });

  it('says the same to a wrong name and a wrong passphrase', async () => {
    const wrong = { name: 'lead', passphrase: 'not this one at all' };
    const a = await request(it1.app).post('/api/session').send(wrong);
    const b = await request(it1.app)
      .post('/api/session')
      .send({ ...wrong, name: 'nobody' });
    expect([a.status, b.status]).toEqual([401, 401]);
    expect(a.body).toEqual(b.body);
  });

  it('ends the session on signing out', async () => {
    const one = await enter(it1, 'technician', 'short stay');
    await one.delete('/api/session').expect(200);
    expect((await one.get('/api/jobs')).status).toBe(401);
  });

  it('stores no passphrase and no usable session token', async () => {
    const { rows } = await it1.query('SELECT passphrase_hash FROM crew_member');
    for (const row of rows) expect(String(row.passphrase_hash)).toMatch(/^\$argon2id\$/);
    const sessions = await it1.query('SELECT token_hash FROM session');
    expect(sessions.rows.some((row) => people.lead.cookie.includes(String(row.token_hash)))).toBeFalse();
  });

  it('offers nobody one-click entry outside the demo', async () => {
    const { body } = await request(it1.app).get('/api/session');
    expect(body).toEqual({ state: 'signed-out', demoPeople: [] });
    await request(it1.app).post('/api/session/demo').send({ crewId: people.lead.id }).expect(403);
  });

  it('sends a strict content-security policy and no server name', async () => {
    const { headers } = await request(it1.app).get('/api/health');
    expect(headers['content-security-policy']).toContain("script-src 'self'");
    expect(headers['content-security-policy']).not.toContain("script-src 'self' 'unsafe");
    expect(headers['content-security-policy']).not.toContain('unsafe-inline');
    expect(headers['x-powered-by']).toBeUndefined();
    expect(headers['x-content-type-options']).toBe('nosniff');
  });
});

describe('a page', () => {
  it('may bring only what bears its own nonce, another with each', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'near-spoke-pages-'));
    writeFileSync(join(folder, 'index.html'), `<ns-root ngCspNonce="of-the-kept-page"></ns-root>`);
    const app = express();
    app.use(contentPolicy());
    servePages(app, folder);
    const nonces: string[] = [];
    for (const path of ['/', '/jobs/1']) {
      const { headers, text } = await request(app).get(path).expect(200);
      const nonce = /ngCspNonce="([^"]+)"/.exec(text)?.[1] ?? '';
      expect(headers['content-security-policy']).toContain(`style-src 'self' 'nonce-${nonce}'`);
      expect(headers['cache-control']).toBe('no-store');
      nonces.push(nonce);
    }
    expect(nonces[0]?.length).toBeGreaterThan(20);
    expect(nonces[1]).not.toBe(nonces[0]);
    // The copy that a device keeps is the same each time, or it would take itself for damaged.
    const { headers, text } = await request(app).get('/index.html').expect(200);
    expect(text).toContain('ngCspNonce="of-the-kept-page"');
    expect(headers['content-security-policy']).toContain("style-src 'self' 'nonce-of-the-kept-page'");
    rmSync(folder, { recursive: true });
  });
});

describe('the crew', () => {
  let it1: TestApp;
  beforeEach(async () => (it1 = await startApp()));
  afterEach(() => it1.close());

  it('is begun by the first lead, once', async () => {
    expect((await request(it1.app).get('/api/session')).body).toEqual({ state: 'setup' });
    const first = await request(it1.app)
      .post('/api/setup')
      .send({ id: randomUUID(), name: 'Ada', passphrase: PASSPHRASE });
    expect(first.body).toEqual(jasmine.objectContaining({ state: 'signed-in' }));
    const second = await request(it1.app)
      .post('/api/setup')
      .send({ id: randomUUID(), name: 'Eve', passphrase: PASSPHRASE });
    expect(second.status).toBe(409);
  });

  it('keeps at least one lead', async () => {
    const lead = await enter(it1, 'lead');
    const { body } = await lead.patch(`/api/crew/${lead.id}`, { version: 1, role: 'viewer' }).expect(422);
    expect(body.errors[0].message).toContain('only lead');
  });

  it('locks out a person whose account is closed, at once', async () => {
    const lead = await enter(it1, 'lead');
    const gone = await enter(it1, 'technician', 'gone');
    await lead.patch(`/api/crew/${gone.id}`, { version: 1, active: false }).expect(200);
    expect((await gone.get('/api/jobs')).status).toBe(401);
    const again = await request(it1.app).post('/api/session').send({ name: 'gone', passphrase: PASSPHRASE });
    expect(again.status).toBe(401);
  });

  it('refuses a second person of the same name, whatever its case', async () => {
    const lead = await enter(it1, 'lead', 'Ines');
    const { status } = await lead.post('/api/crew', {
      id: randomUUID(),
      name: 'INES',
      role: 'viewer',
      passphrase: PASSPHRASE,
    });
    expect(status).toBe(409);
  });

  it('is slowed down by failed sign-ins and never locked out: the right passphrase is let in among wrong ones', async () => {
    const guarded = await startApp({ signInLimit: 3 });
    await enter(guarded, 'technician', 'Tobi');
    const send = (name: string, passphrase: string) =>
      request(guarded.app).post('/api/session').send({ name, passphrase });
    const tries = [];
    for (let i = 0; i < 4; i++) tries.push((await send('Tobi', `wrong ${i}`)).status);
    expect(tries).toEqual([401, 401, 401, 401]);
    expect((await send('Tobi', PASSPHRASE)).status).toBe(200);
    // More at once than a person sends: those in line are answered, the rest are told to wait.
    const flood = await Promise.all(Array.from({ length: 9 }, () => send('nobody', 'guess')));
    const told = flood.map(({ status }) => status).sort();
    expect(told.filter((status) => status === 401).length).toBe(4);
    expect(told.filter((status) => status === 429).length).toBe(5);
    await guarded.close();
  });

  it('a changed passphrase ends that person’s other sessions, and not the one it was changed in', async () => {
    const lead = await enter(it1, 'lead', 'Changing Lead');
    const elsewhere = await request(it1.app)
      .post('/api/session')
      .send({ name: 'Changing Lead', passphrase: PASSPHRASE });
    const cookie = (elsewhere.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '';
    const people = (await lead.get('/api/crew')).body as { id: string; version: number }[];
    const version = people.find(({ id }) => id === lead.id)?.version ?? 1;
    await lead.patch(`/api/crew/${lead.id}`, { version, passphrase: 'another four short words' }).expect(200);
    expect((await lead.get('/api/jobs')).status).toBe(200);
    expect((await request(it1.app).get('/api/jobs').set('Cookie', cookie)).status).toBe(401);
  });

  it('one-click entry is not offered through a proxy, whatever it writes into Host', async () => {
    for (const header of ['x-forwarded-for', 'forwarded', 'via']) {
      const { body } = await request(it1.app)
        .get('/api/session')
        .set('Host', '127.0.0.1')
        .set(header, '192.0.2.7');
      expect(body.demoPeople ?? [])
        .withContext(header)
        .toEqual([]);
    }
  });

  it('lets a viewer look and not record', async () => {
    const viewer = await enter(it1, 'viewer');
    expect((await viewer.get('/api/jobs')).status).toBe(200);
    expect((await viewer.post('/api/jobs', newJob())).status).toBe(403);
  });
});
