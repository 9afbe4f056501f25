import { FINE, POOR, POOR_GRADES, LOOSE, OPEN, type LinkState } from './link-state.js';
import { ResistorNetwork } from './network.js';
import type { ContactGroup, Touch } from './readings.js';

/** A sound joint of a contact; a clip or a loop plug; equipment's transformer winding. Typical, ohms. */
const JOINT_OHM = 0.02;
const CLIP_OHM = 0.02;
const WINDING_OHM = 1.5;

/** What is not known of a link that a resistance depends on. */
export interface Unknowns {
  /** Where along the cable things lie whose place nobody knows, as a share of the length. */
  placeShare: number;
  /** Ohms of a contact between two conductors that ought not to be. */
  shortOhm: number;
  /** Where in its decade grade each poor joint lies, 0 to 1. */
  poorShare: number;
}

export const USUAL: Unknowns = { placeShare: 0.5, shortOhm: 0.05, poorShare: 0.5 };

/** Ohms of a joint or conductor in some condition, its own figure where it is known. */
function conditionOhm(state: LinkState, cell: number, { poorShare }: Unknowns): number {
  const condition = state.cells[cell] as number;
  if (condition === FINE) return 0;
  if (condition === OPEN) return Infinity;
  const grade = POOR_GRADES[condition - POOR[0]];
  if (condition === LOOSE || !grade) return 0;
  return state.poorOhm.get(cell) ?? grade.fromOhm * (grade.toOhm / grade.fromOhm) ** poorShare;
}

/** The part of a link that a touch can send current through. */
export interface TouchedPart {
  /** Conductor -> whether it belongs. */
  conductors: readonly boolean[];
  /** A text that is equal for two links exactly when they show the touch the same ohms. */
  signature: string;
}

/** What hangs together with the contacts of a touch, through conductors and whatever joins them. */
export function touchedPart(state: LinkState, touch: Omit<Touch, 'closed'>): TouchedPart {
  const { frame, cells, shorts } = state;
  const { at } = frame;
  const belongs: boolean[] = frame.conductors.map(() => false);
  const conductorAt = (end: 'near' | 'far', contact: number): number => {
    const v = cells[at[end] + contact] as number;
    // The stretch that begins at the near end gives a conductor its number.
    return end === 'near' || v < 0 ? v : cells.indexOf(v, at.splice) - at.splice;
  };
  const links: number[][] = [];
  const equipment = cells[at.equipment] as number;
  for (const { where, a, b } of shorts)
    links.push(where === 'cable' ? [a, b] : [conductorAt(where, a), conductorAt(where, b)]);
  for (const [end, bit] of [
    ['near', 1],
    ['far', 2],
  ] as const)
    if (equipment & bit)
      for (const { a, b } of frame.pairs[end]) links.push([conductorAt(end, a), conductorAt(end, b)]);
  for (const { end, contacts } of [...(touch.joined ?? []), touch.from, touch.to])
    links.push(contacts.map((c) => conductorAt(end, frame.contactIndex(end, c))));
  for (const w of links[links.length - 1] ?? []) if (w >= 0) belongs[w] = true;
  for (const w of links[links.length - 2] ?? []) if (w >= 0) belongs[w] = true;
  for (let grown = true; grown;) {
    grown = false;
    for (const link of links) {
      if (!link.some((w) => belongs[w])) continue;
      for (const w of link)
        if (w >= 0 && !belongs[w]) {
          belongs[w] = true;
          grown = true;
        }
    }
  }
  let signature = `${cells[at.equipment]}${cells[at.absent]}/${state.lengthM}`;
  belongs.forEach((is, w) => {
    if (is) signature += `;${w},${cells[at.core + w]},${state.coreAtM[w]},${cells[at.splice + w]}`;
  });
  frame.contacts.near.forEach((_, c) => {
    const w = cells[at.near + c] as number;
    if (belongs[w]) signature += `n${c}${w}${cells[at.nearSeat + c]}`;
  });
  frame.contacts.far.forEach((_, c) => {
    const w = conductorAt('far', c);
    if (belongs[w]) signature += `f${c}${w}${cells[at.farSeat + c]}`;
  });
  for (const { where, a, b, atM } of shorts) signature += `${where}${a},${b},${atM}`;
  return { conductors: belongs, signature };
}

