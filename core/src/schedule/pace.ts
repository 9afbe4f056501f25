import { NORMAL_90_ABOVE } from '../chance/normal.js';

/** How long ends with one connector took, beside their plan. */
export interface TimesOfEnds {
  connector: string;
  plannedMinutes: number;
  /** Middle of the times that are known, minutes, and how many there are. */
  median: number;
  known: number;
}

/** Minutes as they come, over the minutes as they are planned: the middle, and the deviation of its logarithm. */
export interface Pace {
  factor: number;
  sd: number;
  /** Ends that it was learned from. */
  known: number;
}

/** Before there is a record a crew's pace is this far from the plan, one connector's from the crew's, one end's from both (typical). */
const [CREW_SD, CONNECTOR_SD, END_SD] = [0.3, 0.2, 0.5];
/** A median knows this much less than a mean of as many. */
const MEDIAN_OVER_MEAN = Math.PI / 2;

/** Where nothing is known of an operation: as planned, with the spread of crews. */
export const UNKNOWN_PACE: Pace = { factor: 1, sd: CREW_SD, known: 0 };

/**
 * A crew's pace with one connector: the plan, moved by what the crew's own ends took. What is known of other connectors
 * says how quick the crew is altogether, and counts less than this one's own. Logarithms of times are taken as normal,
 * weighed by their variances.
 *
 * @param connector leaves out what is particular of one: the crew's pace with what it never made
 */
export function paceOf(times: readonly TimesOfEnds[], connector: string | null = null): Pace {
  const seen = times
    .filter(({ plannedMinutes, median, known }) => plannedMinutes > 0 && median > 0 && known > 0)
    .map((one) => ({
      ...one,
      // Plans are means, and the mean of times that run long lies above their middle.
      log: Math.log(one.median / one.plannedMinutes) + END_SD ** 2 / 2,
      variance: (MEDIAN_OVER_MEAN * END_SD ** 2) / one.known,
    }));
  const others = seen.filter((one) => one.connector !== connector);
  const own = seen.filter((one) => one.connector === connector);
  const crew = weighed([
    { log: 0, variance: CREW_SD ** 2 },
    ...others.map(({ log, variance }) => ({ log, variance: variance + CONNECTOR_SD ** 2 })),
  ]);
  const here = weighed([{ log: crew.log, variance: crew.variance + CONNECTOR_SD ** 2 }, ...own]);
  const known = (own.length > 0 ? own : others).reduce((sum, one) => sum + one.known, 0);
  return { factor: Math.exp(here.log), sd: Math.sqrt(here.variance), known };
}

function weighed(figures: readonly { log: number; variance: number }[]): { log: number; variance: number } {
  const precision = figures.reduce((sum, { variance }) => sum + 1 / variance, 0);
  const log = figures.reduce((sum, one) => sum + one.log / one.variance, 0) / precision;
  return { log, variance: 1 / precision };
}

/**
 * By how much all of a work's minutes are multiplied so that they are enough nine times in ten: paces of different operations
 * go wrong apart from each other, those of one together, and single ends even out.
 *
 * @param shares minutes of each operation by its pace, and how many single pieces of work they are
 */
export function enoughNineInTen(shares: readonly { minutes: number; sd: number; pieces: number }[]): number {
  const all = shares.reduce((sum, { minutes }) => sum + minutes, 0);
  if (all <= 0) return 1;
  const variance = shares.reduce(
    (sum, { minutes, sd, pieces }) =>
      sum + (minutes / all) ** 2 * (sd ** 2 + END_SD ** 2 / Math.max(1, pieces)),
    0,
  );
  return Math.exp(NORMAL_90_ABOVE * Math.sqrt(variance));
}
