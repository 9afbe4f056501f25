import type { ContactId } from '../cabling/schemes.js';
import type { LinkExpectation } from './expectation.js';
import { fault, type PhysicalFault } from './faults.js';
import { commonEnd, distancesAgree } from './findings.js';
import { OPEN } from './link-state.js';
import type { Practice, SlipKind } from './practice.js';
import { faultAlongCable, faultAtEnd, type CablePlace } from './slips/catalogue.js';
import { EndBench } from './slips/end.js';
import type { Way } from './slips/way.js';
import { DisjointSets } from './disjoint-sets.js';
import type { Frame } from './frame.js';
import type { LinkState } from './link-state.js';
import { distanceDeviationM, LENGTH_DEVIATION } from './observers/echoes.js';
import { GOES_ON, metresOf, wholeM } from './observers/capacitance.js';
import { lengthsByOhms } from './observers/copper.js';
import {
  isUnread,
  closeMap,
  isMapReading,
  type CapacitanceReading,
  type EchoReading,
  type MapReading,
  type Reading,
  type TouchReading,
} from './readings.js';
import type { LinkEnd } from './true-link.js';

/** A place that a reflectometer showed, from the near end, and how well it is known. */
interface SeenPlace {
  atM: number;
  uM: number;
}

/** Places along the cable that a reflectometer showed, each with the share an unknown place gives it. */
export function placesToTry(frame: Frame, readings: readonly Reading[]): CablePlace[] {
  const { lengthM } = frame;
  const seen: SeenPlace[] = [];
  for (const reading of readings) {
    if (reading.instrument === 'ohmmeter') seen.push(...placesByOhms(frame, reading));
    if (reading.instrument === 'capacitance-meter') seen.push(...placesByFarads(frame, reading));
    if (reading.instrument !== 'pair-reflectometer') continue;
    const end = commonEnd(reading, frame.pairs[reading.from].length);
    for (const { kind, distanceM } of Object.values(reading.pairs).flat()) {
      const ownEnd = kind === 'open' && Math.abs(distanceM - lengthM) < 0.5 + 0.07 * lengthM;
      const here = distanceM < 2 * distanceDeviationM(0);
      const alikes = Object.values(reading.pairs)
        .flat()
        .filter((e) => e.kind === 'open' && Math.abs(e.distanceM - distanceM) < 1).length;
      if (here || (ownEnd && alikes > Object.keys(reading.pairs).length / 2)) continue;
      const uM = distanceDeviationM(distanceM);
      if (reading.from === 'near') seen.push({ atM: distanceM, uM });
      // Counted from the far end, a place is as far from this one as the pairs that go through say, if there are any.
      else if (end !== null && Math.abs(end - lengthM) < 0.5 + 0.07 * lengthM && end > distanceM)
        seen.push({ atM: end - distanceM, uM: Math.hypot(uM, distanceDeviationM(end)) });
      else seen.push({ atM: lengthM - distanceM, uM: Math.hypot(uM, LENGTH_DEVIATION * lengthM) });
    }
  }
  // What is known well first, so that what is known less well joins it.
  const clusters: SeenPlace[][] = [];
  for (const place of seen.sort((a, b) => a.uM - b.uM || a.atM - b.atM)) {
    const near = clusters.filter((cluster) =>
      cluster.some(({ atM, uM }) => Math.abs(atM - place.atM) < 2 * Math.max(uM, place.uM)),
    );
    const [first] = near.sort((a, b) => apart(a, place) - apart(b, place));
    if (first) first.push(place);
    else clusters.push([place]);
  }
  const places = clusters.map((cluster): CablePlace => {
    const weights = cluster.map(({ uM }) => 1 / uM ** 2);
    const mean = cluster.reduce((sum, { atM }, i) => sum + atM * (weights[i] as number), 0) / sumOf(weights);
    const atM = Math.min(lengthM, Math.max(0, mean));
    const uM = Math.min(...cluster.map((place) => place.uM));
    return { atM, share: Math.min(1, (2.5 * uM) / Math.max(1, lengthM)) };
  });
  const known = places.reduce((sum, { share }) => sum + share, 0);
  return [...places, { atM: null, share: Math.max(0.05, 1 - known) }];
}