/**
 * What a meter with its leads zeroed shows for one touch on a link: the network of conductors by
 * the metre, joints, and whatever joins them where it does, with clips on as the touch says.
 * @param openLoose bits: which loose joints are open just now, in the order of the state's cells
 * @returns ohms; Infinity for an open path
 */
export function ohmsOfTouch(
  state: LinkState,
  touch: Omit<Touch, 'closed'>,
  openLoose: number,
  unknowns: Unknowns = USUAL,
  part: TouchedPart = touchedPart(state, touch),
): number {
  const { net, node } = layPart(state, openLoose, unknowns, part);
  const { frame } = state;
  const tied = ({ end, contacts: some }: ContactGroup, ohm: number): number => {
    const [first, ...rest] = some.map((c) => node(end, frame.contactIndex(end, c)));
    for (const other of rest) net.join(first as number, other, ohm);
    return first as number;
  };
  for (const group of touch.joined ?? []) tied(group, CLIP_OHM);
  return net.between(tied(touch.from, 1e-4), tied(touch.to, 1e-4));
}

/** The same for several touches of one contact each, without clips, that reach the same part of a link. */
export function ohmsOfTouches(
  state: LinkState,
  touches: readonly Omit<Touch, 'closed'>[],
  openLoose: number,
  unknowns: Unknowns,
  part: TouchedPart,
): number[] {
  const { net, node } = layPart(state, openLoose, unknowns, part);
  const nodeOf = ({ end, contacts }: ContactGroup): number =>
    node(end, state.frame.contactIndex(end, contacts[0] as string));
  return net.betweenEach(touches.map(({ from, to }) => [nodeOf(from), nodeOf(to)] as const));
}

/** A part of a link as a network, and the node of each contact. */
function layPart(
  state: LinkState,
  openLoose: number,
  unknowns: Unknowns,
  part: TouchedPart,
): { net: ResistorNetwork; node: (end: 'near' | 'far', contact: number) => number } {
  const { frame, cells, lengthM } = state;
  const { at, contacts, conductors } = frame;
  const net = new ResistorNetwork();
  const ohmAt = (cell: number): number => {
    if (cells[cell] !== LOOSE) return conditionOhm(state, cell, unknowns);
    // Loose bits run in the order of the cells: near seats, far seats, conductors.
    let bit = 0;
    for (let before = at.nearSeat; before < cell; before++) if (cells[before] === LOOSE) bit++;
    return (openLoose >> bit) & 1 ? Infinity : 0;
  };
  const placed = (atM: number): number =>
    Math.min(lengthM, Math.max(0, Number.isNaN(atM) ? unknowns.placeShare * lengthM : atM));
  const absent = cells[at.absent] !== 0;
  const nodes: Record<'near' | 'far', (number | undefined)[]> = { near: [], far: [] };
  const node = (end: 'near' | 'far', c: number): number => (nodes[end][c] ??= net.node());
  const begins: Tie[][] = conductors.map(() => []);
  const arrives: Tie[][] = conductors.map(() => []);
  contacts.near.forEach((_, c) => {
    const w = cells[at.near + c] as number;
    if (part.conductors[w])
      begins[w]?.push({ node: node('near', c), ohm: JOINT_OHM + ohmAt(at.nearSeat + c) });
  });
  contacts.far.forEach((_, c) => {
    const v = cells[at.far + c] as number;
    // Behind a splice a conductor arrives as another.
    const w = v < 0 || absent ? -1 : cells.indexOf(v, at.splice) - at.splice;
    if (part.conductors[w])
      arrives[w]?.push({ node: node('far', c), ohm: JOINT_OHM + ohmAt(at.farSeat + c) });
  });
  const spans = conductors.map((_, w) =>
    part.conductors[w]
      ? layConductor(net, state, w, ohmAt(at.core + w), placed, tied(net, begins[w]), tied(net, arrives[w]))
      : null,
  );
  for (const { where, a, b, atM, ohm } of state.shorts) {
    const short = ohm ?? unknowns.shortOhm;
    if (where === 'cable') {
      const [p, q] = [spans[a], spans[b]];
      if (p && q) net.join(p.get(placed(atM)) as number, q.get(placed(atM)) as number, short);
    } else if (nodes[where][a] !== undefined || nodes[where][b] !== undefined)
      net.join(node(where, a), node(where, b), short);
  }
  const equipment = cells[at.equipment] as number;
  for (const [end, bit] of [
    ['near', 1],
    ['far', 2],
  ] as const)
    if (equipment & bit && !(end === 'far' && absent))
      for (const { a, b } of frame.pairs[end])
        if (nodes[end][a] !== undefined || nodes[end][b] !== undefined)
          net.join(node(end, a), node(end, b), WINDING_OHM);
  return { net, node };
}

