import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { CABLE_TYPES } from '@near-spoke/core';
import type { Express } from 'express';
import pg from 'pg';
import { pino, type Logger } from 'pino';
import request from 'supertest';
import { Failures } from '../src/access/failures.js';
import { hashPassphrase } from '../src/access/passphrase.js';
import { createApp } from '../src/app.js';
import { addPerson } from '../src/crew/people.js';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { openDatabase, type OpenDatabase } from '../src/db/open.js';
import { InstrumentClient } from '../src/instruments/client.js';
import { ScopeClient } from '../src/instruments/scope.js';
import { stockKit } from '../src/kit/store.js';
import { answer, type Bench } from '../../instruments/src/session.js';

const here = (path: string): string => new URL(path, import.meta.url).pathname;
export const DEMO = here('../../demo');
export const MIGRATIONS = here('../src/db/migrations');
export const PASSPHRASE = 'four short words here';

/** A database with nothing in it, on the server that TEST_DATABASE_URL names. */
export async function emptyDatabase(): Promise<{ url: string; drop(): Promise<void> }> {
  const serverUrl = process.env['TEST_DATABASE_URL'];
  if (!serverUrl) throw new Error('TEST_DATABASE_URL is not set: run the tests with npm test.');
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  const admin = new pg.Client({ connectionString: serverUrl });
  await admin.connect();
  await admin.query(`CREATE DATABASE ${name}`);
  const url = new URL(serverUrl);
  url.pathname = `/${name}`;
  return {
    url: url.href,
    drop: async () => {
      await admin.query(`DROP DATABASE ${name} WITH (FORCE)`);
      await admin.end();
    },
  };
}

/** An application on a database of its own, on the server that TEST_DATABASE_URL names. */
export interface TestApp {
  app: Express;
  database: OpenDatabase;
  /** Where its database is. */
  url: string;
  query(text: string, values?: unknown[]): Promise<pg.QueryResult>;
  close(): Promise<void>;
}

export async function startApp(
  options: {
    instruments?: InstrumentClient;
    scope?: ScopeClient;
    signInLimit?: number;
    simulation?: boolean;
    separate?: boolean;
    webFolder?: string;
    trustedProxies?: string;
    log?: Logger;
  } = {},
): Promise<TestApp> {
  const { url, drop } = await emptyDatabase();
  const database = await openDatabase(url, MIGRATIONS);
  await inCrew(FIRST_CREW, () => stockKit(database.db));
  const raw = new pg.Client({ connectionString: url });
  await raw.connect();
  // The owner is bound to no crew; what it adds is the first one’s.
  await raw.query(`SET near_spoke.crew = '${FIRST_CREW}'`);
  const context = {
    db: database.db,
    quick: database.quick,
    databaseUrl: database.url,
    connections: database.figures,
    log: options.log ?? pino({ level: 'silent' }),
    version: '9.9.9',
    instruments: options.instruments ?? new InstrumentClient(null),
    scope: options.scope ?? new ScopeClient(null),
    failures: Failures.shared(database.quick.$client),
    simulation: options.simulation ?? true,
    separate: options.separate ?? true,
    signInLimit: options.signInLimit ?? 1000,
    trustedProxies: options.trustedProxies ?? '',
  };
  return {
    app: createApp(context, options.webFolder ?? null),
    database,
    url,
    query: (text, values) => raw.query(text, values),
    close: async () => {
      await raw.end();
      await database.close();
      await drop();
    },
  };
}

type Role = 'lead' | 'technician' | 'viewer';

/** A signed-in person's way to call: cookie and forgery token in place. */
export interface Caller {
  id: string;
  name: string;
  cookie: string;
  token: string;
  get(path: string): request.Test;
  post(path: string, body?: object): request.Test;
  patch(path: string, body: object): request.Test;
  delete(path: string): request.Test;
}

let hashed: Promise<string> | null = null;

