import {
  judge,
  repairClasses,
  seededRandom,
  type ColourReading,
  type Diagnosis,
  type Evidence,
  type MapReading,
  type Practice,
  type Reading,
} from '../../src/index.js';
import { drawWorld, mishap, type Drawn } from './draw-world.js';
import { take, type Chance, type Taking, type WorldInstrument } from './world-instruments.js';
import { worked, wrongOnlyAt, type End, type Place, type WorldLink } from './world-link.js';

/** One judgement in a history, beside what the world knows. */
export interface Judged {
  evidence: Evidence[];
  diagnosis: Diagnosis;
  /** The likeliest kind of work, and the belief in it. */
  top: { places: readonly string[]; share: number };
  /** The smallest sets of places that would make every instrument of this time read right. */
  truth: Place[][];
  /** Readings that still hold and are not as the plan has them, each kept once. */
  failing: number;
  drawn: Drawn;
  ms: number;
}

const FIRST: readonly [WorldInstrument, number][] = [
  ['coded-mapper', 34],
  ['coded-mapper-crosstalk', 26],
  ['stepping-lamps', 14],
  ['lamp-pairs', 10],
  ['beeper', 8],
  ['ohmmeter', 8],
];
const NEXT: readonly [WorldInstrument, number][] = [
  ['eye', 30],
  ['pair-reflectometer', 25],
  ['coded-mapper-crosstalk', 20],
  ['ohmmeter', 8],
  ['wiggle', 8],
  ['lamp-pairs', 5],
  ['stepping-lamps', 4],
];
const draw = (list: readonly [WorldInstrument, number][], chance: Chance): WorldInstrument => {
  let left = chance() * list.reduce((sum, [, w]) => sum + w, 0);
  return (list.find(([, w]) => (left -= w) < 0) ?? (list[0] as [WorldInstrument, number]))[0];
};
const PLACES: readonly Place[] = ['unplug', 'outlet', 'plan', 'near', 'far', 'cable'];

/** Seeds of other links are far from those of the links in hand. */
const OTHERS = 500_000_000;

/** A reading as people keep it, and whether it is of the link that they meant. */
interface Kept {
  reading: Reading;
  ofThis: boolean;
}

/** A reading as people take and keep it: now and then of another link, or with two rows keyed across. */
function takenByPeople(drawn: Drawn, instrument: WorldInstrument, how: Taking, chance: Chance): Kept {
  let { link } = drawn;
  if (chance() < 0.004) {
    for (let seed = OTHERS + Math.floor(chance() * 1e6); ; seed++) {
      const other = drawWorld(seed, 0.22);
      if (other.kind !== drawn.kind || other.scheme !== drawn.scheme) continue;
      link = other.link;
      break;
    }
  }
  const reading = take(link, instrument, how);
  const ofThis = link === drawn.link;
  const keyed = chance() < 0.5;
  if ('arrivals' in reading && keyed && chance() < 0.004) {
    const rows = Object.keys(reading.arrivals);
    const i = Math.floor(chance() * (rows.length - 1));
    const [a, b] = [rows[i] as string, rows[i + 1] as string];
    const across = { [a]: reading.arrivals[b] ?? [], [b]: reading.arrivals[a] ?? [] };
    return { reading: { ...reading, arrivals: { ...reading.arrivals, ...across } }, ofThis };
  }
  return { reading, ofThis };
}

/** Whether a reading is as the plan has it, by comparing it with that of the link made right everywhere. */
function asPlanned(link: WorldLink, reading: Reading): boolean {
  const right = PLACES.reduce((l, place) => worked(l, place), link);
  const touches = 'touches' in reading ? reading.touches : undefined;
  const meant = take({ ...right, lengthM: link.plannedM }, reading.instrument as WorldInstrument, {
    end: endOf(reading),
    chance: null,
    ...(touches ? { touches } : {}),
  });
  return alike(meant, reading, link.plannedM);
}

