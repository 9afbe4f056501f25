import { NORMAL_95 } from '../chance/normal.js';
import { LIGHT_M_PER_S } from '../reflectometry/line.js';
import {
  BadMetering,
  CAPACITANCE_ERRORS,
  DEAD_AND_FREE,
  fixedDeviation,
  shareDeviation,
  type Metered,
  type MeterErrors,
} from './meter.js';

/** Capacitance of a line per metre, farad: C' = 1 / (v Z0), for any line. */
export const faradPerM = (line: { velocityFactor: number; impedanceOhm: number }): number =>
  1 / (line.velocityFactor * LIGHT_M_PER_S * line.impedanceOhm);

/** A catalogue's impedance and velocity together know the capacitance per metre to about this, 95 % (typical). */
export const CATALOGUE_FARAD_SHARE = 0.12;
/** Pairs of one cable differ by their twist: about this much in capacitance per metre, 95 % (typical). */
export const BETWEEN_PAIRS = 0.02;
/** Equipment, filters and lightning protection have far more than a cable: past this share it is not the cable alone. */
const TOO_MUCH = 1.25;

const CAUTIONS = [
  DEAD_AND_FREE,
  'Screen and the other pairs the same way at each reading: all floating, or all tied.',
] as const;

const nF = (farad: number): string => (farad * 1e9).toFixed(3);

/**
 * An open by a meter at both ends: d = L C1 / (C1 + C2), which needs no figure of the cable; the meter's
 * share cancels.
 *
 * @param near farad from the near end, leads taken off
 * @param length of the cable, with the deviation of that length
 * @param perMetre the cable's typical figure, where it is known: far more than that is not its own
 * @throws BadMetering for capacitances that no open on this cable gives
 */
export function openByBothEnds(
  near: number,
  far: number,
  length: { lengthM: number; deviationM: number },
  errors: MeterErrors = CAPACITANCE_ERRORS,
  perMetre: PerMetre | null = null,
): Metered {
  const { lengthM, deviationM } = length;
  if (!(lengthM > 0)) throw new BadMetering('The cable needs a length over 0 m.');
  if (!(near >= 0 && far >= 0 && near + far > 0))
    throw new BadMetering(
      'Both capacitances are 0: nothing is on the leads. Clip on both wires of the pair.',
    );
  const sum = near + far;
  if (perMetre && sum > TOO_MUCH * perMetre.farad * lengthM)
    throw new BadMetering(tooMuch(sum, perMetre, lengthM));
  const value = (lengthM * near) / sum;
  const own = fixedDeviation(errors);
  const deviation = Math.hypot(
    (lengthM * Math.hypot(far * own, near * own)) / sum ** 2,
    (deviationM * near) / sum,
  );
  return {
    value,
    u95: NORMAL_95 * deviation,
    arithmetic: `${lengthM} m × ${nF(near)} / (${nF(near)} + ${nF(far)}) = ${value.toFixed(2)} m`,
    cautions: CAUTIONS,
  };
}

const tooMuch = (farad: number, perMetre: PerMetre, lengthM: number): string =>
  `${nF(farad)} nF is too much for ${lengthM} m of this cable, about ${nF(perMetre.farad * lengthM)} nF: something is connected to the pair, or it is another cable. Unplug both ends and read again.`;

/** Capacitance per metre, and how well it is known. */
export interface PerMetre {
  farad: number;
  /** Half of its 95 % interval as a share of it. */
  u95Share: number;
}

/** The figure of a cable from a good pair of it, or of a known piece, with the meter that goes on to be used. */
export function perMetreByGoodPair(
  farad: number,
  lengthM: number,
  errors: MeterErrors = CAPACITANCE_ERRORS,
): PerMetre {
  if (!(farad > 0 && lengthM > 0))
    throw new BadMetering('A good pair has a capacitance and a length over 0.');
  // The meter's share cancels in the ratio; its digits and the twist of another pair do not.
  return { farad: farad / lengthM, u95Share: Math.hypot(errors.fixed / farad, BETWEEN_PAIRS) };
}

