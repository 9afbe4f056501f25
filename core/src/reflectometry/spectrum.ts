// Every room that compiles core needs these types with it: the package ships none.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./fft.d.ts" />
import FFT from 'fft.js';

/** The half spectrum of a real signal: bins 0 to N/2, real and imaginary parts apart. */
export interface Spectrum {
  re: Float64Array;
  im: Float64Array;
}

/** The transform of a size, kept once made. */
const transforms = new Map<number, FFT>();

export function transformOf(size: number): FFT {
  let transform = transforms.get(size);
  if (!transform) {
    transform = new FFT(size);
    transforms.set(size, transform);
  }
  return transform;
}

/** The smallest power of two that is not under a number. */
export const powerOfTwoFrom = (least: number): number => 2 ** Math.ceil(Math.log2(Math.max(least, 4)));

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
