import type { Random } from '../../quantities/random.js';
import { INSTRUMENTS } from '../instruments.js';
import type { Frame, FramePair } from '../frame.js';
import type { LinkState } from '../link-state.js';
import { Metal } from '../metal.js';
import { closeMap, type MapReading } from '../readings.js';
import type { LinkEnd } from '../true-link.js';
import {
  openFrom,
  overThresholds,
  solved,
  type Likelihood,
  type Look,
  type LookSetting,
  type Observer,
} from './observer.js';

/** A split pair not noticed, and one noticed where there is none: typical of crosstalk measured in a hurry. */
const SPLIT_ERRORS = { missed: 0.01, ghost: 0.001 };
/** Logarithms of the chance that a pair is said to be split, and that it is not. */
const TWIST_LOG = {
  split: [Math.log(1 - SPLIT_ERRORS.missed), Math.log(SPLIT_ERRORS.missed)],
  whole: [Math.log(SPLIT_ERRORS.ghost), Math.log(1 - SPLIT_ERRORS.ghost)],
  unjudged: [Math.log(0.05), Math.log(0.95)],
} as const;
/** A lamp of two that a short should light stays dark. */
const DARK_OF_TWO = 0.12;

const LIT_LOG = Math.log(1 - DARK_OF_TWO);

/** Mappers with a coded remote, and lamps that step through the contacts at both ends. */
export const mapObserver = (instrument: MapReading['instrument']): Observer<MapReading> => ({
  read: (look, setting, random) => readMap(instrument, look, setting, random),
  likelihood: (frame, reading, group) => new MapLikelihood(frame, reading, group),
  grouped: () => true,
});

function readMap(
  instrument: MapReading['instrument'],
  look: Look,
  { plan }: LookSetting,
  random: Random | null,
): MapReading {
  const { thresholdOhm, errors } = INSTRUMENTS[instrument];
  const { frame, state } = look;
  const metal = solved(look, thresholdOhm, random);
  const { near, far } = frame.contacts;
  const errs = (rate: number): boolean => random !== null && random() < rate;
  const silent = near.map(() => errs(errors.missed));
  const arrivals = Object.fromEntries(
    near.map((contact, c) => {
      if (silent[c]) return [contact, []];
      const reached = far.filter((_, f) => metal.near[c] === metal.far[f]);
      if (reached.length === 1 && random && errs(errors.wrong))
        return [contact, [far[Math.floor(random() * far.length)] as string]];
      return [contact, reached];
    }),
  );
  const groups = near
    .map((_, c) => near.filter((_other, d) => metal.near[c] === metal.near[d] && !silent[d] && !silent[c]))
    .filter((group, c) => group.length > 1 && group[0] === near[c]);
  const earthed = plan && 'screenEarthed' in plan ? plan.screenEarthed : undefined;
  if (earthed === 'both-ends' && 'S' in arrivals && far.includes('S')) arrivals['S'] = ['S'];
  return {
    instrument,
    arrivals,
    // Stepping lamps show a near-end join only through the lamps it lights at the far end.
    joins: instrument === 'stepping-lamps' ? [] : groups,
    splits:
      instrument === 'coded-mapper-crosstalk'
        ? frame.pairs.near.flatMap((pair) => {
            const verdict = splitAt(frame, state, metal, pair);
            if (verdict === null) return [];
            return (verdict ? !errs(SPLIT_ERRORS.missed) : errs(SPLIT_ERRORS.ghost)) ? [pair.name] : [];
          })
        : null,
    ...(earthed ? { screenEarthed: earthed } : {}),
  };
}

/**
 * Whether the two near contacts of a pair are fed by two twisted pairs although the map is right
 * there. Null where the map is not right: no instrument judges twists through a wrong map.
 */
function splitAt(frame: Frame, state: LinkState, metal: Metal, { a, b }: FramePair): boolean | null {
  const [toA, toB] = [reachedBy(metal, a), reachedBy(metal, b)];
  if (toA < 0 || toB < 0 || frame.mate.far[toA] !== toB) return null;
  const { near } = frame.at;
  const [wireA, wireB] = [state.cells[near + a] as number, state.cells[near + b] as number];
  return frame.pairOf[wireA] !== frame.pairOf[wireB];
}

/** The one far contact a near contact reaches; -1 for none or several. */
function reachedBy(metal: Metal, contact: number): number {
  if (metal.simple) return metal.to[contact] as number;
  const label = metal.near[contact];
  const first = metal.far.indexOf(label as number);
  return first >= 0 &&
    metal.far.indexOf(label as number, first + 1) < 0 &&
    metal.near.indexOf(label as number) === metal.near.lastIndexOf(label as number)
    ? first
    : -1;
}