/** Copper and gauge, and the contact between two wires that ought not to touch, leave a place by ohms so much in doubt. */
const BY_OHMS = { copper: 0.08, contactOhm: 0.25 };

/** Where two wires would have to touch for the loop between two contacts of one end to have the ohms it has. */
function placesByOhms(frame: Frame, { touches }: TouchReading): SeenPlace[] {
  return touches.flatMap(({ from, to, joined, closed, ohm }) => {
    if (!closed || ohm == null || joined?.length || from.end !== to.end) return [];
    const [a, b] = [from, to].map(
      ({ end, contacts }) => frame.intended[end][frame.contactIndex(end, contacts[0] as string)] ?? -1,
    ) as [number, number];
    const perM = (frame.ohmPerM[a] ?? 0) + (frame.ohmPerM[b] ?? 0);
    if (from.contacts.length !== 1 || to.contacts.length !== 1 || !(perM > 0)) return [];
    const distanceM = ohm / perM;
    const uM = Math.hypot(BY_OHMS.copper * distanceM, BY_OHMS.contactOhm / perM);
    // At either end it is a join of that end.
    if (distanceM < uM || distanceM > frame.lengthM - uM) return [];
    return [{ atM: from.end === 'near' ? distanceM : frame.lengthM - distanceM, uM }];
  });
}

/** A place by farads is known to this share, where whole pairs say what a metre has, and where only the catalogue does. */
const BY_FARADS = { own: 0.02, catalogue: 0.07, leastM: 0.3 };

/** Where a pair would have to end for its capacitance to be what it is. */
function placesByFarads(frame: Frame, reading: CapacitanceReading): SeenPlace[] {
  const whole = wholeM(frame, reading);
  const share = whole === null ? BY_FARADS.catalogue : BY_FARADS.own;
  return Object.values(reading.nF).flatMap((nF) => {
    const metres = nF === null ? NaN : (metresOf(frame, nF) * frame.lengthM) / (whole ?? frame.lengthM);
    const uM = BY_FARADS.leastM + Math.hypot(share * metres, GOES_ON * (frame.lengthM - metres));
    if (!(metres > BY_FARADS.leastM && metres < 0.95 * frame.lengthM)) return [];
    return [{ atM: reading.end === 'near' ? metres : frame.lengthM - metres, uM }];
  });
}

const sumOf = (figures: readonly number[]): number => figures.reduce((a, b) => a + b, 0);
const apart = (cluster: readonly SeenPlace[], { atM }: SeenPlace): number =>
  Math.min(...cluster.map((one) => Math.abs(one.atM - atM)));

/** The wirings of one end that would give a reading while the other end is as intended. */
export function wiringsThatGive(frame: Frame, base: LinkState, reading: Reading, end: LinkEnd): number[][] {
  const { at } = frame;
  const intendedAt = (side: LinkEnd, contact: number): number => base.cells[at[side] + contact] as number;
  if (reading.instrument === 'eye') {
    if (reading.end !== end) return [];
    const seen = frame.contacts[end].map((contact, c) => {
      const colour = reading.colours[contact];
      return colour === undefined ? intendedAt(end, c) : colour === null ? -1 : frame.conductorIndex(colour);
    });
    const unread = frame.contacts[end].flatMap((contact, c) => (isUnread(reading, contact) ? [c] : []));
    // Where nobody could read, nothing lies, or what was seen nowhere else does.
    return [seen, ...filledUp(frame, base, end, seen, unread)].filter(isOneEach);
  }
  if (!isMapReading(reading)) return [];
  const wiring = frame.contacts[end].map(() => -1);
  const rows = Object.entries(closeMap(reading).arrivals) as [ContactId, readonly ContactId[]][];
  const arrived = rows.flatMap(([, reached]) => reached);
  for (const [near, reached] of rows) {
    const far = reached[0];
    if (reached.length !== 1 || far === undefined) continue;
    // Where two arrive at one contact they are joined: that tells no order.
    if (arrived.indexOf(far) !== arrived.lastIndexOf(far)) continue;
    const [n, f] = [frame.contactIndex('near', near), frame.contactIndex('far', far)];
    if (end === 'far') wiring[f] = intendedAt('near', n);
    else wiring[n] = intendedAt('far', f);
  }
  // What arrives nowhere still lies somewhere.
  const free = wiring.flatMap((w, c) => (w < 0 && intendedAt(end, c) >= 0 ? [c] : []));
  return filledUp(frame, base, end, wiring, free);
}

