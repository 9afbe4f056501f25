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

/**
 * How to send and record a pulse so that a reflection at the far end of a cable is seen: the
 * shortest width of the series whose echo still stands out after the loss both ways, for a short one
 * sees nearest and sharpest.
 */
export function planLaunch(wanted: Wanted): LaunchPlan {
  const { line, lengthM } = wanted;
  const velocity = line.velocityFactor * LIGHT_M_PER_S;
  const widthS = WIDTHS_S.find((width) => smallestSeen(wanted, width, lengthM) <= wanted.reflection);
  const chosen = widthS ?? WIDTHS_S[WIDTHS_S.length - 1]!;
  const riseS = chosen / 5;
  const recordS = (2 * lengthM * 1.3) / velocity + 6 * chosen;
  return {
    widthS: chosen,
    riseS,
    intervalS: riseS / PER_RISE,
    recordS,
    divisionS: roundUp(recordS / 10),
    deadZoneM: (velocity * (chosen + riseS)) / 2,
    enough: widthS !== undefined,
    smallest: Array.from({ length: POINTS }, (_, n) => {
      const distanceM = (lengthM * (n + 1)) / POINTS;
      return { distanceM, reflection: Math.min(1, smallestSeen(wanted, chosen, distanceM)) };
    }),
  };
}

/** The smallest reflection that stands out at a distance, by a pulse of a width. */
function smallestSeen({ line, noiseShare }: Wanted, widthS: number, distanceM: number): number {
  const lost = 10 ** (-(2 * lossDb(line, distanceM, MIDDLE_OF_PULSE / widthS)) / 20);
  const samples = widthS / (widthS / 5 / PER_RISE);
  return (SEEN_AT * noiseShare) / Math.sqrt(samples) / lost;
}

/** The next of 1, 2 and 5 times a power of ten. */
function roundUp(value: number): number {
  const decade = 10 ** Math.floor(Math.log10(value));
  return decade * (value <= decade ? 1 : value <= 2 * decade ? 2 : value <= 5 * decade ? 5 : 10);
}

const PREFERRED_OHM = preferredValues('E12', 10, 10_000);

/** Preferred resistors that make up a resistance: one alone, or two side by side. */
export interface Resistors {
  ohm: number[];
  together: number;
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
