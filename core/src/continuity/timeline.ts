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

/** What is known of a link, oldest first: readings taken and work done. */
export type Evidence = Reading | WorkDone;

export const isWork = (evidence: Evidence): evidence is WorkDone => 'work' in evidence;

/** A stretch of time in which the link did not change: its readings, and which make of each part it had. */
export interface Era {
  readings: readonly Reading[];
  /** How often each part had been made before: 0 for the first make. */
  make: Readonly<Record<LinkPart, number>>;
}

/** Evidence by the times between works, the last era last. Eras without readings are kept only if last. */
export function erasOf(evidence: readonly Evidence[]): Era[] {
  const eras: { readings: Reading[]; make: Record<LinkPart, number> }[] = [
    { readings: [], make: { near: 0, far: 0, cable: 0, outlet: 0, unplug: 0 } },
  ];
  for (const item of evidence) {
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
export function readingsThatHold(evidence: readonly Evidence[]): Reading[] {
  let holding: Reading[] = [];
  for (const item of evidence) {
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
