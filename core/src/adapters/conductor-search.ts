import type { Wire } from './conductor-choice.js';
import { leastAssignment } from './least-assignment.js';

/** What a search for conductors is given: signals by their index, in the order in which they are placed. */
export interface WireSearch {
  wires: readonly Pick<Wire, 'pair'>[];
  /** What each signal costs on each wire by itself. */
  alone: readonly (readonly number[])[];
  /** Name that signals which belong on one pair share; null for one that belongs with none. */
  together: readonly (string | null)[];
  /** What two that belong together and share no pair cost, and a pair with one half in use. */
  pairBroken: number;
  splitsPair: number;
}

export interface FoundWires {
  /** Wire of each signal. */
  wires: number[];
  cost: number;
  /** No other choice costs less; false where the search was given up before it knew. */
  proven: boolean;
}

/** So many half-made choices are looked at, at most: some tenths of a second. */
const MOST_STATES = 150_000;
const ROUNDING = 1e-9;

/**
 * The cheapest choice of wires. Exact: a branch is cut only where it cannot cost less than the best
 * choice yet, by the prices of the assignment that leaves pairs out; a state that was reached for
 * less is not entered again; and of wires that nothing tells apart one is tried. The first branch
 * follows that assignment, so that what is given up on is a good choice already.
 */
export function searchWires(search: WireSearch): FoundWires {
  const { wires, alone, together, pairBroken, splitsPair } = search;
  const signals = alone.length;
  if (signals === 0) return { wires: [], cost: 0, proven: true };
  const assignment = leastAssignment(alone);
  const { rowPrices, columnPrices } = assignment;
  /** What a signal on a wire costs over what the prices ask for both: never under 0. */
  const over = (n: number, wire: number): number =>
    (alone[n]?.[wire] ?? 0) - (rowPrices[n] ?? 0) - (columnPrices[wire] ?? 0);
  const known = knownWires(alone, wires);
  const chosen: number[] = [];
  const inUse = new Map<number, string>();
  const reached = new Map<string, number>();
  let best: { wires: number[]; cost: number } | null = null;
  let states = 0;
  const matesCost = (n: number, wire: number): number => {
    const name = together[n] ?? null;
    if (name === null) return 0;
    const pair = wires[wire]?.pair ?? null;
    return chosen.reduce((sum, other, m) => {
      if (together[m] !== name) return sum;
      return pair !== null && pair === wires[other]?.pair ? sum : sum + pairBroken;
    }, 0);
  };
  const unavoidable = leastBroken(wires, together) * pairBroken;
  const go = (n: number, cost: number, excess: number, broken: number): void => {
    if (best && ++states > MOST_STATES) return;
    const split = leastSplits(known, inUse, signals - n) * splitsPair;
    const least = assignment.cost + excess + Math.max(broken, unavoidable) + split;
    if (best && least >= best.cost - ROUNDING) return;
    if (n === signals) {
      const whole = cost + splitPairs(wires, inUse) * splitsPair;
      if (!best || whole < best.cost - ROUNDING) best = { wires: [...chosen], cost: whole };
      return;
    }
    const state = stateOf(known, inUse);
    if ((reached.get(state) ?? Infinity) <= cost + ROUNDING) return;
    reached.set(state, cost);
    for (const { wire, mate, more } of candidatesFor(known, inUse, (wire) => ({
      wire,
      mate: matesCost(n, wire),
      more: over(n, wire),
    }))) {
      chosen.push(wire);
      inUse.set(wire, together[n] ?? '');
      go(n + 1, cost + (alone[n]?.[wire] ?? 0) + mate, excess + more, broken + mate);
      chosen.pop();
      inUse.delete(wire);
    }
  };
  go(0, 0, 0, 0);
  const found = best as { wires: number[]; cost: number } | null;
  return { wires: found?.wires ?? [], cost: found?.cost ?? 0, proven: states <= MOST_STATES };
}

interface Candidate {
  wire: number;
  mate: number;
  more: number;
}

