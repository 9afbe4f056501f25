import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { Plain, say } from './plain.mjs';
import { capture } from './run.mjs';

/** When a process began, as a text that no later process of the same number shares; null for none. */
export function beganAt(pid) {
  const stat = `/proc/${pid}/stat`;
  if (existsSync('/proc/self/stat')) {
    try {
      // The name may hold spaces and brackets: what follows it is counted.
      const after = readFileSync(stat, 'utf8')
        .replace(/^.*\)\s/s, '')
        .split(' ');
      return after[0] === 'Z' ? null : after[19];
    } catch {
      return null;
    }
  }
  const { ok, output } = capture('ps', ['-o', 'lstart=', '-p', String(pid)]);
  return ok && output.trim() ? output.trim() : null;
}

const isAlive = ({ pid, began }) => beganAt(pid) === began;

function signal({ pid }, name) {
  try {
    process.kill(pid, name);
  } catch {
    // It ended meanwhile.
  }
}

async function end(one, withinMs) {
  signal(one, 'SIGTERM');
  for (const until = Date.now() + withinMs; isAlive(one) && Date.now() < until;) await pause(100);
  if (isAlive(one)) signal(one, 'SIGKILL');
}

function readRunning(file) {
  try {
    const kept = JSON.parse(readFileSync(file, 'utf8'));
    // Before processes were told apart by when they began, the file held a number.
    return typeof kept === 'number' ? { starter: { pid: kept, began: beganAt(kept) }, started: [] } : kept;
  } catch {
    return null;
  }
}

/** Whether an application runs from a data folder. */
export function isTaken(home) {
  const running = readRunning(join(home, 'running'));
  return running !== null && Boolean(running.starter.began) && isAlive(running.starter);
}

/**
 * One application per data folder: takes it, or refuses while another start has it. What a start that was
 * killed left running is ended first; only processes that this folder's list names, and that began when
 * it says, are touched.
 * @returns how to note what is started, and how to let go
 */
export async function takeFolder(home, withinMs = 5000) {
  const file = join(home, 'running');
  try {
    mkdirSync(home, { recursive: true });
    const before = existsSync(file) ? readRunning(file) : null;
    if (before && before.starter.pid !== process.pid && isAlive(before.starter) && before.starter.began)
      throw new Plain(
        `Near Spoke is already running from ${home} (process ${before.starter.pid}). Stop it first, or set NEAR_SPOKE_HOME to another folder.`,
      );
    const left = (before?.started ?? []).filter((one) => !one.halts && isAlive(one));
    for (const { name } of left) say(`Ending what a start that was killed left running: ${name}.`);
    await Promise.all(left.map((one) => end(one, withinMs)));
    const running = { starter: { pid: process.pid, began: beganAt(process.pid) }, started: [] };
    // Whoever reads it, now or after a crash, finds one whole list or the other.
    const keep = () => {
      writeFileSync(`${file}.next`, JSON.stringify(running));
      renameSync(`${file}.next`, file);
    };
    const keepIfItCan = () => {
      try {
        keep();
      } catch (error) {
        // What runs goes on; the next that is started has it written with it.
        say(`The list of what runs could not be written (${error.code}).`);
      }
    };
    keep();
    return {
      /** @param halts whether it has a way of its own to be stopped, which its next start takes */
      note: (name, pid, halts = false) => {
        running.started = [
          ...running.started.filter((one) => one.name !== name),
          { name, pid, began: beganAt(pid), halts },
        ];
        keepIfItCan();
      },
      letGo: () => rmSync(file, { force: true }),
    };
  } catch (error) {
    if (error instanceof Plain) throw error;
    if (error.code === 'ENOSPC')
      throw new Plain(`The disk is full: ${home} cannot be written. Free some space and start again.`);
    throw new Plain(
      `The data folder ${home} cannot be written (${error.code}). Set NEAR_SPOKE_HOME to a folder of yours.`,
    );
  }
}

const BACK_OFF_MS = { first: 500, most: 15_000, settled: 60_000 };

/**
 * Keeps a service running: begun again whenever it ends unasked, each time after a longer wait, until it
 * has stayed up for a minute.
 * @param begin starts it once; answers { ended, stop, pid }
 */
export async function keepRunning(name, begin, onBegun = () => undefined) {
  let service = await begin();
  let stopped = false;
  let wait = BACK_OFF_MS.first;
  let since = Date.now();
  onBegun(service);
  const watch = async () => {
    while (!stopped) {
      const { wanted, code, signal: by } = await service.ended;
      if (wanted || stopped) return;
      if (Date.now() - since > BACK_OFF_MS.settled) wait = BACK_OFF_MS.first;
      say(`${name} stopped by itself (${by ?? code}). Starting it again.`);
      for (let begun = false; !begun && !stopped;) {
        await pause(wait);
        wait = Math.min(2 * wait, BACK_OFF_MS.most);
        if (stopped) return;
        try {
          service = await begin();
          since = Date.now();
          onBegun(service);
          begun = true;
          say(`${name} runs again.`);
        } catch (error) {
          say(error instanceof Plain ? error.message : String(error));
        }
      }
      if (stopped) await service.stop();
    }
  };
  void watch();
  return {
    line: service.line,
    stop: async () => {
      stopped = true;
      await service.stop();
    },
  };
}
