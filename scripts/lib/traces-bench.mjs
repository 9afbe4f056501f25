import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { bundled } from './reflectometry-bench.mjs';

/** Seeds that were not looked at while the reading was built. */
const FIRST = 50000;
const TRACES = Number(process.env.TRACES ?? 300);

const quantile = (values, q) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))];
};
const mean = (values) => values.reduce((sum, value) => sum + value, 0) / values.length;
const percent = (part, whole) => (whole === 0 ? 'none' : `${((100 * part) / whole).toFixed(1)} %`);

/** Lines with something on their ends are looked at as well, other ones. */
const FIRST_LOADED = 70000;

/** Traces of lines that another world's waves ran on, read in two worker threads: bare ends, and ends with something on them. */
export async function tracesBench() {
  const folder = mkdtempSync(join(tmpdir(), 'near-spoke-traces-'));
  try {
    const outfile = await bundled('traces-trial', folder);
    const read = async (first, loads) => {
      const half = first + Math.ceil(TRACES / 2);
      const spans = [
        [first, half],
        [half, first + TRACES],
      ];
      const results = spans.map(
        ([from, until]) =>
          new Promise((resolve, reject) => {
            const worker = new Worker(outfile, { workerData: { from, until, loads } });
            worker.once('message', resolve);
            worker.once('error', reject);
          }),
      );
      return (await Promise.all(results)).flat();
    };
    return { bare: await read(FIRST, false), loaded: await read(FIRST_LOADED, true) };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** How often kinds are right in each range of stated belief, and by how much that is off over all. */
function calibration(told) {
  const bins = [0, 0.5, 0.8, 0.95, 1.0001];
  const rows = bins.slice(1).flatMap((until, n) => {
    const of = told.filter(({ probability }) => probability > bins[n] && probability <= until);
    if (of.length === 0) return [];
    const stated = mean(of.map(({ probability }) => probability));
    const right = of.filter((event) => event.right).length;
    return [{ from: bins[n], until: Math.min(1, until), of: of.length, stated, right: right / of.length }];
  });
  const error = rows.reduce(
    (sum, { of, stated, right }) => sum + (of * Math.abs(stated - right)) / told.length,
    0,
  );
  return { rows, error };
}

/** The benchmark as a section of docs/performance.md. */
export function tracesReport({ bare: results, loaded }) {
  const told = results.flatMap((one) => one.told);
  const real = told.filter((event) => event.real);
  const sure = told.filter(({ probability }) => probability > 0.95);
  const { rows, error } = calibration(told);
  const looked = loaded.flatMap((one) => one.told);
  const lookedSure = looked.filter(({ probability }) => probability > 0.95);
  const atEnds = looked.filter(({ kind }) => kind === 'loaded-end');
  const kinds = [...new Set(told.map(({ kind }) => kind))].sort().map((kind) => {
    const of = told.filter((event) => event.kind === kind);
    const right = of.filter((event) => event.right).length;
    return `| ${kind} | ${of.length} | ${mean(of.map(({ probability }) => probability)).toFixed(3)} | ${percent(right, of.length)} |`;
  });
  const ms = results.map((one) => one.ms);
  return `## Traces of another world

${results.length} traces of lines that \`core/test/world/lattice-line.ts\` draws: waves scattered between short pieces, step by step, which
shares no formula with the model that explains them. Their loss goes with powers of the frequency from 0.4 to 0.8, their
impedance wanders by 0.2 to 1.2 % and tapers, their noise is coloured and drifts, they have eight bits; impedance and velocity
are told, loss is not. Seeds from ${FIRST} on were not looked at while the reading was built.

| What | Figure |
| --- | --- |
| Things and ends found | ${percent(
    results.reduce((sum, one) => sum + one.found, 0),
    results.reduce((sum, one) => sum + one.things, 0),
  )} |
| Events where nothing is | ${told.length - real.length} in ${results.length} |
| True distance within the stated 95 % interval | ${percent(real.filter(({ offM, u95M }) => offM <= u95M).length, real.length)} |
| Kinds told right | ${percent(told.filter((event) => event.right).length, told.length)} of ${told.length} |
| Kinds stated over 95 %: right | ${percent(sure.filter((event) => event.right).length, sure.length)} of ${sure.length} |
| Calibration error of kinds | ${error.toFixed(3)} |
| One trace explained, median, 95 in 100 (Node.js) | ${quantile(ms, 0.5).toFixed(0)} ms, ${quantile(ms, 0.95).toFixed(0)} ms |

| Belief in the kind | Events | Mean belief | Right |
| --- | --- | --- | --- |
${rows.map((row) => `| ${row.from.toFixed(2)} to ${row.until.toFixed(2)} | ${row.of} | ${(100 * row.stated).toFixed(1)} % | ${(100 * row.right).toFixed(1)} % |`).join('\n')}

| Told as | Events | Mean belief | Right |
| --- | --- | --- | --- |
${kinds.join('\n')}

Of ${loaded.length} more, of which every third has something on its end, from a third of the line's impedance to three times, and of which
it is told how the far end is (seeds from ${FIRST_LOADED} on):

| What | Figure |
| --- | --- |
| Kinds told right | ${percent(looked.filter((event) => event.right).length, looked.length)} of ${looked.length} |
| Kinds stated over 95 %: right | ${percent(lookedSure.filter((event) => event.right).length, lookedSure.length)} of ${lookedSure.length} |
| Ends with something on them, told so: mean belief, right | ${mean(atEnds.map(({ probability }) => probability)).toFixed(3)}, ${percent(atEnds.filter((event) => event.right).length, atEnds.length)} of ${atEnds.length} |
| Calibration error of kinds | ${calibration(looked).error.toFixed(3)} |
`;
}
