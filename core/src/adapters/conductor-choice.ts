import { insulationName } from '../cabling/colours.js';
import { SCREEN } from '../cabling/conductors.js';

/** A conductor of the cable that the adapter is made of. */
export interface Wire {
  id: string;
  /** Insulation as its letter code, such as BU or WH-BU; a screen, a coaxial centre and shell go by those names. */
  colour: string;
  areaMm2: number;
  /** Conductors of one number are twisted together; null for a single one. */
  pair: number | null;
  /** At the edge of a ribbon, where it can be split off. */
  edge?: boolean;
  /** What its sheet says that it bears, amperes and volts; by its copper, and not known, where left out. */
  bearsA?: number;
  bearsV?: number;
  /** Colour in the half that goes to an end, where halves differ. */
  halves?: Readonly<Record<string, string>>;
}

/** Amperes that a conductor bears: what its sheet says, or what is usual for its copper. */
export const wireBearsA = ({ bearsA, areaMm2 }: Wire): number => bearsA ?? AMPERE_PER_MM2 * areaMm2;

/** The colour by which a conductor is known at an end. */
export const colourAt = ({ colour, halves }: Wire, end: string): string => halves?.[end] ?? colour;

/** What is to go through a conductor. */
export interface Passing {
  signal: string;
  use: 'supply' | 'ground' | 'signal' | 'shield';
  /** Amperes; 0 for what only carries information. */
  currentA: number;
  /** Signals of one name belong on one twisted pair: the halves of a differential line, video and its return. */
  together: string | null;
}

const BARE: Readonly<Record<string, string>> = { SCREEN: 'screen', CENTRE: 'centre', SHELL: 'shell' };

/** A conductor's colour in words. */
export const wireName = (colour: string): string => BARE[colour] ?? insulationName(colour);

/** A signal with its conductor, and why that one. */
export interface Choice {
  signal: string;
  wire: string;
  reasons: string[];
}

export interface ConductorPlan {
  choices: Choice[];
  /** Conductors left over. */
  spares: string[];
  cost: number;
}

/** More signals than conductors. */
export class TooFewConductors extends Error {}

/** What each slight costs; the sum is made least. Dear things first. */
const COSTS = {
  /** Per ampere over what the conductor bears. */
  overloaded: 1000,
  pairBroken: 100,
  /** Supply and ground in the thinner of what there is, per mm2 missing. */
  thin: 40,
  /** Red and black for something else while supply or ground go another colour. */
  supplyColour: 4,
  misleadingColour: 3,
  /** A lone signal on half of a pair, whose other half is then of little use. */
  splitsPair: 1,
  notAtEdge: 0.5,
  /** A signal or a supply on the screen, and a shield that is not on it. */
  onScreen: 200,
  offScreen: 20,
};
/** A conductor in a small bundle bears about this (typical), amperes per mm2. */
const AMPERE_PER_MM2 = 5;
const SUPPLY_COLOURS: Readonly<Record<string, string>> = { supply: 'RD', ground: 'BK' };

/**
 * Which conductor each signal goes through, at the least cost: nothing overloaded, what belongs
 * together on one pair, supply and ground in the thickest, red and black for supply and ground,
 * edges of a ribbon for supply, and as many whole pairs left as can be. Exact: a branch is cut only
 * where it cannot cost less than the best plan, and of wires that nothing tells apart one is tried.
 *
 * @throws TooFewConductors
 */
