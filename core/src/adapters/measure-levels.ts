import { noiseLevel, quantumOf } from '../reflectometry/noise-level.js';
import type { Trace } from '../reflectometry/trace.js';
import type { LevelFamily } from './levels.js';

/** What a signal line does, taken from an oscilloscope's samples. */
export interface MeasuredLevels {
  lowV: number;
  highV: number;
  swingV: number;
  /** From 10 to 90 % of the swing, seconds, the median of the edges seen; null where they are faster than the samples. */
  edgeS: number | null;
  /** Between the middles of two edges, seconds, the shortest seen; null with fewer than two edges. */
  shortestBitS: number | null;
  edges: number;
  /** Deviation of the samples about their level. */
  noiseV: number;
}

/** Samples that hold no signal of two levels, and why. */
export class NoLevels extends Error {}

/** The two levels are at least so many deviations of the noise apart. */
const APART = 8;
/** So many different values, or fewer, are levels and not noise about them. */
const FEW_VALUES = 3;
/** No logic swings less; one step of an instrument's converter does. */
const LEAST_SWING_V = 0.25;
/** A level holds for so many samples in the middle; a step that flickers does not. */
const STEADY_SAMPLES = 3;
/** Share of the samples that each level has to have. */
const LEAST_SHARE = 0.02;
/** An edge over in so few samples is as fast as they are, or faster. */
const RESOLVED = 2;
/** Going from one level to the other is an edge only where both of these shares of the swing are passed. */
const HYSTERESIS = [0.3, 0.7] as const;

/**
 * The two levels of a logic signal: its samples parted at the threshold that leaves least scatter
 * about the two means (Otsu), each level the median of its samples; edges with hysteresis, so that
 * noise on a slow one does not count as many; edge time and the shortest bit between their middles.
 *
 * @throws NoLevels where the line does not move, or has no two levels
 */
export function measureLevels(trace: Trace): MeasuredLevels {
  const { volts, intervalS } = trace;
  const quantumV = quantumOf(volts);
  const few = new Set(volts).size <= FEW_VALUES;
  // Samples of two values alone tell no quantum: they are the levels, or one step of the instrument's.
  const noiseV = few ? 0 : Math.max(noiseLevel(volts, quantumV), quantumV / Math.sqrt(12));
  const sorted = Float64Array.from(volts).sort();
  const cut = thresholdOf(sorted);
  const low = sorted.subarray(0, cut);
  const high = sorted.subarray(cut);
  const [lowV, highV] = [medianOf(low), medianOf(high)];
  const swingV = highV - lowV;
  const moves = few
    ? swingV >= LEAST_SWING_V && medianRun(volts) >= STEADY_SAMPLES
    : swingV > APART * noiseV && swingV > 0;
  if (!moves)
    throw new NoLevels(
      'The line does not move: the samples show one level and noise. Take them while it sends.',
    );
  if (Math.min(low.length, high.length) < LEAST_SHARE * volts.length)
    throw new NoLevels(
      'One of the two levels is hardly there: take more of the signal, or look for ringing.',
    );
  const edges = edgesOf(volts, lowV, swingV);
  const rises = edges.flatMap(({ tookSamples }) => (tookSamples > RESOLVED ? [tookSamples * intervalS] : []));
  const bits = edges.slice(1).map(({ at }, n) => (at - (edges[n]?.at ?? 0)) * intervalS);
  return {
    lowV,
    highV,
    swingV,
    edgeS: rises.length > 0 ? medianOf(Float64Array.from(rises).sort()) : null,
    shortestBitS: bits.length > 0 ? Math.min(...bits) : null,
    edges: edges.length,
    noiseV,
  };
}

/** Median length of the runs of one value, samples. */
function medianRun(volts: Float64Array): number {
  const runs: number[] = [];
  let from = 0;
  for (let n = 1; n <= volts.length; n++) {
    if (n < volts.length && volts[n] === volts[from]) continue;
    runs.push(n - from);
    from = n;
  }
  return medianOf(Float64Array.from(runs).sort());
}

const medianOf = (sorted: Float64Array): number => {
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1
    ? (sorted[middle] ?? 0)
    : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
};

/** How many of the sorted samples belong to the lower level. */
function thresholdOf(sorted: Float64Array): number {
  const total = sorted.reduce((sum, volt) => sum + volt, 0);
  let below = 0;
  let best = { between: -1, at: 1 };
  for (let n = 1; n < sorted.length; n++) {
    below += sorted[n - 1] ?? 0;
    const [meanLow, meanHigh] = [below / n, (total - below) / (sorted.length - n)];
    const between = n * (sorted.length - n) * (meanHigh - meanLow) ** 2;
    if (between > best.between) best = { between, at: n };
  }
  return best.at;
}

/** Edges with the sample, in part, at their middle, and how long they took from 10 to 90 %. */
function edgesOf(volts: Float64Array, lowV: number, swingV: number): { at: number; tookSamples: number }[] {
  const share = (n: number): number => ((volts[n] ?? 0) - lowV) / swingV;
  const edges: { at: number; tookSamples: number }[] = [];
  let state: 'low' | 'high' | null = null;
  for (let n = 0; n < volts.length; n++) {
    const here = share(n);
    const next: 'low' | 'high' | null = here < HYSTERESIS[0] ? 'low' : here > HYSTERESIS[1] ? 'high' : state;
    if (state !== null && next !== state && next !== null) {
      const up = next === 'high';
      // Seen from where it arrived: back to where it left each share.
      const crossing = (level: number): number => {
        const wanted = up ? level : 1 - level;
        let k = n;
        while (k > 0 && (up ? share(k - 1) > wanted : share(k - 1) < wanted)) k--;
        const [before, after] = [share(k - 1), share(k)];
        return after === before || k === 0 ? k : k - 1 + (wanted - before) / (after - before);
      };
      let end = n;
      const done = (k: number): boolean => (up ? share(k) >= 0.9 : share(k) <= 0.1);
      while (end < volts.length - 1 && !done(end)) end++;
      const arrived = (): number => {
        const wanted = up ? 0.9 : 0.1;
        const [before, after] = [share(end - 1), share(end)];
        return after === before ? end : end - 1 + (wanted - before) / (after - before);
      };
      edges.push({ at: crossing(0.5), tookSamples: Math.max(0, arrived() - crossing(0.1)) });
    }
    state = next;
  }
  return edges;
}

/**
 * A family for a line whose levels were measured: what it gives is what was seen, what it takes is
 * taken from the family that is told, or from its own swing where none is.
 */
export function familyFromLevels({ lowV, highV }: MeasuredLevels, like: LevelFamily | null): LevelFamily {
  const inverted = lowV < -2;
  return {
    id: 'measured',
    name: 'as measured',
    supplyV: inverted ? 0 : highV,
    outLowV: lowV,
    outHighV: highV,
    inLowV: like?.inLowV ?? lowV + 0.3 * (highV - lowV),
    inHighV: like?.inHighV ?? lowV + 0.7 * (highV - lowV),
    mostV: like?.mostV ?? highV + 0.3,
    leastV: like?.leastV ?? lowV - 0.3,
    inverted,
    source: 'sheet',
  };
}
