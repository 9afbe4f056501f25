import { drawNormal, type Random } from '../../quantities/random.js';
import { INSTRUMENTS } from '../instruments.js';
import type { Frame, FramePair } from '../frame.js';
import { LOOSE, OPEN, type LinkState, type Short } from '../link-state.js';
import type { EchoEvent, EchoReading } from '../readings.js';
import type { LinkEnd } from '../true-link.js';
import { drawLoose, type Likelihood, type Observer } from './observer.js';

const { errors } = INSTRUMENTS['pair-reflectometer'];
/** Disturbances on the way are soft and easily overlooked. */
const SOFT_MISSED = 0.08;
/** Where a splice parts a pair its impedance rises on the way: seen by few who do not look for it. */
const FAINT_SEEN = 0.3;
/** How far off a distance is read: the edge's own spread, and the loss that rounds it. */
export const distanceDeviationM = (distanceM: number): number => 0.25 + 0.008 * distanceM;
/** How well a seen distance is known: a trace brings its own, what is read off a display is good to the usual. */
const deviationOf = ({ uM, distanceM }: EchoEvent, atM = distanceM): number =>
  uM === undefined ? distanceDeviationM(atM) : Math.hypot(LEAST_M, uM);

/** Where a lead ends and a link begins is known no better. */
const LEAST_M = 0.15;
/** The planned length and the velocity factor together miss the measured length by this share. */
export const LENGTH_DEVIATION = 0.035;
/** The share as a few steps, with their weights, for adding up over it. */
const LENGTH_STEPS: readonly { scale: number; weight: number }[] = [
  -2.4, -1.8, -1.2, -0.6, 0, 0.6, 1.2, 1.8, 2.4,
].map((step) => ({ scale: 1 + step * LENGTH_DEVIATION, weight: Math.exp(-0.5 * step * step) }));
const LENGTH_WEIGHT = LENGTH_STEPS.reduce((sum, { weight }) => sum + weight, 0);

/**
 * An echo a pair should give. Where it lies by the length of the cable, at the other end or at a place counted from
 * there, the length itself is in doubt.
 */
interface Expected {
  kind: EchoEvent['kind'];
  distanceM: number;
  /** How many times the length is in the distance: an error of a metre in the length moves it by so many. */
  lengths: 0 | 1;
  /** May lie anywhere on the way, and is seldom seen. */
  anywhere?: true;
}

/** Reflectometer per pair, the other end left open: disturbances on the way, then the first end of the pair. */
export const echoObserver: Observer<EchoReading> = {
  read({ frame, state }, { end }, random) {
    const loose = drawLoose(state, random);
    const scale = random ? 1 + LENGTH_DEVIATION * clamp(drawNormal(random)) : 1;
    const pairs = frame.pairs[end].map((pair) => {
      const events = expectEchoes(frame, state, end, pair, loose).flatMap(
        ({ kind, distanceM, lengths, anywhere }) =>
          anywhere
            ? []
            : [{ kind, distanceM: Math.max(0, distanceM + lengths * (scale - 1) * state.lengthM) }],
      );
      return [pair.name, random ? blur(events, frame.lengthM, random) : events] as const;
    });
    return {
      instrument: 'pair-reflectometer',
      from: end,
      pairs: Object.fromEntries(
        pairs.map(([name, events]) => [
          name,
          events.map((e) => ({ kind: e.kind, distanceM: Math.round(e.distanceM * 10) / 10 })),
        ]),
      ),
    };
  },
  likelihood: (frame, reading, group) => new EchoLikelihood(frame, reading, group),
  grouped: (frame) => frame.paired,
};

const clamp = (steps: number): number => Math.max(-2.4, Math.min(2.4, steps));

function blur(events: readonly EchoEvent[], lengthM: number, random: Random): EchoEvent[] {
  const seen = events.flatMap((event): EchoEvent[] => {
    const soft = event.kind === 'low' || event.kind === 'high';
    if (random() < (soft ? SOFT_MISSED : errors.missed)) return [];
    const off = distanceDeviationM(event.distanceM) * drawNormal(random);
    return [{ kind: event.kind, distanceM: Math.max(0, event.distanceM + off) }];
  });
  if (random() < errors.ghost)
    seen.push({ kind: random() < 0.5 ? 'low' : 'high', distanceM: random() * lengthM });
  return seen.sort((a, b) => a.distanceM - b.distanceM);
}