function alike(a: Reading, b: Reading, lengthM: number): boolean {
  if (a.instrument === 'ohmmeter' && b.instrument === 'ohmmeter')
    return a.touches.every((t, i) => {
      const other = b.touches[i];
      if (!other || t.closed !== other.closed) return false;
      return t.ohm == null || other.ohm == null || Math.abs(t.ohm - other.ohm) < 0.6 + 0.15 * t.ohm;
    });
  if (a.instrument === 'pair-reflectometer' && b.instrument === 'pair-reflectometer')
    return Object.keys(a.pairs).every((pair) => {
      const [p, q] = [a.pairs[pair] ?? [], b.pairs[pair] ?? []];
      return (
        p.length === q.length &&
        p.every(
          (e, i) =>
            e.kind === q[i]?.kind && Math.abs(e.distanceM - (q[i]?.distanceM ?? 0)) < 1 + 0.09 * lengthM,
        )
      );
    });
  if ('arrivals' in a && 'arrivals' in b) {
    const sorted = (m: MapReading): string =>
      JSON.stringify([
        Object.entries(m.arrivals).map(([n, f]) => [n, [...f].sort()]),
        m.joins.map((g) => [...g].sort().join()).sort(),
        m.splits ? [...m.splits].sort() : null,
      ]);
    return sorted(a) === sorted(b);
  }
  if (a.instrument === 'eye' && b.instrument === 'eye')
    return Object.keys(a.colours).every((c) => {
      const [p, q] = [sightOf(a, c), sightOf(b, c)];
      return p === UNREAD || q === UNREAD || p === q;
    });
  return JSON.stringify(a) === JSON.stringify(b);
}

const UNREAD = 'unread';

/** What an eye reading says of one contact, in one word. */
const sightOf = ({ colours, empty }: ColourReading, contact: string): string =>
  colours[contact] ?? (empty?.includes(contact) ? 'empty' : UNREAD);

/** An eye reading of a link, with nothing said of what could not be read of the true link when it was read. */
const readAlike = (now: Reading, then: Reading, { laid }: WorldLink): Reading => {
  if (now.instrument !== 'eye' || then.instrument !== 'eye') return now;
  const unread = (c: string): boolean => sightOf(then, c) === UNREAD && (laid[then.end][c] ?? null) !== null;
  const colours = Object.entries(now.colours).map(([c, seen]) => [c, unread(c) ? null : seen] as const);
  return {
    ...now,
    colours: Object.fromEntries(colours),
    empty: (now.empty ?? []).filter((c) => !unread(c)),
  };
};

/** Spans of length in which plan and measure may differ without a word; ohms speak of copper as much as of length. */
const LENGTH_SLACK = { surely: 0.12, perhaps: 0.06, byCopper: 0.25 };

/**
 * The smallest sets of places whose mishaps alone would give these readings: what any reasoner could
 * know. What other mishaps hide is found after the first are mended.
 */
export function truthOf(link: WorldLink, readings: readonly Reading[]): Place[][] {
  const wrongAt = PLACES.filter(
    (place) =>
      place !== 'plan' &&
      JSON.stringify(wrongOnlyAt(link, [place])) !== JSON.stringify(wrongOnlyAt(link, [])),
  );
  const again = (l: WorldLink, reading: Reading, looseOpen: boolean): Reading =>
    readAlike(
      take(l, reading.instrument as WorldInstrument, {
        end: endOf(reading),
        chance: null,
        looseOpen,
        ...('touches' in reading ? { touches: reading.touches } : {}),
      }),
      reading,
      link,
    );
  // What opens and closes is known of once it was open while something was read.
  const seenLoose = readings.some(
    (r) => !alike(again(link, r, false), r, link.lengthM) && alike(again(link, r, true), r, link.lengthM),
  );
  const shown = (l: WorldLink): Reading[] =>
    [false, ...(seenLoose ? [true] : [])].flatMap((looseOpen) =>
      readings.map((reading) => again(l, reading, looseOpen)),
    );
  const actual = shown(link);
  const explains = (set: readonly Place[]): boolean => {
    const only = wrongOnlyAt(link, set);
    return shown(only).every((reading, i) => alike(actual[i] as Reading, reading, link.lengthM));
  };
  const off = Math.abs(link.lengthM / link.plannedM - 1);
  const measured = readings.some((r) => r.instrument === 'pair-reflectometer');
  for (let size = 0; size <= wrongAt.length; size++) {
    const sets = subsets(wrongAt, size).filter(explains);
    if (sets.length === 0) continue;
    const metered = readings.some((r) => r.instrument === 'ohmmeter' && r.touches.length > 3);
    if (!measured && metered && size === 0 && off > LENGTH_SLACK.byCopper) return [[], ['plan']];
    if (!measured || off < LENGTH_SLACK.perhaps) return sets;
    // Where there is other work the plan is put right in passing.
    if (size > 0) return sets;
    return off > LENGTH_SLACK.surely ? [['plan']] : [[], ['plan']];
  }
  return [wrongAt];
}

