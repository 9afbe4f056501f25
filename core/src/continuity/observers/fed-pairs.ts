import type { Random } from '../../quantities/random.js';
import type { Frame } from '../frame.js';
import { INSTRUMENTS } from '../instruments.js';
import type { LinkState } from '../link-state.js';
import { Metal } from '../metal.js';
import { FED_SETS, type FedPairs, type FedSet, type PowerReading, type FedAs } from '../readings.js';
import type { LinkEnd } from '../true-link.js';
import { drawLoose, openFrom, type Likelihood, type Observer } from './observer.js';

const { errors, thresholdOhm } = INSTRUMENTS['power-tester'];
/** A supply that is there feeds nothing just now: switched off, at its limit, not agreed with (typical). */
const OFF = 0.04;
/** Two pairs shorted: a supply of all four goes off whole, by this share, else of the set alone (typical). */
const WHOLE_OFF = 0.7;
/** It feeds other pairs than somebody says (typical). */
const TOLD_WRONG = 0.06;
/** What feeds where nobody knows (typical). */
const UNKNOWN: Readonly<Record<FedPairs, number>> = { a: 0.4, b: 0.3, both: 0.3 };
/** How often the first pair of a set is at plus: on 1-2 and 3-6 the standard leaves it open, on 4-5 and 7-8 hardly. */
const FIRST_AT_PLUS: Readonly<Record<FedSet, number>> = { a: 0.5, b: 0.95 };

/** A supply as it may be: at which voltage it holds the first pair of each set, against the second; and how often it is so. */
interface Supply {
  sign: Readonly<Record<FedSet, -1 | 0 | 1>>;
  /** One set that is shorted takes the other with it. */
  whole: boolean;
  share: number;
}

function suppliesOf(feeds: FedPairs | null): Supply[] {
  const kinds = Object.keys(UNKNOWN) as FedPairs[];
  const shareOf = (kind: FedPairs): number =>
    feeds === null ? UNKNOWN[kind] : TOLD_WRONG * UNKNOWN[kind] + (kind === feeds ? 1 - TOLD_WRONG : 0);
  const signs = (set: FedSet, kind: FedPairs): { sign: -1 | 0 | 1; share: number }[] =>
    kind === set || kind === 'both'
      ? [
          { sign: 1, share: FIRST_AT_PLUS[set] },
          { sign: -1, share: 1 - FIRST_AT_PLUS[set] },
        ]
      : [{ sign: 0, share: 1 }];
  const on = kinds.flatMap((kind) =>
    signs('a', kind).flatMap((a) =>
      signs('b', kind).flatMap((b) =>
        [true, false].map((whole): Supply => {
          const share = shareOf(kind) * a.share * b.share;
          return {
            sign: { a: a.sign, b: b.sign },
            whole,
            share: (1 - OFF) * share * (whole ? WHOLE_OFF : 1 - WHOLE_OFF),
          };
        }),
      ),
    ),
  );
  return [...on, { sign: { a: 0, b: 0 }, whole: true, share: OFF }];
}

const SETS: readonly FedSet[] = ['a', 'b'];
const seenFrom = <T>(end: LinkEnd, { near, far }: Readonly<Record<LinkEnd, T>>): { here: T; there: T } =>
  end === 'near' ? { here: near, there: far } : { here: far, there: near };
const ofSign = (sign: number): FedAs => (sign > 0 ? 'plus' : sign < 0 ? 'minus' : 'none');

/** Of each of the four pairs at an end, 1-2, 3-6, 4-5 and 7-8, its contacts by their places there. */
const pairsAt = (frame: Frame, end: LinkEnd): readonly (readonly number[])[] =>
  SETS.flatMap((set) =>
    FED_SETS[set].map((pair) =>
      pair.map((contact) => frame.contactIndex(end, contact)).filter((contact) => contact >= 0),
    ),
  );

/** What hangs together once both wires of each pair are one, at the supply and here, as windings make them: a number for each of the four pairs. */
function islandsOf(frame: Frame, metal: Metal): Record<LinkEnd, (number | undefined)[]> {
  const parent = new Map<number, number>();
  const top = (label: number): number => {
    let at = label;
    for (let up = parent.get(at); up !== undefined; up = parent.get(at)) at = up;
    return at;
  };
  const labelled = (end: LinkEnd): number[][] =>
    pairsAt(frame, end).map((pair) => pair.map((contact) => metal[end][contact] as number));
  const labels = { near: labelled('near'), far: labelled('far') };
  for (const [first, second] of [...labels.near, ...labels.far]) {
    if (first === undefined || second === undefined) continue;
    const [a, b] = [top(first), top(second)];
    if (a !== b) parent.set(a, b);
  }
  const islands = (end: LinkEnd): (number | undefined)[] =>
    labels[end].map(([first]) => (first === undefined ? undefined : top(first)));
  return { near: islands('near'), far: islands('far') };
}

