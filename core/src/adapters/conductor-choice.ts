import { insulationName } from '../cabling/colours.js';
import { SCREEN } from '../cabling/conductors.js';
import { searchWires } from './conductor-search.js';

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
  /** No other choice costs less; false where there are so many that not all could be weighed. */
  proven: boolean;
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
 * edges of a ribbon for supply, and as many whole pairs left as can be.
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
  const found = searchWires({
    wires,
    alone,
    together: order.map(({ each }) => each.together),
    pairBroken: COSTS.pairBroken,
    splitsPair: COSTS.splitsPair,
  });
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
    proven: found.proven,
  };
}

const rank = ({ use }: Passing): number => ({ supply: 3, ground: 2, shield: 1, signal: 0 })[use];
const carries = ({ use }: Passing): boolean => use === 'supply' || use === 'ground';

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
