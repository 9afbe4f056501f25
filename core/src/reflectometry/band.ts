import type { Band } from './echo-fit.js';
import { LIGHT_M_PER_S, propagationOf, type LineFigures } from './line.js';
import { powerOfTwoFrom, spectrumOf } from './spectrum.js';

/**
 * A step's differences are whitened as differences; slower than this share of the record they are
 * taken for drift of the level, which says nothing of echoes.
 */
const DRIFT_BINS = 6;
/** Bins under this share of the strongest carry nothing of the launch. */
const FAINTEST = 2e-4;

/** A stretch of a trace and how it is to be looked at. */
export interface Stretch {
  /** Volts with the baseline taken off; nothing is thought of what lies outside. */
  volts: Float64Array;
  shape: 'pulse' | 'step';
  noiseV: number;
  intervalS: number;
  line: LineFigures;
}

export interface WholeBand extends Band {
  /** Length of the transform, samples. */
  size: number;
  /** First bin of the band in the whole half spectrum. */
  first: number;
}

/** The samples that are fitted: of a step, the differences from one sample to the next. */
export function fitted(volts: Float64Array, shape: 'pulse' | 'step'): Float64Array {
  if (shape === 'pulse') return volts;
  const differences = new Float64Array(Math.max(0, volts.length - 1));
  for (let n = 0; n < differences.length; n++) differences[n] = volts[n + 1]! - volts[n]!;
  return differences;
}

/**
 * A stretch in the frequency domain, from its slowest bin to the fastest that `reach` (the size of the
 * launch's spectrum, by radians per sample) still reaches.
 *
 * @param extra what the launch has beyond its figures, in the same samples; none when absent
 */
export function bandOf(
  { volts, shape, noiseV, intervalS, line }: Stretch,
  reach: (omega: number) => number,
  extra?: Float64Array,
): WholeBand {
  const data = fitted(volts, shape);
  const size = powerOfTwoFrom(data.length * 1.02 + 8);
  const { re, im } = spectrumOf(data, size);
  const first = shape === 'pulse' ? 1 : 0;
  const last = lastReached(reach, size, first);
  const omega = new Float64Array(last - first + 1).map((_, n) => (2 * Math.PI * (first + n)) / size);
  const weight = omega.map((w, n) => {
    const sides = first + n === 0 || first + n === size / 2 ? 1 : 2;
    const slow = 4 * Math.sin(w / 2) ** 2 + ((2 * Math.PI * DRIFT_BINS) / size) ** 2;
    return sides / (size * noiseV ** 2 * (shape === 'pulse' ? 1 : slow));
  });
  const spare = extra ? spectrumOf(extra, size) : null;
  const { lossRe, lossIm } = lossPerSample(line, omega, intervalS);
  return {
    size,
    first,
    omega,
    weight,
    lossRe,
    lossIm,
    dataRe: re.slice(first, last + 1),
    dataIm: im.slice(first, last + 1),
    extraRe: spare ? spare.re.slice(first, last + 1) : new Float64Array(omega.length),
    extraIm: spare ? spare.im.slice(first, last + 1) : new Float64Array(omega.length),
  };
}

function lastReached(reach: (omega: number) => number, size: number, first: number): number {
  const half = size / 2;
  const sizes = new Float64Array(half + 1).map((_, bin) => reach((2 * Math.PI * bin) / size));
  const most = sizes.reduce((top, value) => Math.max(top, value), 0);
  let last = half;
  while (last > first + 8 && sizes[last]! < FAINTEST * most) last--;
  return last;
}

/** What a line's figures take from a wave in one sample of its way, its plain delay left out. */
function lossPerSample(
  line: LineFigures,
  omega: Float64Array,
  intervalS: number,
): { lossRe: Float64Array; lossIm: Float64Array } {
  const velocity = line.velocityFactor * LIGHT_M_PER_S;
  const radians = omega.map((w) => Math.max(w, 1e-9) / intervalS);
  const { gammaRe, gammaIm } = propagationOf(line, { sigma: 0, omega: radians });
  return {
    lossRe: gammaRe.map((value) => value * velocity * intervalS),
    lossIm: gammaIm.map((value, n) => (value * velocity - radians[n]!) * intervalS),
  };
}
