import type { ContactId } from '../../cabling/schemes.js';
import type { LinkExpectation } from '../expectation.js';
import { commonEnd, findIn, hangsElsewhere } from '../findings.js';
import type { Frame } from '../frame.js';
import { INSTRUMENTS, type InstrumentClass } from '../instruments.js';
import type { LinkState } from '../link-state.js';
import { isGrouped, likelihoodOf, logAtMost, logLikelihood } from '../observers.js';
import { asEnds } from '../observers/capacitance.js';
import { distanceDeviationM } from '../observers/echoes.js';
import type { Likelihood } from '../observers/observer.js';
import { intendedMap } from '../expectation.js';
import {
  isMapReading,
  isUnread,
  type ColourReading,
  type EchoReading,
  type MapReading,
  type Reading,
  type TouchReading,
} from '../readings.js';

/**
 * One reading as evidence. It speaks of this link as it is, or, by a share that is known of people, of
 * something else: another port, another outlet, a slip of the key. Neither ever silences the other.
 */
export interface Witness {
  readonly reading: Reading;
  readonly likelihood: Likelihood;
  /** Group of contacts -> the likelihood of its rows alone; null where rows cannot be parted. */
  readonly groups: readonly Likelihood[] | null;
  /** Logarithm of the share that is of this link, and of what is astray. */
  readonly logKept: number;
  readonly logAstray: number;
  /** Logarithm of the chance that two rows were keyed across and gave this; of nothing for most. */
  readonly logAcross: number;
  /** Logarithm of how likely it is on some other link, where that is no matter of what is wrong there. */
  readonly logElsewhere: number;
  /** Of astray ones, times how likely they read so: known once it is known how links of this kind read. */
  logStray: number;
  /**
   * Logarithm of how likely it is on a link of which nothing is known but that something is wrong; of a clean one
   * known once it is known how it reads on a sound link.
   */
  logUnknown: number;
  /** Whether it shows nothing wrong. */
  readonly clean: boolean;
  /** The remote is another's, so on a link whose own remote is not there it may read anything. */
  readonly foreign: boolean;
}

/** Of links that a reading strays to, the share that are in order. */
const OTHERS_SOUND = 0.85;
/** A remote's label noted wrong, or hung on the wrong outlet with the remote right. */
const LABEL_WRONG = 0.02;
/** Once the remote's label is right, another link was seldom read. */
const LABEL_RIGHT = 0.1;
/** Two neighbouring rows of a map keyed across. */
const KEYED_ACROSS = 0.001;
/**
 * How often an instrument reads clean on a link with something wrong that no row tells: it looks at one end, sees
 * one kind of thing, or nearly everything.
 */
const WRONG_AND_CLEAN: Readonly<Record<InstrumentClass, number>> = {
  'lamp-pairs': 0.3,
  'lamps-one-return': 0.25,
  'stepping-lamps': 0.05,
  'coded-mapper': 0.05,
  'coded-mapper-crosstalk': 0.03,
  beeper: 0.05,
  ohmmeter: 0.03,
  'pair-reflectometer': 0.3,
  'tone-probe': 0.3,
  'dc-voltage': 0.7,
  'power-tester': 0.8,
  'capacitance-meter': 0.3,
  wiggle: 0.8,
  eye: 0.5,
};
/** The same instrument says the same again of one link, whatever is wrong with it. */
const SAME_AGAIN = 0.8;

/** Makes a reading ready; `earlier` are those before it in the same time. */
export function witnessOf(
  expected: LinkExpectation,
  frame: Frame,
  reading: Reading,
  earlier: readonly Reading[],
): Witness {
  const clean = findIn(expected, reading).length === 0;
  const anything = diffuse(expected, frame, reading);
  const elsewhere =
    reading.instrument === 'pair-reflectometer'
      ? otherLength(reading, frame.pairs[reading.from].length)
      : reading.instrument === 'capacitance-meter'
        ? otherLength(asEnds(frame, reading), frame.pairs[reading.end].length)
        : reading.instrument === 'ohmmeter'
          ? otherOhms(reading)
          : -Infinity;
  const foreign = hangsElsewhere(expected, reading);
  const own = isMapReading(reading) && reading.remote !== undefined && reading.remote === expected.label;
  const { stray: usual } = INSTRUMENTS[reading.instrument];
  const stray = foreign ? 1 - LABEL_WRONG : own ? usual * LABEL_RIGHT : usual;
  const keyed =
    isMapReading(reading) && isAcross(expected, reading)
      ? Math.log(KEYED_ACROSS / frame.contacts.near.length)
      : -Infinity;
  const grouped = isGrouped(frame, reading);
  const again = earlier.some((one) => JSON.stringify(one) === JSON.stringify(reading));
  return {
    reading,
    likelihood: likelihoodOf(frame, reading),
    groups: grouped
      ? Array.from({ length: frame.groups }, (_, group) => likelihoodOf(frame, reading, group))
      : null,
    logKept: Math.log(1 - stray),
    logAstray: Math.log(stray),
    logAcross: keyed,
    logElsewhere: elsewhere,
    logStray: addLogs(Math.log(stray) + addLogs(elsewhere, clean ? Math.log(OTHERS_SOUND) : anything), keyed),
    logUnknown: again ? Math.log(SAME_AGAIN) : anything + Math.log(1 - WRONG_AND_CLEAN[reading.instrument]),
    clean: clean && !again,
    foreign,
  };
}

