import { drawNormal, type Random } from '../../quantities/random.js';
import { INSTRUMENTS } from '../instruments.js';
import type { Frame, FramePair } from '../frame.js';
import type { LinkState } from '../link-state.js';
import type { EchoEvent, EchoReading } from '../readings.js';
import { expectEchoes, INTACT, isIntact, type Expected } from './echo-path.js';
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
/**
 * The share in steps, with their weights, for adding up over it: no wider apart than what several pairs that end
 * together leave of a distance, on links as long as most are.
 */
const LENGTH_STEPS: readonly { scale: number; weight: number }[] = Array.from({ length: 17 }, (_, i) => {
  const step = 0.3 * (i - 8);
  return { scale: 1 + step * LENGTH_DEVIATION, weight: Math.exp(-0.5 * step * step) };
});
const LENGTH_WEIGHT = LENGTH_STEPS.reduce((sum, { weight }) => sum + weight, 0);
const LENGTH_SHARES = Float64Array.from(LENGTH_STEPS, ({ weight }) => weight / LENGTH_WEIGHT);
/** A term this far below the greatest (logarithm) changes no digit of their sum. */
const NOTHING = -40;

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

const isStop = (kind: EchoEvent['kind']): kind is 'open' | 'short' => kind === 'open' || kind === 'short';

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
    let top = -Infinity;
    for (const sum of perScale) top = Math.max(top, sum);
    let mean = 0;
    for (let i = 0; i < perScale.length; i++) {
      const below = (perScale[i] as number) - top;
      if (below > NOTHING) mean += (LENGTH_SHARES[i] as number) * Math.exp(below);
    }
    return fixed + top + Math.log(mean);
  }

  /** The same few expectations come up for thousands of links: each is matched once. */
  private alignedAs(one: SeenPair, expected: readonly Expected[], lengthM: number): Aligned {
    const [only] = expected;
    const plain = only && only.share === undefined && lengthM === this.frame.lengthM;
    if (expected.length === 1 && plain && isStop(only.kind)) {
      const stops = one.stops[only.kind][only.lengths];
      let stopped = stops.get(only.distanceM);
      if (!stopped) stops.set(only.distanceM, (stopped = this.align(expected, one.events, lengthM)));
      return stopped;
    }
    let key = `${lengthM}`;
    for (const { kind, distanceM, lengths, anywhere, share } of expected)
      key += `${kind}${distanceM}${anywhere ? 'a' : lengths ? 'e' : ','}${share ?? ''}`;
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
      log += Math.log(Math.max(1e-3, event.share ?? 1));
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