/** Label in the metal -> how many contacts bear it, and the one label that all of them have in the reading, -1 for several. */
interface Gathered {
  count: Int16Array;
  seen: Int16Array;
}

const gathered = (size: number): Gathered => ({ count: new Int16Array(size), seen: new Int16Array(size) });

function add({ count, seen }: Gathered, label: number, asSeen: number): void {
  if (count[label] === 0) seen[label] = asSeen;
  else if (seen[label] !== asSeen) seen[label] = -1;
  count[label] = (count[label] as number) + 1;
}

function countOf(labels: Int16Array, size: number): Int16Array {
  const count = new Int16Array(size);
  for (const label of labels) count[label] = (count[label] as number) + 1;
  return count;
}

class MapLikelihood implements Likelihood {
  readonly best: number;
  private readonly metal: Metal;
  private readonly openFrom: number;
  /** Near contact -> far contact, -1 for none, -2 where the reading does not speak of it. */
  private readonly seen: Int16Array;
  private readonly seenNear: Int16Array;
  private readonly seenFar: Int16Array;
  /** Label in the reading -> how many contacts of an end bear it. */
  private readonly seenCount: Readonly<Record<LinkEnd, Int16Array>>;
  private readonly gathered: Readonly<Record<'near' | 'far' | 'told', Gathered>>;
  /** Near contact -> whether the reading has it arrive nowhere and joined to nothing. */
  private readonly blank: readonly boolean[];
  private readonly simple: boolean;
  private readonly pairs: readonly FramePair[];
  private readonly seesJoins: boolean;
  /** Near contact -> the far contacts as the reading itself lists them. */
  private readonly listed: readonly (readonly number[])[];
  /** Whether each pair was said to be split; null where the instrument cannot say. */
  private readonly splits: readonly boolean[] | null;
  private readonly log: { hit: number; miss: number; ghost: number; wrong: number; dark: number };

  constructor(
    private readonly frame: Frame,
    reading: MapReading,
    group?: number,
  ) {
    const { thresholdOhm, errors } = INSTRUMENTS[reading.instrument];
    this.metal = new Metal(frame);
    this.openFrom = openFrom(thresholdOhm);
    this.seesJoins = reading.instrument !== 'stepping-lamps';
    const { splits } = reading;
    this.pairs = frame.pairs.near.filter(({ a }) => group === undefined || frame.group.near[a] === group);
    this.splits = splits === null ? null : this.pairs.map((pair) => splits.includes(pair.name));
    const { near, far } = frame.contacts;
    this.log = {
      hit: Math.log(1 - errors.missed - errors.wrong),
      miss: Math.log(errors.missed),
      ghost: Math.log(errors.ghost / far.length),
      wrong: Math.log(errors.wrong / far.length),
      dark: Math.log(this.seesJoins ? errors.missed : DARK_OF_TWO),
    };
    const map = closeMap(reading);
    this.listed = near.map((contact) =>
      (reading.arrivals[contact] ?? []).map((reached) => frame.contactIndex('far', reached)),
    );
    const unspoken = reading.screenEarthed === 'both-ends';
    this.seenNear = Int16Array.from(near, (_, c) => c);
    this.seenFar = Int16Array.from(far, (_, f) => near.length + f);
    for (const group of map.joins) {
      const members = group.map((contact) => frame.contactIndex('near', contact));
      for (const c of members) this.seenNear[c] = members[0] as number;
    }
    near.forEach((contact, c) => {
      for (const reached of map.arrivals[contact] ?? [])
        this.seenFar[frame.contactIndex('far', reached)] = this.seenNear[c] as number;
    });
    const size = frame.at.size;
    this.seenCount = { near: countOf(this.seenNear, size), far: countOf(this.seenFar, size) };
    this.gathered = { near: gathered(size), far: gathered(size), told: gathered(size) };
    this.seen = Int16Array.from(near, (contact, c) => {
      // A contact the reading leaves out was not seen to arrive anywhere.
      const arrivals = map.arrivals[contact] ?? [];
      if (group !== undefined && frame.group.near[c] !== group) return -2;
      if (unspoken && contact === 'S') return -2;
      return arrivals.length === 1 ? frame.contactIndex('far', arrivals[0] as string) : -1;
    });
    this.simple =
      map.joins.length === 0 && Object.values(map.arrivals).every((arrivals) => arrivals.length <= 1);
    this.blank = near.map((_, c) => this.seen[c] === -1 && !this.reachesInReading(c));
    const spoken = this.seen.filter((s) => s !== -2).length;
    this.best =
      spoken * this.log.hit + this.pairs.length * (this.splits ? Math.log(1 - SPLIT_ERRORS.ghost) : 0);
  }

