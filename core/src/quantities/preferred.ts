/** Preferred values of the E series (IEC 60063), one decade from 1. */
const SERIES = {
  E6: [1.0, 1.5, 2.2, 3.3, 4.7, 6.8],
  E12: [1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2],
  E24: [
    1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8,
    7.5, 8.2, 9.1,
  ],
} as const;

export type PreferredSeries = keyof typeof SERIES;
export const PREFERRED_SERIES = Object.keys(SERIES) as PreferredSeries[];

/**
 * The values of a series from one to another, both included, smallest first.
 *
 * @throws RangeError when the span is empty or not positive
 */
export function preferredValues(series: PreferredSeries, from: number, to: number): number[] {
  if (!(from > 0 && to >= from && Number.isFinite(to)))
    throw new RangeError(`From ${from} to ${to} is no span of values.`);
  const values: number[] = [];
  for (let decade = Math.floor(Math.log10(from)); 10 ** decade <= to; decade++) {
    for (const value of SERIES[series]) {
      const scaled = Number((value * 10 ** decade).toPrecision(3));
      if (scaled >= from && scaled <= to) values.push(scaled);
    }
  }
  return values;
}
