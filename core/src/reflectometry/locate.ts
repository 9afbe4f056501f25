import { NORMAL_95, normalShareBelow } from '../chance/normal.js';
import type { RouteStretch } from '../cabling/route-stretch.js';

/** A distance along a link with the half width of its 95 % interval, metres. */
export interface Located {
  distanceM: number;
  u95M: number;
}

/** A stretch that a located event may lie in, and where in it. */
export interface OnStretch {
  name: string;
  /** Part of the 95 % interval in this stretch, from the stretch's near end. */
  fromM: number;
  toM: number;
  lengthM: number;
  /** Belief that the event lies in this stretch. */
  probability: number;
}

/** Less belief than this is not worth opening a wall for. */
const WORTH_NAMING = 0.02;

/**
 * The stretches of a route in which a located event may lie, the likeliest first. Stretches follow
 * one another from the near end; what of the link they do not name is "the rest".
 */
export function onRoute(
  { distanceM, u95M }: Located,
  route: readonly RouteStretch[],
  linkLengthM: number,
): OnStretch[] {
  const named = route.reduce((sum, { lengthM }) => sum + lengthM, 0);
  const rest = linkLengthM - named;
  const stretches =
    rest > 0.05 ? [...route, { name: route.length === 0 ? 'the cable' : 'the rest', lengthM: rest }] : route;
  const deviation = Math.max(u95M / NORMAL_95, 1e-6);
  const out: OnStretch[] = [];
  let start = 0;
  stretches.forEach(({ name, lengthM }, n) => {
    const end = start + lengthM;
    // What lies before the first stretch or behind the last belongs to it.
    const from = n === 0 ? -Infinity : (start - distanceM) / deviation;
    const to = n === stretches.length - 1 ? Infinity : (end - distanceM) / deviation;
    const probability = normalShareBelow(to) - normalShareBelow(from);
    if (probability > WORTH_NAMING)
      out.push({
        name,
        lengthM,
        probability,
        fromM: Math.min(Math.max(distanceM - u95M - start, 0), lengthM),
        toM: Math.min(Math.max(distanceM + u95M - start, 0), lengthM),
      });
    start = end;
  });
  return out.sort((one, other) => other.probability - one.probability);
}

/** Two measurements of one place, from both ends. */
export interface BothEnds extends Located {
  /**
   * Factor that both velocities would have to be multiplied with for the two distances to make up
   * the link's length; 1 where the length is not known better than they are.
   */
  velocityScale: number;
  /** How far the two disagree, in deviations; beyond three they are not the same place. */
  apart: number;
}

/**
 * One place from both ends. Velocity is out of it: near and far distance share it, so the place
 * divides the link's length in their proportion; the lengths themselves say how far the velocity
 * was off. Where the length is only planned, both are weighed instead.
 *
 * @param near from the near end, timing and lead alone in its uncertainty
 * @param far from the far end, likewise
 * @param velocityRelative relative deviation of the velocity factor that both were read with
 */
export function fromBothEnds(
  near: Located,
  far: Located,
  link: { lengthM: number; deviationM: number },
  velocityRelative: number,
): BothEnds {
  const sum = near.distanceM + far.distanceM;
  const nearS = near.u95M / NORMAL_95;
  const farS = far.u95M / NORMAL_95;
  // The scale s: s * sum = length, s = 1 +- velocityRelative; both pull by what they know.
  const lengthWeight = 1 / (Math.hypot(link.deviationM, nearS, farS) / sum) ** 2;
  const priorWeight = velocityRelative > 0 ? 1 / velocityRelative ** 2 : 1e12;
  const scale = (lengthWeight * (link.lengthM / sum) + priorWeight) / (lengthWeight + priorWeight);
  const scaleDeviation = 1 / Math.sqrt(lengthWeight + priorWeight);
  // With the scale known: from the near end, and from the far end back.
  const a = scale * near.distanceM;
  const b = link.lengthM - scale * far.distanceM;
  const aS = Math.hypot(scale * nearS, near.distanceM * scaleDeviation);
  const bS = Math.hypot(scale * farS, far.distanceM * scaleDeviation, link.deviationM);
  const weightA = 1 / Math.max(aS, 1e-9) ** 2;
  const weightB = 1 / Math.max(bS, 1e-9) ** 2;
  const distanceM = (weightA * a + weightB * b) / (weightA + weightB);
  // Both lean on the same scale: where it is what they know least, they are not two.
  const shared = scaleDeviation * Math.min(near.distanceM, far.distanceM) * 0.5;
  const deviation = Math.hypot(1 / Math.sqrt(weightA + weightB), shared);
  const unscaled = Math.hypot(nearS, farS, link.deviationM, velocityRelative * sum);
  return {
    distanceM,
    u95M: NORMAL_95 * deviation,
    velocityScale: scale,
    apart: Math.abs(sum - link.lengthM) / Math.max(unscaled, 1e-9),
  };
}

/** Within so many deviations, and so much of a lead's doubt, two figures are the same. */
const SAME_WITHIN = 3;
const LEAD_DOUBT_M = 0.1;

/**
 * The length of a line where each end saw the other, not one place between them: both distances
 * agree with each other and with the plan. Null where they do not.
 *
 * @param near from the near end, timing and lead alone in its uncertainty
 * @param far from the far end, likewise
 */
export function wholeLength(
  near: Located,
  far: Located,
  link: { lengthM: number; deviationM: number },
  velocityRelative: number,
): Located | null {
  const [nearS, farS] = [near.u95M / NORMAL_95, far.u95M / NORMAL_95];
  const weights = [1 / Math.max(nearS, 1e-6) ** 2, 1 / Math.max(farS, 1e-6) ** 2] as const;
  const distanceM = (weights[0] * near.distanceM + weights[1] * far.distanceM) / (weights[0] + weights[1]);
  const shared = velocityRelative * distanceM;
  const agree =
    Math.abs(near.distanceM - far.distanceM) < SAME_WITHIN * Math.hypot(nearS, farS) + LEAD_DOUBT_M &&
    Math.abs(distanceM - link.lengthM) < SAME_WITHIN * Math.hypot(link.deviationM, shared);
  const own = Math.abs(near.distanceM - far.distanceM) / 2;
  return agree
    ? { distanceM, u95M: NORMAL_95 * Math.hypot(1 / Math.sqrt(weights[0] + weights[1]), own, shared) }
    : null;
}
