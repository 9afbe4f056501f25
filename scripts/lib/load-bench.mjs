import { randomUUID } from 'node:crypto';
import { readFileSync, mkdtempSync, chmodSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { startApplication } from './application.mjs';
import { demoPerson } from './caller.mjs';
import { freePort, freePorts, startThrowawayCluster } from './postgres.mjs';
import { say } from './plain.mjs';

/** A large job: what one firm does in a year. */
const LINKS = 5000;
const TESTS_OF_EACH = 10;
const PEOPLE = 100;
const PAUSE_MS = 10_000;
const SPREAD_MS = 30_000;
const PARTS = 'summary,panels,routes,links,stories,exceptions,limits,instruments,terminations,legend,seal';
const HANDOVERS_AT_ONCE = 12;
const SESSIONS = 3;

const quantile = (values, q) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? NaN;
};
const ms = (value) => (value < 10_000 ? `${Math.round(value)} ms` : `${(value / 1000).toFixed(1)} s`);
const pause = (time) => new Promise((resolve) => setTimeout(resolve, time));

const straight = Object.fromEntries([...'12345678'].map((c) => [c, [c]]));

async function jobOf(call, title, count) {
  const job = { id: randomUUID(), site: 'Bench', title, hub: 'B-1', scheme: 'T568B', units: 'metric' };
  await call('POST', '/api/jobs', job);
  const ids = [];
  for (let from = 0; from < count; from += 1000) {
    const links = Array.from({ length: Math.min(1000, count - from) }, (_, i) => ({
      id: randomUUID(),
      label: `${title.slice(0, 1)}-${from + i}`,
      panel: `P${Math.floor((from + i) / 48)}`,
      port: String((from + i) % 48),
      room: `room ${(from + i) % 40}`,
      outlet: `outlet ${from + i}`,
      cableTypeId: 'cat6-u',
      nearConnectorId: 'jack-punched',
      farConnectorId: 'jack-toolless',
      lengthM: 10 + (i % 80),
      route: [],
    }));
    const answer = await call('POST', `/api/jobs/${job.id}/links`, { links });
    if (!answer.ok) throw new Error(await answer.text());
    ids.push(...links.map(({ id }) => id));
  }
  return { id: job.id, links: ids };
}

const reading = () => ({
  id: randomUUID(),
  instrumentName: 'bench',
  unplugged: true,
  reading: { instrument: 'coded-mapper', arrivals: straight, joins: [], splits: null },
});

/** Ends made and tested on one link by the interface, then the same record copied to all of its job. */
async function fill(sql, call, { id, links }) {
  const [first] = links;
  for (const [side, type] of [
    ['near', 'jack-punched'],
    ['far', 'jack-toolless'],
  ])
    await call('POST', `/api/links/${first}/terminations`, {
      id: randomUUID(),
      side,
      connectorTypeId: type,
      outcome: 'good',
      connectorsSpoiled: 0,
    });
  await call('POST', `/api/links/${first}/tests`, reading());
  const columns = async (table, without) =>
    (
      await sql.query(
        `SELECT string_agg(quote_ident(column_name), ',') AS names FROM information_schema.columns WHERE table_name = $1 AND column_name <> ALL ($2)`,
        [table, without],
      )
    ).rows[0].names;
  for (const [table, times] of [
    ['termination_attempt', 1],
    ['test_record', TESTS_OF_EACH],
  ]) {
    const names = await columns(table, ['id', 'link_id', 'seq']);
    await sql.query(
      `INSERT INTO ${table} (id, link_id, ${names})
       SELECT gen_random_uuid(), l.id, ${names
         .split(',')
         .map((name) => `r.${name}`)
         .join(',')}
       FROM link l CROSS JOIN generate_series(1, ${times}) CROSS JOIN ${table} r
       WHERE l.job_id = $1 AND l.id <> $2 AND r.link_id = $2`,
      [id, first],
    );
  }
  await sql.query(
    `UPDATE link SET stage = f.stage, standing = f.standing, next_step = f.next_step, near_done = true, far_done = true,
       turns = 20, verdict = f.verdict, judged = true
     FROM (SELECT * FROM link WHERE id = $2) AS f WHERE link.job_id = $1`,
    [id, first],
  );
  await sql.query('ANALYZE');
}