/** What a tester that is free of error shows. */
function shownOn(
  { here, there }: { here: readonly (number | undefined)[]; there: readonly (number | undefined)[] },
  { sign, whole }: Supply,
): Record<FedSet, FedAs> {
  const ofSet = (set: FedSet): { plus: number | undefined; minus: number | undefined } | null => {
    const at = set === 'a' ? 0 : 2;
    const [first, second] = [there[at], there[at + 1]];
    if (sign[set] === 0) return null;
    return sign[set] > 0 ? { plus: first, minus: second } : { plus: second, minus: first };
  };
  const isShorted = (feeds: readonly ReturnType<typeof ofSet>[]): boolean =>
    feeds.some((one) => feeds.some((two) => one && two && one.plus === two.minus));
  // Whatever joins plus and minus puts out what feeds it; the other set may hold.
  let feeds = SETS.map(ofSet);
  if (isShorted(feeds)) feeds = whole ? [] : feeds.filter((feed) => !isShorted([feed]));
  if (isShorted(feeds)) feeds = [];
  const railOf = (island: number | undefined): number =>
    island === undefined
      ? 0
      : feeds.some((feed) => feed?.plus === island)
        ? 1
        : feeds.some((feed) => feed?.minus === island)
          ? -1
          : 0;
  const showing = (at: number): FedAs => {
    const [first, second] = [railOf(here[at]), railOf(here[at + 1])];
    return first * second < 0 ? ofSign(first) : 'none';
  };
  return { a: showing(0), b: showing(2) };
}

/** Which pairs are fed, plugged in where the device would be while the other end is at its supply. */
export const powerObserver: Observer<PowerReading> = {
  read({ frame, state }, { end, plan }, random) {
    const asked = plan?.instrument === 'power-tester' ? plan : null;
    const at = asked?.end ?? end;
    const feeds = asked ? asked.feeds : 'both';
    const metal = new Metal(frame).solve(state, openFrom(thresholdOhm), drawLoose(state, random));
    const supply: Supply = random
      ? drawnOf(suppliesOf(feeds), random)
      : { sign: { a: feeds === 'b' ? 0 : 1, b: feeds === 'a' ? 0 : 1 }, whole: true, share: 1 };
    const ideal = shownOn(seenFrom(at, islandsOf(frame, metal)), supply);
    const shows = (set: FedSet): FedAs => (random ? misread(ideal[set], random) : ideal[set]);
    return { instrument: 'power-tester', end: at, feeds, sets: { a: shows('a'), b: shows('b') } };
  },
  likelihood: (frame, reading) => new FedLikelihood(frame, reading),
  grouped: () => false,
};

function drawnOf(supplies: readonly Supply[], random: Random): Supply {
  let left = random();
  return supplies.find(({ share }) => (left -= share) < 0) ?? (supplies[supplies.length - 1] as Supply);
}

function misread(ideal: FedAs, random: Random): FedAs {
  const draw = random();
  if (ideal === 'none') return draw < errors.ghost ? ofSign(random() - 0.5) : 'none';
  if (draw < errors.missed) return 'none';
  return draw > 1 - errors.wrong ? (ideal === 'plus' ? 'minus' : 'plus') : ideal;
}

const chanceOf = (seen: FedAs, ideal: FedAs): number => {
  if (ideal === 'none') return seen === 'none' ? 1 - errors.ghost : errors.ghost / 2;
  if (seen === 'none') return errors.missed;
  return seen === ideal ? 1 - errors.missed - errors.wrong : errors.wrong;
};

class FedLikelihood implements Likelihood {
  readonly best: number;
  private readonly metal: Metal;
  private readonly supplies: readonly Supply[];

  constructor(
    private readonly frame: Frame,
    private readonly reading: PowerReading,
  ) {
    this.metal = new Metal(frame);
    this.supplies = suppliesOf(reading.feeds);
    this.best = this.bestOf();
  }

  /** Over every way that the supply's four pairs can come to the tester's: none, or each to one. */
  private bestOf(): number {
    const none = 4;
    const arrive = (taken: readonly number[]): number => {
      if (taken.length === 4)
        return this.over(({ sign }) => {
          const at = (n: number): number => {
            const from = taken[n] as number;
            return from === none ? 0 : (from < 2 ? sign.a : sign.b) * (from % 2 === 0 ? 1 : -1);
          };
          const shows = (first: number): FedAs =>
            at(first) * at(first + 1) < 0 ? ofSign(at(first)) : 'none';
          return { a: shows(0), b: shows(2) };
        });
      return Math.max(
        ...[0, 1, 2, 3, none]
          .filter((from) => from === none || !taken.includes(from))
          .map((from) => arrive([...taken, from])),
      );
    };
    return arrive([]);
  }

  private over(shown: (supply: Supply) => Readonly<Record<FedSet, FedAs>>): number {
    const { sets } = this.reading;
    let sum = 0;
    for (const supply of this.supplies) {
      const ideal = shown(supply);
      sum += supply.share * chanceOf(sets.a, ideal.a) * chanceOf(sets.b, ideal.b);
    }
    return Math.log(sum);
  }

  of(state: LinkState, openLoose: number): number {
    const metal = this.metal.solve(state, openFrom(thresholdOhm), openLoose);
    const islands = seenFrom(this.reading.end, islandsOf(this.frame, metal));
    return this.over((supply) => shownOn(islands, supply));
  }
}
