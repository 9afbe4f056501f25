import { readdirSync, readFileSync } from 'node:fs';
import { request as send } from 'node:http';
import { join } from 'node:path';
import { endpoints, type Endpoint } from '@near-spoke/contracts';
import { CABLE_TYPES, CONNECTOR_TYPES, seededRandom } from '@near-spoke/core';
import fc from 'fast-check';
import { spoke } from '../../command/src/spoke.js';
import { anyBody } from '../../server/test/any-body.js';

/**
 * Sends a running application what nobody should, and gives the command line files that came to harm: an address, a
 * cookie, a token, how many requests and how many files. Prints one line of JSON.
 */
const [, , url = '', cookie = '', token = '', requests = '0', files = '0', folder = ''] = process.argv;
const SEED = 20261201;
const AT_ONCE = 6;
/** Nobody was answered: worse than any 5xx. */
const HUNG_UP = 599;
/** What would end the session that all the others are sent in, or keeps its connection open. */
const LEFT_OUT = new Set([
  'signOut',
  'signIn',
  'demoSignIn',
  'setup',
  'changeOwnPassphrase',
  'followTogether',
]);
const random = seededRandom(SEED);
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;

interface Answer {
  what: string;
  status: number;
  ms: number;
  body: string;
}

/** One request as it is, whatever an honest client would say of it; a status of its own where the server hung up. */
function sent(
  method: string,
  path: string,
  body: Buffer | null,
  headers: Record<string, string>,
): Promise<Omit<Answer, 'what'>> {
  const from = performance.now();
  return new Promise((resolve) => {
    const done = (status: number, text: string): void =>
      resolve({ status, ms: performance.now() - from, body: text });
    const { hostname, port } = new URL(url);
    // Said for every method: of a DELETE or TRACE Node's client would not say that a body follows, and its bytes would be taken
    // for the beginning of the next request on that connection.
    const framed = body && body.length > 0 ? { 'content-length': String(body.length) } : {};
    const asking = send(
      {
        hostname,
        port,
        method,
        path,
        headers: { cookie, 'x-near-spoke-token': token, ...framed, ...headers },
      },
      (response) => {
        const pieces: Buffer[] = [];
        response.on('data', (piece: Buffer) => pieces.length < 40 && pieces.push(piece));
        response.on('end', () => done(response.statusCode ?? 0, Buffer.concat(pieces).toString('utf8')));
        response.on('error', () => done(HUNG_UP, ''));
      },
    );
    asking.on('error', () => done(HUNG_UP, ''));
    asking.end(body ?? undefined);
  });
}

/** What may happen to bytes on their way, or is done to them. */
const HARMS: readonly ((bytes: Buffer) => Buffer)[] = [
  (bytes) => bytes.subarray(0, Math.floor(random() * bytes.length)),
  (bytes) => Buffer.concat([bytes, bytes]),
  (bytes) => Buffer.concat([Buffer.from([0xef, 0xbb, 0xbf]), bytes]),
  (bytes) => Buffer.from(bytes.toString('utf8'), 'utf16le'),
  (bytes) => Buffer.from(bytes.toString('latin1').replace(/[0-9]+/, '9'.repeat(400)), 'latin1'),
  (bytes) => Buffer.from(bytes.toString('utf8').replace(/-?\d+(\.\d+)?/, '-1e308')),
  (bytes) => Buffer.from(bytes.toString('utf8').replaceAll('"', "'")),
  (bytes) => Buffer.from(`${'['.repeat(20_000)}${bytes.toString('utf8')}${']'.repeat(20_000)}`),
  (bytes) => {
    const spoiled = Buffer.from(bytes);
    for (let n = 0; n < 5 && spoiled.length > 0; n++)
      spoiled[Math.floor(random() * spoiled.length)] = Math.floor(random() * 256);
    return spoiled;
  },
  (bytes) => {
    const at = Math.floor(random() * bytes.length);
    const upTo = at + Math.floor(random() * (bytes.length - at));
    return Buffer.concat([bytes.subarray(0, at), bytes.subarray(upTo), bytes.subarray(at, upTo)]);
  },
  () => Buffer.from('null'),
  () => Buffer.alloc(0),
];
const HEADERS: readonly Record<string, string>[] = [
  {},
  { 'content-type': 'text/plain' },
  { 'content-type': 'application/json; charset=koi8-q' },
  { 'content-encoding': 'gzip' },
  { 'content-type': 'multipart/form-data' },
  { 'x-near-spoke-token': 'no' },
  { cookie: 'near_spoke_session=%00' },
  { origin: 'http://elsewhere.example' },
  { accept: 'nothing/*;q=2' },
  { range: 'bytes=9-1' },
  { 'if-none-match': '*'.repeat(2000) },
];
const PLACES = ['%00', '%ff', '..%2f..%2f', 'x'.repeat(4000), '1%20OR%201=1', '%F0%9F', '0', '-', '%2e%2e'];

