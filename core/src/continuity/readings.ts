import type { ConductorId } from '../cabling/conductors.js';
import type { ContactId } from '../cabling/schemes.js';
import { DisjointSets } from './disjoint-sets.js';
import type { LinkEnd } from './true-link.js';

/** Where each near contact arrives. An empty list is "nowhere". */
export interface MapReading {
  instrument: 'stepping-lamps' | 'coded-mapper' | 'coded-mapper-crosstalk';
  arrivals: Readonly<Record<ContactId, readonly ContactId[]>>;
  /** Near contacts found joined to each other. */
  joins: readonly (readonly ContactId[])[];
  /** Contact pairs ("3-6") that are split; null when the instrument cannot see splits. */
  splits: readonly string[] | null;
  /** The remote that answered, by the label it hangs at; where the set has numbered remotes. */
  remote?: string | undefined;
  /** Whether the screen was earthed at both ends meanwhile: then it reads closed through the building too. */
  screenEarthed?: 'one-end' | 'both-ends' | undefined;
}

/**
 * Which pair's lamp is lit, by contact pair ("1-2"), the far end bridged pair by pair: each lamp in a
 * loop of its own, or every lamp on the white-based wire and all solid ones tied to one return.
 */
export interface LampReading {
  instrument: 'lamp-pairs' | 'lamps-one-return';
  lamps: Readonly<Record<string, boolean>>;
}

export interface EchoEvent {
  kind: 'open' | 'short' | 'low' | 'high';
  distanceM: number;
  /** Standard uncertainty of the distance, where the trace was located with one. */
  uM?: number | undefined;
  /** Belief in the kind, where the trace was read with one; certain where it is left out. */
  probability?: number | undefined;
}

/** What a reflectometer sees on each contact pair, nearest first. */
export interface EchoReading {
  instrument: 'pair-reflectometer';
  /** How it was located, where it was no trace: two cursors on a screen, or a meter's farads or ohms. */
  by?: 'cursors' | 'capacitance' | 'resistance' | undefined;
  from: LinkEnd;
  pairs: Readonly<Record<string, readonly EchoEvent[]>>;
}

/** What a person sees on each contact of one end. */
export interface ColourReading {
  instrument: 'eye';
  end: LinkEnd;
  /** The conductor on each contact; null where nobody could read one, which says nothing of what lies there. */
  colours: Readonly<Record<ContactId, ConductorId | null>>;
  /** Contacts, without a colour above, where a person saw that nothing lies there. */
  empty?: readonly ContactId[] | undefined;
}

/** Whether nobody could tell what lies on a contact, nor whether anything does. */
export const isUnread = (
  { colours, empty }: Pick<ColourReading, 'colours' | 'empty'>,
  contact: ContactId,
): boolean => colours[contact] === null && !empty?.includes(contact);

/** Contacts of one end, touched or joined together. */
export interface ContactGroup {
  end: LinkEnd;
  contacts: readonly ContactId[];
}

/** One touch of a beeper's or ohmmeter's two leads; several contacts at a lead are ganged. */
export interface Touch {
  from: ContactGroup;
  to: ContactGroup;
  /** Contacts joined by a clip or a loop plug meanwhile, each group apart. */
  joined?: readonly ContactGroup[] | undefined;
  closed: boolean;
  /** Loop resistance where a meter shows it, its leads taken off; null for an open loop. */
  ohm?: number | null | undefined;
}

export interface TouchReading {
  instrument: 'beeper' | 'ohmmeter';
  touches: readonly Touch[];
}

/** Tone put on contacts of one end, and the contacts of the other where the probe hears it. */
export interface ToneReading {
  instrument: 'tone-probe';
  end: LinkEnd;
  tones: readonly { on: readonly ContactId[]; heard: readonly ContactId[] }[];
}

/** Volts across contacts of one end while the other end is fed; the first contact is the positive lead. */
export interface VoltageReading {
  instrument: 'dc-voltage';
  end: LinkEnd;
  feed: { contacts: readonly [ContactId, ContactId]; volts: number };
  across: readonly { contacts: readonly [ContactId, ContactId]; volts: number }[];
}