const endOf = (reading: Reading): End =>
  'end' in reading && reading.end !== 'cable' ? reading.end : 'from' in reading ? reading.from : 'near';

function subsets<T>(things: readonly T[], size: number): T[][] {
  if (size === 0) return [[]];
  return things.flatMap((thing, i) => subsets(things.slice(i + 1), size - 1).map((rest) => [thing, ...rest]));
}

/**
 * A history of a link: readings, work by the advice given, readings again; every judgement in it is kept.
 * @param practice of the crew; of one of which nothing is known if left out
 */
export function history(seed: number, practice?: Practice): Judged[] {
  const chance = seededRandom(seed * 48271 + 11);
  const drawn = drawWorld(seed);
  const evidence: Evidence[] = [];
  const judged: Judged[] = [];
  let holding: Kept[] = [];
  let work: Place | null = null;
  // Places that were surely wrong before the last work, and were not worked on.
  let certain: Place[] = [];
  const read = (instrument: WorldInstrument, end: End, plan?: Reading): void => {
    const touches = plan && 'touches' in plan ? plan.touches : undefined;
    const how = { end, chance, ...(touches ? { touches } : {}) };
    const kept = takenByPeople(drawn, instrument, how, chance);
    evidence.push(kept.reading);
    holding.push(kept);
    if (chance() < 0.02) evidence.push(kept.reading);
  };
  read(draw(FIRST, chance), 'near');
  for (let step = 0; step < 4; step++) {
    const begun = performance.now();
    const { diagnosis, belief } = judge(drawn.expected, evidence, { practice });
    const ms = performance.now() - begun;
    const [top] = repairClasses(belief?.hypotheses ?? []);
    const truth = truthOf(
      drawn.link,
      // What was read of another link shows nobody what is wrong with this one.
      holding.flatMap(({ reading, ofThis }) => (ofThis ? [reading] : [])),
    ).map((set) => PLACES.filter((place) => set.includes(place) || certain.includes(place)));
    judged.push({
      evidence: [...evidence],
      diagnosis,
      top: { places: top?.places ?? [], share: top?.share ?? 0 },
      truth,
      failing: holding.filter(({ reading }) => !asPlanned(drawn.link, reading)).length,
      drawn: { ...drawn, link: structuredClone(drawn.link), story: [...drawn.story] },
      ms,
    });
    if (diagnosis.result === 'pass' && chance() < 0.8) break;
    const look = diagnosis.nextLook;
    const repair = diagnosis.repair?.places[0] as Place | undefined;
    if (chance() < 0.35) {
      const next = draw(NEXT, chance);
      if (next === 'eye' && !drawn.kind.four) continue;
      if (next === 'pair-reflectometer' && drawn.link.lengthM < 5) continue;
      read(next, chance() < 0.6 ? 'far' : 'near');
    } else if (look && chance() < 0.9) read(look.instrument as WorldInstrument, look.end, look.plan);
    else if ((work = repair ?? null) !== null) {
      drawn.link = worked(drawn.link, work);
      drawn.story.push(`worked: ${work}`);
      if ((work === 'near' || work === 'far') && chance() < 0.08) mishap(drawn, chance, work, true);
      const [done, [first, ...rest]] = [work, truth as [Place[], ...Place[][]]];
      certain = first.filter(
        (place) => place !== done && place !== 'plan' && rest.every((set) => set.includes(place)),
      );
      if (work === 'plan') break;
      evidence.push({ work });
      holding = holding.filter(
        ({ reading: r }) => r.instrument === 'eye' && work !== 'cable' && r.end !== work,
      );
      read(draw(FIRST, chance), 'near');
    } else read(draw(FIRST, chance), 'near');
  }
  return judged;
}

