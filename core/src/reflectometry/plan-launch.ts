import { preferredValues } from '../quantities/preferred.js';
import { LIGHT_M_PER_S, lossDb, type LineFigures } from './line.js';

/** What is to be measured, before it is. */
export interface Wanted {
  line: LineFigures;
  lengthM: number;
  /** The smallest reflection that has to be seen, at the far end; 1 for the end itself. */
  reflection: number;
  /** Noise of one sample by the launch; a good eight-bit oscilloscope shows about 0.005. */
  noiseShare: number;
}

/** What stands on the bench; what is left out is as good as is wanted. */
export interface LaunchBench {
  /** The generator's fastest edge and shortest pulse, seconds. */
  edgeS?: number | undefined;
  leastWidthS?: number | undefined;
  /** The oscilloscope's bandwidth, its fastest sample interval, and the samples it keeps. */
  bandwidthHz?: number | undefined;
  intervalS?: number | undefined;
  memory?: number | undefined;
}

/** What of the bench limits a plan. */
export type LaunchLimit = 'edge' | 'bandwidth' | 'interval' | 'memory' | 'width';

export const LAUNCH_LIMIT_WORDS: Readonly<Record<LaunchLimit, string>> = {
  edge: 'the generator’s edge',
  bandwidth: 'the oscilloscope’s bandwidth',
  interval: 'its sample interval',
  memory: 'the samples it keeps',
  width: 'the shortest pulse',
};

/** How to set generator and oscilloscope. */
export interface LaunchPlan {
  widthS: number;
  /** Slower edges lose resolution, faster ones only show ringing. */
  riseS: number;
  intervalS: number;
  /** Whole record, and one of its ten divisions in steps of 1, 2 and 5. */
  recordS: number;
  divisionS: number;
  /** Nearer than this an event hides in the launch. */
  deadZoneM: number;
  /** Two things nearer to each other than this are seen as one. */
  resolutionM: number;
  /** What would see more if it were better, the worst first. */
  limitedBy: readonly LaunchLimit[];
  /** Whether even the widest pulse worth sending would show what is looked for. */
  enough: boolean;
  /** Smallest reflection that is seen at a distance. */
  smallest: { distanceM: number; reflection: number }[];
}

/** Widths that generators have. */
const WIDTHS_S = [2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000].map((ns) => ns * 1e-9);
/** An echo this many deviations high, over its whole width, is seen nearly every time. */
const SEEN_AT = 6.5;
/** Half of a pulse's power lies below this over its width. */
const MIDDLE_OF_PULSE = 0.35;
/** Samples in an edge. */
const PER_RISE = 5;
const POINTS = 9;
/** An edge through a bandwidth takes at least this, over the bandwidth (10 to 90 %). */
const EDGE_OF_BANDWIDTH = 0.35;
/** An edge between fewer samples than this is drawn by the oscilloscope, not by the line. */
const LEAST_PER_RISE = 2;

/**
 * How to send and record a pulse so that a reflection at the far end of a cable is seen: the
 * shortest width of the series whose echo still stands out after the loss both ways, for a short one
 * sees nearest and sharpest. Generator and oscilloscope may be slower than would be wanted: then it is said what they
 * still show, and which of them limits it.
 */
export function planLaunch(wanted: Wanted, bench: LaunchBench = {}): LaunchPlan {
  const { line, lengthM } = wanted;
  const velocity = line.velocityFactor * LIGHT_M_PER_S;
  const planOf = (width: number) => {
    const recordS = (2 * lengthM * 1.3) / velocity + 6 * width;
    return { width, recordS, ...sampled(width, recordS, bench) };
  };
  const leastS = bench.leastWidthS ?? 0;
  const plans = WIDTHS_S.filter((width) => width >= leastS).map(planOf);
  // A pulse shorter than its edges never reaches its height.
  const whole = plans.filter(({ width, riseS }) => width >= riseS);
  const sees = whole.find(
    ({ width, intervalS }) => smallestSeen(wanted, width, intervalS, lengthM) <= wanted.reflection,
  );
  const chosen = sees ?? whole.at(-1) ?? plans.at(-1) ?? planOf(Math.max(...WIDTHS_S));
  const { width, riseS, intervalS, recordS } = chosen;
  const shortest = WIDTHS_S.find(
    (each) => smallestSeen(wanted, each, each / 5 / PER_RISE, lengthM) <= wanted.reflection,
  );
  const shorter = shortest !== undefined && shortest < leastS;
  return {
    widthS: width,
    riseS,
    intervalS,
    recordS,
    divisionS: roundUp(recordS / 10),
    deadZoneM: (velocity * (width + riseS)) / 2,
    resolutionM: (velocity * riseS) / 2,
    limitedBy: [...chosen.limitedBy, ...(shorter ? (['width'] as const) : [])],
    enough: sees !== undefined,
    smallest: Array.from({ length: POINTS }, (_, n) => {
      const distanceM = (lengthM * (n + 1)) / POINTS;
      return { distanceM, reflection: Math.min(1, smallestSeen(wanted, width, intervalS, distanceM)) };
    }),
  };
}

