import type { ContactId } from '../cabling/schemes.js';
import { intendedMap, type LinkExpectation } from './expectation.js';
import type { TouchReading } from './readings.js';
import type { LinkEnd } from './true-link.js';

/**
 * Whether touches prove the intended map: each contact closed to its own place, and every two
 * conductors parted by a touch that stayed silent.
 */
export function provesMap(expected: LinkExpectation, reading: Pick<TouchReading, 'touches'>): boolean {
  const meant = intendedMap(expected);
  const netOf = (end: LinkEnd, contact: ContactId): ContactId | undefined =>
    end === 'near' ? contact : Object.keys(meant).find((c) => meant[c] === contact);
  const near = Object.keys(meant);
  const { touches } = reading;
  const arrives = near.every((contact) =>
    touches.some(
      ({ from, to, joined, closed }) =>
        closed &&
        !joined?.length &&
        from.contacts.length === 1 &&
        to.contacts.length === 1 &&
        from.end !== to.end &&
        [from, to].every((g) => netOf(g.end, g.contacts[0] as ContactId) === contact),
    ),
  );
  if (!arrives) return false;
  const silent = touches
    .filter(({ closed, joined }) => !closed && !joined?.length)
    .map(({ from, to }) => [from, to].map((g) => new Set(g.contacts.map((c) => netOf(g.end, c)))));
  return near.every((a, i) =>
    near
      .slice(i + 1)
      .every((b) => silent.some(([p, q]) => (p?.has(a) && q?.has(b)) || (p?.has(b) && q?.has(a)))),
  );
}
