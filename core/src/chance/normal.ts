/** Half the width of a normal distribution's 95 % interval, in deviations. */
export const NORMAL_95 = 1.96;

/** So many deviations above its middle lies a tenth of a normal distribution. */
export const NORMAL_90_ABOVE = 1.2816;

/** The normal distribution's share below a number of deviations (Abramowitz and Stegun 7.1.26, to 1.5e-7). */
export const normalShareBelow = (deviations: number): number => {
  const outside = erfc(Math.abs(deviations) / Math.SQRT2) / 2;
  return deviations < 0 ? outside : 1 - outside;
};

/** The complementary error function of x >= 0 (Abramowitz and Stegun 7.1.26, to 1.5e-7). */
export function erfc(x: number): number {
  const t = 1 / (1 + 0.3275911 * x);
  const series =
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t;
  return series * Math.exp(-x * x);
}
