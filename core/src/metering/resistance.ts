import { NORMAL_95 } from '../chance/normal.js';
import { copperOhmPerM } from '../cabling/conductor-ohms.js';
import { COPPER_PER_DEGREE } from '../quantities/copper.js';
import {
  BadMetering,
  DEAD_AND_FREE,
  fixedDeviation,
  LEADS_OFF,
  RESISTANCE_ERRORS,
  shareDeviation,
  type Metered,
  type MeterErrors,
} from './meter.js';

/** Copper-clad aluminium has about so many times copper's resistance. */
export const CLAD_ALUMINIUM = 1.55;
/** What a person knows of a cable's temperature by touching it, 95 %. */
const TEMPERATURE_U95 = 5;
/** Wire of one gauge differs by about this much, 95 % (typical). */
const WIRE_SHARE = 0.03;
/** Twisted wires are longer than their cable by about this much (typical). */
export const TWIST_LAY = 0.01;

const CAUTIONS = [DEAD_AND_FREE, LEADS_OFF] as const;

/** Resistance of one wire per metre of cable, ohm, at a temperature. */
export const wireOhmPerM = (awg: number, temperatureC = 20): number =>
  copperOhmPerM(awg) * (1 + TWIST_LAY) * (1 + COPPER_PER_DEGREE * (temperatureC - 20));

const ohm = (value: number): string => value.toFixed(value < 10 ? 3 : 2);

/** Length by a loop's resistance, and what else the same reading could be. */
export interface LoopLength extends Metered {
  /** The same ohms as other metal: resistance alone cannot decide between them. */
  or: readonly { metal: string; lengthM: number }[];
}

/**
 * Length of a pair, shorted at its far end, by its loop resistance: L = R / (2 r). Another gauge or metal
 * gives the same ohms; what it would be is told with it.
 *
 * @param loopOhm leads taken off
 * @throws BadMetering
 */
export function lengthByLoop(
  loopOhm: number,
  awg: number,
  temperatureC = 20,
  errors: MeterErrors = RESISTANCE_ERRORS,
): LoopLength {
  if (!(loopOhm >= 0 && Number.isFinite(loopOhm)))
    throw new BadMetering('A loop has a resistance: join the two wires at the far end and read again.');
  const perM = 2 * wireOhmPerM(awg, temperatureC);
  const value = loopOhm / perM;
  const share = Math.hypot(
    shareDeviation(errors),
    (COPPER_PER_DEGREE * TEMPERATURE_U95) / NORMAL_95,
    WIRE_SHARE / NORMAL_95,
  );
  const other = awg + 2;
  return {
    value,
    u95: NORMAL_95 * Math.hypot(fixedDeviation(errors) / perM, value * share),
    arithmetic: `${ohm(loopOhm)} ohm / (2 × ${(perM / 2).toFixed(4)} ohm/m) = ${value.toFixed(2)} m`,
    or: [
      { metal: 'copper-clad aluminium', lengthM: value / CLAD_ALUMINIUM },
      {
        metal: `copper of ${other} AWG`,
        lengthM: loopOhm / (2 * wireOhmPerM(other, temperatureC)),
      },
    ],
    cautions: CAUTIONS,
  };
}

/** Where two wires touch, by the ohmmeter at both ends. */
export interface ShortPlace extends Metered {
  /** Resistance of the contact itself, ohm; it drops out of the place. */
  contactOhm: number;
  contactU95: number;
}

/**
 * A short by the loop read from both ends, the other end open: with R1 = 2 r d + Rf and
 * R2 = 2 r (L - d) + Rf, d = L/2 + (R1 - R2) / (4 r), whatever the contact's own Rf. A good pair of the
 * same cable gives 2 r L at its temperature; otherwise the gauge does.
 *
 * @param near loop ohms from the near end, leads taken off
 * @param wholeLoop 2 r L: of a good pair, or reckoned, with its deviation
 * @throws BadMetering where no short on this cable gives those figures
 */
export function shortByBothEnds(
  near: number,
  far: number,
  length: { lengthM: number; deviationM: number },
  wholeLoop: { ohm: number; deviation: number },
  errors: MeterErrors = RESISTANCE_ERRORS,
): ShortPlace {
  const { lengthM, deviationM } = length;
  if (!(lengthM > 0)) throw new BadMetering('The cable needs a length over 0 m.');
  if (!(wholeLoop.ohm > 0)) throw new BadMetering('The loop of a good pair has to be over 0 ohm.');
  if (!(near >= 0 && far >= 0))
    throw new BadMetering('A loop has no negative ohms: take the leads off once.');
  const share = (near - far) / (2 * wholeLoop.ohm);
  const own = fixedDeviation(errors);
  const ownShare = Math.hypot(own, own) / (2 * wholeLoop.ohm);
  // The meter's share is common to all three readings where the loop was metered: it cancels.
  const ofLoop = Math.abs(share) * (wholeLoop.deviation / wholeLoop.ohm);
  const deviation = Math.hypot(lengthM * ownShare, lengthM * ofLoop, deviationM * (0.5 + share));
  const value = lengthM * (0.5 + share);
  const contactOhm = (near + far - wholeLoop.ohm) / 2;
  const contactU95 = (NORMAL_95 * Math.hypot(own, own, wholeLoop.deviation)) / 2;
  const u95 = NORMAL_95 * deviation;
  if (value < -u95 || value > lengthM + u95 || contactOhm < -2 * contactU95 - 0.01 * wholeLoop.ohm)
    throw new BadMetering(
      `No short on ${lengthM} m gives ${ohm(near)} ohm from one end and ${ohm(far)} from the other where a good loop has ${ohm(wholeLoop.ohm)}: check that the other end was open each time, and the length.`,
    );
  return {
    value: Math.min(Math.max(value, 0), lengthM),
    u95,
    contactOhm: Math.max(contactOhm, 0),
    contactU95,
    arithmetic: `${lengthM} m × (1/2 + (${ohm(near)} − ${ohm(far)}) / (2 × ${ohm(wholeLoop.ohm)})) = ${value.toFixed(2)} m`,
    cautions: CAUTIONS,
  };
}

