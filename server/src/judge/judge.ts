import type { Diagnosis, FoundFault, LinkExpectation, LinkHistory, Practice } from '@near-spoke/core';
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { Refusal } from '../problems.js';

/** A link's record and what it is judged by. */
export interface ToJudge {
  expected: LinkExpectation;
  record: LinkHistory;
  practice: Practice;
  /** Whether to say, too, what was wrong before and is now proved gone. */
  wantsFound?: boolean;
}

/** What a thread is given: the thread says in `began` when it came to it, in milliseconds of the clock, 0 before. */
export interface Task extends ToJudge {
  began: BigInt64Array;
}

export interface Judged {
  diagnosis: Diagnosis | null;
  found: FoundFault[];
}

/** So many records may wait for a thread before people are asked to try again. */
const WAITING = 200;
/** A record that takes longer is given up: the work of this trade is judged in well under a second. */
const LONGEST_MS = 12_000;
/** Given up sooner after it was begun, it was the waiting that took so long. */
const LONG_ENOUGH_MS = LONGEST_MS / 2;

let pool: Piscina | null = null;
let processes = 1;

/** Says how many processes like this one share the machine; call it before the first record is judged. */
export function shareMachine(by: number): void {
  processes = Math.max(1, by);
}

/** Beside the thread that answers requests; two at least, so that one hard record does not hold up all. */
const threads = (): Piscina =>
  (pool ??= new Piscina({
    // The bundle has its worker beside it; from the sources it is run as it stands.
    filename: new URL(
      import.meta.url.endsWith('.ts') ? './judge-worker.ts' : './judge-worker.mjs',
      import.meta.url,
    ).href,
    minThreads: 0,
    maxThreads: Math.max(2, Math.floor((availableParallelism() - 1) / processes)),
    idleTimeout: 30_000,
  }));

/**
 * Judges a record in a worker thread, so that others are answered meanwhile.
 *
 * @throws Refusal 503 where too many records wait or no thread is free in time, 422 where this one cannot be judged in time
 */
export async function judge(one: ToJudge): Promise<Judged> {
  if (one.record.tests.length === 0) return { diagnosis: null, found: [] };
  if (threads().queueSize >= WAITING) throw busy();
  const inTime = AbortSignal.timeout(LONGEST_MS);
  const began = new BigInt64Array(new SharedArrayBuffer(8));
  const task: Task = { ...one, began };
  try {
    return (await threads().run(task, { signal: inTime })) as Judged;
  } catch (error) {
    const since = Number(Atomics.load(began, 0));
    if (inTime.aborted && (since === 0 || Date.now() - since < LONG_ENOUGH_MS)) throw busy();
    if (inTime.aborted)
      throw new Refusal(
        422,
        'Not judged in time',
        `What was read contradicts itself in so many places that no verdict was found in ${LONGEST_MS / 1000} s. Nothing was saved. Read the link again, or key in fewer touches at a time.`,
      );
    throw error;
  }
}

const busy = (): Refusal =>
  new Refusal(
    503,
    'Busy',
    'Many readings are being judged just now. Nothing was kept: send it again in a moment.',
  );

/** Records that wait for a thread. */
export const recordsWaiting = (): number => pool?.queueSize ?? 0;

/** Ends the threads, when the server stops. */
export async function endJudging(): Promise<void> {
  const ending = pool;
  pool = null;
  await ending?.destroy();
}