async function inTurns<T>(count: number, one: (n: number) => Promise<T>): Promise<T[]> {
  const all: T[] = [];
  let next = 0;
  const lane = async (): Promise<void> => {
    while (next < count) all.push(await one(next++));
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
  return all;
}

async function get<T>(path: string): Promise<T> {
  return JSON.parse((await sent('GET', path, null, {})).body) as T;
}

const jobs = await get<{ id: string }[]>('/api/jobs');
const links = await get<{ id: string; label: string }[]>(`/api/jobs/${jobs[0]?.id}/links`);
const ids = [...jobs, ...links].map(({ id }) => id);
const words = [
  ...CABLE_TYPES.slice(0, 4).map(({ id }) => id),
  ...CONNECTOR_TYPES.slice(0, 5).map(({ id }) => id),
  ...[
    '1',
    '2',
    '8',
    'S',
    'A',
    'WH-OG',
    'BU',
    '1-2',
    'near',
    links[0]?.label ?? '',
    '2026-11-02T08:00:00.000Z',
  ],
];
const kinds = Object.entries(endpoints as Record<string, Endpoint>).filter(([id]) => !LEFT_OUT.has(id));
const bodies = new Map(
  kinds.flatMap(([id, { body }]) =>
    body
      ? [
          [
            id,
            fc
              .sample(anyBody(body, { ids, words }), { seed: SEED, numRuns: 60 })
              .map((one) => JSON.stringify(one)),
          ],
        ]
      : [],
  ),
);

const answers = await inTurns(Number(requests), async (n): Promise<Answer> => {
  const [id, endpoint] = kinds[n % kinds.length] as [string, Endpoint];
  const strange = random() < 0.15;
  const path = endpoint.path.replace(/:\w+/g, () => (strange ? pick(PLACES) : pick(ids)));
  const whole = Buffer.from(pick(bodies.get(id) ?? ['']) ?? '');
  const body = endpoint.method === 'get' ? null : random() < 0.5 ? whole : pick(HARMS)(whole);
  const headers = { 'content-type': 'application/json', ...(random() < 0.25 ? pick(HEADERS) : {}) };
  const method = random() < 0.03 ? pick(['PUT', 'TRACE', 'OPTIONS', 'DELETE', 'PATCH']) : endpoint.method;
  return { what: id, ...(await sent(method.toUpperCase(), path, body, headers)) };
});

// ---- files

const examples = 'docs/examples';
const at = (...path: string[]): string => join(folder, ...path);
const inFolder = (path: string, end: string): string[] =>
  readdirSync(at(path)).filter((name) => name.endsWith(end)).map((name) => join(path, name)); // prettier-ignore
/** Commands with the files that they read. */
const READERS: readonly (readonly [command: readonly string[], path: string])[] = [
  ...inFolder(examples, '.reading.json').map((path) => [['diagnose'], path] as const),
  ...inFolder(`${examples}/links`, '.json').map(
    (path) => [['observe', '--with', 'coded-mapper'], path] as const,
  ),
  [['order'], `${examples}/forgotten-boot.half-done.json`],
  [['adapter'], `${examples}/adapters/logger-to-serial.adapter.json`],
  [['power'], `${examples}/plans/mast-in-a-hot-tray.link-plan.json`],
  [['cut'], `${examples}/plans/ticket-hall.cutting.json`],
  [['plan'], 'demo/osk-hill.job.json'],
  [['plan'], 'demo/pellan-quay.job.json'],
  [['trace', '--cable', 'cat6-u'], `${examples}/traces/open-pair.network.json`],
  [['simulate'], `${examples}/traces/open-pair.network.json`],
];
const drawn = spoke(['simulate', 'x'], () =>
  readFileSync(at(examples, 'traces/open-pair.network.json'), 'utf8'),
);
const texts = READERS.map(([, path]) => readFileSync(at(path)));

function ofFile(n: number): Answer {
  const which = n % (READERS.length + 1);
  const [command, bytes] =
    which === READERS.length
      ? [['trace', '--cable', 'cat6-u'], Buffer.from(drawn.out)]
      : [READERS[which]?.[0] ?? [], texts[which] ?? Buffer.alloc(0)];
  const harmed = pick(HARMS)(bytes);
  const read = (): string => harmed.toString('utf8');
  const from = performance.now();
  try {
    const files = { inFolder: () => null, pieces: () => [read()], bytes: () => harmed };
    const { status, out, err } = spoke([...command, 'a.csv'], read, files);
    return {
      what: command[0] ?? '',
      status: status === 1 && err ? 500 : status,
      ms: performance.now() - from,
      body: err || out,
    };
  } catch (error) {
    return { what: command[0] ?? '', status: 500, ms: performance.now() - from, body: String(error) };
  }
}

const archived = Buffer.from(
  await (await fetch(`${url}/api/jobs/${jobs[0]?.id}/archive.zip`, { headers: { cookie } })).arrayBuffer(),
);
const OF_ARCHIVES = 0.1;
const ofFiles = Array.from({ length: Math.round(Number(files) * (1 - OF_ARCHIVES)) }, (_, n) => ofFile(n));
const ofArchives = await inTurns(Math.round(Number(files) * OF_ARCHIVES), async (): Promise<Answer> => {
  const body = pick(HARMS.slice(0, 3).concat(HARMS.slice(8)))(archived);
  return {
    what: 'archive',
    ...(await sent('POST', '/api/archives', body, { 'content-type': 'application/zip' })),
  };
});

const LEAKS = /node_modules|\bat .*\.[tj]s:\d|TypeError|RangeError|\[object/;
/** Of what was refused, or answered by the server: a trace that can still be read takes what a trace takes. */
const slowestOf = (all: readonly Answer[]): Answer | undefined =>
  all.filter(({ status }) => status > 1).sort((a, b) => b.ms - a.ms)[0];
const summary = (all: readonly Answer[], isBroken: (one: Answer) => boolean) => ({
  count: all.length,
  broken: all.filter(isBroken).map(({ what, status, body }) => ({ what, status, body: body.slice(0, 200) })),
  slowest: slowestOf(all)?.ms ?? 0,
  slowestWas: slowestOf(all)?.what ?? '',
  statuses: all.reduce<Record<number, number>>(
    (by, { status }) => ({ ...by, [status]: (by[status] ?? 0) + 1 }),
    {},
  ),
});
const isBroken = ({ status, body }: Answer): boolean => status >= 500 || (status >= 400 && LEAKS.test(body));
console.log(
  JSON.stringify({
    requests: summary(answers, isBroken),
    files: summary([...ofFiles, ...ofArchives], isBroken),
    // Whoever sent all that is still who they are.
    stillSignedIn: (await sent('GET', '/api/jobs', null, {})).status === 200,
  }),
);
