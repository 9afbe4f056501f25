import { LIGHT_M_PER_S, propagationOf, type LineFigures } from './line.js';
import { transformOf, transformSizeFrom } from './spectrum.js';

/** What comes round the transform again is smaller by e to this power. */
const DAMPED_BY = 8;
/** The fastest bins fade out from this share of the band on: a sharp end would ring, and more so the later. */
const FADES_FROM = 0.8;
/** Bins under this share of the strongest carry nothing of the launch. */
const FAINTEST = 5e-4;

/** A stretch of a trace and the cable it is looked at with. */
export interface Stretch {
  /** Volts with the rough baseline taken off. */
  volts: Float64Array;
  noiseV: number;
  intervalS: number;
  line: LineFigures;
}

/**
 * A stretch made ready for fitting: models are written as spectra on the contour sigma + j omega
 * (radians per sample), where a delay is a factor and nothing wraps round, and compared in time,
 * where the record begins and ends.
 */
export interface Ground extends Stretch {
  /** Length of the transform, samples. */
  size: number;
  sigma: number;
  omega: Float64Array;
  /** exp(sigma n), which takes the contour's damping out again. */
  undo: Float64Array;
  /** What a level of one volt is seen as. */
  one: Float64Array;
  /** What every model is seen through: the band's soft end, and a high pass where one is asked for. */
  passRe: Float64Array;
  passIm: Float64Array;
  /** What the cable's figures take from a wave per sample of its way, plain delay left out. */
  lossRe: Float64Array;
  lossIm: Float64Array;
  /** How far the lossy line's impedance is off its nominal one, as a share of it. */
  offRe: Float64Array;
  offIm: Float64Array;
  /** What the launch has beyond its few figures. */
  extraRe: Float64Array;
  extraIm: Float64Array;
}

/**
 * Ground for a stretch, with the bins that `reach` (the size of the launch's spectrum, by radians per
 * sample) still reaches.
 *
 * @param options.extra what the launch has beyond its figures, in the same samples; none when absent
 * @param options.forgets samples after which a level is no longer held against a model: a high pass
 */
export function groundOf(
  stretch: Stretch,
  reach: (sigma: number, omega: number) => number,
  { extra, forgets = Infinity }: { extra?: Float64Array; forgets?: number } = {},
): Ground {
  const samples = stretch.volts.length;
  const size = transformSizeFrom(samples * 1.3 + 8);
  const sigma = DAMPED_BY / size;
  const bins = Math.min(Math.ceil((lastReached(reach, size, sigma) + 1) / FADES_FROM), size / 2 + 1);
  const omega = new Float64Array(bins).map((_, bin) => (2 * Math.PI * bin) / size);
  const undo = new Float64Array(samples).map((_, n) => Math.exp(sigma * n));
  const keeps = Math.exp(-1 / forgets);
  const ground: Ground = {
    ...stretch,
    volts: highPassed(stretch.volts, keeps),
    one: new Float64Array(samples).map((_, n) => keeps ** n),
    ...seenThrough(keeps, sigma, omega),
    size,
    sigma,
    omega,
    undo,
    ...lineBySample(stretch, sigma, omega),
    extraRe: new Float64Array(bins),
    extraIm: new Float64Array(bins),
  };
  if (extra) {
    const { re, im } = onContour(ground, extra);
    ground.extraRe = re;
    ground.extraIm = im;
  }
  return ground;
}

/** Takes what is slow out of a record that was at rest before it. */
function highPassed(volts: Float64Array, keeps: number): Float64Array {
  if (keeps === 1) return volts;
  let level = 0;
  return volts.map((volt, n) => (level = keeps * level + volt - (volts[n - 1] ?? 0)));
}

/** The same as a factor, (1 - 1/z) / (1 - keeps / z), z = exp(s), with the band's soft end. */
function seenThrough(
  keeps: number,
  sigma: number,
  omega: Float64Array,
): { passRe: Float64Array; passIm: Float64Array } {
  const passRe = new Float64Array(omega.length);
  const passIm = new Float64Array(omega.length);
  const fades = FADES_FROM * omega.length;
  for (let bin = 0; bin < omega.length; bin++) {
    const x = Math.max(0, (bin - fades) / (omega.length - fades));
    const soft = (1 + Math.cos(Math.PI * x)) / 2;
    passRe[bin] = soft;
    if (keeps === 1) continue;
    const size = Math.exp(-sigma);
    const c = size * Math.cos(omega[bin]!);
    const s = -size * Math.sin(omega[bin]!);
    const dRe = 1 - keeps * c;
    const dIm = -keeps * s;
    const d2 = dRe * dRe + dIm * dIm;
    passRe[bin] = (soft * ((1 - c) * dRe - s * dIm)) / d2;
    passIm[bin] = (soft * (-s * dRe - (1 - c) * dIm)) / d2;
  }
  return { passRe, passIm };
}

