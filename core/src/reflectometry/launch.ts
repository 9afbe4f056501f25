import { median } from './noise-level.js';
import type { Trace } from './trace.js';

/** Where a trace's launch is, roughly: in samples, before anything is fitted. */
export interface Launch {
  shape: 'pulse' | 'step';
  /** Level before it, volts. */
  baselineV: number;
  /** Height with its sign, volts. */
  heightV: number;
  /** Sample at which the leading edge passes half its height, between samples. */
  edge: number;
  /** Samples from 10 to 90 % of the leading edge, at least one. */
  rise: number;
  /** Samples between the half heights of a pulse; of a step, to where the level settles. */
  width: number;
  /** First sample of the launch and the one after its last. */
  from: number;
  until: number;
}

/** A trace in which no launch can be found, and what to do. */
export class NoLaunch extends Error {}

/** Noise deviations that an edge has to stand out by. */
const STANDS_OUT = 8;
/** The baseline is taken from so many samples before the launch, at the least. */
const LEAST_BEFORE = 4;

/**
 * Finds the launch: the first excursion from the level at the trace's start that stands out of the
 * noise and reaches a good part of the largest.
 *
 * @param shape what a person knows; otherwise it is told from whether the level comes back
 * @throws NoLaunch when nothing stands out, or the trace starts inside the launch
 */
export function findLaunch({ volts }: Trace, noiseV: number, shape?: 'pulse' | 'step'): Launch {
  const first = median(volts.subarray(0, Math.max(LEAST_BEFORE, Math.min(32, volts.length >> 6))));
  const most = volts.reduce((top, v) => Math.max(top, Math.abs(v - first)), 0);
  if (!(most > STANDS_OUT * noiseV))
    throw new NoLaunch(
      'No launch stands out of the noise. Raise the pulse, or lower the volts per division, and take the trace again.',
    );
  const threshold = Math.max((STANDS_OUT * noiseV) / 2, most / 5);
  const over = volts.findIndex(
    (v, n) => Math.abs(v - first) > threshold && Math.abs((volts[n + 1] ?? v) - first) > threshold / 2,
  );
  if (over < LEAST_BEFORE)
    throw new NoLaunch(
      'The trace starts inside its launch. Move the trigger so that some of the quiet line before it is kept.',
    );
  const sign = Math.sign(volts[over]! - first);
  const baselineV = mean(volts, 0, quietUntil(volts, over, first, sign, noiseV));
  const level = (n: number): number => sign * (volts[Math.min(n, volts.length - 1)]! - baselineV);
  const { height, top } = plateau(level, over, volts.length, noiseV);
  const edge = crossing(level, over - 1, height / 2, volts.length);
  const start = crossingBack(level, Math.ceil(edge), height * 0.1);
  const rise = Math.max(1, crossing(level, Math.floor(start), height * 0.9, volts.length) - start);
  const fallen = firstUnder(level, top, height / 2, volts.length);
  const comesBack = fallen < volts.length && staysLow(level, fallen, height, volts.length);
  const told = shape ?? (comesBack ? 'pulse' : 'step');
  const width = told === 'pulse' ? Math.max(fallen - edge, 1) : rise;
  const settled = told === 'pulse' ? fallen : top;
  return {
    shape: told,
    baselineV,
    heightV: sign * height,
    edge,
    rise,
    width,
    from: Math.max(0, Math.floor(start - 2 * rise - 2)),
    until: Math.min(volts.length, Math.ceil(settled + 2.5 * rise + 3)),
  };
}

function mean(volts: Float64Array, from: number, until: number): number {
  let sum = 0;
  for (let n = from; n < until; n++) sum += volts[n]!;
  return sum / (until - from);
}

/** The last sample before the edge that is still quiet, a little earlier. */
function quietUntil(volts: Float64Array, over: number, first: number, sign: number, noiseV: number): number {
  let n = over;
  while (n > 1 && sign * (volts[n - 1]! - first) > 2 * noiseV) n--;
  return Math.max(LEAST_BEFORE, n - Math.ceil((over - n) * 0.5) - 1);
}

/** Height of the launch: the first level it holds, or its peak. */
function plateau(
  level: (n: number) => number,
  over: number,
  samples: number,
  noiseV: number,
): { height: number; top: number } {
  let top = over;
  let high = level(over);
  for (let n = over + 1; n < samples; n++) {
    const here = level(n);
    if (here > high) {
      high = here;
      top = n;
    }
    // The climb is over once it has not gone on for as long as it took, and a few samples.
    const took = Math.max(3, (top - over) * 1.5);
    if (n - top > took || here < high / 2) break;
    // A level held: noise alone moves the highest sample on.
    if (n - over > 8 && levelHeld(level, over, n, noiseV)) break;
  }
  const half = Math.max(1, Math.floor((top - over) / 3));
  let sum = 0;
  let count = 0;
  for (let n = Math.max(over, top - half); n <= top + 1 && n < samples; n++, count++) sum += level(n);
  return { height: Math.max(sum / count, high * 0.8), top };
}

/** Whether the second half of a climb is flat to the noise. */
function levelHeld(level: (n: number) => number, from: number, until: number, noiseV: number): boolean {
  const half = (from + until) >> 1;
  const third = Math.max(1, (until - half) >> 1);
  let early = 0;
  let late = 0;
  for (let n = 0; n < third; n++) {
    early += level(half + n) / third;
    late += level(until - third + 1 + n) / third;
  }
  return Math.abs(late - early) < 3 * noiseV * Math.sqrt(2 / third) + 0.01 * Math.abs(late);
}

/** Where the level first passes a height going up, between samples. */
function crossing(level: (n: number) => number, from: number, height: number, samples: number): number {
  let n = Math.max(from, 1);
  while (n < samples && level(n) < height) n++;
  const before = level(n - 1);
  const here = level(n);
  return here > before ? n - 1 + Math.min(1, Math.max(0, (height - before) / (here - before))) : n;
}

/** Going back from a sample, where the level was last under a height. */
function crossingBack(level: (n: number) => number, from: number, height: number): number {
  let n = from;
  while (n > 0 && level(n) > height) n--;
  const here = level(n);
  const after = level(n + 1);
  return after > here ? n + Math.min(1, Math.max(0, (height - here) / (after - here))) : n;
}

function firstUnder(level: (n: number) => number, from: number, height: number, samples: number): number {
  let n = from;
  while (n < samples && (level(n) > height || level(n + 1) > height)) n++;
  if (n >= samples || n === 0) return n;
  const before = level(n - 1);
  const here = level(n);
  return before > here ? n - 1 + (before - height) / (before - here) : n;
}

/** Whether the level after a fall is nearer to the baseline than to the launch for most of a while. */
function staysLow(level: (n: number) => number, fallen: number, height: number, samples: number): boolean {
  const from = Math.ceil(fallen) + 1;
  let low = 0;
  let count = 0;
  for (let n = from; n < samples; n++, count++) if (Math.abs(level(n)) < 0.4 * height) low++;
  return count > 0 && low > 0.5 * count;
}