export function chooseConductors(wires: readonly Wire[], passing: readonly Passing[]): ConductorPlan {
  if (passing.length > wires.length)
    throw new TooFewConductors(
      `${passing.length} signals and ${wires.length} conductors: take a cable of at least ${passing.length}.`,
    );
  // What is choosiest first: the search ends sooner.
  const order = passing
    .map((each, index) => ({ each, index }))
    .sort(
      (a, b) =>
        Number(b.each.together !== null) - Number(a.each.together !== null) ||
        b.each.currentA - a.each.currentA ||
        rank(b.each) - rank(a.each),
    );
  const alone = order.map(({ each }) => wires.map((wire) => costAlone(each, wire, wires)));
  /** The least that the signals from one on can cost, each at its best. */
  const least = new Float64Array(order.length + 1);
  for (let n = order.length - 1; n >= 0; n--) least[n] = (least[n + 1] ?? 0) + Math.min(...(alone[n] ?? [0]));
  const known = knownWires(alone, wires);
  const chosen: number[] = [];
  const inUse = new Map<number, string>();
  /** Cheapest way yet to every state, up to an exchange of like wires. */
  const reached = new Map<string, number>();
  let best: { wires: number[]; cost: number } | null = null;
  const placed = (): { each: Passing; wire: Wire }[] =>
    chosen.map((wire, n) => ({ each: order[n]?.each as Passing, wire: wires[wire] as Wire }));
  const go = (n: number, cost: number): void => {
    const split = leastSplits(known, inUse, order.length - n) * COSTS.splitsPair;
    if (best && cost + (least[n] ?? 0) + split >= best.cost - 1e-9) return;
    if (n === order.length) {
      const whole = cost + splitPairs(placed(), wires) * COSTS.splitsPair;
      if (!best || whole < best.cost - 1e-9) best = { wires: [...chosen], cost: whole };
      return;
    }
    const state = stateOf(known, inUse);
    if ((reached.get(state) ?? Infinity) <= cost + 1e-9) return;
    reached.set(state, cost);
    const row = alone[n] ?? [];
    const tried = new Set<string>();
    const candidates = wires
      .map((_, wire) => wire)
      .filter((wire) => {
        if (inUse.has(wire)) return false;
        // Of wires that nothing tells apart one is enough.
        const kind = kindOf(known, inUse, wire);
        return tried.has(kind) ? false : tried.add(kind);
      })
      .map((wire) => ({ wire, mate: togetherCost(order, chosen, n, wire, wires) }))
      .sort((a, b) => (row[a.wire] ?? 0) + a.mate - (row[b.wire] ?? 0) - b.mate);
    for (const { wire, mate } of candidates) {
      chosen.push(wire);
      inUse.set(wire, order[n]?.each.together ?? '');
      go(n + 1, cost + (row[wire] ?? 0) + mate);
      chosen.pop();
      inUse.delete(wire);
    }
  };
  go(0, 0);
  const found = best as { wires: number[]; cost: number } | null;
  if (!found) return { choices: [], spares: wires.map(({ id }) => id), cost: 0 };
  const choices = order
    .map(({ each, index }, n) => ({ index, each, wire: wires[found.wires[n] as number] as Wire }))
    .sort((a, b) => a.index - b.index);
  const taken = new Set(choices.map(({ wire }) => wire.id));
  return {
    choices: choices.map(({ each, wire }) => ({
      signal: each.signal,
      wire: wire.id,
      reasons: reasonsFor(each, wire, wires, choices),
    })),
    spares: wires.filter(({ id }) => !taken.has(id)).map(({ id }) => id),
    cost: found.cost,
  };
}

const rank = ({ use }: Passing): number => ({ supply: 3, ground: 2, shield: 1, signal: 0 })[use];
const carries = ({ use }: Passing): boolean => use === 'supply' || use === 'ground';

/** A number for each wire, the same for wires that cost the same whatever goes through them. */
function wireClasses(alone: readonly (readonly number[])[], wires: readonly Wire[]): number[] {
  const known = new Map<string, number>();
  return wires.map((_, wire) => {
    const key = alone.map((row) => row[wire]).join();
    if (!known.has(key)) known.set(key, known.size);
    return known.get(key) ?? 0;
  });
}

/** Wires as the search tells them apart. */
interface KnownWires {
  wires: readonly Wire[];
  /** A number for each, the same for wires that cost the same whatever goes through them. */
  alike: readonly number[];
  /** Others of its pair. */
  mates: readonly (readonly number[])[];
}

