import type { Reading } from './readings.js';
import type { LinkEnd } from './true-link.js';

/**
 * Work done on a link between readings: an end redone, the cable mended, or `replaced` with both ends
 * new; `outlet` is the right outlet and its remote made sure of, `unplug` both ends made sure to be free.
 */
export interface WorkDone {
  work: LinkEnd | 'cable' | 'replaced' | 'outlet' | 'unplug';
}

/** What of a link is made, or made sure of, on its own. */
export type LinkPart = LinkEnd | 'cable' | 'outlet' | 'unplug';
export const LINK_PARTS: readonly LinkPart[] = ['near', 'far', 'cable', 'outlet', 'unplug'];

/** When a reading was taken, and by whom, where that is known. */
export interface Taken {
  /** ISO 8601. */
  at?: string | undefined;
  by?: string | undefined;
  /** By a simulated instrument: it says nothing of a real link. */
  simulated?: boolean | undefined;
}

/** A person says why what an earlier reading showed was not so: a wrong port, a loose cord, a slip of the key. */
export interface MisreadReason {
  misread: string;
}

/** A reading, with when and by whom where that is known. */
export type TakenReading = Reading & { taken?: Taken | undefined };

/** What is known of a link, oldest first: readings taken, work done, and why a reading was no good. */
export type Evidence = TakenReading | WorkDone | MisreadReason;

export const isWork = (evidence: Evidence): evidence is WorkDone => 'work' in evidence;
export const isReason = (evidence: Evidence): evidence is MisreadReason => 'misread' in evidence;
export const isReading = (evidence: Evidence): evidence is TakenReading => 'instrument' in evidence;

/** Within so many seconds the same person's same reading of the same instrument is one reading kept twice. */
const COPY_SECONDS = 30;

/**
 * Whether a reading is a copy of the one before it: the same instrument, person and content with nothing
 * between, in a short time. Where no times are known it is taken for one.
 */
export function isCopy(before: TakenReading, reading: TakenReading): boolean {
  const [a, b] = [before.taken, reading.taken];
  if (a?.by !== b?.by) return false;
  if (a?.at !== undefined && b?.at !== undefined) {
    const seconds = Math.abs(Date.parse(b.at) - Date.parse(a.at)) / 1000;
    if (!(seconds <= COPY_SECONDS)) return false;
  }
  return contentOf(before) === contentOf(reading);
}

/** What a reading says, without when and by whom. */
const contentOf = (reading: TakenReading): string => {
  const said: Partial<TakenReading> = { ...reading };
  delete said.taken;
  return JSON.stringify(said);
};

/** Evidence without copies: each is one witness, however often it was kept. */
export function witnesses(evidence: readonly Evidence[]): Evidence[] {
  return evidence.filter((item, i) => {
    const before = evidence[i - 1];
    return !(before && isReading(item) && isReading(before) && isCopy(before, item));
  });
}

/** A stretch of time in which the link did not change: its readings, and which make of each part it had. */
export interface Era {
  readings: readonly TakenReading[];
  /** How often each part had been made before: 0 for the first make. */
  make: Readonly<Record<LinkPart, number>>;
}

/** Evidence by the times between works, the last era last. Eras without readings are kept only if last. */
export function erasOf(evidence: readonly Evidence[]): Era[] {
  const eras: { readings: TakenReading[]; make: Record<LinkPart, number> }[] = [
    { readings: [], make: { near: 0, far: 0, cable: 0, outlet: 0, unplug: 0 } },
  ];
  for (const item of witnesses(evidence)) {
    if (isReason(item)) continue;
    const era = eras[eras.length - 1] as (typeof eras)[number];
    if (!isWork(item)) {
      era.readings.push(item);
      continue;
    }
    const make = { ...era.make };
    for (const part of LINK_PARTS) {
      const renewed = item.work === 'replaced' && (part === 'near' || part === 'far' || part === 'cable');
      if (item.work === part || renewed) make[part]++;
    }
    if (era.readings.length === 0) era.make = make;
    else eras.push({ readings: [], make });
  }
  return eras;
}

/**
 * The readings that still speak for the link as it is now. Any work ends what meters said before
 * it; colours seen at an end hold until that end, or the cable, is worked on.
 */
export function readingsThatHold(evidence: readonly Evidence[]): TakenReading[] {
  let holding: TakenReading[] = [];
  for (const item of witnesses(evidence)) {
    if (isReason(item)) continue;
    if (!isWork(item)) holding.push(item);
    else
      holding = holding.filter(
        (reading) =>
          reading.instrument === 'eye' &&
          item.work !== 'cable' &&
          item.work !== 'replaced' &&
          reading.end !== item.work,
      );
  }
  return holding;
}

/** Why readings that still hold were no good, in the words of whoever took them again; null where nobody said. */
export function reasonThatHolds(evidence: readonly Evidence[]): string | null {
  const since = evidence.slice(evidence.findLastIndex(isWork) + 1);
  return since.filter(isReason).at(-1)?.misread ?? null;
}
