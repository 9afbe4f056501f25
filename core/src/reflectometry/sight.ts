import type { Explanation } from './echo-model.js';
import type { Ground } from './ground.js';
import { SHAPE_ROOM, shapeSpectrum } from './pulse-shape.js';

/** An open that stands out by so many deviations is found nearly every time. */
const SEEN_AT = 6.5;
/** Slower than so many bins is drift. */
const DRIFT_BINS = 8;

/** How far an echo of the whole launch would stand out, in deviations, after a way in samples. */
export function standingOut(ground: Ground, { launch, loss }: Explanation): (way: number) => number {
  const form = new Float64Array(SHAPE_ROOM);
  const pulse = launch.shape === 'pulse';
  const power = ground.omega.map((omega) => {
    shapeSpectrum(launch, ground.sigma, omega, form);
    // A step is told by its edge; what is slow in it is drift.
    const steady = pulse || omega > (2 * Math.PI * DRIFT_BINS) / ground.size ? 1 : 0;
    return (2 * steady * (form[0]! ** 2 + form[1]! ** 2)) / ground.size / ground.noiseV ** 2;
  });
  const factor = Math.max(loss, 0.05);
  return (way) => {
    let energy = 0;
    for (let bin = 0; bin < power.length; bin++)
      energy += power[bin]! * Math.exp(-2 * factor * ground.lossRe[bin]! * way);
    return Math.sqrt(energy);
  };
}

/**
 * How far an open would have been seen, as a round trip in samples: to where the launch, with the
 * loss of the way, would still stand out of the noise; at the most to the record's end.
 */
export function sightOf(
  ground: Ground,
  explanation: Explanation,
): { samples: number; endsBy: 'noise' | 'record' } {
  const room = Math.max(0, ground.volts.length - explanation.launch.at);
  const standsOut = standingOut(ground, explanation);
  if (standsOut(room) >= SEEN_AT) return { samples: room, endsBy: 'record' };
  let near = 0;
  let far = room;
  for (let n = 0; n < 40; n++) {
    const middle = (near + far) / 2;
    if (standsOut(middle) >= SEEN_AT) near = middle;
    else far = middle;
  }
  return { samples: near, endsBy: 'noise' };
}

/**
 * How much later than its front an echo is timed, samples: the loss's own lag at every frequency,
 * weighted by what that frequency says of the time, |T H|^2 w^2.
 */
export function lagOf(ground: Ground, { launch, loss }: Explanation, way: number): number {
  const form = new Float64Array(SHAPE_ROOM);
  let sum = 0;
  let lag = 0;
  ground.omega.forEach((omega, bin) => {
    if (bin === 0) return;
    shapeSpectrum(launch, ground.sigma, omega, form);
    const fade = Math.exp(-2 * Math.max(loss, 0) * ground.lossRe[bin]! * way);
    const weight = (form[0]! ** 2 + form[1]! ** 2) * fade * omega * omega;
    sum += weight;
    lag += (weight * loss * ground.lossIm[bin]! * way) / omega;
  });
  return sum > 0 ? lag / sum : 0;
}

/** What the way takes from an echo by which it is timed, nepers: the mean by the energy that is left. */
export function lossOf(ground: Ground, { launch, loss }: Explanation, way: number): number {
  const form = new Float64Array(SHAPE_ROOM);
  let sum = 0;
  let lost = 0;
  ground.omega.forEach((omega, bin) => {
    if (bin === 0) return;
    shapeSpectrum(launch, ground.sigma, omega, form);
    const neper = Math.max(loss, 0) * ground.lossRe[bin]! * way;
    const weight = (form[0]! ** 2 + form[1]! ** 2) * Math.exp(-2 * neper);
    sum += weight;
    lost += weight * neper;
  });
  return sum > 0 ? lost / sum : 0;
}
