import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { bundled } from './reflectometry-bench.mjs';

const ROOMS = ['quiet', 'pink', 'fan', 'drill', 'voices', 'another meter'];
const TOUCHES = 100;
const ALONE_S = 450;
const AT_ONCE = 2;

/**
 * Power by noise in a hertz that a matched filter of 150 ms needs, its pitch known and its phase not, to hear 99 of 100 touches and
 * have one false hit in an hour, decibels: a false hit in 24,000 stretches is exp(-T), T = 10.1; 99 of 100 are heard from
 * sqrt(2 E / N0) = sqrt(2 T) + 2.33 on.
 */
export const BOUND_DB = 10 * Math.log10((Math.sqrt(2 * Math.log(3600 / 0.15)) + 2.326) ** 2 / 2 / 0.15);

/** A meter's tone in six rooms: how faint it may be, and what the room alone is taken for. */
export async function hearingBench() {
  const folder = mkdtempSync(join(tmpdir(), 'hearing-trial-'));
  try {
    const outfile = await bundled('hearing-trial', folder);
    const waiting = [...ROOMS];
    const rows = {};
    const work = async () => {
      for (let room = waiting.shift(); room; room = waiting.shift()) {
        const worker = new Worker(outfile, { workerData: { room, touches: TOUCHES, aloneS: ALONE_S } });
        [rows[room]] = await once(worker, 'message');
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, work));
    return rows;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

export function hearingReport(rows) {
  const db = (value) => `${value > 0 ? '+' : ''}${Math.round(value)}`;
  const all = ROOMS.flatMap((room) => rows[room]);
  const tried = all.filter(({ faintest }) => faintest);
  const hours = (tried.length * ALONE_S) / 3600;
  const sum = (of) => tried.reduce((total, row) => total + of(row), 0);
  const cell = ({ faintest, overNoiseHz, hits, answers }) =>
    faintest
      ? `${db(faintest.overDb)} dB (${db(overNoiseHz - BOUND_DB)}), ${Math.round(1000 * faintest.delayS)} ms; ${hits}, ${answers}`
      : 'not within 150 ms';
  const names = rows[ROOMS[0]].map(({ name }) => name);
  return `## Hearing a meter

Beepers of eight kinds in six rooms, made by \`core/test/hearing/sounds.ts\`, which shares nothing with what hears them: the faintest
level, by 2 dB, at which 99 of ${TOUCHES} touches are known within 150 ms, as the tone's power over the whole noise's; in brackets over
what a matched filter needs in noise of that density at its pitch (${BOUND_DB.toFixed(1)} dB by the hertz); the median time until a touch is
known; then ${ALONE_S / 60} minutes of the room alone at that level: tones heard where there is none, and answers taken from that.

| Beeper | ${ROOMS.join(' | ')} |
| --- |${ROOMS.map(() => ' --- |').join('')}
${names.map((name, n) => `| ${name} | ${ROOMS.map((room) => cell(rows[room][n])).join(' | ')} |`).join('\n')}

In ${hours.toFixed(1)} hours of noise alone: ${sum(({ hits }) => hits)} tones heard, ${(sum(({ hits }) => hits) / hours).toFixed(1)} an hour; ${sum(({ answers }) => answers)} answers taken.
`;
}
