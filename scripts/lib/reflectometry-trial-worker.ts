import { parentPort, workerData } from 'node:worker_threads';
import { simulate } from '../../core/src/reflectometry/simulate.js';
import { distanceBound, drawTrials, readDraw, type Trial } from './reflectometry-trial.js';

/** What one trial's draws came to. */
export interface TrialResult {
  name: string;
  kind: string;
  snrDb: number;
  draws: number;
  /** Single echoes: root mean square error by the bound; null for the rest. */
  ratio: number | null;
  /** Draws whose 95 % interval holds the true distance, and those that found it. */
  within: number;
  found: number;
  rightKind: number;
  /** Traces with an event where nothing is. */
  falseTraces: number;
  readMs: number[];
}

const { from, until, seed, counts, draws } = workerData as {
  from: number;
  until: number;
  seed: number;
  counts: { single: number; matched: number; kinds: number };
  draws: number;
};

function run(trial: Trial, index: number): TrialResult {
  const clean = simulate(trial.network, trial.sampling);
  const single = trial.kind === 'open' || trial.kind === 'short';
  const endM = trial.network.chain.reduce((sum, part) => sum + (part.kind === 'line' ? part.lengthM : 0), 0);
  const out: TrialResult = {
    name: trial.name,
    kind: trial.kind,
    snrDb: trial.snrDb,
    draws,
    ratio: null,
    within: 0,
    found: 0,
    rightKind: 0,
    falseTraces: 0,
    readMs: [],
  };
  let squares = 0;
  for (let draw = 0; draw < draws; draw++) {
    const began = performance.now();
    const { events } = readDraw(trial, clean, seed + 1009 * index + draw);
    out.readMs.push(performance.now() - began);
    const real = events.filter(({ kind }) => kind !== 'ghost');
    // A matched end that is seen where it is is no false event.
    const told = real.filter(
      ({ kind, distanceM, u95M }) => !(kind === 'matched-end' && Math.abs(distanceM - endM) < 3 * u95M),
    );
    if (trial.distanceM === null) {
      if (told.length === 0) out.rightKind++;
      else out.falseTraces++;
      continue;
    }
    const truth = trial.distanceM;
    const allowed = Math.max(0.5, 0.02 * truth);
    const hit = real
      .filter(({ distanceM }) => Math.abs(distanceM - truth) < allowed)
      .sort((a, b) => Math.abs(a.distanceM - truth) - Math.abs(b.distanceM - truth))[0];
    if (hit) {
      out.found++;
      const off = hit.distanceM - truth;
      squares += off * off;
      if (Math.abs(off) <= hit.u95M) out.within++;
      if (hit.kind === trial.kind) out.rightKind++;
    }
    if (single && told.length > 1) out.falseTraces++;
  }
  if (single && out.found > 0) out.ratio = Math.sqrt(squares / out.found) / distanceBound(trial);
  return out;
}

const trials = drawTrials(seed, counts).slice(from, until);
parentPort?.postMessage(trials.map((trial, n) => run(trial, from + n)));
