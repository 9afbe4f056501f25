import type { Explanation } from './echo-fit.js';
import type { Ground } from './ground.js';
import { SHAPE_ROOM, shapeSpectrum } from './pulse-shape.js';

/** An open that stands out by so many deviations is found nearly every time. */
const SEEN_AT = 6.5;

/**
 * How far an open would have been seen, as a round trip in samples: to where the launch, with the
 * loss of the way, would still stand out of the noise; at the most to the record's end.
 */
export function sightOf(
  ground: Ground,
  { launch, loss }: Explanation,
): { samples: number; endsBy: 'noise' | 'record' } {
  const room = Math.max(0, ground.volts.length - launch.at);
  const form = new Float64Array(SHAPE_ROOM);
  const power = ground.omega.map((omega) => {
    shapeSpectrum(launch, ground.sigma, omega, form);
    // A step is told by its differences; its slow part is drift.
    const slow = launch.shape === 'pulse' ? 1 : 4 * Math.sin(omega / 2) ** 2;
    const noise = launch.shape === 'pulse' ? 1 : Math.max(slow, 1e-9);
    const steady = launch.shape === 'pulse' || omega > (2 * Math.PI * 8) / ground.size ? 1 : 0;
    return (2 * steady * slow * (form[0]! ** 2 + form[1]! ** 2)) / noise / ground.size / ground.noiseV ** 2;
  });
  const factor = Math.max(loss, 0.05);
  const standsOut = (way: number): number => {
    let energy = 0;
    for (let bin = 0; bin < power.length; bin++)
      energy += power[bin]! * Math.exp(-2 * factor * ground.lossRe[bin]! * way);
    return Math.sqrt(energy);
  };
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