/** A wiring with the conductors that it leaves over laid on its free contacts, in every order while they are few. */
function filledUp(
  { contacts, at }: Frame,
  base: LinkState,
  end: LinkEnd,
  wiring: readonly number[],
  free: readonly number[],
): number[][] {
  const left = contacts[end]
    .map((_, c) => base.cells[at[end] + c] as number)
    .filter((w) => w >= 0 && !wiring.includes(w));
  const orders = left.length > MOST_LEFT ? [left] : permutationsOf(left);
  return orders.map((order) => wiring.map((w, c) => (free.includes(c) ? (order[free.indexOf(c)] ?? -1) : w)));
}

/** So many conductors of which nothing says where they lie are tried every way. */
const MOST_LEFT = 3;

function permutationsOf<T>(things: readonly T[]): T[][] {
  if (things.length < 2) return [[...things]];
  return things.flatMap((first, i) =>
    permutationsOf(things.filter((_, j) => j !== i)).map((rest) => [first, ...rest]),
  );
}

/** A conductor lies on one contact of an end. */
function isOneEach(wiring: readonly number[]): boolean {
  const laid = wiring.filter((w) => w >= 0);
  return new Set(laid).size === laid.length;
}

/** Several wires out of place at one end, in an order no simple slip makes. */
export function wildOrder(
  expected: LinkExpectation,
  frame: Frame,
  base: LinkState,
  end: LinkEnd,
  wiring: readonly number[],
  rate: number,
): PhysicalFault {
  const wrong = wiring.flatMap((w, c) => (w === base.cells[frame.at[end] + c] ? [] : [c]));
  const contacts = wrong.map((c) => frame.contacts[end][c] as string);
  return fault(
    {
      kind: 'scrambled',
      slip: 'wild-order',
      variant: wrong.map((c) => frame.conductors[wiring[c] as number] ?? 'nothing').join(' '),
      end,
      contacts,
      conductors: contacts.map((c) => expected[end].wiring[c] ?? null),
      pairs: [],
      distanceM: null,
      rate,
      effects: [{ does: 'wire', end, wiring }],
    },
    expected,
  );
}

/** More than these at once are proposed by readings: two are in the catalogue, every two. */
const LISTED = 2;
/** How many sets of `k` there are among `n`. */
export const choose = (n: number, k: number): number =>
  Array.from({ length: k }, (_, i) => (n - i) / (i + 1)).reduce((a, b) => a * b, 1);

/** Share of a slip's rate that one set of contacts has: those side by side are likelier by far. */
function shareOfSet(set: readonly number[], of: number): number {
  const sorted = [...set].sort((a, b) => a - b);
  const adjacent = sorted.every((c, i) => i === 0 || c - (sorted[i - 1] as number) === 1);
  const bySize = 2 ** -(set.length - LISTED);
  return (adjacent ? 0.5 / (of - set.length + 1) : 0.5 / choose(of, set.length)) * Math.max(bySize, 0.1);
}

