import type { CuttingSteps } from './stock.js';

/**
 * The least that has to be paid whatever the cuts: what is needed beyond all that is there, covered by the cheapest
 * boxes, though pieces could be split at will. Unbounded covering by dynamic programming over steps.
 */
export function leastPurchase({ pieces, held, sizes }: CuttingSteps): number {
  const total = (rows: readonly { steps: number }[]): number =>
    rows.reduce((sum, { steps }) => sum + steps, 0);
  const wanted = total(pieces) - total(held);
  if (wanted <= 0 || sizes.length === 0) return 0;
  // In the greatest measure that every size is a multiple of nothing is lost; other sizes are looked at in coarser steps, rounded in
  // favour of the bound.
  const coarse = Math.max(1, Math.floor(wanted / 200_000));
  const rows = sizes.map(({ size, steps }) => ({ price: size.price, steps: Math.ceil(steps / coarse) }));
  const need = Math.floor(wanted / coarse);
  const least = new Float64Array(need + 1);
  for (let covered = 1; covered <= need; covered++)
    least[covered] = Math.min(
      ...rows.map(({ price, steps }) => price + (least[Math.max(0, covered - steps)] as number)),
    );
  return least[need] as number;
}

const MOST_MIXED_SIZES = 3;

/**
 * Mixes of boxes that hold enough by length, the cheapest first: so many of each size. Of more than three sizes the three that are
 * cheapest by the metre are mixed.
 */
export function purchases({ pieces, held, sizes }: CuttingSteps): { counts: number[]; price: number }[] {
  const total = (rows: readonly { steps: number }[]): number =>
    rows.reduce((sum, { steps }) => sum + steps, 0);
  const all = total(pieces);
  const byMetre = sizes
    .map((one, place) => ({ ...one, place }))
    .sort((a, b) => a.size.price / a.steps - b.size.price / b.steps)
    .slice(0, MOST_MIXED_SIZES);
  const mixes: { counts: number[]; price: number }[] = [];
  const add = (at: number, counts: readonly number[], missing: number, price: number): void => {
    const one = byMetre[at];
    if (!one || missing <= 0) {
      // One box more than the length asks for: pieces do not split.
      mixes.push({ counts: [...counts], price });
      return;
    }
    const most = Math.ceil(missing / one.steps);
    const least = at === byMetre.length - 1 ? most : 0;
    for (let count = least; count <= most + 1; count++) {
      const more = counts.map((n, place) => (place === one.place ? count : n));
      add(at + 1, more, missing - count * one.steps, price + count * one.size.price);
    }
  };
  add(
    0,
    sizes.map(() => 0),
    all - total(held),
    0,
  );
  return mixes
    .filter(
      ({ counts }) =>
        counts.reduce((sum, n, place) => sum + n * (sizes[place]?.steps ?? 0), 0) + total(held) >= all,
    )
    .sort((a, b) => a.price - b.price);
}

/** The least price that whole boxes can come to and that is not under a bound. */
export function attainable(bound: number, { sizes }: CuttingSteps): number {
  const [only, ...more] = sizes;
  if (!only || more.length > 0 || bound <= 0) return Math.max(0, bound);
  return Math.ceil(bound / only.size.price - 1e-6) * only.size.price;
}
