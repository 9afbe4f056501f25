// Every room that compiles core needs these types with it: the package ships none.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./fft.d.ts" />
import FFT from 'fft.js';

/** The half spectrum of a real signal: bins 0 to N/2, real and imaginary parts apart. */
export interface Spectrum {
  re: Float64Array;
  im: Float64Array;
}

/** Discrete Fourier transforms of one length; complex numbers are interleaved (re, im). */
export interface Transform {
  /** X[k] = sum of x[n] exp(-2 pi i k n / size) of a real signal, from bin 0 to the Nyquist frequency. */
  realTransform(out: Float64Array, signal: Float64Array): void;
  /** x[n] = sum of X[k] exp(2 pi i k n / size) / size, of all bins. */
  inverseTransform(out: Float64Array, spectrum: Float64Array): void;
}

/** Transforms by size, kept once made. */
const transforms = new Map<number, Transform>();

/** The transform of a size that is a power of two, or 3 or 5 times one. */
export function transformOf(size: number): Transform {
  let transform = transforms.get(size);
  if (!transform) {
    const odd = [1, 3, 5].find((factor) => Number.isInteger(Math.log2(size / factor)));
    if (!odd) throw new RangeError(`No transform of ${size} points: a power of two, or 3 or 5 times one.`);
    transform = odd === 1 ? new FFT(size) : interlaced(size, odd);
    transforms.set(size, transform);
  }
  return transform;
}

/** A transform as `by` transforms of every `by`-th point, turned and added (decimation in time). */
function interlaced(size: number, by: number): Transform {
  const part = size / by;
  const within = new FFT(part);
  const turns = new Float64Array(2 * size);
  for (let n = 0; n < size; n++) {
    turns[2 * n] = Math.cos((2 * Math.PI * n) / size);
    turns[2 * n + 1] = Math.sin((2 * Math.PI * n) / size);
  }
  const taken = new Float64Array(2 * part);
  const own = new Float64Array(2 * part);
  const add = by === 3 ? addThree : addFive;
  /** Puts a part's transform in its place, turned. */
  const put = (out: Float64Array, r: number, way: number, gain: number): void => {
    const at = 2 * r * part;
    for (let n = 0; n < part; n++) {
      const x = gain * own[2 * n]!;
      const y = gain * own[2 * n + 1]!;
      const c = turns[2 * r * n]!;
      const s = way * turns[2 * r * n + 1]!;
      out[at + 2 * n] = x * c - y * s;
      out[at + 2 * n + 1] = x * s + y * c;
    }
  };
  return {
    realTransform(out, signal) {
      for (let r = 0; r < by; r++) {
        for (let n = 0; n < part; n++) {
          taken[2 * n] = signal[by * n + r]!;
          taken[2 * n + 1] = 0;
        }
        within.transform(own, taken);
        put(out, r, -1, 1);
      }
      add(out, part, -1);
    },
    inverseTransform(out, spectrum) {
      for (let r = 0; r < by; r++) {
        for (let n = 0, from = 2 * r; n < part; n++, from += 2 * by) {
          taken[2 * n] = spectrum[from]!;
          taken[2 * n + 1] = spectrum[from + 1]!;
        }
        within.inverseTransform(own, taken);
        put(out, r, 1, 1 / by);
      }
      add(out, part, 1);
    },
  };
}

const SIN_60 = Math.sin(Math.PI / 3);

/** Transforms of three points each, `part` apart, in place; `way` is -1 forward and 1 back. */
function addThree(out: Float64Array, part: number, way: number): void {
  const [first, second] = [2 * part, 4 * part];
  const s = way * SIN_60;
  for (let n = 0; n < 2 * part; n += 2) {
    const re = out[first + n]! + out[second + n]!;
    const im = out[first + n + 1]! + out[second + n + 1]!;
    const offRe = s * (out[first + n]! - out[second + n]!);
    const offIm = s * (out[first + n + 1]! - out[second + n + 1]!);
    const midRe = out[n]! - re / 2;
    const midIm = out[n + 1]! - im / 2;
    out[n]! += re;
    out[n + 1]! += im;
    out[first + n] = midRe - offIm;
    out[first + n + 1] = midIm + offRe;
    out[second + n] = midRe + offIm;
    out[second + n + 1] = midIm - offRe;
  }
}

const [COS_72, SIN_72] = [Math.cos((2 * Math.PI) / 5), Math.sin((2 * Math.PI) / 5)];
const [COS_144, SIN_144] = [Math.cos((4 * Math.PI) / 5), Math.sin((4 * Math.PI) / 5)];