/** The edge that is seen of a pulse, and the samples it is seen by, with what the bench has. */
function sampled(
  widthS: number,
  recordS: number,
  { edgeS = 0, bandwidthHz = Infinity, intervalS = 0, memory = Infinity }: LaunchBench,
): { riseS: number; intervalS: number; limitedBy: LaunchLimit[] } {
  const best = widthS / 5;
  const ofScope = EDGE_OF_BANDWIDTH / bandwidthHz;
  const ofMemory = recordS / memory;
  // Edges one behind the other add as squares.
  const shown = Math.hypot(edgeS, ofScope);
  const step = Math.max(intervalS, ofMemory);
  const riseS = Math.max(best, shown, LEAST_PER_RISE * step);
  const limits: [LaunchLimit, number][] = [
    ['edge', edgeS],
    ['bandwidth', ofScope],
    ['interval', LEAST_PER_RISE * intervalS],
    ['memory', LEAST_PER_RISE * ofMemory],
  ];
  return {
    riseS,
    intervalS: Math.max(step, riseS / PER_RISE),
    limitedBy:
      riseS > best * (1 + 1e-9)
        ? limits
            .filter(([, takes]) => takes > riseS / 2)
            .sort(([, one], [, other]) => other - one)
            .map(([limit]) => limit)
        : [],
  };
}

/** The smallest reflection that stands out at a distance, by a pulse of a width and its samples. */
function smallestSeen(
  { line, noiseShare }: Wanted,
  widthS: number,
  intervalS: number,
  distanceM: number,
): number {
  const lost = 10 ** (-(2 * lossDb(line, distanceM, MIDDLE_OF_PULSE / widthS)) / 20);
  const samples = Math.max(1, widthS / intervalS);
  return (SEEN_AT * noiseShare) / Math.sqrt(samples) / lost;
}

/** The next of 1, 2 and 5 times a power of ten. */
function roundUp(value: number): number {
  const decade = 10 ** Math.floor(Math.log10(value));
  return decade * (value <= decade ? 1 : value <= 2 * decade ? 2 : value <= 5 * decade ? 5 : 10);
}

const PREFERRED_OHM = preferredValues('E12', 10, 10_000);

/** Resistors that make up a resistance: one alone, two side by side, or two in a row. */
export interface Resistors {
  ohm: number[];
  together: number;
  inARow?: boolean;
}

/**
 * The preferred resistors (IEC 60063, E12) that come nearest to a resistance, one or two in parallel:
 * to close a line with what it is, or to make a generator match it.
 */
export function preferredResistors(targetOhm: number): Resistors {
  const single = PREFERRED_OHM.map((ohm): Resistors => ({ ohm: [ohm], together: ohm }));
  const pairs = PREFERRED_OHM.flatMap((a, n) =>
    PREFERRED_OHM.slice(n).map((b): Resistors => ({ ohm: [a, b], together: (a * b) / (a + b) })),
  );
  return [...single, ...pairs].reduce((best, next) =>
    Math.abs(next.together - targetOhm) < Math.abs(best.together - targetOhm) ? next : best,
  );
}

/**
 * What comes nearest to a resistance out of a drawer: one, two side by side or two in a row; a value may be there twice.
 *
 * @returns null where the drawer is empty
 */
export function fromTheDrawer(targetOhm: number, drawerOhm: readonly number[]): Resistors | null {
  const all = drawerOhm.flatMap((a, n): Resistors[] => [
    { ohm: [a], together: a },
    ...drawerOhm.slice(n).flatMap((b): Resistors[] => [
      { ohm: [a, b], together: (a * b) / (a + b) },
      { ohm: [a, b], together: a + b, inARow: true },
    ]),
  ]);
  return all.reduce<Resistors | null>(
    (best, next) =>
      best && Math.abs(best.together - targetOhm) <= Math.abs(next.together - targetOhm) ? best : next,
    null,
  );
}

/** What a line that is closed by a resistance still sends back, 0 to 1. */
export const leftOver = (lineOhm: number, closedOhm: number): number =>
  Math.abs(closedOhm - lineOhm) / (closedOhm + lineOhm);

/** Resistors that close a line, and that make a generator match it. */
export interface MatchingResistors {
  /** Across the far end. */
  closes: Resistors;
  /** In series with the generator; null where none is wanted. */
  inSeries: Resistors | null;
}

/** What closes a line with its own impedance, and what a generator of lower impedance wants before it. */
export const matchingResistors = (lineOhm: number, generatorOhm: number): MatchingResistors => ({
  closes: preferredResistors(lineOhm),
  inSeries: lineOhm > generatorOhm ? preferredResistors(lineOhm - generatorOhm) : null,
});
