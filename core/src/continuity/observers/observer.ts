import type { Random } from '../../quantities/random.js';
import type { Frame } from '../frame.js';
import { POOR, POOR_GRADES, toState, type LinkState } from '../link-state.js';
import { Metal } from '../metal.js';
import type { Reading } from '../readings.js';
import type { LinkEnd, TrueLink } from '../true-link.js';

/** Where an observer stands, and which touches or tones it is asked for. */
export interface LookSetting {
  end: LinkEnd;
  /** For observers that are told what to do: the reading to be taken, answers left open. */
  plan?: Reading | undefined;
}

/** How likely a reading is, link by link. */
export interface Likelihood {
  /** Logarithm of the greatest likelihood any link could give it. */
  readonly best: number;
  /** How many measured figures are in it: each falls short of its best a little, whatever the link is. */
  readonly figures?: number;
  /** Logarithm of the likelihood on a link, some of its loose joints open just now. */
  of(state: LinkState, openLoose: number): number;
  /** No less than `of`, where that is long to work out and this is quick. */
  most?(state: LinkState, openLoose: number): number;
}

/** One instrument class: what it reads on a link, and how likely a reading is. */
export interface Observer<R extends Reading> {
  /**
   * What it reads on a link. Without `random` it never errs and loose joints rest closed; with it,
   * errors and loose joints fall as stated in INSTRUMENTS.
   */
  read(look: Look, setting: LookSetting, random: Random | null): R;
  /** @param group only the rows of one group of contacts, see Frame; only for `grouped` readings */
  likelihood(frame: Frame, reading: R, group?: number): Likelihood;
  /** Whether each row of a reading speaks of one group of contacts alone, whatever the link is like. */
  grouped(frame: Frame, reading: R): boolean;
}

/** A link made ready to be looked at; `frame` belongs to the link as intended. */
export interface Look {
  readonly link: TrueLink;
  readonly frame: Frame;
  readonly state: LinkState;
}

export const lookAt = (frame: Frame, link: TrueLink): Look => ({ link, frame, state: toState(frame, link) });

/** The first condition of poor joints that an instrument of this threshold reads open. */
export function openFrom(thresholdOhm: number): number {
  const grade = POOR_GRADES.findIndex(({ fromOhm }) => fromOhm >= thresholdOhm);
  return grade < 0 ? POOR[2] + 1 : (POOR[grade] as number);
}

/**
 * Testers of a kind differ in what they still take for closed, by a factor of two up and down, and joints lie anywhere
 * in the decade of their grade: a joint of the grade below the threshold reads open so often, and one of the grade above
 * it closed.
 */
const ACROSS_GRADES = 0.075;
const ACROSS_LOG = { not: Math.log(1 - 2 * ACROSS_GRADES), one: Math.log(ACROSS_GRADES) } as const;

/**
 * Logarithm of a likelihood over what an instrument may take for closed.
 * @param nominal the first condition that an instrument of its class reads open
 * @param of the same logarithm for one that reads so open from a condition on
 */
export function overThresholds(state: LinkState, nominal: number, of: (openFrom: number) => number): number {
  if (state.poor === 0 || nominal > POOR[2]) return of(nominal);
  const usual = of(nominal);
  // One that is a grade off reads otherwise only where a joint is of the grade between.
  const stricter = isPoor(state, nominal - 1) ? of(nominal - 1) : usual;
  const laxer = isPoor(state, nominal) ? of(nominal + 1) : usual;
  const [a, b, c] = [usual + ACROSS_LOG.not, stricter + ACROSS_LOG.one, laxer + ACROSS_LOG.one];
  const top = Math.max(a, b, c);
  return top + Math.log(Math.exp(a - top) + Math.exp(b - top) + Math.exp(c - top));
}

/** Whether some joint or conductor conducts badly, of this grade. */
function isPoor({ cells, frame }: LinkState, condition: number): boolean {
  const { nearSeat, splice } = frame.at;
  for (let i = nearSeat; i < splice; i++) if (cells[i] === condition) return true;
  return false;
}

/** Which loose joints are open just now: each by its share, or none without a source of chance. */
export function drawLoose(state: LinkState, random: Random | null): number {
  if (!random) return 0;
  let bits = 0;
  for (let i = 0; i < state.loose; i++) if (random() < state.openShare) bits |= 1 << i;
  return bits;
}

/** The metal of a link as an instrument of a threshold finds it now. */
export const solved = (look: Look, thresholdOhm: number, random: Random | null): Metal =>
  new Metal(look.frame).solve(look.state, openFrom(thresholdOhm), drawLoose(look.state, random));