/** Free wires, one of each kind, the one that costs least over its prices first. */
function candidatesFor(known: KnownWires, inUse: InUse, priced: (wire: number) => Candidate): Candidate[] {
  const tried = new Set<string>();
  return known.wires
    .map((_, wire) => wire)
    .filter((wire) => {
      if (inUse.has(wire)) return false;
      const kind = kindOf(known, inUse, wire);
      return tried.has(kind) ? false : tried.add(kind);
    })
    .map(priced)
    .sort((a, b) => a.more + a.mate - b.more - b.mate);
}

/** Wires as the search tells them apart. */
interface KnownWires {
  wires: readonly Pick<Wire, 'pair'>[];
  /** A number for each, the same for wires that cost the same whatever goes through them. */
  alike: readonly number[];
  /** Others of its pair. */
  mates: readonly (readonly number[])[];
}

function knownWires(alone: readonly (readonly number[])[], wires: KnownWires['wires']): KnownWires {
  const mates = wires.map(({ pair }, wire) =>
    pair === null ? [] : wires.flatMap((other, n) => (n !== wire && other.pair === pair ? [n] : [])),
  );
  const classes = new Map<string, number>();
  const alike = wires.map((_, wire) => {
    const key = alone.map((row) => row[wire]).join();
    if (!classes.has(key)) classes.set(key, classes.size);
    return classes.get(key) ?? 0;
  });
  return { wires, alike, mates };
}

/** What is on the wires in use: the name of what belongs together with it, or nothing. */
type InUse = ReadonlyMap<number, string>;

/** What tells a wire from another as things stand: its class, and what is on its mates. */
function kindOf({ wires, alike, mates }: KnownWires, inUse: InUse, wire: number): string {
  const others = (mates[wire] ?? []).map((mate) => {
    const on = inUse.get(mate);
    return on === undefined ? String(alike[mate]) : `${alike[mate]}=${on}`;
  });
  return `${alike[wire]}${wires[wire]?.pair === null ? '' : 'p'}:${others.sort().join()}`;
}

/** Everything about the wires in use that what follows depends on. */
const stateOf = (known: KnownWires, inUse: InUse): string =>
  `${inUse.size}/${[...inUse]
    .map(([wire, on]) => `${kindOf(known, inUse, wire)}=${on}`)
    .sort()
    .join(' ')}`;

/** Fewest pairs that are left with one half in use, once so many more wires are taken. */
function leastSplits({ wires, mates }: KnownWires, inUse: InUse, more: number): number {
  const halves = new Map<number, number>();
  let single = 0;
  wires.forEach(({ pair }, n) => {
    // Three of a quad in use split nothing: its wires fill up like single ones.
    if (pair === null || (mates[n]?.length ?? 0) > 1) single += inUse.has(n) ? 0 : 1;
    else if (inUse.has(n)) halves.set(pair, (halves.get(pair) ?? 0) + 1);
  });
  const open = [...halves.values()].filter((count) => count === 1).length;
  if (more <= open) return open - more;
  // What is left over fills whole pairs, or the wires that have none.
  return (more - open) % 2 === 1 && single === 0 ? 1 : 0;
}

/** How many of those that belong together cannot share a pair, however they are placed: a pair holds so many. */
function leastBroken(wires: KnownWires['wires'], together: readonly (string | null)[]): number {
  const sizes = new Map<number, number>();
  for (const { pair } of wires) if (pair !== null) sizes.set(pair, (sizes.get(pair) ?? 0) + 1);
  const holds = Math.max(1, ...sizes.values());
  const two = (count: number): number => (count * (count - 1)) / 2;
  const names = new Set(together.filter((name) => name !== null));
  return [...names].reduce((sum, name) => {
    const count = together.filter((each) => each === name).length;
    const whole = Math.floor(count / holds);
    return sum + two(count) - whole * two(holds) - two(count % holds);
  }, 0);
}

/** Pairs of which one half is used alone. */
function splitPairs(wires: KnownWires['wires'], inUse: InUse): number {
  const used = new Map<number, number>();
  for (const wire of inUse.keys()) {
    const pair = wires[wire]?.pair ?? null;
    if (pair !== null) used.set(pair, (used.get(pair) ?? 0) + 1);
  }
  return [...used.values()].filter((count) => count === 1).length;
}
