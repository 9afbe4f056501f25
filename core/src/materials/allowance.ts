import { NORMAL_95 } from '../chance/normal.js';

/** A link whose cable was planned at one length and cut at another. */
export interface CutLink {
  plannedM: number;
  drawnM: number;
}

/** By which share more is drawn than is planned, with the half width of its 95 % interval. */
export interface Allowance {
  share: number;
  u95: number;
  links: number;
}

/** Before there is a record: four in a hundred, give or take four (typical). */
const PRIOR = { share: 0.04, deviation: 0.02 };
/** How much single links scatter about their job's own share (typical). */
const SCATTER = 0.05;

/**
 * A job's own allowance, learned from what was cut for its links: a normal mean with a normal prior. Links that were
 * drawn at under half or over twice their plan are another way or another link, and teach nothing.
 */
export function allowanceOf(links: readonly CutLink[]): Allowance {
  const shares = links
    .map(({ plannedM, drawnM }) => drawnM / plannedM - 1)
    .filter((share) => share > -0.5 && share < 1);
  const weight = shares.length / SCATTER ** 2;
  const prior = 1 / PRIOR.deviation ** 2;
  const mean = shares.reduce((sum, share) => sum + share, 0) / Math.max(1, shares.length);
  return {
    share: (prior * PRIOR.share + weight * mean) / (prior + weight),
    u95: NORMAL_95 / Math.sqrt(prior + weight),
    links: shares.length,
  };
}

/** What is cut for a link: its length with its job's allowance, and what both ends take to be dressed and made, metres. */
export const pieceLengthM = (plannedM: number, { share }: Pick<Allowance, 'share'>, endsM: number): number =>
  Math.ceil((plannedM * (1 + Math.max(0, share)) + endsM) * 10) / 10;

/** Dressing and making both ends takes about this much, metres (typical). */
export const ENDS_M = 1.5;