/** The same of five points each. */
function addFive(out: Float64Array, part: number, way: number): void {
  const [b, c, d, e] = [2 * part, 4 * part, 6 * part, 8 * part];
  for (let n = 0; n < 2 * part; n += 2) {
    const outerRe = out[b + n]! + out[e + n]!;
    const outerIm = out[b + n + 1]! + out[e + n + 1]!;
    const innerRe = out[c + n]! + out[d + n]!;
    const innerIm = out[c + n + 1]! + out[d + n + 1]!;
    const outerOffRe = way * (out[b + n]! - out[e + n]!);
    const outerOffIm = way * (out[b + n + 1]! - out[e + n + 1]!);
    const innerOffRe = way * (out[c + n]! - out[d + n]!);
    const innerOffIm = way * (out[c + n + 1]! - out[d + n + 1]!);
    const re = out[n]!;
    const im = out[n + 1]!;
    const nearRe = re + COS_72 * outerRe + COS_144 * innerRe;
    const nearIm = im + COS_72 * outerIm + COS_144 * innerIm;
    const farRe = re + COS_144 * outerRe + COS_72 * innerRe;
    const farIm = im + COS_144 * outerIm + COS_72 * innerIm;
    const nearOffRe = SIN_72 * outerOffRe + SIN_144 * innerOffRe;
    const nearOffIm = SIN_72 * outerOffIm + SIN_144 * innerOffIm;
    const farOffRe = SIN_144 * outerOffRe - SIN_72 * innerOffRe;
    const farOffIm = SIN_144 * outerOffIm - SIN_72 * innerOffIm;
    out[n] = re + outerRe + innerRe;
    out[n + 1] = im + outerIm + innerIm;
    out[b + n] = nearRe - nearOffIm;
    out[b + n + 1] = nearIm + nearOffRe;
    out[e + n] = nearRe + nearOffIm;
    out[e + n + 1] = nearIm - nearOffRe;
    out[c + n] = farRe - farOffIm;
    out[c + n + 1] = farIm + farOffRe;
    out[d + n] = farRe + farOffIm;
    out[d + n + 1] = farIm - farOffRe;
  }
}

/** The smallest power of two that is not under a number. */
export const powerOfTwoFrom = (least: number): number => 2 ** Math.ceil(Math.log2(Math.max(least, 4)));

/** The smallest size of a transform that is not under a number: four, five or six times a power of two. */
export function transformSizeFrom(least: number): number {
  const under = powerOfTwoFrom(Math.max(least, 16)) / 2;
  return [5 / 4, 6 / 4].map((times) => times * under).find((size) => size >= least) ?? 2 * under;
}

/** An empty half spectrum for a signal of so many samples. */
export const emptySpectrum = (samples: number): Spectrum => ({
  re: new Float64Array(samples / 2 + 1),
  im: new Float64Array(samples / 2 + 1),
});

/**
 * The half spectrum of a real signal, padded with zeros to `samples` (a power of two):
 * X[k] = sum of x[n] exp(-2 pi i k n / samples).
 */
export function spectrumOf(signal: ArrayLike<number>, samples: number): Spectrum {
  const padded = new Float64Array(samples);
  padded.set(signal);
  const out = new Float64Array(2 * samples);
  transformOf(samples).realTransform(out, padded);
  const { re, im } = emptySpectrum(samples);
  for (let bin = 0; bin < re.length; bin++) {
    re[bin] = out[2 * bin]!;
    im[bin] = out[2 * bin + 1]!;
  }
  return { re, im };
}

/** The real signal of a half spectrum; the inverse of {@link spectrumOf}. */
export function signalOf({ re, im }: Spectrum): Float64Array {
  const samples = 2 * (re.length - 1);
  const full = new Float64Array(2 * samples);
  for (let bin = 0; bin < re.length; bin++) {
    full[2 * bin] = re[bin]!;
    full[2 * bin + 1] = im[bin]!;
    if (bin > 0 && bin < samples / 2) {
      full[2 * (samples - bin)] = re[bin]!;
      full[2 * (samples - bin) + 1] = -im[bin]!;
    }
  }
  full[1] = 0;
  full[samples + 1] = 0;
  const out = new Float64Array(2 * samples);
  transformOf(samples).inverseTransform(out, full);
  const signal = new Float64Array(samples);
  for (let n = 0; n < samples; n++) signal[n] = out[2 * n]!;
  return signal;
}