/** Logarithm of a witness's likelihood on a link, as far as it is of this link. */
export function logOfLink({ likelihood, foreign, logStray }: Witness, state: LinkState): number {
  if (foreign && state.cells[state.frame.at.absent] !== 0) return logStray + STRAY_TO_LINK;
  return logLikelihood(likelihood, state);
}
/** No less than `logOfLink`, worked out quickly. */
export function mostOfLink(witness: Witness, state: LinkState): number {
  const { likelihood } = witness;
  return likelihood.most && !witness.foreign ? logAtMost(likelihood, state) : logOfLink(witness, state);
}
/** A foreign remote on a link whose own is elsewhere is what one would expect. */
const STRAY_TO_LINK = Math.log(1 / LABEL_WRONG);

/**
 * How likely a stray reading reads so, once it is known how likely a link of this kind does: another link is
 * in order more often than not, and wrong in the same ways as this one.
 * @param logWrong logarithm of the likelihood on a link with something wrong, over all that may be
 */
export function learnStrays(witness: Witness, intact: number, logWrong: number): void {
  const others = addLogs(Math.log(OTHERS_SOUND) + intact, Math.log(1 - OTHERS_SOUND) + logWrong);
  witness.logStray = addLogs(witness.logAstray + addLogs(witness.logElsewhere, others), witness.logAcross);
}

/** With the chance that it is of something else. */
export const mixed = ({ logKept, logStray }: Witness, ofLink: number): number =>
  addLogs(logKept + ofLink, logStray);

export function addLogs(a: number, b: number): number {
  const top = a > b ? a : b;
  const apart = a > b ? a - b : b - a;
  return apart > 30 ? top : top + Math.log1p(Math.exp(-apart));
}

/** A clean reading of a link with something wrong reads as one of a sound link does. */
export function learnClean(witness: Witness, intact: number): void {
  const share = WRONG_AND_CLEAN[witness.reading.instrument];
  if (witness.clean) witness.logUnknown = addLogs(witness.logUnknown, Math.log(share) + intact);
}

/** A right map but for two neighbouring rows exchanged; with split pairs it is no right map. */
function isAcross(expected: LinkExpectation, reading: MapReading): boolean {
  const meant = intendedMap(expected);
  const contacts = Object.keys(meant);
  const off = contacts.filter((c) => reading.arrivals[c]?.join() !== meant[c]);
  const [a, b] = off;
  return (
    off.length === 2 &&
    reading.joins.length === 0 &&
    !reading.splits?.length &&
    contacts.indexOf(b as string) - contacts.indexOf(a as string) === 1 &&
    reading.arrivals[a as string]?.join() === meant[b as string] &&
    reading.arrivals[b as string]?.join() === meant[a as string]
  );
}

/** A tenth of a kilometre of lengths that other links may have. */
const LENGTHS_M = 80;

/** How likely an echo reading is on some other link: one end for all pairs, at any length. */
function otherLength(reading: EchoReading, pairsInAll: number): number {
  const events = Object.values(reading.pairs).flat();
  const common = commonEnd(reading, Math.min(pairsInAll, Object.keys(reading.pairs).length));
  const single = Object.values(reading.pairs).every((list) => list.length === 1 && list[0]?.kind === 'open');
  const spread = (distanceM: number): number => -Math.log(distanceDeviationM(distanceM) * 3);
  const together = events.every(
    ({ distanceM }) => Math.abs(distanceM - (common ?? 0)) < 4 * distanceDeviationM(distanceM),
  );
  if (common !== null && single && together)
    return (
      Math.log(OTHERS_SOUND / LENGTHS_M) + events.slice(1).reduce((sum, e) => sum + spread(e.distanceM), 0)
    );
  return Math.log(1 - OTHERS_SOUND) - events.length * Math.log(3 * LENGTHS_M);
}

