import type { CutSource, Piece } from './stock.js';

/** A piece as it is pulled: off which drum or box, by the id of what is there (null for a new one), and what is left on it then. */
export interface PulledPiece {
  label: string;
  lengthM: number;
  source: string;
  heldId: string | null;
  leftAfterM: number;
}

/** One pull: pieces that go the same way at once, each from a box of its own. */
export interface Pull {
  /** What the pieces have in common: where they go. */
  name: string;
  pieces: PulledPiece[];
  longestM: number;
}

const MOST_SWAPS = 4000;

/**
 * Spreads the pieces of each pull over the boxes by exchanging pieces between them, so that a group is pulled at once where it can be:
 * how full each box is stays within its length, what is bought stays the same.
 */
export function spreadPulls(sources: readonly CutSource[]): CutSource[] {
  const spread = sources.map((source) => ({ ...source, pieces: [...source.pieces] }));
  const room = spread.map(({ lengthM, pieces }) => lengthM - sum(pieces));
  const crowd = spread.map(({ pieces }) => counted(pieces));
  let swaps = 0;
  for (let better = true; better && swaps < MOST_SWAPS;) {
    better = false;
    for (let a = 0; a < spread.length && swaps < MOST_SWAPS; a++)
      for (let b = a + 1; b < spread.length; b++) {
        const found = exchange([a, b], { spread, room, crowd });
        if (!found) continue;
        swaps++;
        better = true;
      }
  }
  return spread.map((source) => ({ ...source, leftM: rounded(source.lengthM - sum(source.pieces)) }));
}

/** Exchanges the first two pieces of two boxes that crowd them less in each other's place. */
function exchange(
  [a, b]: [number, number],
  { spread, room, crowd }: { spread: CutSource[]; room: number[]; crowd: Map<string, number>[] },
): boolean {
  const [inA, inB] = [spread[a]?.pieces ?? [], spread[b]?.pieces ?? []];
  const of = (box: number, pull: string | undefined): number =>
    pull === undefined ? 0 : (crowd[box]?.get(pull) ?? 0);
  for (let i = 0; i < inA.length; i++) {
    const one = inA[i] as Piece;
    for (let j = 0; j < inB.length; j++) {
      const other = inB[j] as Piece;
      if (one.pull === other.pull) continue;
      const longer = one.lengthM - other.lengthM;
      if ((room[a] ?? 0) + longer < -1e-9 || (room[b] ?? 0) - longer < -1e-9) continue;
      // Crowding is counted as its square: what two boxes share evenly counts least.
      const gain =
        2 * (of(a, one.pull) - of(b, one.pull) - 1) * (one.pull === undefined ? 0 : 1) +
        2 * (of(b, other.pull) - of(a, other.pull) - 1) * (other.pull === undefined ? 0 : 1);
      if (gain <= 0) continue;
      [inA[i], inB[j]] = [other, one];
      room[a] = (room[a] ?? 0) + longer;
      room[b] = (room[b] ?? 0) - longer;
      if (spread[a]) crowd[a] = counted(inA);
      if (spread[b]) crowd[b] = counted(inB);
      return true;
    }
  }
  return false;
}

function counted(pieces: readonly Piece[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { pull } of pieces) if (pull !== undefined) counts.set(pull, (counts.get(pull) ?? 0) + 1);
  return counts;
}

/**
 * The pulls in their order: what goes furthest first, each taking at most one piece from a box, as many at once as lie in different boxes
 * and as the crew can place side by side.
 *
 * @param atOnce most boxes side by side
 * @returns the pulls, and the sources with their pieces in that order
 */
export function pullsOf(
  sources: readonly CutSource[],
  atOnce = Infinity,
): { pulls: Pull[]; sources: CutSource[] } {
  const waiting = sources.flatMap((source, at) => source.pieces.map((piece) => ({ piece, at })));
  const groups = new Map<string, typeof waiting>();
  for (const one of waiting) {
    const name = one.piece.pull ?? one.piece.label;
    groups.set(name, [...(groups.get(name) ?? []), one]);
  }
  const left = sources.map(({ lengthM }) => lengthM);
  const order: Piece[][] = sources.map(() => []);
  const byReach = [...groups].sort((a, b) => reach(b[1]) - reach(a[1]) || a[0].localeCompare(b[0]));
  const pulls: Pull[] = [];
  for (const [name, members] of byReach) {
    let still = [...members].sort((a, b) => b.piece.lengthM - a.piece.lengthM);
    while (still.length > 0) {
      const used = new Set<number>();
      const now = still.filter(({ at }) => used.size < atOnce && !used.has(at) && used.add(at));
      still = still.filter((one) => !now.includes(one));
      pulls.push({
        name,
        longestM: Math.max(...now.map(({ piece }) => piece.lengthM)),
        pieces: now.map(({ piece, at }) => {
          left[at] = rounded((left[at] ?? 0) - piece.lengthM);
          order[at]?.push(piece);
          const { label, lengthM } = piece;
          const { name: source = '', heldId = null } = sources[at] ?? {};
          return { label, lengthM, source, heldId, leftAfterM: left[at] ?? 0 };
        }),
      });
    }
  }
  return { pulls, sources: sources.map((source, at) => ({ ...source, pieces: order[at] ?? [] })) };
}

const reach = (members: readonly { piece: Piece }[]): number =>
  Math.max(...members.map(({ piece }) => piece.lengthM));
const sum = (pieces: readonly Piece[]): number => pieces.reduce((all, { lengthM }) => all + lengthM, 0);
/** Sums of lengths, to the millimetre. */
const rounded = (m: number): number => Math.round(m * 1000) / 1000;
