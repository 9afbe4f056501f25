import { fault, type FaultPlace, type PhysicalFault } from './faults.js';
import { frameFor, type Frame } from './frame.js';
import { intendedLink, type LinkExpectation } from './expectation.js';
import { conclude } from './belief/conclude.js';
import { Search } from './belief/search.js';
import type { Session } from './belief/weighing.js';
import { happenings, slotsOf } from './belief/suspects.js';
import { witnessOf, type Witness } from './belief/witness.js';
import { toState, type LinkState } from './link-state.js';
import { TYPICAL_PRACTICE, type Practice } from './practice.js';
import { erasOf, type Era, type Evidence, type TakenReading } from './timeline.js';
import type { TrueLink } from './true-link.js';

/** One way a link could be: what happened to it, and the link that makes. */
export interface Hypothesis {
  /** A text that is equal for two hypotheses exactly when they say the same happened. */
  key: string;
  /** What is wrong with the link as it is now; nothing for a link in order. */
  faults: readonly PhysicalFault[];
  /** Share of belief. */
  weight: number;
  readonly link: TrueLink;
  readonly state: LinkState;
  /** Logarithm of how likely it makes the evidence, against the best any link could do. */
  fit: number;
}

/** All belief about one link. */
export interface Belief {
  frame: Frame;
  /** Heaviest first; weights add up to one less what is left out. */
  hypotheses: readonly Hypothesis[];
  /** Belief that nothing is wrong with the metal that the evidence could tell. */
  sound: number;
  /** Belief that something is wrong that no row of the catalogue tells. */
  unexplained: number;
  /** The readings of the link as it is now, as evidence. */
  witnesses: readonly Witness[];
  /** Readings of the link as it is now, each with the belief that it is of something else. */
  stray: readonly { reading: TakenReading; share: number }[];
  /** What was wrong with earlier makes of the link's parts, each with its share of belief. */
  past: readonly { fault: PhysicalFault; weight: number }[];
  /** Share of belief left out: an upper estimate of what was not worked through. */
  discarded: number;
}

/** Times between works, and readings in each, that are remembered: what lies further back tells little and costs much. */
const REMEMBERED = { eras: 3, readings: 12 };
const recent = (eras: readonly Era[]): Era[] =>
  eras.slice(-REMEMBERED.eras).map((era) => ({ ...era, readings: era.readings.slice(-REMEMBERED.readings) }));

/**
 * Belief about a link after all evidence, earlier readings and the work done between them included
 * (Bayes). Suspects are what hands do at the ends and what happens along the cable, each with its
 * rate in practice; links with none, one and two of them are worked through, those with three where
 * they could matter, and one of which nothing is known but that something is wrong. Each reading may
 * also be of something else. What is left out is estimated and stated.
 */
export function believe(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  practice: Practice = TYPICAL_PRACTICE,
): Belief {
  const intended = intendedLink(expected);
  const frame = frameFor(expected, intendedLink);
  const base = toState(frame, intended);
  const eras = recent(erasOf(evidence));
  const now = eras[eras.length - 1] as Era;
  const sessions = eras.map((era): Session => ({
    slots: slotsOf(era),
    witnesses: era.readings.map((reading, i) =>
      witnessOf(expected, frame, reading, era.readings.slice(0, i)),
    ),
  }));
  const things = happenings(expected, frame, base, eras, practice);
  const search = new Search(frame, base, sessions, things, practice);
  search.run();
  const unknown = fault(
    {
      kind: 'unexplained',
      slip: 'unexplained',
      variant: '',
      end: 'cable',
      contacts: [],
      conductors: [],
      pairs: [],
      distanceM: null,
      rate: practice.rates.unexplained,
      effects: [],
    },
    expected,
  );
  return conclude({ intended, frame, base, now, sessions, search, unknown });
}

const PARTS: readonly FaultPlace[] = ['near', 'far', 'cable'];

/** Where work would have to be done if a hypothesis is true. */
export function placesToMend(hypothesis: Pick<Hypothesis, 'faults'>): FaultPlace[] {
  return PARTS.filter((place) => hypothesis.faults.some((one) => needsWork(one) && one.end === place));
}

/** What is put right without mending anything: equipment left on, a remote that is not there, a plan. */
const WITHOUT_MENDING: readonly PhysicalFault['kind'][] = [
  'equipment',
  'not-connected',
  'length',
  'unexplained',
];
const needsWork = ({ kind }: PhysicalFault): boolean => !WITHOUT_MENDING.includes(kind);