/** Contact pairs that a supply of data pairs feeds together, its first pair and its second: alternatives A and B of IEEE 802.3. */
export const FED_SETS = {
  a: [
    ['1', '2'],
    ['3', '6'],
  ],
  b: [
    ['4', '5'],
    ['7', '8'],
  ],
} as const;
export type FedSet = keyof typeof FED_SETS;
export type FedPairs = FedSet | 'both';
/** How a tester shows a set fed: its first pair at plus, at minus, or no feed. */
export type FedAs = 'plus' | 'minus' | 'none';

/** Which pairs of one end are fed by the supply at the other, as a power tester in the device's place shows. */
export interface PowerReading {
  instrument: 'power-tester';
  end: LinkEnd;
  /** Which pairs the supply feeds; null where nobody knows. */
  feeds: FedPairs | null;
  sets: Readonly<Record<FedSet, FedAs>>;
  /** Volts where they are shown. */
  volts?: number | undefined;
  /** What the supply agreed to, where the tester shows it: a way of feeding by its id. */
  offers?: string | undefined;
}

/** What a capacitance meter shows across each contact pair of one end, both ends unplugged, its leads taken off. */
export interface CapacitanceReading {
  instrument: 'capacitance-meter';
  end: LinkEnd;
  /** Contact pair ("1-2") -> nanofarad; null where the meter shows no figure: over its range, or a loop. */
  nF: Readonly<Record<string, number | null>>;
}

/** Contacts whose path flickered while a place was wiggled; along the cable by their near contacts. */
export interface WiggleReading {
  instrument: 'wiggle';
  end: LinkEnd | 'cable';
  flickers: readonly ContactId[];
}

export type Reading =
  | MapReading
  | LampReading
  | EchoReading
  | ColourReading
  | TouchReading
  | ToneReading
  | VoltageReading
  | PowerReading
  | CapacitanceReading
  | WiggleReading;

export function isMapReading(reading: Reading): reading is MapReading {
  return (
    reading.instrument === 'stepping-lamps' ||
    reading.instrument === 'coded-mapper' ||
    reading.instrument === 'coded-mapper-crosstalk'
  );
}

/**
 * Completes a map by the logic of metal: two near contacts that reach one far contact are joined,
 * and then each reaches whatever the other does. A reading that lists only part of a short is
 * therefore not an error; it comes out the same as one that lists all of it.
 */
export function closeMap(reading: MapReading): MapReading {
  const before = closed.get(reading);
  if (before) return before;
  const map = completed(reading);
  closed.set(reading, map);
  return map;
}

/** Readings do not change; belief asks for the same few thousands of times. */
const closed = new WeakMap<MapReading, MapReading>();

function completed(reading: MapReading): MapReading {
  const sets = new DisjointSets<string>();
  const nearContacts = Object.keys(reading.arrivals);
  const farContacts = new Set<ContactId>();
  for (const near of nearContacts) {
    sets.find(`near:${near}`);
    for (const far of reading.arrivals[near] ?? []) {
      farContacts.add(far);
      sets.join(`near:${near}`, `far:${far}`);
    }
  }
  for (const group of reading.joins) {
    for (const contact of group.slice(1)) sets.join(`near:${group[0]}`, `near:${contact}`);
  }
  const arrivals: Record<ContactId, ContactId[]> = {};
  for (const near of nearContacts) {
    arrivals[near] = [...farContacts].filter((far) => sets.joined(`near:${near}`, `far:${far}`)).sort();
  }
  const groups = new Map<string, ContactId[]>();
  for (const near of nearContacts) {
    const root = sets.find(`near:${near}`);
    groups.set(root, [...(groups.get(root) ?? []), near]);
  }
  return {
    ...reading,
    arrivals,
    joins: [...groups.values()].filter((group) => group.length > 1).map((group) => group.sort()),
    splits: reading.splits === null ? null : [...reading.splits].sort(),
  };
}

/** A text that is equal for two map readings exactly when they say the same thing. */
export function mapKey(reading: MapReading): string {
  const closed = closeMap(reading);
  const arrivals = Object.keys(closed.arrivals)
    .sort()
    .map((near) => `${near}>${closed.arrivals[near]?.join('+')}`);
  const joins = closed.joins.map((group) => group.join('=')).sort();
  return [arrivals.join(','), joins.join(','), closed.splits?.join(',') ?? 'unseen'].join('|');
}