/** A node, and the ohms on the way to it. */
interface Tie {
  node: number;
  ohm: number;
}

/** One tie for all that a conductor's end is tied to; null where it is to nothing. */
function tied(net: ResistorNetwork, [only, ...more]: readonly Tie[] = []): Tie | null {
  if (!only || more.length === 0) return only ?? null;
  const node = net.node();
  for (const tie of [only, ...more]) net.join(node, tie.node, tie.ohm);
  return { node, ohm: 0 };
}

/**
 * Lays a conductor from what it begins at to where it arrives, with a node wherever something joins it, its own
 * trouble where that is, its splice half way.
 * @returns the node at each distance from the near end, in metres, where something joins it
 */
function layConductor(
  net: ResistorNetwork,
  state: LinkState,
  w: number,
  troubleOhm: number,
  placed: (atM: number) => number,
  begins: Tie | null,
  arrives: Tie | null,
): ReadonlyMap<number, number> {
  const { frame, cells, lengthM } = state;
  const perM = frame.ohmPerM[w] as number;
  const troubleM = troubleOhm === 0 ? -1 : placed(state.coreAtM[w] as number);
  const places: number[] = [];
  for (const { where, a, b, atM } of state.shorts) {
    if (where !== 'cable' || (a !== w && b !== w)) continue;
    const place = placed(atM);
    if (!places.includes(place)) places.push(place);
  }
  // At one known place a join lies behind the trouble; where nobody knows, before it.
  const joinFirst = Number.isNaN(state.coreAtM[w]);
  const stops = places.map((atM) => ({ atM, joined: true }));
  if (troubleM >= 0) stops.push({ atM: troubleM, joined: false });
  stops.sort((x, y) => x.atM - y.atM || (x.joined === joinFirst ? -1 : 1));
  const nodes = new Map<number, number>();
  let here = begins?.node;
  let ohm = begins?.ohm ?? 0;
  let hereM = 0;
  for (const { atM, joined } of stops) {
    ohm += (atM - hereM) * perM;
    hereM = atM;
    if (joined) {
      const stop = net.node();
      if (here !== undefined) net.join(here, stop, ohm);
      nodes.set(atM, stop);
      [here, ohm] = [stop, 0];
    } else ohm += troubleOhm;
  }
  const onward = cells[frame.at.splice + w] as number;
  ohm += (lengthM - hereM) * (onward === w ? perM : (perM + (frame.ohmPerM[onward] as number)) / 2);
  if (here !== undefined && arrives) net.join(here, arrives.node, ohm + arrives.ohm);
  return nodes;
}
