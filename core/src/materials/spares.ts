import { spoilBelief, type SpoilRate } from '../termination/spoil-rate.js';

/** How many connectors to bring for so many ends. */
export interface Spares {
  needed: number;
  bring: number;
  /** Chance that they do. */
  chance: number;
}

const MOST = 10_000;

/**
 * The fewest connectors of which enough come out good with the wanted confidence: the smallest m with P(at least n good of m)
 * at or over it, where the spoil rate is known only as far as its record goes (beta-binomial).
 *
 * @param confidence over 0, under 1
 * @throws RangeError for a confidence that is none, or counts that are not whole
 */
export function sparesFor(
  needed: number,
  rate: Pick<SpoilRate, 'spoiled' | 'good'>,
  confidence: number,
): Spares {
  if (!(confidence > 0 && confidence < 1))
    throw new RangeError(`${confidence} is no confidence: over 0, under 1.`);
  if (!Number.isInteger(needed) || needed < 0) throw new RangeError(`${needed} is no count of ends.`);
  if (needed === 0) return { needed, bring: 0, chance: 1 };
  const { a, b } = spoilBelief(rate);
  let chance = 0;
  // The k-th spoiled one comes before the n-th good one: (n + k - 1 over k) B(a + k, b + n) / B(a, b).
  let term = 1;
  for (let i = 0; i < needed; i++) term *= (b + i) / (a + b + i);
  for (let k = 0; needed + k <= MOST; k++) {
    chance += term;
    if (chance >= confidence) return { needed, bring: needed + k, chance };
    term *= (((needed + k) / (k + 1)) * (a + k)) / (a + b + needed + k);
  }
  return { needed, bring: MOST, chance };
}
