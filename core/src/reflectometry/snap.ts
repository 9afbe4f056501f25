import { noiseLevel, quantumOf } from './noise-level.js';
import type { Trace } from './trace.js';

/** What a cursor goes to. */
export type SnapTo = 'edge' | 'peak';

/** An edge has to be steeper, and a peak to fall off further, than so many deviations of the noise. */
const STANDS_OUT = 5;
const FALLS_OFF = 9;
/** Samples over which a slope is taken, to each side. */
const REACH = 2;

/**
 * The edge or peak of a trace nearest to a time: for an edge the place where it is steepest, for a
 * peak its top or bottom, both between samples by a parabola. Null where nothing stands out of the
 * noise.
 *
 * @param atS seconds on the trace's own time
 * @returns seconds on the trace's own time
 */
export function snapTo({ intervalS, startS, volts }: Trace, atS: number, what: SnapTo): number | null {
  const noiseV = Math.max(noiseLevel(volts, quantumOf(volts)), 1e-12);
  const height = what === 'edge' ? slopes(volts) : volts;
  // The difference of two means of REACH samples each.
  const deviation = what === 'edge' ? noiseV * Math.sqrt(2 / REACH) : noiseV;
  const near = (atS - startS) / intervalS;
  let best: number | null = null;
  for (let n = REACH + 1; n < height.length - REACH - 1; n++) {
    const [before, here, after] = [height[n - 1]!, height[n]!, height[n + 1]!];
    const top = here > before && here >= after;
    const bottom = here < before && here <= after;
    if (!top && !bottom) continue;
    // An edge that goes down is as steep as one that goes up; a valley of slopes is no edge.
    if (what === 'edge' ? (top ? here : -here) < STANDS_OUT * deviation : !standsOut(volts, n, deviation))
      continue;
    const place = n + vertex(before, here, after);
    if (best === null || Math.abs(place - near) < Math.abs(best - near)) best = place;
  }
  return best === null ? null : startS + best * intervalS;
}

/** Mean of the samples behind a place less mean of those before it. */
function slopes(volts: Float64Array): Float64Array {
  const out = new Float64Array(volts.length);
  for (let n = REACH; n < volts.length - REACH; n++) {
    let sum = 0;
    for (let k = 1; k <= REACH; k++) sum += volts[n + k]! - volts[n - k]!;
    out[n] = sum / REACH;
  }
  return out;
}

/** Whether a peak is higher than all that noise makes of a level: it falls off to both sides. */
function standsOut(volts: Float64Array, at: number, deviation: number): boolean {
  const here = volts[at]!;
  const falls = (way: 1 | -1): boolean => {
    let most = 0;
    for (let n = at + way; n >= 0 && n < volts.length; n += way) {
      const below = here - volts[n]!;
      // Beyond this it would be another peak's side.
      if (most !== 0 && Math.sign(below) !== Math.sign(most) && Math.abs(below) > deviation) return false;
      if (Math.abs(below) > Math.abs(most)) most = below;
      if (Math.abs(most) > FALLS_OFF * deviation) {
        sides.push(Math.sign(most));
        return true;
      }
    }
    return false;
  };
  const sides: number[] = [];
  return falls(1) && falls(-1) && sides[0] === sides[1];
}

/** Where the parabola through three points has its vertex, from the middle one. */
function vertex(before: number, here: number, after: number): number {
  const bend = before - 2 * here + after;
  return bend === 0 ? 0 : Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend)));
}