function lastReached(reach: (sigma: number, omega: number) => number, size: number, sigma: number): number {
  const half = size / 2;
  const sizes = new Float64Array(half + 1).map((_, bin) => reach(sigma, (2 * Math.PI * bin) / size));
  // A step's slowest bins stand far above the rest and say nothing of its edge.
  const most = sizes[Math.min(half, 16)]!;
  let last = half;
  while (last > 16 && sizes[last]! < FAINTEST * most) last--;
  return last;
}

function lineBySample(
  { line, intervalS }: Stretch,
  sigma: number,
  omega: Float64Array,
): Pick<Ground, 'lossRe' | 'lossIm' | 'offRe' | 'offIm'> {
  const velocity = line.velocityFactor * LIGHT_M_PER_S;
  const contour = { sigma: sigma / intervalS, omega: omega.map((w) => w / intervalS) };
  const { gammaRe, gammaIm, impedanceRe, impedanceIm } = propagationOf(line, contour);
  return {
    lossRe: gammaRe.map((value) => (value * velocity - contour.sigma) * intervalS),
    lossIm: gammaIm.map((value, n) => (value * velocity - contour.omega[n]!) * intervalS),
    offRe: impedanceRe.map((value) => value / line.impedanceOhm - 1),
    offIm: impedanceIm.map((value) => value / line.impedanceOhm),
  };
}

/** A signal's spectrum on a ground's contour, in its bins. */
export function onContour(
  { size, sigma, omega }: Pick<Ground, 'size' | 'sigma' | 'omega'>,
  signal: Float64Array,
): { re: Float64Array; im: Float64Array } {
  const padded = new Float64Array(size);
  for (let n = 0; n < signal.length; n++) padded[n] = signal[n]! * Math.exp(-sigma * n);
  const out = new Float64Array(2 * size);
  transformOf(size).realTransform(out, padded);
  const re = omega.map((_, bin) => out[2 * bin]!);
  const im = omega.map((_, bin) => out[2 * bin + 1]!);
  return { re, im };
}

interface Buffers {
  full: Float64Array;
  out: Float64Array;
}

const buffers = new Map<number, Buffers>();

/** Room for one transform, used again: fits ask for thousands. */
function buffersOf(size: number): Buffers {
  let found = buffers.get(size);
  if (!found) {
    found = { full: new Float64Array(2 * size), out: new Float64Array(2 * size) };
    buffers.set(size, found);
  }
  return found;
}

/** Two spectra on a ground's contour back in time, within the record, by one transform. */
export function inTime(
  { size, undo, omega }: Pick<Ground, 'size' | 'undo' | 'omega'>,
  first: { re: Float64Array; im: Float64Array },
  second: { re: Float64Array; im: Float64Array } = first,
): [Float64Array, Float64Array] {
  const { full, out } = buffersOf(size);
  full.fill(0, 2 * omega.length, 2 * (size - omega.length) + 2);
  for (let bin = 0; bin < omega.length; bin++) {
    const aRe = first.re[bin]!;
    const aIm = first.im[bin]!;
    const bRe = second.re[bin]!;
    const bIm = second.im[bin]!;
    // a + j b, and at the mirrored bin the conjugates of both.
    if (bin === 0 || bin === size / 2) {
      full[2 * bin] = aRe;
      full[2 * bin + 1] = bRe;
      continue;
    }
    full[2 * bin] = aRe - bIm;
    full[2 * bin + 1] = aIm + bRe;
    full[2 * (size - bin)] = aRe + bIm;
    full[2 * (size - bin) + 1] = bRe - aIm;
  }
  transformOf(size).inverseTransform(out, full);
  const samples = undo.length;
  const one = new Float64Array(samples);
  const other = new Float64Array(samples);
  for (let n = 0; n < samples; n++) {
    const gain = undo[n]!;
    one[n] = gain * out[2 * n]!;
    other[n] = gain * out[2 * n + 1]!;
  }
  return [one, other];
}
