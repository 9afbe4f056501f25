/** How often a kind of connector is spoiled, as far as the record knows. */
export interface SpoilRate {
  spoiled: number;
  good: number;
  /** Expected share of connectors spoiled. */
  mean: number;
  /** The true share lies between these with 90 % belief. */
  low: number;
  high: number;
}

/** What is believed before there is a record: about one in twelve, held as firmly as twelve connectors. */
const PRIOR = { spoiled: 1, good: 11 };
const BELIEF = 0.9;

/**
 * The spoil rate by the crew's own count: a Beta posterior, with its middle 90 %.
 *
 * @throws RangeError for counts that are negative or not whole
 */
export function spoilRate(count: { spoiled: number; good: number }): SpoilRate {
  for (const n of [count.spoiled, count.good]) {
    if (!Number.isInteger(n) || n < 0) throw new RangeError(`${n} is no count of connectors.`);
  }
  const { a, b } = spoilBelief(count);
  return {
    ...count,
    mean: a / (a + b),
    low: betaQuantile((1 - BELIEF) / 2, a, b),
    high: betaQuantile((1 + BELIEF) / 2, a, b),
  };
}

/** The belief itself: a Beta distribution of the share spoiled. */
export const spoilBelief = (count: { spoiled: number; good: number }): { a: number; b: number } => ({
  a: PRIOR.spoiled + count.spoiled,
  b: PRIOR.good + count.good,
});

/**
 * P(Beta(a, b) <= x) for whole a and b, as the chance of at least a successes in a + b - 1 trials.
 * Source: the identity of the regularised incomplete beta function and the binomial tail.
 */
export function betaCdf(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const n = a + b - 1;
  let logTerm = n * Math.log1p(-x);
  let below = 0;
  for (let k = 0; k < a; k++) {
    below += Math.exp(logTerm);
    logTerm += Math.log((n - k) / (k + 1)) + Math.log(x) - Math.log1p(-x);
  }
  return Math.min(1, Math.max(0, 1 - below));
}

/** The x at which P(Beta(a, b) <= x) is p. */
export function betaQuantile(p: number, a: number, b: number): number {
  let [low, high] = [0, 1];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (betaCdf(middle, a, b) < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
