import { insulationName } from './colours.js';
import { FOUR_PAIR, PAIR_COLOUR_NAMES, type ConductorId } from './conductors.js';

/** A contact of a connector ("pin"), by its own numbering. */
export type ContactId = string;

/** The eight contacts of an 8P8C connector in numbering order. */
export const EIGHT_CONTACTS: readonly ContactId[] = ['1', '2', '3', '4', '5', '6', '7', '8'];

/** The screen contact: the metal shell of a plug or jack. */
export const SCREEN_CONTACT: ContactId = 'S';

/** The contacts that a balanced pair must share (ANSI/TIA-568, IEEE 802.3). */
export const CONTACT_PAIRS: readonly (readonly [ContactId, ContactId])[] = [
  ['1', '2'],
  ['3', '6'],
  ['4', '5'],
  ['7', '8'],
];

export type SchemeId = 'T568A' | 'T568B' | 'nested';

/** Which conductor lies on which contact of an 8-contact connector. */
export interface Scheme {
  id: SchemeId;
  name: string;
  source: string;
  /** Conductors on contacts 1 to 8. */
  order: readonly ConductorId[];
  /** Whether the contacts' pairs carry Ethernet. */
  ethernet: boolean;
  use: string;
}

export const SCHEMES: Readonly<Record<SchemeId, Scheme>> = {
  T568A: {
    id: 'T568A',
    name: 'T568A',
    source: 'ANSI/TIA-568',
    order: ['WH-GN', 'GN', 'WH-OG', 'BU', 'WH-BU', 'OG', 'WH-BN', 'BN'],
    ethernet: true,
    use: 'Where the job or the building already uses it, and where older telephone pairs 1 and 2 share the outlet.',
  },
  T568B: {
    id: 'T568B',
    name: 'T568B',
    source: 'ANSI/TIA-568',
    order: ['WH-OG', 'OG', 'WH-GN', 'BU', 'WH-BU', 'GN', 'WH-BN', 'BN'],
    ethernet: true,
    use: 'Our default where nothing is said. Both ends alike; never mixed in one building.',
  },
  nested: {
    id: 'nested',
    name: 'Nested telephone pairs',
    source: 'modular telephone practice',
    order: ['WH-BN', 'WH-GN', 'WH-OG', 'BU', 'WH-BU', 'OG', 'GN', 'BN'],
    ethernet: false,
    use: 'Old four-line telephone outlets. Splits pairs for Ethernet: not for data.',
  },
};

/** The conductor on a contact under a scheme, or undefined where the scheme has no such contact. */
export function conductorAt(scheme: SchemeId, contact: ContactId): ConductorId | undefined {
  return SCHEMES[scheme].order[Number(contact) - 1];
}

/** Contacts on which two schemes differ, and the pairs that stand exchanged there. */
export function compareSchemes(a: SchemeId, b: SchemeId): { contacts: ContactId[]; pairs: number[] } {
  const contacts = EIGHT_CONTACTS.filter((c) => conductorAt(a, c) !== conductorAt(b, c));
  const pairs = new Set<number>();
  for (const contact of contacts) {
    const conductor = FOUR_PAIR.find((w) => w.id === conductorAt(a, contact));
    if (conductor?.pair) pairs.add(conductor.pair);
  }
  return { contacts, pairs: [...pairs].sort((x, y) => x - y) };
}

/**
 * Whether white-based and solid conductors alternate along the contacts: the first glance at a
 * plug. It is only a glance: a mirrored plug alternates too, and so does the 1-2, 3-4 split.
 */
export function alternates(order: readonly (ConductorId | null)[]): boolean {
  return order.every((conductor, index) => {
    const next = order[index + 1];
    if (next === undefined) return true;
    if (conductor === null || next === null) return false;
    return conductor.startsWith('WH-') !== next.startsWith('WH-');
  });
}

/** A scheme in plain words, for saying aloud while the wires are laid in order. */
export function explainScheme(id: SchemeId): string {
  const { order, name } = SCHEMES[id];
  const words = order.map(insulationName);
  const pairOn = (a: number, b: number): string => {
    const first = FOUR_PAIR.find((w) => w.id === order[a - 1]);
    const second = FOUR_PAIR.find((w) => w.id === order[b - 1]);
    return first?.pair && first.pair === second?.pair ? (PAIR_COLOUR_NAMES[first.pair] ?? '') : '';
  };
  const head = `${name}, contact 1 first: ${words.join(', ')}.`;
  if (id === 'nested') {
    return `${head} Pairs nest around the middle: blue on 4 and 5, orange on 3 and 6, green on 2 and 7, brown on 1 and 8.`;
  }
  return `${head} Blue in the middle on 4 and 5, brown last on 7 and 8; ${pairOn(1, 2)} first on 1 and 2, and ${pairOn(3, 6)} straddles the blue on 3 and 6.`;
}
