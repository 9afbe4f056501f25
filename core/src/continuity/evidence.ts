import type { Reading } from './readings.js';
import type { LinkEnd } from './true-link.js';

/** What has happened to a link, oldest first: readings taken and work done. */
export type LinkEvent =
  | { type: 'reading'; id: string; reading: Reading; corrects: string | null }
  | { type: 'work'; place: LinkEnd | 'cable' };

/**
 * The readings that still speak for the link as it is now. A corrected reading is out. Any work
 * ends what meters said before it; colours seen at an end hold until that end, or the cable, is
 * worked on.
 */
export function currentEvidence(events: readonly LinkEvent[]): Reading[] {
  const corrected = new Set(events.flatMap((e) => (e.type === 'reading' && e.corrects ? [e.corrects] : [])));
  let holding: { id: string; reading: Reading }[] = [];
  for (const event of events) {
    if (event.type === 'reading') {
      if (!corrected.has(event.id)) holding.push({ id: event.id, reading: event.reading });
    } else {
      holding = holding.filter(
        ({ reading }) =>
          reading.instrument === 'eye' && event.place !== 'cable' && reading.end !== event.place,
      );
    }
  }
  return holding.map(({ reading }) => reading);
}
