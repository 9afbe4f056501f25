import type { SlipKind } from '../continuity/practice.js';
import { shareOf, type Share } from '../links/figures.js';
import { grouped, GROUPS, type GroupKind } from './groups.js';
import type { MadeEnd } from './made-ends.js';
import { repeatsIn, type Repeat } from './repeats.js';

/** What the ends of one person, connector, tool or lot came to. */
export interface WorkGroup {
  kind: GroupKind;
  name: string;
  made: number;
  /** Of the ends that were tested, those with nothing wrong: the share, with its middle 90 %. */
  right: Share;
  spoiled: number;
  /** What was wrong, the most frequent first. */
  slips: readonly { slip: SlipKind; count: number }[];
  /** What making ends again and spoiling connectors cost, minutes by the plan of each connector. */
  lostMinutes: number;
}

/** How long an end takes, as the record has it, beside its plan. */
export interface EndTime {
  connector: string;
  plannedMinutes: number;
  /** Middle, and the middle half, of the times that are known. */
  median: number;
  from: number;
  to: number;
  known: number;
}

export interface Workmanship {
  groups: readonly WorkGroup[];
  times: readonly EndTime[];
  repeats: readonly Repeat[];
}

/** Longer than this between two ends of a person, something else came between. */
const MOST_BETWEEN_MIN = 45;
/** Times of fewer ends say nothing of a connector. */
const LEAST_TIMES = 5;
/** Before there is a record, eleven ends in twelve are right. */
const MOSTLY_RIGHT = { yes: 11, no: 1 };

/**
 * What the record says of the work: by person, connector, tool and lot, with its uncertainty and its cost; how long ends take
 * beside their plan; and what repeats in one hand, tool or lot more often than elsewhere.
 * @param plannedMinutes of an end with a connector
 */
export function workmanship(
  ends: readonly MadeEnd[],
  plannedMinutes: (connector: string) => number,
): Workmanship {
  const groups = (Object.keys(GROUPS) as GroupKind[]).flatMap((kind) =>
    [...grouped(ends, GROUPS[kind])]
      .filter(([name]) => name !== '')
      .map(([name, own]) => groupOf(kind, name, own, plannedMinutes)),
  );
  return { groups, times: times(ends, plannedMinutes), repeats: repeatsIn(ends) };
}

function groupOf(
  kind: GroupKind,
  name: string,
  ends: readonly MadeEnd[],
  plannedMinutes: (connector: string) => number,
): WorkGroup {
  const tested = ends.filter((end) => end.tested);
  const wrong = tested.filter((end) => end.wrong !== null);
  const lost = ends.reduce(
    (sum, { connector, spoiled, wrong: slip }) =>
      sum + plannedMinutes(connector) * (spoiled + (slip === null ? 0 : 1)),
    0,
  );
  return {
    kind,
    name,
    made: ends.length,
    right: shareOf(tested.length - wrong.length, tested.length, MOSTLY_RIGHT),
    spoiled: ends.reduce((sum, { spoiled }) => sum + spoiled, 0),
    slips: [...grouped(wrong, (end) => end.wrong ?? '')]
      .map(([slip, own]) => ({ slip: slip as SlipKind, count: own.length }))
      .sort((a, b) => b.count - a.count),
    lostMinutes: Math.round(lost * 10) / 10,
  };
}

/**
 * Times of ends: from one end that a person recorded to that person's next, which holds the walk and the look as well; longer
 * pauses are left out.
 */
function times(ends: readonly MadeEnd[], plannedMinutes: (connector: string) => number): EndTime[] {
  const taken = new Map<string, number[]>();
  for (const own of grouped(ends, ({ by }) => by).values()) {
    const inTime = [...own].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
    inTime.forEach((end, n) => {
      const before = inTime[n - 1];
      if (!before) return;
      const minutes = (Date.parse(end.at) - Date.parse(before.at)) / 60_000;
      if (minutes > 0 && minutes <= MOST_BETWEEN_MIN)
        taken.set(end.connector, [...(taken.get(end.connector) ?? []), minutes]);
    });
  }
  return [...taken]
    .filter(([, minutes]) => minutes.length >= LEAST_TIMES)
    .map(([connector, minutes]) => {
      const sorted = minutes.sort((a, b) => a - b);
      const at = (share: number): number => sorted[Math.floor(share * (sorted.length - 1))] ?? 0;
      return {
        connector,
        plannedMinutes: plannedMinutes(connector),
        median: at(0.5),
        from: at(0.25),
        to: at(0.75),
        known: sorted.length,
      };
    })
    .sort((a, b) => b.known - a.known);
}