/** Figures over many histories. */
export interface Tally {
  histories: number;
  judgements: number;
  falsePasses: number;
  unearned: number;
  needlessFails: number;
  sound: number;
  determined: number;
  determinedRight: number;
  repairs: number;
  repairsRight: number;
  bins: { cases: number; belief: number; right: number }[];
  over: { cases: number; belief: number; right: number };
  ms: number[];
}

export const newTally = (): Tally => ({
  histories: 0,
  judgements: 0,
  falsePasses: 0,
  unearned: 0,
  needlessFails: 0,
  sound: 0,
  determined: 0,
  determinedRight: 0,
  repairs: 0,
  repairsRight: 0,
  bins: Array.from({ length: 20 }, () => ({ cases: 0, belief: 0, right: 0 })),
  over: { cases: 0, belief: 0, right: 0 },
  ms: [],
});

const same = (a: readonly string[], b: readonly string[]): boolean =>
  [...a].sort().join() === [...b].sort().join();

/** Whether nothing has to be mended, whatever the plan says of the length. */
const inOrder = (truth: readonly (readonly Place[])[]): boolean =>
  truth.some((set) => set.length === 0 || same(set, ['plan']));

/**
 * Whether the belief's first kind of work is one that the world says is enough, and none too much. That no
 * explanation fits says no more than that something is wrong, and is right where something is.
 */
export const isRight = ({ top, truth }: Judged): boolean =>
  same(top.places, ['unknown']) ? !inOrder(truth) : truth.some((set) => same(set, top.places));

/** A pass although a reading that holds shows a fault and there is work to do. */
export const isFalsePass = ({ diagnosis, failing, truth }: Judged): boolean =>
  diagnosis.result === 'pass' && failing > 0 && !inOrder(truth);

export function count(tally: Tally, judged: readonly Judged[]): void {
  tally.histories++;
  for (const one of judged) {
    const { diagnosis, top, truth } = one;
    tally.judgements++;
    tally.ms.push(one.ms);
    const wrong = !inOrder(truth);
    if (isFalsePass(one)) tally.falsePasses++;
    if (diagnosis.result === 'pass' && wrong) tally.unearned++;
    if (!wrong) {
      tally.sound++;
      if (diagnosis.result === 'fail') tally.needlessFails++;
    }
    if (diagnosis.explanations.length === 0) continue;
    const right = isRight(one);
    const bin = tally.bins[Math.min(19, Math.floor(top.share * 20))] as Tally['over'];
    for (const into of [bin, ...(top.share > 0.95 ? [tally.over] : [])]) {
      into.cases++;
      into.belief += top.share;
      if (right) into.right++;
    }
    if (top.share > 0.98) {
      tally.determined++;
      if (right) tally.determinedRight++;
    }
    const place = diagnosis.repair?.places[0];
    if (place) {
      tally.repairs++;
      if (truth.some((set) => set.includes(place as Place))) tally.repairsRight++;
    }
  }
}

/** Expected calibration error: mean distance between belief and how often it was right, by bins of a twentieth. */
export function calibrationError(bins: Tally['bins']): number {
  const all = bins.reduce((sum, b) => sum + b.cases, 0);
  return bins.reduce((sum, b) => sum + Math.abs(b.belief - b.right), 0) / Math.max(1, all);
}
