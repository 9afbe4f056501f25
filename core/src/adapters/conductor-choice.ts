import type { ColourCode } from '../cabling/colours.js';

/** A conductor of the cable that the adapter is made of. */
export interface Wire {
  id: string;
  colour: ColourCode;
  areaMm2: number;
  /** Conductors of one number are twisted together; null for a single one. */
  pair: number | null;
  /** At the edge of a ribbon, where it can be split off. */
  edge?: boolean;
  /** Colour in the half that goes to an end, where halves differ. */
  halves?: Readonly<Record<string, ColourCode>>;
}

/** The colour by which a conductor is known at an end. */
export const colourAt = ({ colour, halves }: Wire, end: string): ColourCode => halves?.[end] ?? colour;

/** What is to go through a conductor. */
export interface Passing {
  signal: string;
  use: 'supply' | 'ground' | 'signal' | 'shield';
  /** Amperes; 0 for what only carries information. */
  currentA: number;
  /** Signals of one name belong on one twisted pair: the halves of a differential line, video and its return. */
  together: string | null;
}

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
};
/** A conductor in a small bundle bears about this (typical), amperes per mm2. */
const AMPERE_PER_MM2 = 5;
const SUPPLY_COLOURS: Readonly<Record<string, ColourCode>> = { supply: 'RD', ground: 'BK' };

/**
 * Which conductor each signal goes through, at the least cost: nothing overloaded, what belongs
 * together on one pair, supply and ground in the thickest, red and black for supply and ground,
 * edges of a ribbon for supply, and as many whole pairs left as can be. Exact: branches are cut
 * only where what is decided costs as much as the best plan already.
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
  const chosen: number[] = [];
  const used = new Set<number>();
  let best: { wires: number[]; cost: number } | null = null;
  const placed = (): { each: Passing; wire: Wire }[] =>
    chosen.map((wire, n) => ({ each: order[n]?.each as Passing, wire: wires[wire] as Wire }));
  const go = (n: number, cost: number): void => {
    if (best && cost + (least[n] ?? 0) >= best.cost - 1e-9) return;
    if (n === order.length) {
      const whole = cost + splitPairs(placed(), wires) * COSTS.splitsPair;
      if (!best || whole < best.cost - 1e-9) best = { wires: [...chosen], cost: whole };
      return;
    }
    const row = alone[n] ?? [];
    const candidates = wires
      .map((_, wire) => wire)
      .filter((wire) => !used.has(wire))
      .sort((a, b) => (row[a] ?? 0) - (row[b] ?? 0));
    for (const wire of candidates) {
      const mate = togetherCost(order, chosen, n, wire, wires);
      chosen.push(wire);
      used.add(wire);
      go(n + 1, cost + (row[wire] ?? 0) + mate);
      chosen.pop();
      used.delete(wire);
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

/** What a signal on a conductor costs, whatever the others do. */
function costAlone(passing: Passing, wire: Wire, wires: readonly Wire[]): number {
  const thickest = Math.max(...wires.map(({ areaMm2 }) => areaMm2));
  const over = Math.max(0, passing.currentA - AMPERE_PER_MM2 * wire.areaMm2);
  let cost = COSTS.overloaded * over;
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
  if (carries(passing)) {
    const thickest = Math.max(...wires.map(({ areaMm2 }) => areaMm2));
    if (wires.some(({ areaMm2 }) => areaMm2 < thickest) && wire.areaMm2 === thickest)
      reasons.push('among the thickest');
    if (wire.colour === SUPPLY_COLOURS[passing.use])
      reasons.push(passing.use === 'supply' ? 'red for supply' : 'black for ground');
    if (wire.edge) reasons.push('at the edge, where it splits off');
  }
  if (passing.currentA > AMPERE_PER_MM2 * wire.areaMm2)
    reasons.push(
      `OVERLOADED: ${passing.currentA} A on ${wire.areaMm2} mm2, which bears ${(AMPERE_PER_MM2 * wire.areaMm2).toFixed(2)} A`,
    );
  return reasons.length > 0 ? reasons : ['any that is free'];
}
