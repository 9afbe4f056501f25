import type { ConductorId } from '../cabling/conductors.js';
import type { ContactId } from '../cabling/schemes.js';
import { compareMap, list, type Finding } from '../continuity/compare-map.js';
import { isUnread, type ColourReading } from '../continuity/readings.js';
import type { AssignedContact } from '../connectors/assignment.js';

/** What reading the colours back before the point of no return says. */
export interface ReadBack {
  right: boolean;
  /** Contacts that do not hold what the card says. */
  slipped: readonly ContactId[];
  words: string;
  /** What to do while nothing is spent yet; empty when it is right. */
  advice: string;
}

const LAY_AGAIN = 'Draw them out and lay them again.';

const whole = (finding: Finding): string | null =>
  ({
    mirror: 'The whole order is mirrored: it was laid with the connector the wrong way up.',
    'mixed-scheme': 'The orange and green pairs have changed places: this is the other scheme.',
    shifted: 'All have moved by one.',
  })[finding.kind as string] ?? null;

/**
 * Compares what was seen on each contact with the card. The slip is named as the wire map would
 * name it, before anything is spent.
 */
export function readBack(
  card: readonly AssignedContact[],
  sight: Pick<ColourReading, 'colours' | 'empty'>,
): ReadBack {
  const { colours: seen } = sight;
  const unread = card.flatMap(({ contact }) => (isUnread(sight, contact) ? [contact] : []));
  const slipped = card
    .filter(({ contact, conductor }) => seen[contact] !== conductor && !unread.includes(contact))
    .map((l) => l.contact);
  if (slipped.length === 0 && unread.length > 0) {
    const words = `${unread.length < card.length ? 'The rest is as the card; ' : ''}${list(unread)} could not be read.`;
    return {
      right: false,
      slipped,
      words,
      advice: `Turn it to the light and read ${list(unread)} once more.`,
    };
  }
  if (slipped.length === 0) return { right: true, slipped, words: 'As the card.', advice: '' };
  const belongs = new Map(card.map(({ contact, conductor }) => [conductor, contact]));
  // Where each conductor lies, as if a mapper had found it there.
  const arrivals = Object.fromEntries(
    card.map(({ contact }) => {
      const lying = seen[contact] ?? null;
      const home = lying === null ? undefined : belongs.get(lying);
      return [contact, home === undefined ? [] : [home]];
    }),
  );
  const notRead = unread.length > 0 ? [`${list(unread)} could not be read.`] : [];
  const twice = card
    .map(({ conductor }) => conductor)
    .filter((wire) => card.filter(({ contact }) => seen[contact] === wire).length > 1);
  if (twice.length > 0) {
    const words = `${list([...new Set(twice)])} cannot lie on two contacts.`;
    return { right: false, slipped, words, advice: `Read ${list(slipped)} once more.` };
  }
  const expected = Object.fromEntries(card.map(({ contact }) => [contact, contact]));
  const findings = compareMap(expected, { instrument: 'coded-mapper', arrivals, joins: [], splits: null });
  const told = findings
    .map((finding) => ({ ...finding, contacts: finding.contacts.filter((c) => !unread.includes(c)) }))
    .filter(({ kind, contacts }) => kind !== 'open' || contacts.length > 0)
    .map((finding) => whole(finding) ?? describe(finding, seen));
  return { right: false, slipped, words: [...told, ...notRead].join(' '), advice: LAY_AGAIN };
}

function describe(finding: Finding, seen: Readonly<Record<ContactId, ConductorId | null>>): string {
  if (finding.kind === 'open') return `Nothing of the card’s is on ${list(finding.contacts)}.`;
  const lies = finding.contacts.map((c) => `${seen[c] ?? 'nothing'} on ${c}`);
  return `${list(finding.contacts)} have slipped: ${list(lies)}.`;
}
