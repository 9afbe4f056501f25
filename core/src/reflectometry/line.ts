/** Speed of light in vacuum, metres per second (exact). */
export const LIGHT_M_PER_S = 299_792_458;

/** Time that an echo takes there and back, seconds: t = 2 d / (VF c). */
export const roundTripS = (lengthM: number, velocityFactor: number): number =>
  (2 * lengthM) / (velocityFactor * LIGHT_M_PER_S);

/** Distance from which an echo comes back after a time, metres: d = VF c t / 2. */
export const echoDistanceM = (timeS: number, velocityFactor: number): number =>
  (velocityFactor * LIGHT_M_PER_S * timeS) / 2;

/** Decibels in one neper. */
const DB_PER_NEPER = 20 * Math.LOG10E;
/** The frequency at which a dielectric line has its nominal impedance and velocity. */
const REFERENCE_RAD_PER_S = 2 * Math.PI * 1e8;

/** What a cable is to a travelling wave. Loss figures are of the pair or coax, per 100 m. */
export interface LineFigures {
  impedanceOhm: number;
  velocityFactor: number;
  /** Skin-effect loss at 1 MHz; it grows with the square root of the frequency. */
  skinDb: number;
  /** Dielectric loss at 1 MHz; it grows with the frequency. */
  dielectricDb: number;
  /** Resistance of both conductors in series, ohm per metre. */
  loopOhmPerM: number;
}

/** A line without loss, the textbook's. */
export const losslessLine = (impedanceOhm: number, velocityFactor: number): LineFigures => ({
  impedanceOhm,
  velocityFactor,
  skinDb: 0,
  dielectricDb: 0,
  loopOhmPerM: 0,
});

/** A complex frequency s = sigma + j omega, one pair of numbers per bin. */
export interface ComplexFrequencies {
  sigma: number;
  omega: Float64Array;
}

/** Propagation per metre and characteristic impedance at every frequency. */
export interface Propagation {
  gammaRe: Float64Array;
  gammaIm: Float64Array;
  impedanceRe: Float64Array;
  impedanceIm: Float64Array;
}

/** Coefficient k of the internal impedance sqrt(R0^2 + k^2 s) per metre that gives a skin loss at 1 MHz. */
export function skinCoefficient({ impedanceOhm, skinDb }: LineFigures): number {
  return (2 * impedanceOhm * (skinDb / 100 / DB_PER_NEPER)) / Math.sqrt(Math.PI * 1e6);
}

/** Exponent by which the permittivity falls with frequency so that the loss grows with it. */
function dielectricExponent({ dielectricDb, velocityFactor }: LineFigures): number {
  const neperPerMHz = dielectricDb / 100 / DB_PER_NEPER;
  return (2 * neperPerMHz * velocityFactor * LIGHT_M_PER_S) / (Math.PI ** 2 * 1e6);
}

/**
 * Propagation constant (1/m) and characteristic impedance (ohm) of a line:
 * gamma = sqrt(Z Y), Z0(s) = sqrt(Z / Y) with Z = s L + sqrt(R0^2 + k^2 s) per metre (direct-current
 * resistance passing into the skin effect with its own inductance) and
 * Y = s C (s / s0)^-delta (dielectric loss in proportion to frequency, with the dispersion that
 * belongs to it). Both are analytic in the right half plane, so no echo comes before its time.
 * `velocityFactor` is that of the front, skin and dielectric loss apart.
 */
export function propagationOf(line: LineFigures, { sigma, omega }: ComplexFrequencies): Propagation {
  const bins = omega.length;
  const velocity = line.velocityFactor * LIGHT_M_PER_S;
  const inductance = line.impedanceOhm / velocity;
  const capacitance = 1 / (line.impedanceOhm * velocity);
  const skin = skinCoefficient(line) ** 2;
  const ohm2 = line.loopOhmPerM ** 2;
  const delta = dielectricExponent(line);
  const out: Propagation = {
    gammaRe: new Float64Array(bins),
    gammaIm: new Float64Array(bins),
    impedanceRe: new Float64Array(bins),
    impedanceIm: new Float64Array(bins),
  };
  if (skin === 0 && ohm2 === 0 && delta === 0) {
    // Without loss: gamma = s / v, and the impedance is the nominal one.
    out.gammaRe.fill(sigma / velocity);
    for (let bin = 0; bin < bins; bin++) out.gammaIm[bin] = omega[bin]! / velocity;
    out.impedanceRe.fill(line.impedanceOhm);
    return out;
  }
  for (let bin = 0; bin < bins; bin++) {
    const w = omega[bin]!;
    // Internal impedance: the root in the right half plane.
    const innerRe = ohm2 + skin * sigma;
    const innerIm = skin * w;
    const inner = length(innerRe, innerIm);
    const internalRe = Math.sqrt((inner + innerRe) / 2);
    const internalIm = Math.sqrt(Math.max(0, (inner - innerRe) / 2));
    const zRe = sigma * inductance + internalRe;
    const zIm = w * inductance + internalIm;
    // Admittance: s C (s / s0)^-delta, in polar form.
    const s = length(sigma, w);
    const angle = Math.atan2(w, sigma);
    const yAbs = s * capacitance * (s / REFERENCE_RAD_PER_S) ** -delta;
    const yAngle = angle * (1 - delta);
    const zAbs = length(zRe, zIm);
    const zAngle = Math.atan2(zIm, zRe);
    const gamma = Math.sqrt(zAbs * yAbs);
    const gammaAngle = (zAngle + yAngle) / 2;
    const z0 = yAbs > 0 ? Math.sqrt(zAbs / yAbs) : line.impedanceOhm;
    const z0Angle = yAbs > 0 ? (zAngle - yAngle) / 2 : 0;
    out.gammaRe[bin] = gamma * Math.cos(gammaAngle);
    out.gammaIm[bin] = gamma * Math.sin(gammaAngle);
    out.impedanceRe[bin] = z0 * Math.cos(z0Angle);
    out.impedanceIm[bin] = z0 * Math.sin(z0Angle);
  }
  return out;
}

/** Length of a vector; far faster than the library's, which guards against overflow. */
const length = (x: number, y: number): number => Math.sqrt(x * x + y * y);

/** Loss in dB of a length of line at a frequency, from its figures. */
export function lossDb(line: LineFigures, lengthM: number, frequencyHz: number): number {
  const { gammaRe } = propagationOf(line, {
    sigma: 0,
    omega: Float64Array.of(2 * Math.PI * frequencyHz),
  });
  return gammaRe[0]! * lengthM * DB_PER_NEPER;
}
