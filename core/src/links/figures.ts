import type { SlipKind } from '../continuity/practice.js';
import { betaQuantile } from '../termination/spoil-rate.js';

/** A share with what it rests on. */
export interface Share {
  of: number;
  count: number;
  mean: number;
  /** The true share lies between these with 90 % belief. */
  low: number;
  high: number;
}

/** What figures are made from: one row per link, one per fault that was found. */
export interface FigureRecord {
  /** First map reading of each link, in any order. */
  firstTests: readonly { passed: boolean }[];
  found: readonly { slip: SlipKind; kind: string; connector: string | null }[];
  /** Ends made good, by connector. */
  ends: readonly { connector: string; count: number }[];
}

export interface Figures {
  firstPass: Share;
  byKind: readonly { kind: string; count: number }[];
  /** Share of ends of a connector that had something wrong, the worst first. */
  byConnector: readonly (Share & { connector: string })[];
}

/** What is believed of a connector before there is a record: one end in twelve goes wrong. */
const SELDOM_WRONG = { yes: 1, no: 11 };

/** A share by its Beta posterior, from an even start unless another is given, with its middle 90 %. */
export function shareOf(count: number, of: number, start = { yes: 1, no: 1 }): Share {
  if (!(count >= 0 && of >= count)) throw new RangeError(`${count} of ${of} is no share.`);
  const [a, b] = [start.yes + count, start.no + of - count];
  return { of, count, mean: a / (a + b), low: betaQuantile(0.05, a, b), high: betaQuantile(0.95, a, b) };
}

/** First-pass rate, faults by kind, and by connector, each with its uncertainty. */
export function figuresOf(record: FigureRecord): Figures {
  const kinds = new Map<string, number>();
  for (const { kind } of record.found) kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
  return {
    firstPass: shareOf(record.firstTests.filter((t) => t.passed).length, record.firstTests.length),
    byKind: [...kinds].map(([kind, count]) => ({ kind, count })).sort((a, b) => b.count - a.count),
    byConnector: record.ends
      .map(({ connector, count }) => {
        const wrong = record.found.filter((f) => f.connector === connector).length;
        return { connector, ...shareOf(wrong, Math.max(count, wrong), SELDOM_WRONG) };
      })
      .sort((a, b) => b.mean - a.mean),
  };
}