  of(state: LinkState, openLoose: number): number {
    return overThresholds(state, this.openFrom, (openFrom) => this.reading(state, openFrom, openLoose));
  }

  private reading(state: LinkState, openFrom: number, openLoose: number): number {
    const metal = this.metal.solve(state, openFrom, openLoose);
    const rows = this.simple && metal.simple ? this.simpleRows(metal) : this.joinedRows(metal);
    return this.splits ? rows + this.twists(state, metal, this.splits) : rows;
  }

  private simpleRows(metal: Metal): number {
    const { seen, log } = this;
    let sum = 0;
    for (let c = 0; c < seen.length; c++) {
      const s = seen[c] as number;
      const p = metal.to[c] as number;
      if (s === p) sum += log.hit;
      else if (s === -2) continue;
      else if (s === -1) sum += log.miss;
      else sum += p === -1 ? log.ghost : log.wrong;
    }
    return sum;
  }

  private joinedRows(metal: Metal): number {
    if (!this.seesJoins) return this.lampRows(metal);
    const { seen, blank, log } = this;
    const { near, far, told } = this.gather(metal);
    let sum = 0;
    for (let c = 0; c < seen.length; c++) {
      if (seen[c] === -2) continue;
      const label = metal.near[c] as number;
      const reached = far.count[label] as number;
      const asSeen = this.seenNear[c] as number;
      const farAlike =
        reached === this.seenCount.far[asSeen] && (reached === 0 || far.seen[label] === asSeen);
      // A contact that was missed is missing from every group.
      const nearAlike = blank[c]
        ? told.count[label] === 0
        : told.count[label] === this.seenCount.near[asSeen] && told.seen[label] === asSeen;
      if (farAlike && nearAlike) sum += log.hit;
      else if (blank[c]) sum += reached > 1 ? log.dark : log.miss;
      else sum += reached + (near.count[label] as number) === 1 ? log.ghost : log.wrong;
    }
    return sum;
  }

  /** By the labels of the metal: what is joined at either end, and of the near end what the reading says anything of. */
  private gather(metal: Metal): MapLikelihood['gathered'] {
    const { near, far, told } = this.gathered;
    for (const one of [near, far, told]) one.count.fill(0);
    for (let c = 0; c < metal.near.length; c++) {
      const label = metal.near[c] as number;
      add(near, label, 0);
      if (!this.blank[c]) add(told, label, this.seenNear[c] as number);
    }
    for (let f = 0; f < metal.far.length; f++) add(far, metal.far[f] as number, this.seenFar[f] as number);
    return this.gathered;
  }

  /** Lamps are judged one by one: of several that a short lights, some stay dark. */
  private lampRows(metal: Metal): number {
    const { seen, listed, log, frame } = this;
    const f = frame.contacts.far.length;
    let sum = 0;
    for (let c = 0; c < seen.length; c++) {
      if (seen[c] === -2) continue;
      const lit = listed[c] as readonly number[];
      let reached = 0;
      let astray = false;
      for (let to = 0; to < f; to++) {
        const predicted = metal.near[c] === metal.far[to];
        if (predicted) reached++;
        else if (lit.includes(to)) astray = true;
      }
      if (astray) sum += reached === 0 ? log.ghost : log.wrong;
      else if (reached < 2) sum += lit.length === reached ? log.hit : log.miss;
      else sum += lit.length * LIT_LOG + (reached - lit.length) * log.dark;
    }
    return sum;
  }

  private reachesInReading(c: number): boolean {
    const label = this.seenNear[c] as number;
    return this.seenFar.includes(label) || this.seenNear.indexOf(label) !== this.seenNear.lastIndexOf(label);
  }

  private twists(state: LinkState, metal: Metal, splits: readonly boolean[]): number {
    let sum = 0;
    for (let i = 0; i < splits.length; i++) {
      const split = splitAt(this.frame, state, metal, this.pairs[i] as FramePair);
      const seen = splits[i] as boolean;
      // Through a wrong map the twists are anybody's guess.
      const row = TWIST_LOG[split === null ? 'unjudged' : split ? 'split' : 'whole'];
      sum += row[seen ? 0 : 1];
    }
    return sum;
  }
}