/** The first byte, the whole, and how much, of one answer. */
async function timed(call, path) {
  const from = performance.now();
  const answer = await call('GET', path);
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  let firstMs = null;
  let bytes = 0;
  for await (const piece of answer.body) {
    firstMs ??= performance.now() - from;
    bytes += piece.length;
  }
  return { firstMs, ms: performance.now() - from, bytes };
}

/** Resident memory of the server, bytes, looked at while something goes on. */
function watchMemory(pid) {
  const now = () => {
    const found = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
    return Number(found?.[1] ?? 0) * 1024;
  };
  const idle = now();
  let most = idle;
  const timer = setInterval(() => (most = Math.max(most, now())), 50);
  return () => {
    clearInterval(timer);
    return { idle, most };
  };
}

/** Saves of one person, one after another, until a promise settles, or so many. */
async function savesUntil(call, linkId, done) {
  const times = [];
  let over = false;
  void done.finally(() => (over = true)).catch(() => undefined);
  while (!over) {
    const from = performance.now();
    const answer = await call('POST', `/api/links/${linkId}/tests`, reading());
    if (!answer.ok) throw new Error(`save: ${answer.status} ${await answer.text()}`);
    await answer.arrayBuffer();
    times.push(performance.now() - from);
    await pause(50);
  }
  return times;
}

/** People who read a job's list, look into a link and save a reading, with a pause in between or without. */
async function crowd(url, job, { people, pauseMs, forMs }) {
  // As many sessions as there are demo people; more hands share them.
  const sessions = [];
  for (let n = 0; n < SESSIONS; n++) sessions.push(await demoPerson(url, n));
  const calls = Array.from({ length: people }, (_, n) => sessions[n % SESSIONS]);
  const times = [];
  let failed = 0;
  const before = process.cpuUsage();
  const until = performance.now() + forMs;
  await Promise.all(
    calls.map(async (call, n) => {
      await pause(Math.random() * pauseMs);
      for (let turn = 0; performance.now() < until; turn++) {
        const link = job.links[(n * 37 + turn) % job.links.length];
        const [method, path, body] = [
          ['GET', `/api/links/${link}`],
          ['GET', '/api/jobs'],
          ['POST', `/api/links/${link}/tests`, reading()],
          ['GET', `/api/jobs/${job.id}/links`],
        ][turn % 4];
        const from = performance.now();
        const answer = await call(method, path, body);
        await answer.arrayBuffer();
        times.push(performance.now() - from);
        if (answer.status >= 500) failed++;
        if (pauseMs > 0) await pause(pauseMs);
      }
    }),
  );
  const { user, system } = process.cpuUsage(before);
  const callersMs = (user + system) / 1000 / times.length;
  return { times, failed, perSecond: times.length / (forMs / 1000), callersMs };
}

/** Everything that a large job and a crowd ask of the server, each beside what it is compared with. */
export async function loadBench() {
  const cluster = await startThrowawayCluster();
  const home = mkdtempSync(join(tmpdir(), 'near-spoke-load-'));
  chmodSync(home, 0o755);
  const env = { DATABASE_URL: cluster.url };
  const application = await startApplication({ port: await freePort(), home, env });
  const sql = new pg.Client({ connectionString: cluster.url });
  await sql.connect();
  try {
    const { url } = application;
    const call = await demoPerson(url);
    const small = await jobOf(call, 'Small', 34);
    say('Filling a job of 5,000 links with 50,000 readings.');
    const large = await jobOf(call, 'Large', LINKS);
    await fill(sql, call, large);
    const thousand = await jobOf(call, 'Middle', 1000);
    await fill(sql, call, thousand);
    const server = serverUnder(application.pid);
    const list = await timed(call, `/api/jobs/${large.id}/links`);
    const memory = watchMemory(server);
    const csv = await timed(call, `/api/jobs/${large.id}/handover.csv`);
    const json = await timed(call, `/api/jobs/${large.id}/handover.json`);
    const held = memory();
    const pdf = await timed(call, `/api/jobs/${thousand.id}/report/${PARTS}/report.pdf`);
    const [link] = small.links;
    const alone = await savesUntil(call, link, pause(8000));
    const viewer = await demoPerson(url, 3);
    const twelve = Promise.all(
      Array.from({ length: HANDOVERS_AT_ONCE }, () => timed(viewer, `/api/jobs/${thousand.id}/handover.csv`)),
    );
    const beside = await savesUntil(call, link, twelve);
    const flatOut = await crowd(url, small, { people: PEOPLE, pauseMs: 0, forMs: SPREAD_MS });
    const paced = await crowd(url, small, { people: PEOPLE, pauseMs: PAUSE_MS, forMs: 2 * SPREAD_MS });
    await application.stop();
    const several = await flatOutWith(2, home, env);
    return { list, csv, json, held, pdf, alone, beside, flatOut, paced, several };
  } finally {
    await sql.end();
    await application.stop();
    await cluster.stop();
    rmSync(home, { recursive: true, force: true });
  }
}

