import { inverse } from './levenberg.js';

/**
 * Cramér and Rao's lower bound for parameters of a signal in white noise: the inverse of Fisher's
 * information, F[i][j] = sum over samples of d signal/d p_i * d signal/d p_j / noise^2.
 *
 * @param slopes one column per unknown parameter, volts per unit of it, sample by sample
 * @param noiseV deviation of the noise; the converter's q / sqrt 12 belongs to it
 * @returns the smallest deviation an unbiased reading can have, per parameter; null where the
 *   parameters cannot be told apart
 */
export function lowerBound(slopes: readonly Float64Array[], noiseV: number): number[] | null {
  const size = slopes.length;
  const information = new Float64Array(size * size);
  for (let i = 0; i < size; i++)
    for (let j = 0; j < size; j++)
      information[i * size + j] = slopes[i]!.reduce((sum, v, n) => sum + v * slopes[j]![n]!, 0) / noiseV ** 2;
  const covariance = inverse(information);
  return covariance && slopes.map((_, n) => Math.sqrt(covariance[n * size + n]!));
}

/** Slope of a signal by a parameter, from its value a little to both sides. */
export function slopeOf(signal: (parameter: number) => Float64Array, at: number, step: number): Float64Array {
  const above = signal(at + step);
  const below = signal(at - step);
  return above.map((value, n) => (value - below[n]!) / (2 * step));
}
