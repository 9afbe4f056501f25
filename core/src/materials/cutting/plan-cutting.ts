import { seededRandom } from '../../quantities/random.js';
import { attainable, leastPurchase, purchases } from './bounds.js';
import { packInto, priceOf, type Packed } from './pack.js';
import { cutByPatterns, type LinearSolver } from './patterns.js';
import { spreadPulls } from './pulls.js';
import {
  BadCutting,
  inSteps,
  metresOf,
  type BoxSize,
  type CutSource,
  type CuttingPlan,
  type CuttingSteps,
  type HeldStock,
  type Piece,
} from './stock.js';

/** Fillings of one mix of boxes, shaken a little after the first. */
const SHAKES = 3;
/** How many fillings are tried with shaking, by the size of the job. */
const [LEAST_TRIES, MOST_TRIES, TRIES_TIMES_PIECES] = [6, 60, 4000];
/** Where a box holds more pieces than this and there are many, filling leaves under a hundredth: patterns are for the others. */
const [MANY_PIECES, PIECES_A_BOX] = [200, 4];
const SEED = 20;

/**
 * How to cut pieces from what is there and from boxes to buy, so that what is bought costs least: never a joint, what is
 * there used first. Boxes are filled one after another; where that does not meet the bound that splitting pieces at
 * will gives, it is searched by patterns with a linear solver.
 *
 * @param solve without it the plan stands as filling gives it, with its gap stated
 * @param goOn asked between rounds of the search; false ends it with what there is
 * @throws BadCutting
 */
export function planCutting(
  pieces: readonly Piece[],
  held: readonly HeldStock[],
  sizes: readonly BoxSize[],
  {
    solve,
    seconds = 2,
    goOn,
  }: { solve?: LinearSolver | undefined; seconds?: number; goOn?: (round: number) => boolean } = {},
): CuttingPlan {
  const problem = inSteps(pieces, held, sizes);
  const packings = filled(problem);
  let [best] = packings;
  if (problem.pieces.length === 0) return planned([], problem, 0);
  if (!best) throw new BadCutting(shortOf(problem));
  let bound = leastPurchase(problem);
  const coarse = pieces.length <= MANY_PIECES || pieces.length / best.length < PIECES_A_BOX;
  if (priceOf(best, problem) > bound + 1e-9 && solve && coarse) {
    const enough = priceOf(best, problem);
    const found = cutByPatterns(problem, packings, { solve, enough, seconds, ...(goOn ? { goOn } : {}) });
    bound = Math.max(bound, found.bound);
    if (found.packed && priceOf(found.packed, problem) < enough - 1e-9) best = found.packed;
  }
  return planned(best, problem, Math.min(attainable(bound, problem), priceOf(best, problem)));
}

/**
 * Packings by filling, the cheapest first: the mixes of boxes that could hold everything are tried from the cheapest on; where none of
 * the first does, as many boxes of one size as it takes, each then as small as its pieces let it be.
 */
function filled(problem: CuttingSteps): Packed[][] {
  const random = seededRandom(SEED);
  const tries = Math.min(
    MOST_TRIES,
    Math.max(LEAST_TRIES, Math.floor(TRIES_TIMES_PIECES / problem.pieces.length)),
  );
  let tried = 0;
  for (const { counts } of purchases(problem)) {
    if (tried >= tries) break;
    for (let shake = 0; shake < SHAKES; shake++, tried++) {
      const packed = packInto(problem, counts, shake === 0 ? undefined : random);
      if (packed) return [packed];
    }
  }
  const openly = problem.sizes.flatMap((_, size) => {
    const counts = problem.sizes.map((__, place) => (place === size ? problem.pieces.length : 0));
    const packed = packInto(problem, counts);
    return packed ? [packed.map((one) => cheapened(one, problem))] : [];
  });
  return openly.sort((a, b) => priceOf(a, problem) - priceOf(b, problem));
}

/** A new box as the cheapest size that holds its pieces. */
function cheapened(one: Packed, { pieces, sizes }: CuttingSteps): Packed {
  if (one.size === null) return one;
  const steps = one.pieces.reduce((sum, place) => sum + (pieces[place]?.steps ?? 0), 0);
  const price = (place: number): number => sizes[place]?.size.price ?? Infinity;
  const size = sizes.reduce(
    (best, candidate, place) => (candidate.steps >= steps && price(place) < price(best) ? place : best),
    one.size,
  );
  return { ...one, size };
}

/** Why there is no plan at all. */
function shortOf({ pieces, held, sizes }: CuttingSteps): string {
  const wanted = metresOf(pieces.reduce((sum, { steps }) => sum + steps, 0));
  const there = metresOf(held.reduce((sum, { steps }) => sum + steps, 0));
  return sizes.length === 0
    ? `${wanted.toFixed(1)} m in ${pieces.length} pieces do not come off the ${there.toFixed(1)} m that are there, and no size to buy is named. Name one.`
    : `The pieces do not come off what is there and what can be bought.`;
}

function planned(packed: readonly Packed[], problem: CuttingSteps, boundPrice: number): CuttingPlan {
  const numbers = new Map<number, number>();
  const sources = packed.map(({ held, size, pieces }): CutSource => {
    const own = pieces.map((place) => (problem.pieces[place] as CuttingSteps['pieces'][number]).piece);
    const left = (lengthM: number): number =>
      Math.round((lengthM - own.reduce((sum, piece) => sum + piece.lengthM, 0)) * 1000) / 1000;
    if (held !== null) {
      const { id, name, lengthM } = (problem.held[held] as CuttingSteps['held'][number]).stock;
      return { heldId: id, name, lengthM, price: 0, pieces: own, leftM: left(lengthM) };
    }
    const { size: bought } = problem.sizes[size ?? 0] as CuttingSteps['sizes'][number];
    const number = (numbers.get(size ?? 0) ?? 0) + 1;
    numbers.set(size ?? 0, number);
    const { name, lengthM, price } = bought;
    return {
      heldId: null,
      name: `${name}, new ${number}`,
      lengthM,
      price,
      pieces: own,
      leftM: left(lengthM),
    };
  });
  const price = priceOf(packed, problem);
  return {
    sources: spreadPulls(sources),
    buy: problem.sizes.flatMap(({ size }, place) => {
      const count = numbers.get(place) ?? 0;
      return count > 0 ? [{ size, count }] : [];
    }),
    price,
    boundPrice,
    gap: price > 0 ? (price - boundPrice) / price : 0,
  };
}