/** Ohms that paths of other links may have, and what those of one link differ by. */
const OTHER_OHMS = { span: 12, apart: 0.04, meterOhm: 0.1 };
/** Of links that are not in order, a path that is open, or has other ohms than its like. */
const WRONG_ELSEWHERE = 0.15;

/** How likely an ohmmeter's figures are on some other link: paths from end to end that are alike, at any length. */
function otherOhms({ touches }: TouchReading): number {
  const figures = touches.flatMap(({ ohm }) => (ohm == null ? [] : [ohm])).sort((a, b) => a - b);
  const middle = figures[Math.floor(figures.length / 2)];
  const through = touches.every(
    ({ from, to, joined }) =>
      from.end !== to.end && from.contacts.join() === to.contacts.join() && !joined?.length,
  );
  if (middle === undefined || !through) return -Infinity;
  const deviation = Math.hypot(OTHER_OHMS.meterOhm, OTHER_OHMS.apart * middle);
  const alike = figures.filter((ohm) => Math.abs(ohm - middle) < 3.5 * deviation);
  const off = figures.filter((ohm) => !alike.includes(ohm));
  const wrong = touches.length - alike.length;
  const density = (ohm: number): number =>
    -0.5 * ((ohm - middle) / deviation) ** 2 - Math.log(deviation * Math.sqrt(2 * Math.PI));
  return (
    Math.log(wrong === 0 ? OTHERS_SOUND : 1 - OTHERS_SOUND) +
    wrong * Math.log(WRONG_ELSEWHERE) -
    off.reduce((sum, ohm) => sum + Math.log(Math.max(0.3, ohm) * Math.log(1e5)), 0) +
    // The middle one lies anywhere, the others about it.
    alike.reduce((sum, ohm) => sum + density(ohm), -density(middle) - Math.log(OTHER_OHMS.span))
  );
}

/** Logarithms of rows that are as intended, and that are not, on a link with anything wrong. */
const ROW = { right: Math.log(0.4), wrong: Math.log(0.6) };

/** Whether a look shows on a contact what should be there, or could not tell. */
const isAsMeant = (look: ColourReading, contact: ContactId, expected: LinkExpectation): boolean =>
  isUnread(look, contact) || look.colours[contact] === (expected[look.end].wiring[contact] ?? null);

/** How likely a reading is on a link of which nothing is known. */
function diffuse(expected: LinkExpectation, frame: Frame, reading: Reading): number {
  const sum = <T>(items: readonly T[], of: (item: T) => number): number =>
    items.reduce((total, item) => total + of(item), 0);
  if (isMapReading(reading)) {
    const meant = intendedMap(expected);
    const others = Math.log(frame.contacts.far.length);
    return (
      sum(Object.keys(reading.arrivals), (c) =>
        reading.arrivals[c]?.join() === (meant[c] ?? '') ? ROW.right : ROW.wrong - others,
      ) + sum(reading.splits ?? [], () => Math.log(0.3))
    );
  }
  switch (reading.instrument) {
    case 'lamp-pairs':
    case 'lamps-one-return':
      return sum(Object.values(reading.lamps), (lit) => (lit ? ROW.right : ROW.wrong));
    case 'pair-reflectometer':
      return -sum(Object.values(reading.pairs), (events) => 0.7 + events.length * Math.log(3 * LENGTHS_M));
    case 'eye':
      return sum(Object.keys(reading.colours), (contact) =>
        isAsMeant(reading, contact, expected) ? ROW.right : ROW.wrong - Math.log(frame.conductors.length),
      );
    case 'beeper':
    case 'ohmmeter':
      return sum(
        reading.touches,
        ({ ohm }) => Math.log(0.5) - (ohm == null ? 0 : Math.log(Math.max(0.3, ohm) * Math.log(1e5))),
      );
    case 'wiggle':
      return sum(reading.flickers, () => Math.log(0.05));
    case 'tone-probe':
      return -2 * reading.tones.length;
    case 'dc-voltage':
      return -2 * reading.across.length;
    case 'capacitance-meter':
      return -sum(
        Object.values(reading.nF),
        (nF) => 0.7 + (nF === null ? Math.log(4) : Math.log(3 * LENGTHS_M)),
      );
    case 'power-tester':
      // Fed as it should be, or anything else of what two sets can show.
      return findIn(expected, reading).length === 0 ? ROW.right : ROW.wrong - Math.log(8);
  }
}