/** What readings show joined, or open, together: one cause at either end or along the cable. */
export function seenTogether(
  expected: LinkExpectation,
  frame: Frame,
  readings: readonly Reading[],
  places: readonly CablePlace[],
  practice: Practice,
): PhysicalFault[] {
  const joined = setsOf(readings, (reading) => joinedIn(frame, reading), LISTED + 1);
  const open = setsOf(readings, (reading) => openIn(frame, reading), LISTED);
  const of = frame.contacts.near.length;
  const rated = (slip: SlipKind, set: readonly number[]): number =>
    practice.rates[slip] * shareOfSet(set, of);
  const atEnds = (
    slip: SlipKind,
    sets: readonly SeenSet[],
    way: (bench: EndBench, at: readonly number[]) => Way,
  ): PhysicalFault[] =>
    (['near', 'far'] as const).flatMap((end) => {
      const bench = new EndBench(expected, frame, end);
      return unique(sets.map((set) => set[end])).map((at) =>
        faultAtEnd(bench, slip, way(bench, at), rated(slip, at)),
      );
    });
  const along = (
    slip: SlipKind,
    sets: readonly SeenSet[],
    way: (at: readonly number[], atM: number) => Way,
  ): PhysicalFault[] =>
    unique(sets.flatMap((set) => [wiresOf(frame, 'near', set), wiresOf(frame, 'far', set)])).flatMap(
      (wires) =>
        places.map(({ atM, share }) =>
          faultAlongCable(expected, frame, slip, way(wires, atM ?? NaN), atM, rated(slip, wires) * share),
        ),
    );
  return [
    ...atEnds('several-touching', joined, (bench, at) => ({
      kind: 'short',
      contacts: at,
      effects: at.slice(1).map((b, i) => bench.bridge(at[i] as number, b)),
    })),
    ...along('crushed', joined, (at, atM) => ({
      kind: 'short',
      contacts: at,
      effects: at.slice(1).map((b, i) => ({ does: 'join', a: at[i] as number, b, atM })),
    })),
    ...atEnds('several-unseated', open, (bench, at) => ({
      kind: 'open',
      contacts: at,
      effects: at.map((c) => bench.seat(c, OPEN)),
    })),
    ...along('partly-cut', open, (at, atM) => ({
      kind: 'open',
      contacts: at,
      effects: [{ does: 'core', conductors: at, condition: OPEN, atM }],
    })),
  ];
}

/** Contacts that a reading shows together, as each end has them: where an order is wrong those are not of the same wires. */
type SeenSet = Readonly<Record<LinkEnd, readonly number[]>>;

const unique = (sets: readonly (readonly number[])[]): (readonly number[])[] => [
  ...new Map(sets.filter((set) => set.length >= LISTED).map((set) => [set.join(), set])).values(),
];

/** The conductors meant for the contacts of a set at one end. */
const wiresOf = (frame: Frame, end: LinkEnd, set: SeenSet): readonly number[] =>
  set[end].map((c) => frame.intended[end][c] as number).filter((w) => w >= 0);

/** Contacts of the near end, and those of the far end that the same conductors are meant for. */
const asMeant = (frame: Frame, near: readonly number[]): SeenSet => ({
  near,
  far: near.map((c) => frame.intended.far.indexOf(frame.intended.near[c] as number)).filter((c) => c >= 0),
});

function setsOf(readings: readonly Reading[], of: (reading: Reading) => SeenSet[], least: number): SeenSet[] {
  const sets = readings.flatMap(of).filter(({ near, far }) => Math.max(near.length, far.length) >= least);
  return [...new Map(sets.map((set) => [`${set.near.join()}/${set.far.join()}`, set])).values()];
}

/**
 * Contacts that a reading shows joined, each group and all of them where there are several: as they are meant to hang
 * together, and as a map has them arrive.
 */
function joinedIn(frame: Frame, reading: Reading): SeenSet[] {
  const sets = new DisjointSets<number>();
  const near = frame.contacts.near;
  const nearOf = (end: LinkEnd, contact: ContactId): number => {
    if (end === 'near') return frame.contactIndex('near', contact);
    return frame.intended.near.indexOf(frame.intended.far[frame.contactIndex('far', contact)] as number);
  };
  if (isMapReading(reading)) {
    for (const group of closeMap(reading).joins)
      for (const c of group.slice(1)) sets.join(nearOf('near', group[0] as string), nearOf('near', c));
  } else if (reading.instrument === 'beeper' || reading.instrument === 'ohmmeter') {
    for (const { from, to, joined, closed } of reading.touches) {
      if (!closed || joined?.length || from.contacts.length !== 1 || to.contacts.length !== 1) continue;
      const [a, b] = [nearOf(from.end, from.contacts[0] as string), nearOf(to.end, to.contacts[0] as string)];
      if (a >= 0 && b >= 0) sets.join(a, b);
    }
  } else return [];
  const groups = new Map<number, number[]>();
  near.forEach((_, c) => groups.set(sets.find(c), [...(groups.get(sets.find(c)) ?? []), c]));
  const several = [...groups.values()].filter((group) => group.length > 1);
  const all = several.length > 1 ? [...several, several.flat().sort((a, b) => a - b)] : several;
  return all.flatMap((group) => {
    const meant = asMeant(frame, group);
    return isMapReading(reading)
      ? [meant, { near: group, far: reachedFrom(frame, reading, group) }]
      : [meant];
  });
}

