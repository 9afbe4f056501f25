import type { ContactId } from '../cabling/schemes.js';

/** A ribbon between two connectors, each with its contacts in the order in which a flat ribbon meets them. */
export interface RibbonJob {
  near: readonly ContactId[];
  far: readonly ContactId[];
  /** Near contact and far contact of each wire that is wanted. */
  joins: readonly (readonly [near: ContactId, far: ContactId])[];
}

/** How a ribbon's wires are laid. Conductors and places are counted from 0, from the marked edge on. */
export interface RibbonLay {
  /** Whether the far connector is pressed on turned over, its first contact at the ribbon's other edge. */
  turned: boolean;
  /** Conductor at each place of the far connector; null where nothing comes. */
  order: (number | null)[];
  /** Neighbours that change places, round by round: swaps of one round lie side by side. */
  rounds: [number, number][][];
  crossings: number;
  /** Conductors joined to nothing, that stay in the ribbon for its strength. */
  dead: number[];
  /** Of the dead, those that are peeled off at the far end because no place is left for them. */
  peeled: number[];
}

/** A ribbon that cannot be laid, and why. */
export class NoRibbon extends Error {}

/**
 * The order in which a ribbon's wires meet the far connector, with the fewest crossings: every
 * crossing exchanges two neighbours that have to change places, and none is done twice, so there
 * are as many as pairs that stand the wrong way round. Dead wires take the places that are left
 * without crossing each other. The connector may be pressed on turned over where that saves
 * crossings. All swaps that can lie side by side do, so that the twisted part is short.
 *
 * @throws NoRibbon for a contact that the connectors do not have, or that is joined twice
 */
export function layRibbon(job: RibbonJob, { mayTurn = true }: { mayTurn?: boolean } = {}): RibbonLay {
  const upright = laid(job, false);
  if (!mayTurn) return upright;
  const turned = laid(job, true);
  return turned.crossings < upright.crossings ? turned : upright;
}

function laid({ near, far, joins }: RibbonJob, turned: boolean): RibbonLay {
  const farOrder = turned ? far.toReversed() : far;
  /** Place at the far connector for each conductor; null for a dead one. */
  const goal: (number | null)[] = near.map(() => null);
  const taken = new Set<number>();
  for (const [from, to] of joins) {
    const [conductor, place] = [near.indexOf(from), farOrder.indexOf(to)];
    if (conductor < 0) throw new NoRibbon(`The near connector has no contact ${from} on a ribbon.`);
    if (place < 0) throw new NoRibbon(`The far connector has no contact ${to} on a ribbon.`);
    if (goal[conductor] !== null)
      throw new NoRibbon(`Near contact ${from} is joined twice: a ribbon has one wire for it.`);
    if (taken.has(place))
      throw new NoRibbon(`Far contact ${to} is joined twice: a ribbon has one wire for it.`);
    goal[conductor] = place;
    taken.add(place);
  }
  const dead = goal.flatMap((place, conductor) => (place === null ? [conductor] : []));
  const free = farOrder.flatMap((_, place) => (taken.has(place) ? [] : [place]));
  const peeled: number[] = [];
  const fits = bestPlaces(goal, dead, free);
  dead.forEach((conductor, n) => {
    const place = fits[n];
    if (place === undefined || place === null) peeled.push(conductor);
    else goal[conductor] = place;
  });
  const order: (number | null)[] = farOrder.map(() => null);
  goal.forEach((place, conductor) => {
    if (place !== null) order[place] = conductor;
  });
  const wires = goal.flatMap((place, conductor) => (place === null ? [] : [{ conductor, place }]));
  const rounds = swapRounds(wires);
  const crossings = rounds.reduce((sum, round) => sum + round.length, 0);
  return { turned, order, rounds, crossings, dead, peeled };
}

/**
 * Places for the dead wires that cost the fewest crossings, in the order of the wires: one that
 * comes first never lies behind. By steps over (wires placed, places passed).
 */
function bestPlaces(
  goal: readonly (number | null)[],
  dead: readonly number[],
  free: readonly number[],
): (number | null)[] {
  const crosses = (conductor: number, place: number): number =>
    goal.reduce<number>(
      (sum, other, n) =>
        other === null || n === conductor || n < conductor === other < place ? sum : sum + 1,
      0,
    );
  const [wires, places] = [dead.length, free.length];
  const kept = Math.min(wires, places);
  /** Fewest crossings with `i` wires seen, `j` places seen, `k` wires placed, and the step that led there. */
  const cost = new Map<string, { cost: number; from: string | null; placed: boolean }>();
  const key = (i: number, j: number, k: number): string => `${i}/${j}/${k}`;
  cost.set(key(0, 0, 0), { cost: 0, from: null, placed: false });
  const offer = (to: string, value: number, from: string, placed: boolean): void => {
    const known = cost.get(to);
    if (!known || value < known.cost) cost.set(to, { cost: value, from, placed });
  };
  for (let i = 0; i <= wires; i++) {
    for (let j = 0; j <= places; j++) {
      for (let k = 0; k <= Math.min(i, j); k++) {
        const here = key(i, j, k);
        const known = cost.get(here);
        if (!known) continue;
        if (i < wires) offer(key(i + 1, j, k), known.cost, here, false);
        if (j < places) offer(key(i, j + 1, k), known.cost, here, false);
        const [conductor, place] = [dead[i], free[j]];
        if (conductor !== undefined && place !== undefined)
          offer(key(i + 1, j + 1, k + 1), known.cost + crosses(conductor, place), here, true);
      }
    }
  }
  const out: (number | null)[] = dead.map(() => null);
  for (let at: string | null = key(wires, places, kept); at !== null;) {
    const step = cost.get(at);
    if (!step) break;
    const [i = 0, j = 0] = at.split('/').map(Number);
    if (step.placed) out[i - 1] = free[j - 1] ?? null;
    at = step.from;
  }
  return out;
}

/** Neighbours exchanged in rounds, as many side by side as can be, until all stand in order. */
function swapRounds(wires: readonly { conductor: number; place: number }[]): [number, number][][] {
  const row = wires.toSorted((a, b) => a.conductor - b.conductor);
  const rounds: [number, number][][] = [];
  for (;;) {
    const round: [number, number][] = [];
    for (let n = 0; n + 1 < row.length; n++) {
      const [one, other] = [row[n], row[n + 1]];
      if (!one || !other || one.place < other.place) continue;
      [row[n], row[n + 1]] = [other, one];
      round.push([one.conductor, other.conductor]);
      n++;
    }
    if (round.length === 0) return rounds;
    rounds.push(round);
  }
}
