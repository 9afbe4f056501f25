/** Lengths are metres (`...M`) or millimetres (`...Mm`) inside; people see the system they chose. */
export type UnitSystem = 'metric' | 'imperial';

const METRES_PER_FOOT = 0.3048;
const MM_PER_INCH = 25.4;

/** A cable length in words: metres to 0.1 m, or feet to the whole foot. */
export function formatCableLength(lengthM: number, system: UnitSystem): string {
  return system === 'metric' ? `${lengthM.toFixed(1)} m` : `${Math.round(lengthM / METRES_PER_FOOT)} ft`;
}

/** From this tolerance on a rule's sixteenths of an inch are fine enough, and from the second its thirty-seconds. */
const SIXTEENTHS_MM = 1.6;
const THIRTY_SECONDS_MM = 0.8;

/**
 * A strip length in words: millimetres to a tenth, or inches as finely as its tolerance asks (sixteenths, thirty-seconds,
 * else hundredths), so that rounding never takes more than half of what the length may be off.
 *
 * @param toleranceMm what it may be off; without one the nearest 1/16 in is given
 */
export function formatStripLength(lengthMm: number, system: UnitSystem, toleranceMm = Infinity): string {
  return `${stripFigure(lengthMm, system, toleranceMm)} ${system === 'metric' ? 'mm' : 'in'}`;
}

/** A strip length and what it may be off: `13 ± 0.5 mm`. */
export function formatStripTolerance(lengthMm: number, system: UnitSystem, toleranceMm: number): string {
  const off =
    system === 'metric' || toleranceMm < THIRTY_SECONDS_MM
      ? stripFigure(toleranceMm, system, toleranceMm)
      : inFractions(toleranceMm, 32);
  return `${stripFigure(lengthMm, system, toleranceMm)} ± ${off} ${system === 'metric' ? 'mm' : 'in'}`;
}

function stripFigure(lengthMm: number, system: UnitSystem, toleranceMm: number): string {
  if (system === 'metric') return String(Number(lengthMm.toFixed(1)));
  if (toleranceMm < THIRTY_SECONDS_MM) return (lengthMm / MM_PER_INCH).toFixed(2);
  return inFractions(lengthMm, toleranceMm >= SIXTEENTHS_MM ? 16 : 32);
}

/** Inches to the nearest of so many parts, in lowest terms: `1 3/16`. */
function inFractions(lengthMm: number, parts: number): string {
  const counted = Math.round((lengthMm / MM_PER_INCH) * parts);
  const whole = Math.floor(counted / parts);
  let numerator = counted % parts;
  let denominator = parts;
  while (numerator > 0 && numerator % 2 === 0) {
    numerator /= 2;
    denominator /= 2;
  }
  if (numerator === 0) return String(whole);
  return whole === 0 ? `${numerator}/${denominator}` : `${whole} ${numerator}/${denominator}`;
}

/** Metres from a figure a person typed in their own system. */
export function cableLengthToM(value: number, system: UnitSystem): number {
  return system === 'metric' ? value : value * METRES_PER_FOOT;
}

/** The figure to show in a field for a length in metres; the inverse of {@link cableLengthToM}. */
export function cableLengthFromM(lengthM: number, system: UnitSystem): number {
  const value = system === 'metric' ? lengthM : lengthM / METRES_PER_FOOT;
  return Math.round(value * 10) / 10;
}

/** The unit's sign for cable lengths. */
export const cableLengthUnit = (system: UnitSystem): string => (system === 'metric' ? 'm' : 'ft');
