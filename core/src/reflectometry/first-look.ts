import { findLaunch, NoLaunch, type Launch } from './launch.js';
import { noiseLevel, quantumOf } from './noise-level.js';
import { SAMPLES_PER_RISE } from './explain-trace.js';
import type { Trace } from './trace.js';

/** A record of so many samples, by what its edges need, is read in a tenth of a second. */
const QUICK = 400;

/**
 * A trace for the first look at it: the trace itself where its edges let it be read with few samples, and otherwise one of
 * a lower band (a raised cosine over four of its own samples), which shows the same things in the same places, less finely;
 * the trace itself again where too little of the line before the launch would be left of that.
 *
 * @throws NoLaunch where the trace has no launch
 */
export function forFirstLook(trace: Trace, shape?: 'pulse' | 'step'): Trace {
  const { volts, intervalS, startS } = trace;
  const { rise } = launchOf(trace, shape);
  const own = Math.max(1, Math.floor(rise / SAMPLES_PER_RISE));
  const by = Math.ceil(volts.length / own / QUICK);
  if (own > 1 || by < 2) return trace;
  const reach = 2 * by;
  const kernel = Array.from({ length: 2 * reach - 1 }, (_, n) => 1 - Math.cos((Math.PI * (n + 1)) / reach));
  const sum = kernel.reduce((all, weight) => all + weight, 0);
  const last = volts.length - 1;
  const smoothed = Float64Array.from({ length: Math.ceil(volts.length / by) }, (_, n) =>
    kernel.reduce((all, weight, k) => {
      const at = Math.min(last, Math.max(0, n * by + k - reach + 1));
      return all + (weight / sum) * (volts[at] ?? 0);
    }, 0),
  );
  const coarse = { intervalS: intervalS * by, startS, volts: smoothed };
  try {
    const { rise: seen } = launchOf(coarse, shape);
    return seen < 2 * SAMPLES_PER_RISE ? coarse : trace;
  } catch (error) {
    if (error instanceof NoLaunch) return trace;
    throw error;
  }
}

const launchOf = (trace: Trace, shape: 'pulse' | 'step' | undefined): Launch =>
  findLaunch(trace, noiseLevel(trace.volts, quantumOf(trace.volts)), shape);