/** What a pair should echo, nearest first, measured from the end where the instrument stands. */
function expectEchoes(
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
  from === 'near' ? { distanceM: atM, lengths: 0 } : { distanceM: lengthM - atM, lengths: 1 };

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
  const offer = (
    kind: 'open' | 'short',
    { distanceM, lengths }: Pick<Expected, 'distanceM' | 'lengths'>,
  ): void => {
    const nearer = distanceM < stop.distanceM || (distanceM === stop.distanceM && kind === 'short');
    // A place nobody knows stays unknown.
    if (!nearer && !Number.isNaN(distanceM)) return;
    stop = { kind, distanceM, lengths };
    atEnd = distanceM === lengthM;
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
    return far === 'near' || v < 0 ? v : cells.indexOf(v, at.splice) - at.splice;
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

const isStop = (kind: EchoEvent['kind']): kind is 'open' | 'short' => kind === 'open' || kind === 'short';

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

/** Logarithms of a match: what the length does not touch, and per step of the length. */
interface Aligned {
  fixed: number;
  perScale: readonly number[];
}

interface SeenPair {
  pair: FramePair;
  events: readonly EchoEvent[];
  /** By all that is expected, as a text; and of the planned length with nothing on the way, by where it stops. */
  known: Map<string, Aligned>;
  stops: Readonly<Record<'open' | 'short', readonly [Map<number, Aligned>, Map<number, Aligned>]>>;
  intact: Aligned | null;
}

const newSeen = (pair: FramePair, events: readonly EchoEvent[]): SeenPair => ({
  pair,
  events,
  known: new Map(),
  stops: { open: [new Map(), new Map()], short: [new Map(), new Map()] },
  intact: null,
});

const INTACT = (lengthM: number): Expected[] => [{ kind: 'open', distanceM: lengthM, lengths: 1 }];

/** Whether a pair is as intended as far as an echo from this end can tell: the quick way for most pairs of most links. */
function isIntact(frame: Frame, state: LinkState, from: LinkEnd, { a, b }: FramePair): boolean {
  if (state.wetAtM.length > 0 || state.cells[frame.at.equipment] !== 0) return false;
  if (state.lengthM !== frame.lengthM) return false;
  const { at } = frame;
  const { cells } = state;
  const seat = from === 'near' ? at.nearSeat : at.farSeat;
  const sound = (cell: number): boolean => cells[cell] !== OPEN && cells[cell] !== LOOSE;
  const straight = (c: number): boolean => {
    const v = cells[at[from] + c] as number;
    return (
      v >= 0 &&
      v === frame.intended[from][c] &&
      sound(seat + c) &&
      sound(at.core + v) &&
      cells[at.splice + v] === v
    );
  };
  if (!straight(a) || !straight(b)) return false;
  const [v, w] = [cells[at[from] + a] as number, cells[at[from] + b] as number];
  // What is pressed to neither of the two does not close them.
  for (const { where, a: c, b: d } of state.shorts) {
    const [x, y] = where === 'cable' ? [c, d] : [cells[at[where] + c], cells[at[where] + d]];
    if (x === v || x === w || y === v || y === w) return false;
    if (where === from && (c === a || c === b || d === a || d === b)) return false;
  }
  return frame.pairOf[v] === frame.pairOf[w];
}

class EchoLikelihood implements Likelihood {
  readonly best: number;
  readonly figures: number;
  private readonly seen: readonly SeenPair[];
  private readonly perScale = new Float64Array(LENGTH_STEPS.length);
  private readonly endsAlone: boolean;

  constructor(
    private readonly frame: Frame,
    private readonly reading: EchoReading,
    group?: number,
  ) {
    this.endsAlone = reading.by !== undefined;
    this.seen = frame.pairs[reading.from].flatMap((pair) => {
      const events = reading.pairs[pair.name];
      const elsewhere = group !== undefined && frame.group[reading.from][pair.a] !== group;
      return events && !elsewhere ? [newSeen(pair, events)] : [];
    });
    const events = this.seen.flatMap((pair) => pair.events);
    this.figures = events.length;
    this.best = events.reduce((sum, event) => sum - Math.log(deviationOf(event) * Math.sqrt(2 * Math.PI)), 0);
  }

  of(state: LinkState, openLoose: number): number {
    const { frame, reading, seen } = this;
    let fixed = 0;
    const { perScale } = this;
    perScale.fill(0);
    for (const one of seen) {
      const aligned = isIntact(frame, state, reading.from, one.pair)
        ? (one.intact ??= this.align(INTACT(frame.lengthM), one.events, frame.lengthM))
        : this.alignedAs(one, expectEchoes(frame, state, reading.from, one.pair, openLoose), state.lengthM);
      fixed += aligned.fixed;
      for (let i = 0; i < perScale.length; i++)
        perScale[i] = (perScale[i] as number) + (aligned.perScale[i] as number);
    }
    const top = Math.max(...perScale);
    let mean = 0;
    LENGTH_STEPS.forEach(({ weight }, i) => {
      mean += (weight / LENGTH_WEIGHT) * Math.exp((perScale[i] as number) - top);
    });
    return fixed + top + Math.log(mean);
  }

  /** The same few expectations come up for thousands of links: each is matched once. */
  private alignedAs(one: SeenPair, expected: readonly Expected[], lengthM: number): Aligned {
    const [only] = expected;
    if (expected.length === 1 && only && lengthM === this.frame.lengthM && isStop(only.kind)) {
      const stops = one.stops[only.kind][only.lengths];
      let stopped = stops.get(only.distanceM);
      if (!stopped) stops.set(only.distanceM, (stopped = this.align(expected, one.events, lengthM)));
      return stopped;
    }
    let key = `${lengthM}`;
    for (const { kind, distanceM, lengths, anywhere } of expected)
      key += `${kind}${distanceM}${anywhere ? 'a' : lengths ? 'e' : ','}`;
    let aligned = one.known.get(key);
    if (!aligned) one.known.set(key, (aligned = this.align(expected, one.events, lengthM)));
    return aligned;
  }

  /**
   * Matches echoes in order, kind by kind. What was expected and is missing, or is there unexpected,
   * has its price. Echoes that hang on the length go into `perScale`, one sum for each step of the length.
   */
  private align(expected: readonly Expected[], seen: readonly EchoEvent[], lengthM: number): Aligned {
    const perScale = LENGTH_STEPS.map(() => 0);
    let log = Math.log(1 - errors.ghost);
    const free = [...seen];
    for (const event of expected) {
      const soft = event.kind === 'low' || event.kind === 'high';
      // A meter's figure says where a pair ends, and nothing of what is softer.
      if (soft && this.endsAlone) continue;
      if (event.anywhere) {
        log += this.anywhere(event, free);
        continue;
      }
      const rate = soft ? SOFT_MISSED : errors.missed;
      // A place nobody knows is none of the places the reading shows: those are tried one by one.
      const match = Number.isNaN(event.distanceM) ? -1 : this.nearest(event, free);
      // Every pair ends somewhere: where no end is among what was seen, it was not told.
      if (match < 0 && !soft && !seen.some(({ kind }) => kind === 'open' || kind === 'short')) continue;
      if (match < 0) {
        log += Math.log(rate);
        continue;
      }
      const [found] = free.splice(match, 1) as [EchoEvent];
      const otherwise = errors.wrong + (1 - (found.probability ?? 1)) / 3;
      log += Math.log(1 - rate) + Math.log(found.kind === event.kind ? 1 - otherwise : otherwise);
      const deviation = deviationOf(found, event.distanceM || found.distanceM || 0.1);
      const density = (meanM: number): number =>
        Math.max(-30, -0.5 * ((found.distanceM - meanM) / deviation) ** 2) -
        Math.log(deviation * Math.sqrt(2 * Math.PI));
      if (event.lengths > 0)
        LENGTH_STEPS.forEach(({ scale }, i) => {
          perScale[i] =
            (perScale[i] as number) + density(Math.max(0, event.distanceM + (scale - 1) * lengthM));
        });
      else log += density(event.distanceM);
    }
    return { fixed: log + free.length * Math.log(errors.ghost / this.frame.lengthM), perScale };
  }

  /** Logarithm for an echo that may be seen anywhere on the way, or not; takes it from the free ones if it is. */
  private anywhere({ kind }: Expected, free: EchoEvent[]): number {
    const found = free.findIndex((echo) => echo.kind === kind);
    if (found < 0) return Math.log(1 - FAINT_SEEN);
    free.splice(found, 1);
    return Math.log(FAINT_SEEN / this.frame.lengthM);
  }

  /** The seen echo that an expected one would be: of its kind where there is one, the nearest. */
  private nearest(event: Expected, seen: readonly EchoEvent[]): number {
    let best = -1;
    let least = Infinity;
    seen.forEach((echo, i) => {
      const off = Math.abs(echo.distanceM - event.distanceM);
      const soft = (kind: EchoEvent['kind']): boolean => kind === 'low' || kind === 'high';
      if (soft(echo.kind) !== soft(event.kind)) return;
      const price = off + (echo.kind === event.kind ? 0 : 1000);
      if (price < least) [best, least] = [i, price];
    });
    return best;
  }
}