/** The loop 2 r L of a cable by its gauge, with its deviation; a good pair's own reading is better. */
export function loopByGauge(
  awg: number,
  lengthM: number,
  temperatureC = 20,
): { ohm: number; deviation: number } {
  const whole = 2 * wireOhmPerM(awg, temperatureC) * lengthM;
  return {
    ohm: whole,
    deviation: (whole * Math.hypot(WIRE_SHARE, COPPER_PER_DEGREE * TEMPERATURE_U95)) / NORMAL_95,
  };
}

/** The two wires of a pair against each other. */
export interface Unbalance {
  /** Ohms of each wire, and of the third that was used as return. */
  wires: readonly [number, number, number];
  /** Difference of the pair's wires as a share of their loop. */
  share: number;
  differenceOhm: number;
  differenceU95: number;
  /** Which wire has too much, where it is sure: a bad joint on the way or at its contact. */
  suspect: 0 | 1 | null;
  arithmetic: string;
  cautions: readonly string[];
}

/** Over this share and these ohms a difference speaks of a bad joint. */
const UNBALANCED = { share: 0.03, ohm: 0.2 };

/**
 * Each wire of a pair by three loops over a third wire, all joined at the far end:
 * r1 = (R12 + R13 - R23) / 2, r2 = (R12 + R23 - R13) / 2.
 *
 * @throws BadMetering for loops that no three wires make
 */
export function unbalanceOf(
  r12: number,
  r13: number,
  r23: number,
  errors: MeterErrors = RESISTANCE_ERRORS,
): Unbalance {
  const wires = [(r12 + r13 - r23) / 2, (r12 + r23 - r13) / 2, (r13 + r23 - r12) / 2] as const;
  const own = fixedDeviation(errors);
  if (!(r12 > 0 && r13 > 0 && r23 > 0) || wires.some((wire) => wire < -3 * own))
    throw new BadMetering(
      'No three wires make these three loops: join all three at the far end, and read wire 1 to 2, 1 to 3 and 2 to 3.',
    );
  const differenceOhm = r13 - r23;
  const differenceU95 = NORMAL_95 * Math.hypot(own, own, differenceOhm * shareDeviation(errors));
  const share = Math.abs(differenceOhm) / r12;
  const bad =
    Math.abs(differenceOhm) - differenceU95 > 0 &&
    (share > UNBALANCED.share || Math.abs(differenceOhm) > UNBALANCED.ohm);
  return {
    wires: [Math.max(wires[0], 0), Math.max(wires[1], 0), Math.max(wires[2], 0)],
    share,
    differenceOhm,
    differenceU95,
    suspect: bad ? (differenceOhm > 0 ? 0 : 1) : null,
    arithmetic: `(${ohm(r12)} + ${ohm(r13)} − ${ohm(r23)}) / 2 = ${ohm(wires[0])}, (${ohm(r12)} + ${ohm(r23)} − ${ohm(r13)}) / 2 = ${ohm(wires[1])} ohm`,
    cautions: CAUTIONS,
  };
}

/** Whether a cable's screen goes through, read against a wire joined to it at the far end. */
export interface ScreenContinuity {
  is: 'whole' | 'poor' | 'open';
  screenOhm: number | null;
  arithmetic: string;
  cautions: readonly string[];
}

const SCREEN_CAUTIONS = [
  DEAD_AND_FREE,
  'Both bonds of the screen lifted: through the building’s earth it reads as whole though it is torn. Lift a bond only where nothing is live, and put it back.',
] as const;
/** More than so many times its typical ohms, and half an ohm, is a bad joint. */
const POOR = { times: 3, ohm: 0.5 };

/**
 * The screen by a loop over one wire that is joined to it at the far end, the wire's own ohms taken off.
 *
 * @param loopOhm null where the meter shows no path
 */
export function screenContinuity(
  loopOhm: number | null,
  wireOhm: number,
  typicalScreenOhm: number,
): ScreenContinuity {
  if (loopOhm === null)
    return { is: 'open', screenOhm: null, arithmetic: 'no path over the screen', cautions: SCREEN_CAUTIONS };
  if (!(loopOhm >= 0 && wireOhm >= 0))
    throw new BadMetering('A loop has no negative ohms: take the leads off once.');
  const screenOhm = Math.max(loopOhm - wireOhm, 0);
  const is = screenOhm > Math.max(POOR.times * typicalScreenOhm, POOR.ohm) ? 'poor' : 'whole';
  return {
    is,
    screenOhm,
    arithmetic: `${ohm(loopOhm)} − ${ohm(wireOhm)} of the wire = ${ohm(screenOhm)} ohm`,
    cautions: SCREEN_CAUTIONS,
  };
}
