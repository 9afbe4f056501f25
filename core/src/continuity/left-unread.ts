import type { ContactId } from '../cabling/schemes.js';
import { intendedLink, type LinkExpectation } from './expectation.js';
import { isUnread, type ColourReading, type Reading } from './readings.js';
import type { LinkEnd } from './true-link.js';

/** Contacts of one end of which nobody knows yet what lies there. */
export interface LeftUnread {
  end: LinkEnd;
  contacts: readonly ContactId[];
}

/**
 * What a look at an end passed over although it read the rest of it, where no loop tester's lamp stands for that
 * contact either: a screen not under its clip is found in no other way. Null where nothing is left.
 * @param readings that hold, of which none shows a fault and none proves the map
 */
export function leftUnread(expected: LinkExpectation, readings: readonly Reading[]): LeftUnread | null {
  const lit = new Set(
    readings.flatMap((reading) =>
      'lamps' in reading ? Object.keys(reading.lamps).flatMap((pair) => pair.split('-')) : [],
    ),
  );
  const looks = readings.filter((reading): reading is ColourReading => reading.instrument === 'eye');
  for (const { end, colours } of looks) {
    const meant = intendedLink(expected)[end];
    const isRead = (contact: ContactId): boolean =>
      looks.some((look) => look.end === end && contact in look.colours && !isUnread(look, contact));
    const contacts = Object.keys(meant).filter(
      (c) => (meant[c] ?? null) !== null && !isRead(c) && !lit.has(c),
    );
    if (contacts.length > 0 && Object.keys(colours).some(isRead)) return { end, contacts };
  }
  return null;
}
