import type { Belief } from './belief.js';
import { logOfLink, mixed } from './belief/witness.js';
import { blindTo, heldAs } from './blindness.js';
import type { LinkExpectation } from './expectation.js';
import { findIn, hangsElsewhere } from './findings.js';
import { INSTRUMENTS, type FaultKind } from './instruments.js';
import { provesMap } from './proof.js';
import { isMapReading, type Reading } from './readings.js';

/** The most one reading proves: a beeper only when its touches leave no contact out. */
export function provenBy(expected: LinkExpectation, reading: Reading): 'map' | 'loops' | 'nothing' {
  if (reading.instrument !== 'beeper' && reading.instrument !== 'ohmmeter')
    return INSTRUMENTS[reading.instrument].proves;
  return provesMap(expected, reading) ? 'map' : 'nothing';
}

/** What a reading shows that speaks against the link itself: another length than the plan's does not. */
export const faultsIn = (expected: LinkExpectation, reading: Reading): ReturnType<typeof findIn> =>
  findIn(expected, reading).filter(({ kind }) => kind !== 'length');

/** Clean readings that have to stand against each that shows a fault, beyond as many as those. */
const MORE_CLEAN = 2;
/** Belief in a sound link that such an exception needs. */
const SOUND_ENOUGH = 0.99;
/** Below this belief that every reading is of the link as it is, and nothing opens and closes, they disagree. */
const STRAIGHT = 0.5;
/** Logarithm by which a reading may fall short of fitting perfectly before a row of it must have been misread. */
const FITS = 4;

/** How readings that hold stand to each other. */
export interface Agreement {
  /** Some show a fault that others, which would have shown it, do not. */
  disagree: boolean;
  /** An exception, by independent clean readings of an instrument at least as able and more than enough. */
  cleanEnough: boolean;
  /** Readings that show a fault, by their places among those that hold. */
  failing: readonly number[];
}

/** Judges how readings of one time agree. */
export function agreementOf(
  expected: LinkExpectation,
  belief: Belief,
  readings: readonly Reading[],
): Agreement {
  const shown = readings.map((reading) => faultsIn(expected, reading).map(({ kind }) => kind));
  const failing = readings.flatMap((_, i) => ((shown[i] as FaultKind[]).length > 0 ? [i] : []));
  const clean = readings.flatMap((reading, i) =>
    (shown[i] as FaultKind[]).length === 0 && reading.instrument !== 'eye' ? [i] : [],
  );
  const able = clean.filter(
    (i) =>
      provenBy(expected, readings[i] as Reading) === 'map' &&
      failing.every((f) => isAsAble(expected, readings[i] as Reading, readings[f] as Reading)),
  );
  const several = failing.length > 0 && readings.filter(({ instrument }) => instrument !== 'eye').length > 1;
  return {
    failing,
    disagree: several && straight(belief) < STRAIGHT,
    cleanEnough:
      failing.every((i) => !hangsElsewhere(expected, readings[i] as Reading)) &&
      able.length >= failing.length + MORE_CLEAN &&
      belief.sound > SOUND_ENOUGH,
  };
}

/** An instrument that sees whatever the other sees on this link. */
function isAsAble(expected: LinkExpectation, one: Reading, other: Reading): boolean {
  const blind = blindTo(expected, [heldAs(other)]);
  return blindTo(expected, [heldAs(one)]).every((kind) => blind.includes(kind));
}

/** Belief that every reading is of the link as it is, none of its rows misread, and nothing opens and closes. */
function straight({ hypotheses, witnesses }: Belief): number {
  const top = hypotheses.slice(0, ASKED);
  const total = top.reduce((sum, h) => sum + h.weight, 0) || 1;
  return top.reduce((sum, { weight, state, faults }) => {
    if (state.loose > 0) return sum;
    if (faults.some(({ kind }) => kind === 'unexplained')) return sum + weight / total;
    const kept = witnesses.reduce((share, witness) => {
      const ofLink = logOfLink(witness, state);
      const rows = isMapReading(witness.reading) || witness.reading.instrument.startsWith('lamp');
      if (rows && ofLink < witness.likelihood.best - FITS) return 0;
      return share * (1 - Math.exp(witness.logStray - mixed(witness, ofLink)));
    }, 1);
    return sum + (weight / total) * kept;
  }, 0);
}

const ASKED = 60;
