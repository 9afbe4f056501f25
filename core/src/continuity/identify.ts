/**
 * Telling unmarked conductors apart, alone, by joining them at one end, sorting them by continuity
 * at the other, joining them there in turn, and reading the first end again. Each conductor is
 * fixed by the pair (size of its group at A, size of its group at B) where those pairs are all
 * different. Such groupings exist for every count but 2, 5 and 9.
 * Source: K. Knowlton's problem, solved by R. L. Graham ("On partitions of a finite set", 1966).
 */

/** How many conductors have each pair of group sizes: rows by size at A, columns by size at B. */
export interface GroupTable {
  /** Group sizes at A, row by row; the group that holds the known return may have any size and comes as 0. */
  rows: readonly number[];
  columns: readonly number[];
  /** 0, 1 or, where a third walk sorts them out, 2. */
  cells: readonly (readonly number[])[];
}

/** How the conductors are told apart. */
export type IdentifyPlan =
  | { way: 'impossible'; count: number; why: string }
  | {
      way: 'walk';
      count: number;
      /** Times the cable is walked along, there and back counted apart. */
      walks: 1 | 2 | 3;
      withReturn: boolean;
      table: GroupTable;
      /**
       * Joined at A before the first walk, by the numbers given there. Where there is a return, the
       * first group is joined to it, and is empty when nothing is.
       */
      groupsAtA: readonly (readonly number[])[];
    }
  | { way: 'helper'; count: number; withReturn: boolean; rounds: readonly (readonly number[])[] }
  | {
      way: 'resistors';
      count: number;
      walks: 1;
      withReturn: boolean;
      ohms: readonly number[];
      reads: readonly ReadSpan[];
    };

/** Between which readings a resistor is found again. */
export interface ReadSpan {
  fromOhm: number;
  toOhm: number;
}

const FEWEST_CONDUCTORS = 2;
const MOST_CONDUCTORS = 200;

/** What a person has at hand. */
export interface IdentifyMeans {
  count: number;
  /** A conductor known at both ends: screen, earth, or one that is marked. It is not counted. */
  hasReturn: boolean;
  /** Somebody at the other end, within call. */
  helper?: boolean;
  resistors?: { ohms: readonly number[]; tolerance: number; loopOhm: number };
}

/**
 * The plan with the fewest walks. Every plan is proved unique before it is given.
 *
 * @throws RangeError when the count is not a whole number from 2 to 200
 */
export function planIdentification(means: IdentifyMeans): IdentifyPlan {
  const { count, hasReturn } = means;
  if (!Number.isInteger(count) || count < FEWEST_CONDUCTORS || count > MOST_CONDUCTORS) {
    throw new RangeError(
      `${count} conductors: give a whole number from ${FEWEST_CONDUCTORS} to ${MOST_CONDUCTORS}.`,
    );
  }
  if (count === 2 && !hasReturn) {
    return {
      way: 'impossible',
      count,
      why: 'Two conductors alone look the same from both ends whatever is joined. Find a return: a screen, earth, or any third conductor.',
    };
  }
  if (means.helper) return { way: 'helper', count, withReturn: hasReturn, rounds: helperRounds(count) };
  if (means.resistors) {
    const found = planResistors(count, hasReturn, means.resistors);
    if (found) return found;
  }
  if (count === 2) return toPlan(count, true, { rows: [0, 1], columns: [1], cells: [[1], [1]] }, 1);
  const table = findTable(count, hasReturn, 1);
  if (table) return toPlan(count, hasReturn, table, 2);
  const doubled = findTable(count, hasReturn, 2);
  if (!doubled) throw new Error(`no grouping was found for ${count} conductors`);
  return toPlan(count, hasReturn, doubled, 3);
}

