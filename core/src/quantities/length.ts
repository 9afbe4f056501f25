/** Lengths are metres (`...M`) or millimetres (`...Mm`) inside; people see the system they chose. */
export type UnitSystem = 'metric' | 'imperial';

const METRES_PER_FOOT = 0.3048;
const MM_PER_INCH = 25.4;

/** A cable length in words: metres to 0.1 m, or feet to the whole foot. */
export function formatCableLength(lengthM: number, system: UnitSystem): string {
  return system === 'metric' ? `${lengthM.toFixed(1)} m` : `${Math.round(lengthM / METRES_PER_FOOT)} ft`;
}

/** A strip length in words: millimetres to 1 mm, or inches to the nearest 1/16 with the fraction in lowest terms. */
export function formatStripLength(lengthMm: number, system: UnitSystem): string {
  if (system === 'metric') return `${Number(lengthMm.toFixed(1))} mm`;
  const sixteenths = Math.round((lengthMm / MM_PER_INCH) * 16);
  const whole = Math.floor(sixteenths / 16);
  let numerator = sixteenths % 16;
  let denominator = 16;
  while (numerator > 0 && numerator % 2 === 0) {
    numerator /= 2;
    denominator /= 2;
  }
  if (numerator === 0) return `${whole} in`;
  return whole === 0 ? `${numerator}/${denominator} in` : `${whole} ${numerator}/${denominator} in`;
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
