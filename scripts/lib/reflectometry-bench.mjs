import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { build } from 'esbuild';
import { root } from './folders.mjs';
import { spiceBench } from './spice-bench.mjs';

const SEED = 2026;
const COUNTS = { single: 24, matched: 8, kinds: 24 };
const DRAWS = 100;

const quantile = (values, q) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))];
};
const sum = (rows, of) => rows.reduce((total, row) => total + of(row), 0);

/** Bundles one script of the benchmark. */
export async function bundled(entry, folder, { external = [] } = {}) {
  const outfile = join(folder, `${entry}.mjs`);
  await build({
    entryPoints: [join(root, `scripts/lib/${entry}.ts`)],
    bundle: true,
    platform: 'node',
    format: 'esm',
    external,
    outfile,
    logLevel: 'error',
  });
  return outfile;
}

/** Seeded traces of known lines, read in two worker threads, and the forward model against a circuit simulator. */
export async function reflectometryBench() {
  const folder = mkdtempSync(join(tmpdir(), 'near-spoke-trial-'));
  try {
    const outfile = await bundled('reflectometry-trial-worker', folder);
    const total = COUNTS.single + COUNTS.matched + COUNTS.kinds;
    // Trials differ in length: the two threads take short slices in turn.
    const slices = Array.from({ length: Math.ceil(total / 4) }, (_, n) => [
      4 * n,
      Math.min(total, 4 * n + 4),
    ]);
    const results = [];
    const thread = async () => {
      for (let slice = slices.shift(); slice; slice = slices.shift())
        results.push(...(await trialSlice(outfile, slice)));
    };
    await Promise.all([thread(), thread()]);
    const large = await bundled('reflectometry-large', folder);
    const reading = await new Promise((resolve, reject) => {
      const worker = new Worker(large);
      worker.once('message', resolve);
      worker.once('error', reject);
    });
    return { results, reading, spice: await spiceBench(folder) };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const trialSlice = (outfile, [from, until]) =>
  new Promise((resolve, reject) => {
    const worker = new Worker(outfile, {
      workerData: { from, until, seed: SEED, counts: COUNTS, draws: DRAWS },
    });
    worker.once('message', resolve);
    worker.once('error', reject);
  });

const percent = (part, whole) => (whole === 0 ? 'none' : `${((100 * part) / whole).toFixed(1)} %`);

/** The benchmark as a section of docs/performance.md. */
export function reflectometryReport({ results, reading, spice }) {
  const single = results.filter(({ ratio }) => ratio !== null);
  const ends = results.filter(({ kind }) => ['open', 'short', 'matched-end'].includes(kind));
  const loud = results.filter(({ snrDb }) => snrDb >= 26);
  const ratios = single.map(({ ratio }) => ratio);
  const quiet = [...single, ...results.filter(({ kind }) => kind === 'matched-end')];
  const kinds = [...new Set(results.map(({ kind }) => kind))].map((kind) => {
    const of = loud.filter((row) => row.kind === kind);
    return `| ${kind} | ${of.length} | ${percent(
      sum(of, (r) => r.rightKind),
      sum(of, (r) => r.draws),
    )} |`;
  });
  return `## Reflectometry

${sum(results, (r) => r.draws)} seeded traces of ${results.length} lines (coax and pairs, 1 to 300 m, pulses and steps, launch to noise 20 to 50 dB,
8 bits, loss 0.8 to 1.25 times the cable's figures, half of the sources off by up to a fifth), ${DRAWS} noise draws each.
The bound has launch and echo heights, launch time, level and loss unknown, and counts the converter's steps as noise.
What lies in the way is drawn on lines of 12 m and more, with room for its echoes to come apart.

| What | Figure |
| --- | --- |
| Root mean square error by the lower bound, single echoes, median of ${single.length} lines | ${quantile(ratios, 0.5).toFixed(2)} |
| the same, 90th percentile | ${quantile(ratios, 0.9).toFixed(2)} |
| Single echoes found | ${percent(
    sum(single, (r) => r.found),
    sum(single, (r) => r.draws),
  )} |
| Their true distance within the stated 95 % interval | ${percent(
    sum(single, (r) => r.within),
    sum(single, (r) => r.found),
  )} |
| Open, short and matched told right | ${percent(
    sum(ends, (r) => r.rightKind),
    sum(ends, (r) => r.draws),
  )} |
| All kinds told right, from 26 dB on | ${percent(
    sum(loud, (r) => r.rightKind),
    sum(loud, (r) => r.draws),
  )} |
| Traces of single or matched ends with an event where nothing is | ${sum(quiet, (r) => r.falseTraces)} in ${sum(quiet, (r) => r.draws)} |
| One trace read, median (Node.js) | ${quantile(
    results.flatMap((r) => r.readMs),
    0.5,
  ).toFixed(0)} ms |
| 10,000 samples read in a worker thread, median | ${quantile(reading.ms, 0.5).toFixed(0)} ms |
| A sweep of 1,000 points: first look, settled, median (95 in 100) | ${quantile(reading.first, 0.5).toFixed(0)} ms (${quantile(reading.first, 0.95).toFixed(0)} ms), ${quantile(reading.settled, 0.5).toFixed(0)} ms (${quantile(reading.settled, 0.95).toFixed(0)} ms) |

| Kind, from 26 dB on | Lines | Told right |
| --- | --- | --- |
${kinds.join('\n')}

${spice}
`;
}
