import { randomUUID } from 'node:crypto';
import {
  chmodSync,
  closeSync,
  existsSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { startApplication } from './application.mjs';
import { firstLead } from './caller.mjs';
import { Plain } from './plain.mjs';
import { freePorts } from './postgres.mjs';
import { beganAt } from './processes.mjs';
import { capture } from './run.mjs';

const WRITERS = 6;
const LINKS = 24;
/** A part that is gone has to be back within this time. */
const BACK_WITHIN_MS = 180_000;
const FROZEN_MS = 2500;
const FULL_MS = 4000;
/** A database, its log and a few thousand records have room on it; what it holds is gone with it. */
const SMALL_DISK = '700m';
const LOOK_MS = 50;
const ANSWER_WITHIN_MS = 60_000;
const PASSPHRASE = 'four short words here';

const straight = Object.fromEntries([...'12345678'].map((c) => [c, [c]]));
const exchanged = { ...straight, 1: ['2'], 2: ['1'] };

const kill = (pid, signal) => {
  try {
    process.kill(pid, signal);
    return true;
  } catch {
    return false;
  }
};

/** The database's processes that serve somebody, by the postmaster's children. */
function backendsOf(postmaster) {
  const children = readFileSync(`/proc/${postmaster}/task/${postmaster}/children`, 'utf8')
    .trim()
    .split(' ')
    .map(Number);
  return children.filter((pid) => {
    try {
      return /near_spoke.*(idle|SELECT|INSERT|UPDATE|BEGIN|COMMIT)/.test(
        readFileSync(`/proc/${pid}/cmdline`, 'utf8'),
      );
    } catch {
      return false;
    }
  });
}

const one = (list) => list[Math.floor(Math.random() * list.length)];

/** Writes a file until nothing more goes onto its disk. */
function fill(path) {
  const file = openSync(path, 'w');
  try {
    for (const bytes of [1 << 20, 1 << 12])
      for (const block = Buffer.alloc(bytes, 1); ;)
        try {
          if (writeSync(file, block) < bytes) break;
        } catch (error) {
          if (error.code !== 'ENOSPC') throw error;
          break;
        }
  } finally {
    closeSync(file);
  }
}

/** A small disk of its own at a folder, where this machine lets us make one; answers how to take it away, or null. */
function smallDisk(folder) {
  const { ok } = capture('mount', ['-t', 'tmpfs', '-o', `size=${SMALL_DISK},mode=755`, 'tmpfs', folder]);
  return ok ? () => capture('umount', [folder]) : null;
}

const pidsOf = (parts, names) =>
  Object.entries(parts).flatMap(([name, pid]) => (names.test(name) ? [pid] : []));

/** What is done to the application, each by its name: answers whether there was anything to do it to. */
const HARMS = {
  // One of several, where there are several.
  'server killed': ({ parts }) => kill(one(pidsOf(parts(), /^(the )?server/)), 'SIGKILL'),
  'balancer killed': ({ parts }) => kill(parts()['the balancer'], 'SIGKILL'),
  'instruments killed': ({ parts }) => kill(parts()['the instrument stand-in'], 'SIGKILL'),
  'database killed': ({ parts }) => kill(parts()['the database'], 'SIGKILL'),
  'database stopped': ({ parts }) => kill(parts()['the database'], 'SIGINT'),
  'connection killed': ({ parts }) => kill(one(backendsOf(parts()['the database'])), 'SIGKILL'),
  'connection ended': ({ parts }) => kill(one(backendsOf(parts()['the database'])), 'SIGTERM'),
  'database frozen': async ({ parts }) => {
    const pid = parts()['the database'];
    const frozen = [pid, ...backendsOf(pid)];
    for (const each of frozen) kill(each, 'SIGSTOP');
    await pause(FROZEN_MS);
    for (const each of frozen) kill(each, 'SIGCONT');
    return true;
  },
  'disk filled': async ({ home }) => {
    const all = join(home, 'takes-all-that-is-left');
    try {
      fill(all);
      await pause(FULL_MS);
    } finally {
      rmSync(all, { force: true });
    }
    return true;
  },
  'starter killed': async ({ application, begin }) => {
    kill(application().pid, 'SIGKILL');
    while (beganAt(application().pid) !== null) await pause(LOOK_MS);
    await begin();
    return true;
  },
};

/**
 * Hurts a running application at random while people record work, and counts what came of it. Everything that was
 * acknowledged has to be there once; what a person was not told is kept may be there or not, but never by half.
 *
 * @param minutes how long
 * @param processes so many server processes, with a balancer before them where they are several
 * @param timesEach it goes on until each harm was done so often
 * @param leastAcknowledged it goes on until so many records are kept, however slow the machine
 * @param harms names of what is done; all of it where left out
 * @param enough an AbortSignal: no further harm is done, and what came of those before is counted
 * @param said is told of each
 */
export async function torture({
  minutes,
  processes = 1,
  timesEach = 0,
  leastAcknowledged = 0,
  harms: wanted = harmsTo(processes),
  enough,
  said = () => undefined,
}) {
  const home = mkdtempSync(join(tmpdir(), 'near-spoke-torture-'));
  chmodSync(home, 0o755);
  // Whoever's whole disk it is would not thank us for filling it.
  const takeAway = wanted.includes('disk filled') ? smallDisk(home) : null;
  const harms = wanted.filter((name) => name !== 'disk filled' || takeAway !== null);
  if (harms.length < wanted.length) said('No small disk can be made here: none is filled.');
  const port = await freePorts(processes);
  const args = ['--empty', '--processes', String(processes)];
  let application = await startApplication({ port, home, args });
  const { url } = application;
  const world = {
    home,
    application: () => application,
    parts: () =>
      Object.fromEntries(
        JSON.parse(readFileSync(join(home, 'running'), 'utf8')).started.map(({ name, pid }) => [name, pid]),
      ),
    begin: async () => {
      application = await startApplication({ port, home, args });
    },
  };
  try {
    const call = await firstLead(url, { id: randomUUID(), name: 'Ada', passphrase: PASSPHRASE }, () => ({
      signal: AbortSignal.timeout(ANSWER_WITHIN_MS),
    }));
    const links = await aJob(call);
    const acknowledged = new Map();
    let refused = 0;
    let over = false;
    const write = async (n) => {
      while (!over) {
        const link = links[Math.floor(Math.random() * links.length)];
        const sent = test(Math.random() < 0.2 ? exchanged : straight);
        // The same record until somebody says that it is kept, as a page does.
        while (!over) {
          const answer = await call('POST', `/api/links/${link}/tests`, sent).catch(() => null);
          if (answer?.status === 200) {
            await answer.arrayBuffer().catch(() => undefined);
            acknowledged.set(sent.id, link);
            break;
          }
          // A link to which somebody else has just added is no failure; anything else is tried again.
          if (answer && answer.status < 500 && answer.status !== 429)
            throw new Plain(`writer ${n}: ${answer.status} ${await answer.text()}`);
          refused++;
          await pause(100 + 200 * Math.random());
        }
        await pause(20);
      }
    };
    const writers = Array.from({ length: WRITERS }, (_, n) => write(n));
    // A writer that fails is told at the end, with everything else.
    for (const writer of writers) writer.catch(() => undefined);
    const done = Object.fromEntries(harms.map((name) => [name, 0]));
    const away = [];
    for (
      const until = Date.now() + minutes * 60_000;
      !enough?.aborted &&
      (Date.now() < until ||
        acknowledged.size < leastAcknowledged ||
        Object.values(done).some((times) => times < timesEach));
    ) {
      const name = harms.reduce((least, each) => (done[each] < done[least] ? each : least));
      const from = performance.now();
      if (!(await Promise.resolve(HARMS[name](world)).catch(() => false))) {
        await pause(LOOK_MS);
        continue;
      }
      done[name]++;
      const ms = await untilSaved(call, links[0], acknowledged, from);
      away.push({ name, ms });
      said(`${name}: saving again after ${Math.round(ms)} ms`);
      await pause(300 * Math.random());
    }
    over = true;
    const ends = await Promise.allSettled(writers);
    const errors = ends.flatMap((end) => (end.status === 'rejected' ? [String(end.reason.message)] : []));
    return { done, away, refused, errors, ...(await counted(call, links, acknowledged)) };
  } finally {
    await application.stop();
    takeAway?.();
    forget(home);
  }
}

/** Whom there is not nobody can harm. */
const harmsTo = (processes) =>
  Object.keys(HARMS).filter((name) => processes > 1 || name !== 'balancer killed');

/** Saves until one is acknowledged; answers the time since the harm. */
async function untilSaved(call, link, acknowledged, from) {
  const sent = test(straight);
  for (;;) {
    const answer = await call('POST', `/api/links/${link}/tests`, sent).catch(() => null);
    if (answer?.status === 200) {
      acknowledged.set(sent.id, link);
      return performance.now() - from;
    }
    if (performance.now() - from > BACK_WITHIN_MS) return Infinity;
    await pause(LOOK_MS);
  }
}

/** What is there in the end, held against what was acknowledged. */
async function counted(call, links, acknowledged) {
  const there = new Map();
  let half = 0;
  for (const link of links) {
    const answer = await call('GET', `/api/links/${link}`);
    const { tests, diagnosis, link: shown } = await answer.json();
    for (const { id, diagnosis: verdict, reading } of tests) {
      there.set(id, (there.get(id) ?? 0) + 1);
      if (!verdict || !reading) half++;
    }
    // The verdict and the standing are kept in the same breath as the reading.
    if (tests.length > 0 && (!diagnosis || shown.standing === '')) half++;
  }
  const lost = [...acknowledged.keys()].filter((id) => !there.has(id)).length;
  const twice = [...there.values()].filter((times) => times > 1).length;
  return { acknowledged: acknowledged.size, kept: there.size, lost, twice, half };
}

const test = (arrivals) => ({
  id: randomUUID(),
  instrumentName: 'a mapper',
  unplugged: true,
  reading: { instrument: 'coded-mapper', arrivals, joins: [], splits: null },
});

async function aJob(call) {
  const job = {
    id: randomUUID(),
    site: 'Here',
    title: 'Torture',
    hub: 'B',
    scheme: 'T568B',
    units: 'metric',
  };
  await call('POST', '/api/jobs', job);
  const links = Array.from({ length: LINKS }, (_, n) => ({
    id: randomUUID(),
    label: `T-${n}`,
    panel: 'P1',
    port: String(n),
    room: 'hall',
    outlet: `outlet ${n}`,
    cableTypeId: 'cat6-u',
    nearConnectorId: 'jack-punched',
    farConnectorId: 'jack-punched',
    lengthM: 30,
    route: [],
  }));
  const answer = await call('POST', `/api/jobs/${job.id}/links`, { links });
  if (!answer.ok) throw new Plain(`No links could be made: ${await answer.text()}`);
  return links.map(({ id }) => id);
}

/** Removes a home, and the database that it may have put elsewhere. */
function forget(home) {
  const note = join(home, 'database-is-in');
  if (existsSync(note)) rmSync(readFileSync(note, 'utf8').trim(), { recursive: true, force: true });
  if (readdirSync(home).length >= 0) rmSync(home, { recursive: true, force: true });
}