/** The same crowd, without a pause, before so many processes, on a job as young as the one before one process was. */
async function flatOutWith(processes, home, env) {
  const args = ['--processes', String(processes)];
  const application = await startApplication({ port: await freePorts(processes), home, args, env });
  try {
    const { url } = application;
    const young = await jobOf(await demoPerson(url), 'Young', 34);
    return await crowd(url, young, { people: PEOPLE, pauseMs: 0, forMs: SPREAD_MS });
  } finally {
    await application.stop();
  }
}

/** The server's process among the children of the one that started it. */
function serverUnder(pid) {
  const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').map(Number);
  const server = children.find((child) =>
    readFileSync(`/proc/${child}/cmdline`, 'utf8').includes('server.mjs'),
  );
  return server ?? pid;
}

/** The benchmark as a section of docs/performance.md. */
export function loadReport({ list, csv, json, held, pdf, alone, beside, flatOut, paced, several }) {
  const p = (values, q) => ms(quantile(values, q));
  const kB = (bytes) => `${Math.round(bytes / 1024).toLocaleString('en')} kB`;
  return `## A large job and a crowd

One job of ${LINKS} links with ${LINKS * TESTS_OF_EACH} readings, one of 1000 with ${1000 * TESTS_OF_EACH}, and ${PEOPLE} people on one of 34: they look into links, read
lists, and save readings. Server, database and callers share the two cores.

| What | Figure |
| --- | --- |
| List of ${LINKS} links | ${kB(list.bytes)}, ${ms(list.ms)} |
| Handover as a table: first byte, whole | ${ms(csv.firstMs)}, ${ms(csv.ms)} (${kB(csv.bytes)}) |
| Handover as JSON: first byte, whole | ${ms(json.firstMs)}, ${ms(json.ms)} (${kB(json.bytes)}) |
| Memory of the server meanwhile, over what it held before | ${kB(held.most - held.idle)} |
| Handover of 1000 links as PDF | ${ms(pdf.ms)} |
| Saves of one person alone: median, 99 in 100 | ${p(alone, 0.5)}, ${p(alone, 0.99)} of ${alone.length} |
| the same beside ${HANDOVERS_AT_ONCE} handovers of 1000 links | ${p(beside, 0.5)}, ${p(beside, 0.99)} of ${beside.length} |
| ${PEOPLE} people, no pause: requests a second, median, 99 in 100, failed | ${Math.round(flatOut.perSecond)}, ${p(flatOut.times, 0.5)}, ${p(flatOut.times, 0.99)}, ${flatOut.failed} |
| the same before two processes: requests a second, median, 99 in 100, failed | ${Math.round(several.perSecond)}, ${p(several.times, 0.5)}, ${p(several.times, 0.99)}, ${several.failed} |
| processor time of the callers themselves, of each request | ${flatOut.callersMs.toFixed(1)} ms |
| ${PEOPLE} people, ${PAUSE_MS / 1000} s pauses: median, 99 in 100, failed | ${p(paced.times, 0.5)}, ${p(paced.times, 0.99)}, ${paced.failed} |
`;
}
