/** What a piece is worth in a box, and how long it is, in steps. */
export interface Worth {
  steps: number;
  value: number;
}

/** The best fill of every capacity up to one. */
export interface Fills {
  /** Value of the best fill of a capacity. */
  valueOf: (capacity: number) => number;
  /** Places of the pieces of that fill. */
  piecesOf: (capacity: number) => number[];
}

/**
 * Best choice of pieces, each once, for every capacity: the 0-1 knapsack by dynamic programming over cutting steps. Where two are worth
 * the same, what comes first in the list is taken.
 *
 * Costs pieces times capacity; memory one bit for each.
 */
export function bestFills(pieces: readonly Worth[], capacity: number): Fills {
  const best = new Float64Array(capacity + 1);
  const words = (capacity >>> 5) + 1;
  // Asked from the last piece to the first, so that the first has the last word in the tracing back.
  const taken = new Uint32Array(words * pieces.length);
  for (let place = pieces.length - 1; place >= 0; place--) {
    const { steps, value } = pieces[place] as Worth;
    if (value <= 0) continue;
    const row = place * words;
    for (let room = capacity; room >= steps; room--) {
      const other = (best[room - steps] as number) + value;
      if (other >= (best[room] as number) && other > 0) {
        best[room] = other;
        taken[row + (room >>> 5)] = (taken[row + (room >>> 5)] as number) | (1 << (room & 31));
      }
    }
  }
  return {
    valueOf: (room) => best[Math.min(room, capacity)] as number,
    piecesOf: (room) => {
      const places: number[] = [];
      let left = Math.min(room, capacity);
      for (let place = 0; place < pieces.length; place++) {
        if (((taken[place * words + (left >>> 5)] as number) >>> (left & 31)) & 1) {
          places.push(place);
          left -= (pieces[place] as Worth).steps;
        }
      }
      return places;
    },
  };
}
