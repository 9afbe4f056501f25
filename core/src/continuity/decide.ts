import type { Belief } from './belief.js';
import type { LinkExpectation } from './expectation.js';
import type { InstrumentClass } from './instruments.js';
import { rankLooks, type Look } from './next-look.js';
import {
  MEND_PLACES,
  mendingOf,
  orderOfWork,
  repairClasses,
  repairFor,
  type MendPlace,
  type Repair,
} from './repair.js';

/** What to do next about a link: one decision, which every sentence, table and button says. */
export interface Decision {
  act: 'look' | 'work' | 'read-again';
  /** Looks that are worth their minutes, best first. */
  looks: readonly Look[];
  /** The work, where that is decided. */
  repair: Repair | null;
  /** Places that need work almost certainly, if anything is wrong at all. */
  sure: readonly MendPlace[];
  /** Belief that the first place of the work needs it, if anything is wrong at all. */
  share: number;
}

/** A place needs work, or needs none, once no more belief than this says otherwise. */
const SETTLED = 0.1;

/**
 * Looks, work, or a second reading: what leaves the fewest minutes expected until the link is right. Work
 * at two places is proposed only where both are sure; else at the one that is, or at the likeliest for
 * its minutes, and then the link is read again.
 */
export function decide(
  belief: Belief,
  expected: LinkExpectation,
  owned?: readonly InstrumentClass[],
): Decision {
  const looks = rankLooks(belief, expected, owned);
  const wrong = Math.max(1e-9, 1 - belief.sound);
  const shareOf = (place: MendPlace): number =>
    belief.hypotheses.reduce((sum, h) => sum + (mendingOf(h).includes(place) ? h.weight : 0), 0) / wrong;
  const sure = MEND_PLACES.filter((place) => shareOf(place) >= 1 - SETTLED);
  const [first] = orderOfWork(repairClasses(belief.hypotheses), expected);
  const places = sure.length > 0 ? sure : first === undefined ? [] : [first];
  const [place] = places;
  if (looks.length > 0) return { act: 'look', looks, repair: null, sure, share: place ? shareOf(place) : 0 };
  if (place === undefined || places.includes('unknown'))
    return { act: 'read-again', looks, repair: null, sure, share: 0 };
  const likeliest = belief.hypotheses.find((h) => places.every((one) => mendingOf(h).includes(one)));
  return {
    act: 'work',
    looks,
    repair: repairFor(places, expected, likeliest?.faults ?? []),
    sure,
    share: shareOf(place),
  };
}
