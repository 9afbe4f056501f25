import type { Frame, FramePair } from '../frame.js';
import { LOOSE, OPEN, type LinkState, type Short } from '../link-state.js';
import type { EchoEvent } from '../readings.js';
import type { LinkEnd } from '../true-link.js';

/**
 * An echo a pair should give. Where it lies by the length of the cable, at the other end or at a place counted from
 * there, the length itself is in doubt.
 */
export interface Expected {
  kind: EchoEvent['kind'];
  distanceM: number;
  /** How many times the length is in the distance: an error of a metre in the length moves it by so many. */
  lengths: 0 | 1;
  /** May lie anywhere on the way, and is seldom seen. */
  anywhere?: true;
  /** How likely this is the stop, where what stops the pair at a place nobody knows may lie before it or behind; 1 if left out. */
  share?: number;
}

/** What a pair should echo, nearest first, measured from the end where the instrument stands. */
export function expectEchoes(
  frame: Frame,
  state: LinkState,
  from: LinkEnd,
  pair: FramePair,
  openLoose: number,
): Expected[] {
  const { at } = frame;
  const { cells, lengthM } = state;
  const seat = from === 'near' ? at.nearSeat : at.farSeat;
  const closed = (c: number): boolean => {
    const condition = cells[seat + c] as number;
    return condition !== OPEN && !(condition === LOOSE && looseIsOpen(state, seat + c, openLoose));
  };
  const wireAt = (c: number): number => {
    if (!closed(c)) return -1;
    const v = cells[at[from] + c] as number;
    return from === 'near' || v < 0 ? v : cells.indexOf(v, at.splice) - at.splice;
  };
  const [a, b] = [wireAt(pair.a), wireAt(pair.b)];
  const twistAt = (c: number): number | undefined => frame.pairOf[cells[at[from] + c] as number];
  const bridged = state.shorts.find((s) => s.where === from);
  if (bridged && isPressed(state.shorts, bridged, pair.a, pair.b))
    return [{ kind: 'short', distanceM: 0, lengths: 0 }];
  if (a < 0 || b < 0) return [{ kind: 'open', distanceM: 0, lengths: 0 }];
  const stop = firstStop(frame, state, from, a, b, openLoose);
  const onTheWay = state.wetAtM
    .map((atM): Expected => ({ kind: 'low', ...fromHere(lengthM, from, atM) }))
    .filter((event) => !(event.distanceM >= stop.distanceM));
  // Two wires that are no pair here: high from the start. That a splice parts a pair shows from the splice on.
  if (twistAt(pair.a) !== twistAt(pair.b)) onTheWay.push({ kind: 'high', distanceM: 0, lengths: 0 });
  else if (isParted(frame, state, from, a, b))
    onTheWay.push({ kind: 'high', distanceM: NaN, lengths: 0, anywhere: true });
  onTheWay.sort((x, y) => x.distanceM - y.distanceM);
  return [...onTheWay, stop];
}

const fromHere = (lengthM: number, from: LinkEnd, atM: number): Pick<Expected, 'distanceM' | 'lengths'> =>
  // A place beyond a cable that is shorter than was thought is at its end.
  from === 'near' ? { distanceM: atM, lengths: 0 } : { distanceM: Math.max(0, lengthM - atM), lengths: 1 };

/** Whether two conductors, by their names at the near end, are a pair at this end and none at the other. */
function isParted({ pairOf, at }: Frame, { cells }: LinkState, from: LinkEnd, a: number, b: number): boolean {
  const beyond = (v: number): number | undefined =>
    pairOf[from === 'near' ? (cells[at.splice + v] as number) : v];
  return beyond(a) !== beyond(b);
}

