/** A normal sample's deviation from its median absolute deviation. */
const DEVIATION_PER_MAD = 1.4826;

/** Middle value of numbers that are left as they are. */
export function median(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(values).sort();
  const half = sorted.length >> 1;
  return sorted.length % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/**
 * Step of the converter that made a trace, volts: the smallest gap between its values, where there
 * are far fewer values than samples; 0 where it cannot be seen.
 */
export function quantumOf(volts: Float64Array): number {
  const sorted = volts.slice(0, 20_000).sort();
  const span = sorted[sorted.length - 1]! - sorted[0]!;
  let kinds = 1;
  let gap = Infinity;
  for (let n = 1; n < sorted.length; n++) {
    const step = sorted[n]! - sorted[n - 1]!;
    if (step <= 1e-9 * span) continue;
    kinds++;
    gap = Math.min(gap, step);
  }
  return kinds * 2 < sorted.length && kinds > 1 && gap > span / 65_536 ? gap : 0;
}

/**
 * Deviation of white noise, from the second differences, in which a smooth signal cancels:
 * robust against edges, never under what the converter's own steps make (q / sqrt 12).
 */
export function noiseLevel(volts: Float64Array, quantumV: number): number {
  const differences = new Float64Array(Math.max(volts.length - 2, 1));
  for (let n = 0; n + 2 < volts.length; n++)
    differences[n] = Math.abs(volts[n]! - 2 * volts[n + 1]! + volts[n + 2]!);
  const white = (DEVIATION_PER_MAD * median(differences)) / Math.sqrt(6);
  return Math.max(white, quantumV / Math.sqrt(12));
}