/** Puts a person into the crew and signs them in. */
export async function enter(
  { app, database }: TestApp,
  role: Role,
  name: string = role,
  ofCrew = FIRST_CREW,
): Promise<Caller> {
  const id = randomUUID();
  hashed ??= hashPassphrase(PASSPHRASE);
  const passphraseHash = await hashed;
  await inCrew(ofCrew, () => addPerson(database.db, { id, name, role, passphraseHash }));
  const response = await request(app).post('/api/session').send({ name, passphrase: PASSPHRASE });
  const cookie = (response.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '';
  const { token } = response.body as { token: string };
  const dress = (call: request.Test): request.Test =>
    call.set('Cookie', cookie).set('x-near-spoke-token', token);
  return {
    id,
    name,
    cookie,
    token,
    get: (path) => dress(request(app).get(path)),
    post: (path, body) => dress(request(app).post(path)).send(body ?? {}),
    patch: (path, body) => dress(request(app).patch(path)).send(body),
    delete: (path) => dress(request(app).delete(path)),
  };
}

export const newJob = (change: object = {}) => ({
  id: randomUUID(),
  site: 'Test site',
  title: 'Test job',
  hub: 'CR-9',
  scheme: 'T568B',
  units: 'metric',
  ...change,
});

/** On a port of its own, as it is called. */
export const newLink = (change: object = {}) => ({
  id: randomUUID(),
  label: 'L-01',
  panel: 'P1',
  port: String('label' in change ? change.label : 'L-01').slice(-16),
  room: 'Hall',
  outlet: 'desk 1',
  cableTypeId: CABLE_TYPES[0]?.id ?? '',
  nearConnectorId: 'jack-punched',
  farConnectorId: 'plug-closed',
  lengthM: 31.4,
  route: [],
  ...change,
});

/** A job with one link, for a test of its own. */
export async function jobWithLink(
  lead: Caller,
  change: object = {},
): Promise<{ jobId: string; linkId: string }> {
  const job = newJob();
  const link = newLink(change);
  await lead.post('/api/jobs', job).expect(200);
  await lead.post(`/api/jobs/${job.id}/links`, { links: [link] }).expect(200);
  return { jobId: job.id, linkId: link.id };
}

export const termination = (side: 'near' | 'far', change: object = {}) => ({
  id: randomUUID(),
  side,
  connectorTypeId: side === 'near' ? 'jack-punched' : 'plug-closed',
  outcome: 'good',
  connectorsSpoiled: 0,
  ...change,
});

export const straight = Object.fromEntries([...'12345678'].map((c) => [c, [c]]));

export const mapTest = (arrivals: Record<string, string[]> = straight, change: object = {}) => ({
  id: randomUUID(),
  instrumentName: 'pocket mapper',
  reading: { instrument: 'coded-mapper', arrivals, joins: [], splits: null },
  unplugged: true,
  ...change,
});

/** An instrument on loopback that treats each connection as the test says. */
export async function instrumentThat(
  serve: (socket: Socket) => void,
  silenceMs = 300,
): Promise<{ client: InstrumentClient; server: Server; sockets: Set<Socket> }> {
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => socket.destroy());
    socket.on('close', () => sockets.delete(socket));
    serve(socket);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return { client: new InstrumentClient({ host: '127.0.0.1', port, silenceMs }), server, sockets };
}

/** The real stand-in's answers over the demo's world, in this process. */
export function demoStandIn() {
  const bench: Bench = {
    world: JSON.parse(readFileSync(`${DEMO}/world.json`, 'utf8')) as Bench['world'],
    keep(next) {
      Object.assign(bench, { world: next });
    },
  };
  return instrumentThat((socket) => {
    socket.write('NEAR-SPOKE-INSTRUMENT 1\n');
    let pending = '';
    socket.on('data', (chunk) => {
      const lines = (pending + chunk.toString()).split('\n');
      pending = lines.pop() ?? '';
      for (const each of lines) socket.write(`${answer(bench, each).join('\n')}\n`);
    });
  }, 4000);
}

/** A trace of 200 samples with one step. */
export const newTrace = (change: object = {}) => ({
  id: randomUUID(),
  end: 'near',
  pair: '4-5',
  name: 'trace.csv',
  trace: { intervalS: 5e-10, startS: -5e-8, volts: Array.from({ length: 200 }, (_, n) => (n > 100 ? 1 : 0)) },
  told: {
    velocityFactor: 0.69,
    velocityU95: 0.012,
    impedanceOhm: 100,
    leadM: 0.95,
    leadVelocityFactor: 0.66,
    shape: null,
  },
  unplugged: true,
  ...change,
});