/** Whether every conductor of a table can be told: each cell holds one, or two that a third walk parts. */
export function tableIsUnique(table: GroupTable, walks: 1 | 2 | 3): boolean {
  const most = Math.max(...table.cells.flat());
  const whole = table.rows.every((size, i) => {
    const sum = (table.cells[i] ?? []).reduce((a, b) => a + b, 0);
    return size === 0 || sum % size === 0;
  });
  const columns = table.columns.every((size, j) => {
    const sum = table.cells.reduce((total, row) => total + (row[j] ?? 0), 0);
    return sum % size === 0;
  });
  const oneKnown = table.cells.flat().includes(1);
  return whole && columns && (most <= 1 || (walks === 3 && most === 2 && oneKnown));
}

/** Widest table that is tried: sizes beyond this are never needed up to 200 conductors. */
const WIDEST = 26;

/**
 * A table of `count` conductors in which row sums are multiples of the row's size, column sums of
 * the column's, and no cell is over `most`. The same sizes are tried for rows and columns, from
 * the staircase up; whether a table with those sums exists is decided by filling it greedily
 * (Gale and Ryser), row by row into the columns that still need most.
 */
function findTable(count: number, hasReturn: boolean, most: 1 | 2): GroupTable | null {
  const side = Math.ceil(Math.sqrt(2 * count)) + 2;
  for (let width = 1; width <= Math.min(WIDEST, side); width++) {
    for (const columnSums of sums(count, width, most)) {
      const rowChoices = hasReturn ? withReturnRow(count, width, most) : sums(count, width, most);
      for (const rowSums of rowChoices) {
        const table = fill(rowSums, columnSums, most, hasReturn);
        if (table) return table;
      }
    }
  }
  return null;
}

/** At most this many ways of splitting a count are looked at per width: far more than are ever needed. */
const ENOUGH = 60;

/** Ways to split `count` into multiples of 1 to `width`, none over what a row can hold. */
function sums(count: number, width: number, most: number): number[][] {
  const found: number[][] = [];
  const chosen: number[] = [];
  const walk = (size: number, left: number): void => {
    if (found.length >= ENOUGH) return;
    if (size === 0) {
      if (left === 0) found.push([...chosen]);
      return;
    }
    // What the smaller sizes can still hold bounds what this one must take.
    const room = Array.from(
      { length: size - 1 },
      (_, i) => Math.floor((width * most) / (i + 1)) * (i + 1),
    ).reduce((a, b) => a + b, 0);
    const largest = Math.min(width * most, left);
    for (const taken of nearest(size, largest)) {
      if (left - taken > room) continue;
      chosen[size - 1] = taken;
      walk(size - 1, left - taken);
    }
  };
  walk(width, count);
  return found;
}

/** Multiples of a size up to a limit, one group first: the staircase takes one of each. */
function nearest(size: number, largest: number): number[] {
  const multiples = Array.from({ length: Math.floor(largest / size) + 1 }, (_, k) => k * size);
  return multiples.sort((a, b) => Math.abs(a - size) - Math.abs(b - size));
}

/** With a known return its own group may have any size: a first row of any sum. */
function withReturnRow(count: number, width: number, most: number): number[][] {
  const found: number[][] = [];
  for (let first = Math.min(width * most, count); first >= 0; first--) {
    for (const rest of sums(count - first, width, most).slice(0, 8)) found.push([first, ...rest]);
    if (found.length >= ENOUGH) break;
  }
  return found;
}