/** Where the pair ends, as seen from here. At one distance a short decides: it closes the pair before its end can echo. */
function firstStop(
  frame: Frame,
  state: LinkState,
  from: LinkEnd,
  a: number,
  b: number,
  openLoose: number,
): Expected {
  const { at } = frame;
  const { cells, lengthM } = state;
  const end = { distanceM: lengthM, lengths: 1 } as const;
  let stop: Expected = { kind: 'open', ...end };
  let atEnd = true;
  let unknown: Expected | null = null;
  const offer = (
    kind: 'open' | 'short',
    { distanceM, lengths }: Pick<Expected, 'distanceM' | 'lengths'>,
  ): void => {
    // The first of two that lie nobody knows where is taken: which is nearer nobody knows either.
    if (Number.isNaN(distanceM)) unknown ??= { kind, distanceM, lengths };
    else if (distanceM < stop.distanceM || (distanceM === stop.distanceM && kind === 'short')) {
      stop = { kind, distanceM, lengths };
      atEnd = distanceM === lengthM;
    }
  };
  for (const v of [a, b]) {
    const condition = cells[at.core + v] as number;
    if (condition === OPEN || (condition === LOOSE && looseIsOpen(state, at.core + v, openLoose))) {
      const atM = from === 'near' ? state.coreAtM[v] : state.coreToM[v];
      offer('open', fromHere(lengthM, from, atM as number));
    }
  }
  const far: LinkEnd = from === 'near' ? 'far' : 'near';
  const wireAtFar = (c: number): number => {
    const v = cells[at[far] + c] as number;
    if (far === 'near' || v < 0 || cells[at.splice + v] === v) return v;
    return cells.indexOf(v, at.splice) - at.splice;
  };
  const { shorts } = state;
  for (let i = 0; i < shorts.length; i++) {
    const short = shorts[i] as Short;
    if (short.where === from || isAgain(shorts, i)) continue;
    if (short.where === 'cable') {
      if (isPressed(shorts, short, a, b)) offer('short', fromHere(lengthM, from, short.atM));
    } else {
      const here = frame.contacts[far].findIndex((_, c) => wireAtFar(c) === a);
      if (here >= 0 && touching(shorts, short, here).some((c) => wireAtFar(c) === b)) offer('short', end);
    }
  }
  const there = from === 'near' ? 2 : 1;
  const paired = frame.pairs[far].some(({ a: c, b: d }) => sameTwo(wireAtFar(c), wireAtFar(d), a, b));
  // What lies nobody knows where is met before the end; before a place that is known, or hidden behind it.
  if (unknown && atEnd) return unknown;
  if (unknown) return { ...stop, share: Math.max(0, 1 - stop.distanceM / lengthM) };
  // Equipment's transformer closes the pair where it arrives as a pair.
  if (atEnd && paired && ((cells[at.equipment] as number) & there) !== 0) stop = { kind: 'short', ...end };
  return stop;
}

/** Whether a join lies where an earlier one does: whatever is pressed together there is found from that one. */
function isAgain(shorts: readonly Short[], at: number): boolean {
  for (let i = 0; i < at; i++) if (isAt(shorts[at] as Short, shorts[i] as Short)) return true;
  return false;
}

const isAt = ({ where, atM }: Pick<Short, 'where' | 'atM'>, other: Short): boolean =>
  where === other.where && (where !== 'cable' || Object.is(atM, other.atM));

/** Whether two contacts or conductors are pressed together at the place of a join, be it through others. */
function isPressed(shorts: readonly Short[], short: Short, a: number, b: number): boolean {
  if (sameTwo(short.a, short.b, a, b)) return true;
  return shorts.length > 1 && touching(shorts, short, a).includes(b);
}

/** What is pressed to one contact or conductor, itself among it, at the place of a join: through others that touch both there too. */
function touching(shorts: readonly Short[], at: Short, one: number): readonly number[] {
  const reached = [one];
  for (const from of reached)
    for (const s of shorts) {
      if (!isAt(at, s)) continue;
      const to = s.a === from ? s.b : s.b === from ? s.a : null;
      if (to !== null && !reached.includes(to)) reached.push(to);
    }
  return reached;
}

const sameTwo = (a: number, b: number, x: number, y: number): boolean =>
  (a === x && b === y) || (a === y && b === x);

/** Whether a loose joint is among those open just now; bits count loose joints in the order of the cells. */
function looseIsOpen(state: LinkState, cell: number, openLoose: number): boolean {
  if (openLoose === 0) return false;
  const { nearSeat, splice } = state.frame.at;
  let bit = 0;
  for (let i = nearSeat; i < splice && i < cell; i++) if (state.cells[i] === LOOSE) bit++;
  return ((openLoose >> bit) & 1) === 1;
}

export const INTACT = (lengthM: number): Expected[] => [{ kind: 'open', distanceM: lengthM, lengths: 1 }];

/** Whether a joint or conductor may stop an echo. */
const isOff = (condition: number): boolean => condition === OPEN || condition === LOOSE;

/** Whether a pair is as intended as far as an echo from this end can tell: the quick way for most pairs of most links. */
export function isIntact(frame: Frame, state: LinkState, from: LinkEnd, { a, b }: FramePair): boolean {
  if (state.wetAtM.length > 0 || state.cells[frame.at.equipment] !== 0) return false;
  if (state.lengthM !== frame.lengthM) return false;
  const { at } = frame;
  const { cells } = state;
  const seat = from === 'near' ? at.nearSeat : at.farSeat;
  const v = cells[at[from] + a] as number;
  const w = cells[at[from] + b] as number;
  if (v < 0 || v !== frame.intended[from][a] || w < 0 || w !== frame.intended[from][b]) return false;
  if (isOff(cells[seat + a] as number) || isOff(cells[seat + b] as number)) return false;
  if (isOff(cells[at.core + v] as number) || isOff(cells[at.core + w] as number)) return false;
  if (cells[at.splice + v] !== v || cells[at.splice + w] !== w) return false;
  // What is pressed to neither of the two does not close them.
  for (const { where, a: c, b: d } of state.shorts) {
    const [x, y] = where === 'cable' ? [c, d] : [cells[at[where] + c], cells[at[where] + d]];
    if (x === v || x === w || y === v || y === w) return false;
    if (where === from && (c === a || c === b || d === a || d === b)) return false;
  }
  return frame.pairOf[v] === frame.pairOf[w];
}
