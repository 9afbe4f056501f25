import { intendedLink, type LinkExpectation } from './expectation.js';
import { inflict, type PhysicalFault } from './faults.js';
import { frameOf } from './frame.js';
import { toState } from './link-state.js';
import { likelihoodOf, logLikelihood } from './observers.js';
import { erasOf, type Era, type Evidence } from './timeline.js';

/** Evidence this little likelier (logarithm) does not speak for a suspect. */
const QUIET = 0.5;

/**
 * The faults of a known link that evidence says something about, as `believe` tells them: the yardstick
 * for a belief when the truth is known.
 */
export function tellingFaults(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  faults: readonly PhysicalFault[],
): readonly PhysicalFault[] {
  const [era] = erasOf(evidence).slice(-1) as [Era];
  const intended = intendedLink(expected);
  const frame = frameOf(intended);
  const likelihoods = era.readings.map((reading) => likelihoodOf(frame, reading));
  const fit = (some: readonly PhysicalFault[]): number => {
    const state = toState(frame, intended);
    for (const fault of some) inflict(state, fault);
    return likelihoods.reduce((sum, likelihood) => sum + logLikelihood(likelihood, state), 0);
  };
  return fewestThatTell(faults, fit(faults), fit, (fault) => Math.log(fault.rate));
}

/**
 * The fewest of some things without the rest of which the evidence is as likely; of equal numbers
 * the more frequent ones. Things that undo each other drop out together.
 */
export function fewestThatTell<T>(
  things: readonly T[],
  logLikelihood: number,
  fit: (some: readonly T[]) => number,
  logShare: (thing: T) => number,
): readonly T[] {
  for (let size = 0; size < things.length; size++) {
    let best: readonly T[] | null = null;
    let bestShare = -Infinity;
    for (const some of subsets(things, size)) {
      const share = some.reduce((sum, thing) => sum + logShare(thing), 0);
      if (share <= bestShare || fit(some) < logLikelihood - QUIET) continue;
      [best, bestShare] = [some, share];
    }
    if (best) return best;
  }
  return things;
}

/** Every choice of so many things, in their order. */
function subsets<T>(things: readonly T[], size: number): T[][] {
  if (size === 0) return [[]];
  return things.flatMap((thing, i) => subsets(things.slice(i + 1), size - 1).map((rest) => [thing, ...rest]));
}
