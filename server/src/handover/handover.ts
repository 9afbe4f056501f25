import type { Problem } from '@near-spoke/contracts';
import type { ReportPartId } from '@near-spoke/core';
import type { JobSeal } from '@near-spoke/core/report';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { crewHere } from '../db/crew.js';
import { Refusal } from '../problems.js';

/** A report, a table, the whole record; a seal over all links, or over those that are handed over. */
export type HandoverFile = 'pdf' | 'html' | 'csv' | 'json' | 'seal' | 'seal-handed-over' | 'archive';

/** A file of a job to be made. */
export interface ToHandOver {
  /** Of the database. */
  url: string;
  /** Whose job it is. */
  ofCrew: string;
  jobId: string;
  kind: HandoverFile;
  made: { at: string; by: string };
  /** Of a report: its parts in their order, and where the application is reached. */
  report?: { parts: readonly ReportPartId[]; address: string };
  /** Takes the pieces; a message back asks for the next, closing it says that nobody wants them any more. */
  port: MessagePort;
}

export interface Made {
  /** Why it could not be made just now. */
  problem: Problem | null;
}

/** So many files may wait before people are asked to try again. */
const WAITING = 40;

let pool: Piscina | null = null;

/** One file at a time beside everything else: those who record work are never behind those who read all of it. */
const thread = (): Piscina =>
  (pool ??= new Piscina({
    filename: new URL(
      import.meta.url.endsWith('.ts') ? './handover-worker.ts' : './handover-worker.mjs',
      import.meta.url,
    ).href,
    minThreads: 0,
    maxThreads: 1,
    // It has time, and little memory: what it made is thrown away soon.
    resourceLimits: { maxYoungGenerationSizeMb: 16 },
    idleTimeout: 30_000,
  }));

/**
 * Makes a file of a job in a worker thread, piece by piece as it is taken; who stops taking ends the work.
 *
 * @throws Refusal 503 where too many wait, or the database does not answer
 */
export async function* handOver(one: Omit<ToHandOver, 'port' | 'ofCrew'>): AsyncGenerator<Uint8Array> {
  if (thread().queueSize >= WAITING)
    throw new Refusal(503, 'Busy', 'Many files are being made just now. Try again in a moment.');
  const { port1: ours, port2: theirs } = new MessageChannel();
  const pieces: Uint8Array[] = [];
  let wake: () => void = () => undefined;
  let ended = false;
  ours.on('message', (piece: Uint8Array) => {
    pieces.push(piece);
    wake();
  });
  const done = thread()
    .run({ ...one, ofCrew: crewHere(), port: theirs }, { transferList: [theirs] })
    .finally(() => {
      ended = true;
      wake();
    }) as Promise<Made>;
  // It is waited for below; until then a failure is no surprise.
  done.catch(() => undefined);
  try {
    for (;;) {
      const piece = pieces.shift();
      if (piece) {
        yield piece;
        ours.postMessage('more');
      } else if (ended) break;
      else await new Promise<void>((resolve) => (wake = resolve));
    }
    const { problem } = await done;
    if (problem) throw new Refusal(problem.status, problem.title, problem.detail ?? '');
  } finally {
    // Nobody takes the rest: what waits is not begun, and what runs stops where it is.
    ours.close();
  }
}

/** The seal over a job's links, made in the thread. */
export async function sealNow(one: Omit<ToHandOver, 'port' | 'ofCrew' | 'made'>): Promise<JobSeal> {
  const pieces: Uint8Array[] = [];
  for await (const piece of handOver({ ...one, made: { at: '', by: '' } })) pieces.push(piece);
  return JSON.parse(Buffer.concat(pieces).toString('utf8')) as JobSeal;
}

/** Files that wait for the thread. */
export const filesWaiting = (): number => pool?.queueSize ?? 0;

/** Ends the thread, when the server stops. */
export async function endHandovers(): Promise<void> {
  const ending = pool;
  pool = null;
  await ending?.destroy();
}
