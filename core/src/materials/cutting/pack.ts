import type { Random } from '../../quantities/random.js';
import { bestFills } from './fill.js';
import type { CuttingSteps } from './stock.js';

/** One drum or box of a packing: which, and the places of its pieces. */
export interface Packed {
  /** Place among what is there; null for a new one. */
  held: number | null;
  /** Place among the sizes; null for what is there. */
  size: number | null;
  pieces: number[];
}

/**
 * Packs pieces into so many boxes of each size, filling one source after another as full as it goes, each round the longest
 * piece that is left: what is there first, then the smallest boxes, so that what is left over lies together in the last.
 *
 * @param counts how many boxes of each size
 * @param random if given, values are shaken a little, so that another packing comes of it
 * @returns null where not everything finds its place
 */
export function packInto(
  { pieces, held, sizes }: CuttingSteps,
  counts: readonly number[],
  random?: Random,
): Packed[] | null {
  const stepsOf = (place: number): number => pieces[place]?.steps ?? 0;
  const sources = [
    ...held.map(({ steps }, place) => ({ steps, held: place, size: null })).sort((a, b) => a.steps - b.steps),
    ...sizes
      .flatMap(({ steps }, place) =>
        Array.from({ length: counts[place] ?? 0 }, () => ({ steps, held: null, size: place })),
      )
      .sort((a, b) => a.steps - b.steps),
  ];
  let left = pieces.map((_, place) => place);
  const packed: Packed[] = [];
  for (const { steps, held: ofHeld, size } of sources) {
    const taken = fullest(left, steps, { stepsOf, random, must: size !== null });
    if (taken.length === 0) continue;
    packed.push({ held: ofHeld, size, pieces: taken });
    const gone = new Set(taken);
    left = left.filter((place) => !gone.has(place));
  }
  return left.length === 0 ? packed : null;
}

/** The pieces that fill a capacity best, of what is left; where one must be in it, the longest that goes in. */
function fullest(
  left: readonly number[],
  capacity: number,
  {
    stepsOf,
    random,
    must,
  }: { stepsOf: (place: number) => number; random?: Random | undefined; must: boolean },
): number[] {
  const fits = left.filter((place) => stepsOf(place) <= capacity);
  const all = fits.reduce((sum, place) => sum + stepsOf(place), 0);
  if (all <= capacity) return fits;
  const kept = must ? fits.slice(0, 1) : [];
  const free = capacity - kept.reduce((sum, place) => sum + stepsOf(place), 0);
  const others = fits.slice(kept.length).filter((place) => stepsOf(place) <= free);
  const fills = bestFills(
    others.map((place) => {
      const steps = stepsOf(place);
      return { steps, value: random ? steps * (1 + 0.02 * random()) : steps };
    }),
    free,
  );
  return [...kept, ...fills.piecesOf(free).map((at) => others[at] as number)];
}

/** What a packing costs. */
export const priceOf = (packed: readonly Packed[], { sizes }: CuttingSteps): number =>
  packed.reduce((sum, { size }) => sum + (size === null ? 0 : (sizes[size]?.size.price ?? 0)), 0);
