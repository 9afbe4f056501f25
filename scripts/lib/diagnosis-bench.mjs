import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { build } from 'esbuild';
import { root } from './folders.mjs';

const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const add = (a, b) => {
  if (typeof a === 'number') return a + b;
  if (Array.isArray(a))
    return typeof a[0] === 'number' && a.length !== 4 ? [...a, ...b] : a.map((x, i) => add(x, b[i]));
  return Object.fromEntries(Object.keys(a).map((key) => [key, add(a[key], b[key])]));
};

/** Runs the diagnosis benchmark on so many seeded links, in two worker threads. */
export async function diagnosisBench(links = 12_000, policyEvery = 4) {
  const folder = mkdtempSync(join(tmpdir(), 'near-spoke-trial-'));
  try {
    const outfile = join(folder, 'trial.mjs');
    await build({
      entryPoints: [join(root, 'scripts/lib/diagnosis-trial.ts')],
      bundle: true,
      platform: 'node',
      format: 'esm',
      outfile,
      logLevel: 'error',
    });
    const half = Math.ceil(links / 2);
    const shares = [
      [0, half],
      [half, links],
    ].map(
      ([from, to]) =>
        new Promise((resolve, reject) => {
          const worker = new Worker(outfile, { workerData: { from, to, policyEvery } });
          worker.once('message', resolve);
          worker.once('error', reject);
        }),
    );
    const [a, b] = await Promise.all(shares);
    return add(a, b);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const percent = (part, whole, digits = 2) =>
  whole === 0 ? 'none' : `${((100 * part) / whole).toFixed(digits)} %`;

/** The benchmark as a section of docs/performance.md. */
export function diagnosisReport(r) {
  const ece =
    r.bins.reduce((sum, b) => sum + Math.abs(b.belief - b.right), 0) /
    r.bins.reduce((n, b) => n + b.cases, 0);
  const passes = Object.entries(r.passes).map(
    ([name, p]) =>
      `| ${name} | ${p.visible} | ${p.falsePasses} (${percent(p.falsePasses, p.visible)}) | ${p.missed} (${percent(p.missed, p.visible)}) |`,
  );
  const bins = r.bins
    .map((b, i) => ({ ...b, from: i / 10 }))
    .filter((b) => b.cases > 0)
    .map(
      (b) =>
        `| ${b.from.toFixed(1)} to ${(b.from + 0.1).toFixed(1)} | ${b.cases} | ${percent(b.belief, b.cases, 1)} | ${percent(b.right, b.cases, 1)} |`,
    );
  const saved = 1 - r.policy.minutes / r.policy.naiveMinutes;
  return `## Diagnosis

${r.links} seeded links of six kinds (four-pair plain and screened, coax, telephone), ${r.byFaults
    .map((n, k) => `${n} with ${k}`)
    .join(', ')} things wrong, drawn from the model of practice with far more going wrong than
with any crew. A fault's class is what the link electrically is: slips that undo each other are none.

| What | Figure |
| --- | --- |
| Passes by error-free observers of links whose fault class they can see | ${r.idealFalsePasses} |
| Determined cases (one kind of work holds at least 99 % of the belief) | ${r.determined} |
| of these, the first explanation asks for the right work | ${percent(r.determinedRight, r.determined)} |
| Expected calibration error of the belief in the first kind of work | ${ece.toFixed(4)} |
| Minutes spent before and beside the right repair, by the next look, ${r.policy.cases} broken links | ${((r.policy.minutes - r.policy.needed) / r.policy.cases).toFixed(1)} |
| the same by redoing far, then near, then the cable | ${((r.policy.naiveMinutes - r.policy.needed) / r.policy.cases).toFixed(1)} |
| fewer by | ${percent(1 - (r.policy.minutes - r.policy.needed) / (r.policy.naiveMinutes - r.policy.needed), 1, 1)} |
| Minutes in all to a passing link: needed, by the next look, far first | ${[r.policy.needed, r.policy.minutes, r.policy.naiveMinutes].map((m) => (m / r.policy.cases).toFixed(1)).join(', ')} |
| fewer in all by (no plan could save more than ${percent(1 - r.policy.needed / r.policy.naiveMinutes, 1, 1)}) | ${percent(saved, 1, 1)} |
| Left unmended by the next look within 14 steps | ${r.policy.unmended} |
| One belief worked through, median (Node.js) | ${median(r.diagnosisMs).toFixed(1)} ms |

With their stated errors and loose joints, on links whose fault their error-free reading shows:

| Observer | Links | Passed all the same | Readings in which the observer itself missed it |
| --- | --- | --- | --- |
${passes.join('\n')}

| Belief in the first kind of work | Cases | Mean belief | Right |
| --- | --- | --- | --- |
${bins.join('\n')}
`;
}