/**
 * An open by one reading and the cable's capacitance per metre: d = C / c'.
 *
 * @param lengthM of the whole cable where it is known: more than that is not its own
 * @param byGoodPair the figure comes from this meter, so that its share cancels
 * @throws BadMetering
 */
export function openByPerMetre(
  farad: number,
  perMetre: PerMetre,
  {
    lengthM = null,
    byGoodPair = false,
    errors = CAPACITANCE_ERRORS,
  }: { lengthM?: number | null; byGoodPair?: boolean; errors?: MeterErrors } = {},
): Metered {
  if (!(perMetre.farad > 0)) throw new BadMetering('The capacitance per metre has to be over 0.');
  if (!(farad >= 0))
    throw new BadMetering('A capacitance is not negative: take off no more than the leads’ own.');
  const value = farad / perMetre.farad;
  if (lengthM !== null && value > TOO_MUCH * lengthM)
    throw new BadMetering(tooMuch(farad, perMetre, lengthM));
  const share = byGoodPair ? 0 : shareDeviation(errors);
  const deviation = Math.hypot(
    fixedDeviation(errors) / perMetre.farad,
    value * share,
    (value * perMetre.u95Share) / NORMAL_95,
  );
  return {
    value,
    u95: NORMAL_95 * deviation,
    arithmetic: `${nF(farad)} nF / ${(perMetre.farad * 1e12).toFixed(1)} pF/m = ${value.toFixed(2)} m`,
    cautions: CAUTIONS,
  };
}

/** A pair as its capacitance shows it from one end. */
export interface PairByCapacitance {
  pair: string;
  /** Where it ends, as seen from this end. */
  endsAt: Metered;
  /** `whole` where it ends with the others; `open-here` where nothing is on the leads. */
  is: 'whole' | 'open-here' | 'open-on-the-way' | 'too-much';
}

/** Nearer than this share of the cable an open is at the connector, and as near to its end it is the other one. */
const AT_THE_END = 0.04;

/**
 * Which pair is open, by reading all pairs of one cable from one end: whole pairs agree with one another, and
 * the longest of them is the figure of the cable. Leads have been taken off.
 *
 * @param farads pair name to capacitance
 * @throws BadMetering for no pairs, or a length of 0
 */
export function pairsByCapacitance(
  farads: Readonly<Record<string, number>>,
  lengthM: number,
  typical: PerMetre,
  errors: MeterErrors = CAPACITANCE_ERRORS,
): PairByCapacitance[] {
  const entries = Object.entries(farads);
  if (entries.length === 0) throw new BadMetering('Read at least one pair.');
  if (!(lengthM > 0)) throw new BadMetering('The cable needs a length over 0 m.');
  const expected = typical.farad * lengthM;
  const plausible = entries.map(([, farad]) => farad).filter((farad) => farad <= TOO_MUCH * expected);
  const longest = Math.max(0, ...plausible);
  const alike = plausible.filter((farad) => farad > longest * (1 - 3 * AT_THE_END)).length;
  // Two that agree and are about as long as the plan: the cable's own figure; one alone may be cut itself.
  const own = alike >= 2 && longest > expected / TOO_MUCH;
  const perMetre = own ? perMetreByGoodPair(longest, lengthM, errors) : typical;
  return entries.map(([pair, farad]) => {
    if (farad > TOO_MUCH * perMetre.farad * lengthM)
      return {
        pair,
        is: 'too-much',
        endsAt: { value: NaN, u95: NaN, arithmetic: `${nF(farad)} nF`, cautions: CAUTIONS },
      };
    const endsAt = openByPerMetre(farad, perMetre, { byGoodPair: own, errors });
    const slack = Math.max(AT_THE_END * lengthM, endsAt.u95);
    const is =
      endsAt.value + slack >= lengthM ? 'whole' : endsAt.value <= slack ? 'open-here' : 'open-on-the-way';
    return { pair, endsAt, is };
  });
}
