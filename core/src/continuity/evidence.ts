import { readingsThatHold, type Evidence, type TakenReading, type WorkDone } from './timeline.js';

/** What has been recorded of a link, oldest first: readings taken, some of them corrections, and work done. */
export type LinkEvent =
  | {
      type: 'reading';
      id: string;
      reading: TakenReading;
      corrects: string | null;
      /** Why an earlier reading was no good, said with this one; empty where nobody said. */
      misread?: string;
    }
  | { type: 'work'; place: WorkDone['work'] };

/** The record as evidence: what was corrected is out. */
export function evidenceOf(events: readonly LinkEvent[]): Evidence[] {
  const corrected = new Set(events.flatMap((e) => (e.type === 'reading' && e.corrects ? [e.corrects] : [])));
  return events.flatMap((event): Evidence[] => {
    if (event.type === 'work') return [{ work: event.place }];
    if (corrected.has(event.id)) return [];
    return event.misread ? [event.reading, { misread: event.misread }] : [event.reading];
  });
}

/** The readings that still speak for the link as it is now. */
export const currentEvidence = (events: readonly LinkEvent[]): TakenReading[] =>
  readingsThatHold(evidenceOf(events));