function fill(
  rowSums: readonly number[],
  columnSums: readonly number[],
  most: number,
  hasReturn: boolean,
): GroupTable | null {
  const left = [...columnSums];
  const rows = rowSums.map((sum, i) => ({ sum, size: hasReturn ? i : i + 1 })).filter((row) => row.sum > 0);
  const cells: number[][] = [];
  for (const { sum } of [...rows].sort((a, b) => b.sum - a.sum)) {
    const row = new Array<number>(left.length).fill(0);
    for (let taken = 0; taken < sum; taken++) {
      let best = -1;
      left.forEach((need, j) => {
        if (need > 0 && (row[j] ?? 0) < most && (best < 0 || need > (left[best] ?? 0))) best = j;
      });
      if (best < 0) return null;
      row[best] = (row[best] ?? 0) + 1;
      left[best] = (left[best] ?? 0) - 1;
    }
    cells.push(row);
  }
  const order = [...rows].sort((a, b) => b.sum - a.sum);
  // The return's own group, of size 0 in the table, comes first.
  const first = order.findIndex((row) => row.size === 0);
  if (first > 0) {
    order.unshift(...order.splice(first, 1));
    cells.unshift(...cells.splice(first, 1));
  }
  const used = columnSums.map((sum, j) => ({ sum, j })).filter(({ sum }) => sum > 0);
  const table: GroupTable = {
    rows: order.map((row) => row.size),
    columns: used.map(({ j }) => j + 1),
    cells: cells.map((row) => used.map(({ j }) => row[j] ?? 0)),
  };
  return tableIsUnique(table, most === 1 ? 2 : 3) ? table : null;
}

function toPlan(count: number, withReturn: boolean, table: GroupTable, walks: 1 | 2 | 3): IdentifyPlan {
  if (!tableIsUnique(table, walks)) throw new Error(`the grouping of ${count} is not unique`);
  const groups: number[][] = [];
  let next = 1;
  table.rows.forEach((size, i) => {
    let left = (table.cells[i] ?? []).reduce((a, b) => a + b, 0);
    while (left > 0) {
      const taken = size === 0 ? left : size;
      groups.push(Array.from({ length: taken }, () => next++));
      left -= taken;
    }
  });
  if (withReturn && !table.rows.includes(0)) groups.unshift([]);
  return { way: 'walk', count, walks, withReturn, table, groupsAtA: groups };
}

/**
 * With somebody at A who joins on call, the conductors are told by their numbers in binary: in
 * round k all whose k-th digit is 1 are joined to the return. The first conductor is joined in no
 * round. Without a return, one is found first: the helper joins any two conductors, then one of
 * those and a third; the conductor joined both times is known at both ends and serves as return.
 */
function helperRounds(count: number): number[][] {
  const digits = Math.max(1, Math.ceil(Math.log2(count)));
  return Array.from({ length: digits }, (_, k) =>
    Array.from({ length: count }, (_, i) => i + 1).filter((number) => ((number - 1) >> k) & 1),
  );
}

/**
 * Resistors hung from each conductor to the return, or to a common joint when there is none (one
 * conductor is then joined straight and becomes the return). Values are picked from those at hand
 * so that no two readings can meet after tolerance and loop resistance. Null when too few stay apart.
 */
function planResistors(
  count: number,
  withReturn: boolean,
  { ohms, tolerance, loopOhm }: NonNullable<IdentifyMeans['resistors']>,
): IdentifyPlan | null {
  if (!(tolerance >= 0 && tolerance < 0.5))
    throw new RangeError(`A tolerance of ${tolerance} is not usable: give 0.05 for 5 %.`);
  if (!(loopOhm >= 0)) throw new RangeError(`A loop of ${loopOhm} ohm is no resistance.`);
  // A straight join reads no more than the loop; an open end reads nothing at all.
  const wanted = withReturn ? count - 2 : count - 1;
  const chosen: number[] = [];
  let reached = loopOhm;
  for (const ohm of [...new Set(ohms)].sort((a, b) => a - b)) {
    if (ohm * (1 - tolerance) <= reached) continue;
    if (chosen.length >= wanted) break;
    chosen.push(ohm);
    reached = ohm * (1 + tolerance) + loopOhm;
  }
  if (chosen.length < wanted) return null;
  const all = withReturn ? [0, ...chosen, Infinity] : [0, ...chosen];
  const reads = all.map((ohm) => ({
    fromOhm: ohm * (1 - tolerance),
    toOhm: ohm === Infinity ? Infinity : ohm * (1 + tolerance) + loopOhm,
  }));
  return {
    way: 'resistors',
    count,
    walks: 1,
    withReturn,
    ohms: all.slice(0, count),
    reads: reads.slice(0, count),
  };
}
