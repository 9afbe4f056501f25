import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';
import { bundled } from './reflectometry-bench.mjs';
import { has } from './spice-bench.mjs';
import { say } from './plain.mjs';

const HISTORIES = Number(process.env.HISTORIES ?? 20_000);
const OHM_NETWORKS = 100;
/** First readings that came at least so often say how well anybody could tell. */
const OFTEN = 8;

const quantile = (values, q) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))];
};
const isBin = (one) => one?.belief !== undefined;
const add = (a, b) => {
  if (typeof a === 'number') return a + b;
  // Bins are added one by one, lists of any length set end to end.
  if (Array.isArray(a)) return isBin(a[0] ?? b[0]) ? a.map((x, i) => add(x, b[i])) : [...a, ...b];
  return Object.fromEntries(
    [...new Set([...Object.keys(a), ...Object.keys(b)])].map((key) => [
      key,
      a[key] === undefined ? b[key] : b[key] === undefined ? a[key] : add(a[key], b[key]),
    ]),
  );
};

/** Histories of links of a world that the judge's model did not draw, judged in two worker threads. */
export async function judgementBench() {
  const folder = mkdtempSync(join(tmpdir(), 'near-spoke-trial-'));
  try {
    const outfile = await bundled('judgement-trial', folder);
    const half = Math.ceil(HISTORIES / 2);
    const shares = [
      [1, 1 + half],
      [1 + half, 1 + HISTORIES],
    ].map(
      ([from, to]) =>
        new Promise((resolve, reject) => {
          const worker = new Worker(outfile, { workerData: { from, to } });
          worker.on('message', ({ progress, done }) => {
            if (done) resolve(done);
            else say(`history ${progress} of ${from} to ${to}`);
          });
          worker.once('error', reject);
        }),
    );
    const [a, b] = await Promise.all(shares);
    return { ...add(a, b), ohms: await ohmsAgainstSpice(folder) };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The ohmmeter's observer against a general circuit simulator; null where none is installed. */
export async function ohmsAgainstSpice(folder) {
  if (!has('ngspice')) return null;
  const { ohmCases } = await import(pathToFileURL(await bundled('ohm-cases', folder)).href);
  const offs = ohmCases(OHM_NETWORKS).map(({ net, from, to, ohm }) => {
    const index = new Map(net.nodes.map((name, i) => [name, i + 1]));
    const circuit = join(folder, 'ohms.cir');
    const lines = net.resistors.map(
      ({ a, b, ohm: r }, i) => `R${i} ${index.get(a)} ${index.get(b)} ${Math.max(r, 1e-6)}`,
    );
    // A leak too small to matter ties every node down.
    const leaks = net.nodes.map((_, i) => `RL${i} ${i + 1} 0 1e12`);
    writeFileSync(
      circuit,
      `ohms\nI1 ${index.get(to)} ${index.get(from)} 1\n${[...lines, ...leaks].join('\n')}\n.control\nop\nprint v(${index.get(from)})-v(${index.get(to)})\nquit\n.endc\n.end\n`,
    );
    const said = execFileSync('ngspice', ['-b', circuit], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    const theirs = Number(/v\(\d+\)\s*=\s*([-+\d.e]+)/i.exec(said)?.[1]);
    // The meter shows hundredths of an ohm.
    return Math.max(0, Math.abs(ohm - theirs) - 0.005) / theirs;
  });
  return { networks: offs.length, worst: Math.max(...offs), median: quantile(offs, 0.5) };
}

const percent = (part, whole, digits = 1) =>
  whole === 0 ? 'none' : `${((100 * part) / whole).toFixed(digits)} %`;

/** The benchmark as a section of docs/performance.md. */
export function judgementReport({ tally, first, ohms, reference: references, slow, falsePasses }) {
  const cases = tally.bins.reduce((n, b) => n + b.cases, 0);
  const ece = tally.bins.reduce((sum, b) => sum + Math.abs(b.belief - b.right), 0) / Math.max(1, cases);
  const { over } = tally;
  const often = Object.values(first).filter((seen) => seen.cases >= OFTEN);
  const total = often.reduce((n, seen) => n + seen.cases, 0);
  const perfect = often.reduce((n, seen) => n + Math.max(...Object.values(seen.truths)), 0);
  const ours = often.reduce((n, seen) => n + seen.right, 0);
  const belief = often.reduce((n, seen) => n + seen.belief, 0);
  const reference = quantile(references, 0.5);
  const slowest = slow.reduce((a, b) => (b.ms > a.ms ? b : a), { ms: 0 });
  const worstCame = Math.max(0, ...slow.map(({ came }) => came));
  const known =
    total === 0
      ? ''
      : `| First readings that came ${OFTEN} times or oftener: right, and mean belief | ${percent(ours, total)}, ${percent(belief, total)} of ${total} |
| the same by an observer who knows this world's own frequencies | at most ${percent(perfect, total)} |
`;
  const bins = tally.bins
    .map((b, i) => ({ ...b, from: i / 20 }))
    .filter((b) => b.cases > 0)
    .map(
      (b) =>
        `| ${b.from.toFixed(2)} to ${(b.from + 0.05).toFixed(2)} | ${b.cases} | ${percent(b.belief, b.cases)} | ${percent(b.right, b.cases)} |`,
    );
  return `## Judgement

${tally.histories} histories of links of a world of its own (\`core/test/world\`): its circuits are walked and solved by other code
than core's, its mishaps fall at other rates, its people read the wrong link, key rows across and keep readings twice.
${tally.judgements} judgements in all. A belief is right where its work is at just those places whose mishaps alone would give the readings, and at those that
were surely wrong before the last work and not worked on.

| What | Figure |
| --- | --- |
| Passes while a reading that holds shows a fault and no exception was met | ${tally.falsePasses}${falsePasses.map(({ seed, step }) => ` (history ${seed}, judgement ${step + 1})`).join('')} |
| Passes of a link that was wrong in a way its instruments could show, none of its readings having shown it | ${tally.unearned} of ${tally.judgements} |
| Links in order that were called wrong | ${tally.needlessFails} of ${tally.sound} (${percent(tally.needlessFails, tally.sound, 2)}) |
| Work that is settled (belief over 98 %): right | ${percent(tally.determinedRight, tally.determined, 2)} of ${tally.determined} |
| First repair proposed: at a place that needs work | ${percent(tally.repairsRight, tally.repairs)} of ${tally.repairs} |
| Calibration error, all beliefs | ${ece.toFixed(4)} |
| Calibration error, beliefs over 0.95 | ${(Math.abs(over.belief - over.right) / Math.max(1, over.cases)).toFixed(4)} (${over.cases} cases) |
${known}| One judgement, median, 99 in 100, slowest; of those over 0.5 s the quickest of three | ${[0.5, 0.99, 1].map((q) => `${quantile(tally.ms, q).toFixed(0)} ms`).join(', ')} |
| the same as multiples of the reference belief (two wires exchanged, one map; ${reference.toFixed(1)} ms median of ${references.length}, ${quantile(references, 0.99).toFixed(1)} ms in 99 of 100) | ${[0.5, 0.99, 1].map((q) => (quantile(tally.ms, q) / reference).toFixed(1)).join(', ')} |
| Slowest as it came, on two busy cores; those over 0.5 s; the slowest's history | ${worstCame.toFixed(0)} ms; ${slow.length}; ${slowest.seed ?? 'none'} |
| Ohmmeter against a general circuit simulator (ngspice) | ${ohms ? `${ohms.networks} random networks, off by ${(100 * ohms.median).toFixed(3)} % median, ${(100 * ohms.worst).toFixed(2)} % at most` : 'not installed, not compared'} |

| Belief in the first kind of work | Cases | Mean belief | Right |
| --- | --- | --- | --- |
${bins.join('\n')}
`;
}
