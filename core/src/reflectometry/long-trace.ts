import { noiseLevel } from './noise-level.js';
import { averaged, type Trace } from './trace.js';

/** So many samples are read closely; many more take minutes and say no more. */
const MOST_READ = 40_000;
/** A long trace is looked over in so many blocks. */
const BLOCKS = 20_000;
/** Something goes on where means of neighbouring stretches of blocks differ by this many deviations. */
const STANDS_OUT = 6;
const STRETCHES = [1, 4, 16, 64];
/** As far again behind the last of it as it lies behind the first: echoes of it come no later. */
const AGAIN = 2;

/** A trace with what of it is read closely. */
export interface Close {
  trace: Trace;
  /** Samples that are made one of. */
  by: number;
}

/**
 * What of a trace is read closely: all of it where it is short enough. Of a long one the rest is left off behind the last thing that
 * happens and as long again, and what is still too long is averaged more: so a scope that was left at a slow sweep costs
 * seconds, and resolution alone where there is no other way.
 *
 * @param by samples that its edges allow to make one of
 */
export function readClosely(trace: Trace, by: number): Close {
  const { volts } = trace;
  if (volts.length / by <= MOST_READ) return { trace, by };
  const block = Math.ceil(volts.length / BLOCKS);
  const happens = whereItHappens(averaged(trace, block).volts);
  if (!happens) return { trace, by: Math.max(by, Math.ceil(volts.length / MOST_READ)) };
  const [first, last] = happens;
  const until = Math.max((last + AGAIN * (last - first + 1)) * block, (by * MOST_READ) / 2);
  const kept = Math.min(volts.length, Math.ceil(until));
  return {
    trace: { ...trace, volts: volts.slice(0, kept) },
    by: Math.max(by, Math.ceil(kept / MOST_READ)),
  };
}

/** The first and the last block where a level changes, at any of several scales; null where it changes nowhere. */
function whereItHappens(blocks: Float64Array): [number, number] | null {
  const noise = noiseLevel(blocks, 0);
  const sums = new Float64Array(blocks.length + 1);
  blocks.forEach((volt, n) => (sums[n + 1] = (sums[n] ?? 0) + volt));
  const mean = (from: number, to: number): number => ((sums[to] ?? 0) - (sums[from] ?? 0)) / (to - from);
  let [first, last] = [Infinity, -Infinity];
  for (const wide of STRETCHES) {
    const least = STANDS_OUT * noise * Math.sqrt(2 / wide);
    for (let n = wide; n + wide <= blocks.length; n++) {
      if (Math.abs(mean(n, n + wide) - mean(n - wide, n)) <= least) continue;
      first = Math.min(first, n - wide);
      last = Math.max(last, n + wide);
    }
  }
  return first === Infinity ? null : [Math.max(0, first), last];
}
