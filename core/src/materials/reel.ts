import { NORMAL_95 } from '../chance/normal.js';
/** What happened to a drum or a box of cable. Lengths in metres. */
export type ReelEvent =
  /** What the label says it held when it came. */
  | { what: 'labelled'; lengthM: number }
  /** Cut off and pulled. */
  | { what: 'drawn'; lengthM: number }
  /** Measured by reflectometer: what is on it now, with the half width of its 95 % interval. */
  | { what: 'measured'; lengthM: number; u95M: number };

/** A measurement that the ledger did not expect. */
export interface ReelDisagreement {
  /** Index of the measurement among the events. */
  at: number;
  /** What the ledger would have had left, and the half width of its 95 % interval. */
  ledgerM: number;
  ledgerU95M: number;
  measuredM: number;
  /** Difference in deviations of the two together. */
  apart: number;
}

/** What is left on a reel, by all that is known of it. */
export interface ReelStanding {
  /** Null while nothing says how much there ever was. */
  leftM: number | null;
  u95M: number;
  /** Cut off since the last measurement, or since it came. */
  drawnSinceM: number;
  drawsSince: number;
  /** The newest measurement's disagreement with the ledger; null where they agree. */
  disagreement: ReelDisagreement | null;
  /** More was drawn than there can have been. */
  overdrawn: boolean;
}

/** A maker's length is good to this share, 95 % (typical). */
const LABEL_U95 = 0.01;
/** A draw is taped to this share; its two ends are trimmed by about this much. Both 95 % (typical). */
const DRAW_U95 = 0.01;
const TRIM_U95_M = 0.1;
/** Beyond so many deviations, one time in a hundred by chance, ledger and measurement disagree. */
const AGREES_WITHIN = 2.58;

/**
 * What is left on a drum or in a box: the label less the draws, corrected by each measurement.
 * Where the two agree they are weighted by their uncertainty; where they do not, what was measured
 * is what is there, and the difference is told.
 *
 * @param events oldest first, corrected ones left out
 */
export function reelStanding(events: readonly ReelEvent[]): ReelStanding {
  let left: number | null = null;
  let variance = 0;
  let drawnSinceM = 0;
  let drawsSince = 0;
  let disagreement: ReelDisagreement | null = null;
  events.forEach((event, at) => {
    const { lengthM } = event;
    if (event.what === 'drawn') {
      drawnSinceM += lengthM;
      drawsSince++;
      left = left === null ? null : left - lengthM;
      variance += deviationOf(Math.hypot(DRAW_U95 * lengthM, TRIM_U95_M)) ** 2;
      return;
    }
    if (event.what === 'labelled') {
      // A label found late counts from the beginning; where something was measured it says no more.
      if (left !== null) return;
      left = lengthM - drawnSinceM;
      variance += deviationOf(LABEL_U95 * lengthM) ** 2;
      return;
    }
    const own = deviationOf(event.u95M) ** 2;
    [drawnSinceM, drawsSince, disagreement] = [0, 0, null];
    if (left === null) {
      [left, variance] = [lengthM, own];
      return;
    }
    const apart = Math.abs(lengthM - left) / Math.sqrt(own + variance);
    if (apart <= AGREES_WITHIN) {
      left = (left * own + lengthM * variance) / (own + variance);
      variance = (own * variance) / (own + variance);
      return;
    }
    const ledgerU95M = NORMAL_95 * Math.sqrt(variance);
    disagreement = { at, ledgerM: left, ledgerU95M, measuredM: lengthM, apart };
    [left, variance] = [lengthM, own];
  });
  const u95M = left === null ? 0 : NORMAL_95 * Math.sqrt(variance);
  const overdrawn = left !== null && left < -u95M;
  return { leftM: left, u95M, drawnSinceM, drawsSince, disagreement, overdrawn };
}

const deviationOf = (u95: number): number => u95 / NORMAL_95;

/** An entry of a ledger with the one it takes the place of, where it corrects one. */
export interface LedgerEntry {
  id: string;
  corrects: string | null;
}

/** The entries that hold: corrected ones are left out, and a correction stands where the first of them stood. */
export function entriesThatHold<T extends LedgerEntry>(entries: readonly T[]): T[] {
  const correction = new Map(entries.flatMap((entry) => (entry.corrects ? [[entry.corrects, entry]] : [])));
  return entries.flatMap((entry) => {
    if (entry.corrects) return [];
    let holds = entry;
    for (let next = correction.get(holds.id); next; next = correction.get(holds.id)) holds = next;
    return [holds];
  });
}

/** What is on a reel 19 times in 20; nothing where nobody knows how much there was. */
export const surelyLeftM = ({ leftM, u95M }: Pick<ReelStanding, 'leftM' | 'u95M'>): number =>
  leftM === null ? 0 : Math.max(0, leftM - u95M);

/**
 * Whether a piece can still be cut from what is left, 19 times in 20.
 */
export function canGive(
  { leftM, u95M }: Pick<ReelStanding, 'leftM' | 'u95M'>,
  lengthM: number,
): 'yes' | 'perhaps' | 'no' {
  if (leftM === null) return 'perhaps';
  if (lengthM <= surelyLeftM({ leftM, u95M })) return 'yes';
  return lengthM <= leftM + u95M ? 'perhaps' : 'no';
}