function knownWires(alone: readonly (readonly number[])[], wires: readonly Wire[]): KnownWires {
  const mates = wires.map(({ pair }, wire) =>
    pair === null ? [] : wires.flatMap((other, n) => (n !== wire && other.pair === pair ? [n] : [])),
  );
  return { wires, alike: wireClasses(alone, wires), mates };
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

/** What a signal on a conductor costs, whatever the others do. */
function costAlone(passing: Passing, wire: Wire, wires: readonly Wire[]): number {
  const thickest = Math.max(...wires.map(({ areaMm2 }) => areaMm2));
  const over = Math.max(0, passing.currentA - wireBearsA(wire));
  let cost = COSTS.overloaded * over;
  if (wire.colour === SCREEN && passing.use !== 'shield') cost += COSTS.onScreen;
  if (wire.colour !== SCREEN && passing.use === 'shield' && wires.some(({ colour }) => colour === SCREEN))
    cost += COSTS.offScreen;
  if (carries(passing)) {
    cost += COSTS.thin * (thickest - wire.areaMm2);
    const wanted = SUPPLY_COLOURS[passing.use];
    if (wire.colour !== wanted && wires.some(({ colour }) => colour === wanted)) cost += COSTS.supplyColour;
    if (!wire.edge && wires.some(({ edge }) => edge)) cost += COSTS.notAtEdge;
  }
  const misleads = Object.entries(SUPPLY_COLOURS).some(
    ([use, colour]) => wire.colour === colour && passing.use !== use,
  );
  return misleads ? cost + COSTS.misleadingColour : cost;
}

/** What placing a signal costs for those before it that belong with it. */
function togetherCost(
  order: readonly { each: Passing }[],
  chosen: readonly number[],
  n: number,
  wire: number,
  wires: readonly Wire[],
): number {
  const together = order[n]?.each.together;
  if (together === null || together === undefined) return 0;
  return chosen.reduce((sum, other, m) => {
    if (order[m]?.each.together !== together) return sum;
    const pair = wires[wire]?.pair ?? null;
    return pair !== null && pair === wires[other]?.pair ? sum : sum + COSTS.pairBroken;
  }, 0);
}

/** Pairs of which one half is used alone, or by two that have nothing to do with each other. */
function splitPairs(placed: readonly { each: Passing; wire: Wire }[], wires: readonly Wire[]): number {
  const pairs = new Set(wires.flatMap(({ pair }) => (pair === null ? [] : [pair])));
  return [...pairs].filter((pair) => {
    const on = placed.filter(({ wire }) => wire.pair === pair);
    return on.length === 1;
  }).length;
}

function reasonsFor(
  passing: Passing,
  wire: Wire,
  wires: readonly Wire[],
  all: readonly { each: Passing; wire: Wire }[],
): string[] {
  const reasons: string[] = [];
  const mates = all.filter(
    ({ each }) => passing.together !== null && each.together === passing.together && each !== passing,
  );
  if (mates.length > 0)
    reasons.push(
      mates.every((mate) => mate.wire.pair !== null && mate.wire.pair === wire.pair)
        ? `on one pair with ${mates.map(({ each }) => each.signal).join(', ')}`
        : `not on one pair with ${mates.map(({ each }) => each.signal).join(', ')}: the cable has none for it`,
    );
  if (passing.use === 'shield' && wire.colour === SCREEN) reasons.push('the screen for the shield');
  if (carries(passing)) {
    const thickest = Math.max(...wires.map(({ areaMm2 }) => areaMm2));
    if (wires.some(({ areaMm2 }) => areaMm2 < thickest) && wire.areaMm2 === thickest)
      reasons.push('among the thickest');
    if (wire.colour === SUPPLY_COLOURS[passing.use])
      reasons.push(passing.use === 'supply' ? 'red for supply' : 'black for ground');
    if (wire.edge) reasons.push('at the edge, where it splits off');
  }
  if (passing.currentA > wireBearsA(wire))
    reasons.push(
      `OVERLOADED: ${passing.currentA} A on ${wire.areaMm2} mm2, which bears ${wireBearsA(wire).toFixed(2)} A`,
    );
  return reasons.length > 0 ? reasons : ['any that is free'];
}