/** Far contacts that a map has some near ones arrive at. */
function reachedFrom(frame: Frame, reading: MapReading, near: readonly number[]): number[] {
  const { arrivals } = closeMap(reading);
  const reached = near.flatMap((c) => arrivals[frame.contacts.near[c] as string] ?? []);
  return frame.contacts.far.flatMap((contact, f) => (reached.includes(contact) ? [f] : []));
}

/** Contacts that a reading shows going nowhere, and of a map those that nothing arrives at. */
function openIn(frame: Frame, reading: Reading): SeenSet[] {
  if (isMapReading(reading)) {
    const near = frame.contacts.near.flatMap((contact, c) =>
      (reading.arrivals[contact] ?? []).length === 0 && (frame.intended.near[c] as number) >= 0 ? [c] : [],
    );
    const reached = reachedFrom(
      frame,
      reading,
      frame.contacts.near.map((_, c) => c),
    );
    const far = frame.contacts.far.flatMap((_, f) =>
      reached.includes(f) || (frame.intended.far[f] as number) < 0 ? [] : [f],
    );
    return [asMeant(frame, near), { near, far }];
  }
  if (reading.instrument === 'beeper' || reading.instrument === 'ohmmeter') {
    const near = reading.touches.flatMap(({ from, to, closed }) =>
      !closed &&
      from.end === 'near' &&
      to.end === 'far' &&
      from.contacts.length === 1 &&
      to.contacts.length === 1
        ? [frame.contactIndex('near', from.contacts[0] as string)]
        : [],
    );
    return [asMeant(frame, near)];
  }
  return [];
}

/** How far plans miss the length when they miss it, as a deviation of its logarithm. */
const PLAN_MISS = 0.35;

/** The farthest open end of any pair: what stops the others nearer hides how long they are. */
function farthestOpen({ pairs }: EchoReading): number {
  const ends = Object.values(pairs).flatMap((events) => events.slice(-1));
  return Math.max(0, ...ends.flatMap(({ kind, distanceM }) => (kind === 'open' ? [distanceM] : [])));
}

/**
 * The cable as long as its pairs together, or the one that goes farthest, or its ohms say it is, where that is not what
 * the plan has.
 */
export function otherLengths(
  expected: LinkExpectation,
  frame: Frame,
  readings: readonly Reading[],
  practice: Practice,
): PhysicalFault[] {
  const ends = readings.flatMap((reading) => {
    if (reading.instrument === 'ohmmeter') return lengthsByOhms(frame, reading);
    if (reading.instrument === 'capacitance-meter') return [wholeM(frame, reading) ?? 0];
    if (reading.instrument !== 'pair-reflectometer') return [];
    const [common, farthest] = [commonEnd(reading, frame.pairs[reading.from].length), farthestOpen(reading)];
    // Where most end together and one goes on, something stops those.
    return common === null || !distancesAgree(common, farthest) ? [common ?? 0, farthest] : [common];
  });
  // What two readings tell of one length is one length.
  const lengths = ends
    .filter((lengthM) => lengthM > 2)
    .reduce<number[]>((kept, m) => (kept.some((k) => distancesAgree(k, m)) ? kept : [...kept, m]), []);
  return lengths.flatMap((lengthM) => {
    const miss = Math.log(lengthM / frame.lengthM);
    if (Math.abs(miss) < 0.05) return [];
    // What the deviation of the length model does not reach is a step of its own width.
    const width = (2.5 * distanceDeviationM(lengthM)) / lengthM + 0.06;
    const density = Math.exp(-0.5 * (miss / PLAN_MISS) ** 2) / (PLAN_MISS * Math.sqrt(2 * Math.PI));
    return [
      fault(
        {
          kind: 'length',
          slip: 'wrong-length',
          variant: lengthM.toFixed(1),
          end: 'cable',
          contacts: [],
          conductors: [],
          pairs: [],
          distanceM: null,
          rate: practice.rates['wrong-length'] * density * width,
          effects: [{ does: 'length', lengthM }],
        },
        expected,
      ),
    ];
  });
}
