/** A piece of cable that a job needs, ends and slack included. */
export interface Piece {
  label: string;
  lengthM: number;
  /** Pieces with the same name are pulled together where boxes allow. */
  pull?: string | undefined;
}

/** A drum or a box that is there, with what surely is on it. */
export interface HeldStock {
  id: string;
  name: string;
  lengthM: number;
}

/** A size that can be bought, as many as are wanted. */
export interface BoxSize {
  name: string;
  lengthM: number;
  price: number;
}

/** One drum or box with the pieces that are cut from it, in the order they are pulled. */
export interface CutSource {
  /** The id of what is there; null for a new one. */
  heldId: string | null;
  name: string;
  lengthM: number;
  price: number;
  pieces: Piece[];
  leftM: number;
}

/** How a job's pieces are cut. */
export interface CuttingPlan {
  sources: CutSource[];
  /** What is to be bought, by size. */
  buy: { size: BoxSize; count: number }[];
  price: number;
  /** No plan can cost less. */
  boundPrice: number;
  /** By how much more than the bound this costs, as a share of it. */
  gap: number;
}

/** Pieces or stock that no plan can be made of: which, and what to do. */
export class BadCutting extends Error {}

/** What a box of data cable holds where people think in metres or in feet, metres (typical). */
export const BOX_M = { metric: 305, imperial: 304.8 } as const;

/** Lengths are cut to this, millimetres: pieces are rounded up, stock down. */
export const CUT_STEP_MM = 50;
const MOST_M = 10_000;

/** A problem in whole cutting steps. */
export interface CuttingSteps {
  /** Longest first. */
  pieces: { piece: Piece; steps: number }[];
  held: { stock: HeldStock; steps: number }[];
  sizes: { size: BoxSize; steps: number }[];
}

/**
 * Checks and rounds a cutting problem.
 *
 * @throws BadCutting for what is no length or no price, for labels that come twice, and for a piece that is longer than
 * anything it could be cut from: a cable is never joined
 */
export function inSteps(
  pieces: readonly Piece[],
  held: readonly HeldStock[],
  sizes: readonly BoxSize[],
): CuttingSteps {
  const seen = new Set<string>();
  for (const { label, lengthM } of pieces) {
    if (seen.has(label))
      throw new BadCutting(`${label} stands in the list twice. Give each piece its own label.`);
    seen.add(label);
    if (!(lengthM > 0 && lengthM <= MOST_M))
      throw new BadCutting(
        `${label}: ${lengthM} m is no length to cut. Give one over 0 and up to ${MOST_M} m.`,
      );
  }
  for (const { name, lengthM } of [...held, ...sizes])
    if (!(lengthM >= 0 && lengthM <= MOST_M))
      throw new BadCutting(`${name}: ${lengthM} m is no length of a drum or a box.`);
  for (const { name, lengthM, price } of sizes) {
    if (!(price > 0 && Number.isFinite(price)))
      throw new BadCutting(`${name}: a price is over 0. Where none is known, give its length as its price.`);
    if (lengthM <= 0) throw new BadCutting(`${name}: what is bought has a length over 0 m.`);
  }
  const up = (m: number): number => Math.ceil(Math.round(m * 1000) / CUT_STEP_MM);
  const down = (m: number): number => Math.floor(Math.round(m * 1000) / CUT_STEP_MM);
  const steps: CuttingSteps = {
    pieces: pieces
      .map((piece) => ({ piece, steps: up(piece.lengthM) }))
      .sort((a, b) => b.steps - a.steps || a.piece.label.localeCompare(b.piece.label)),
    held: held.map((stock) => ({ stock, steps: down(stock.lengthM) })).filter(({ steps: own }) => own > 0),
    sizes: sizes.map((size) => ({ size, steps: down(size.lengthM) })),
  };
  const longest = Math.max(0, ...steps.held.map((one) => one.steps), ...steps.sizes.map((one) => one.steps));
  const over = steps.pieces[0];
  if (over && over.steps > longest)
    throw new BadCutting(
      `${over.piece.label} is ${over.piece.lengthM.toFixed(1)} m, longer than anything it could be cut from (${((longest * CUT_STEP_MM) / 1000).toFixed(1)} m). Cable is not joined: buy a longer drum, or shorten the way.`,
    );
  return steps;
}

/** Metres of so many steps. */
export const metresOf = (steps: number): number => (steps * CUT_STEP_MM) / 1000;
