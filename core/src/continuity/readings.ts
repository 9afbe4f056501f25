import type { ConductorId } from '../cabling/conductors.js';
import type { ContactId } from '../cabling/schemes.js';
import { DisjointSets } from './disjoint-sets.js';
import { canonical } from './galvanic.js';
import type { LinkEnd } from './true-link.js';

/** Where each near contact arrives. An empty list is "nowhere". */
export interface MapReading {
  instrument: 'stepping-lamps' | 'coded-mapper' | 'coded-mapper-crosstalk';
  arrivals: Readonly<Record<ContactId, readonly ContactId[]>>;
  /** Near contacts found joined to each other. */
  joins: readonly (readonly ContactId[])[];
  /** Contact pairs ("3-6") that are split; null when the instrument cannot see splits. */
  splits: readonly string[] | null;
}

/** Which pair's lamp is lit, by contact pair ("1-2"). */
export interface LampReading {
  instrument: 'lamp-pairs';
  lamps: Readonly<Record<string, boolean>>;
}

export interface EchoEvent {
  kind: 'open' | 'short' | 'low' | 'high';
  distanceM: number;
}

/** What a reflectometer sees on each contact pair, nearest first. */
export interface EchoReading {
  instrument: 'pair-reflectometer';
  from: LinkEnd;
  pairs: Readonly<Record<string, readonly EchoEvent[]>>;
}

/** The conductor a person sees on each contact of one end. */
export interface ColourReading {
  instrument: 'eye';
  end: LinkEnd;
  colours: Readonly<Record<ContactId, ConductorId | null>>;
}

export type Reading = MapReading | LampReading | EchoReading | ColourReading;

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
    instrument: reading.instrument,
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

/** The grouping of contacts a map reading shows, comparable with a link's own (`galvanic`). */
export function readingPartition(reading: MapReading): string {
  const closed = closeMap(reading);
  const contacts = Object.keys(closed.arrivals);
  const names = new Map<string, number>();
  const label = (name: string): number => {
    if (!names.has(name)) names.set(name, names.size);
    return names.get(name) as number;
  };
  const nearName = (contact: ContactId): string => {
    const group = closed.joins.find((join) => join.includes(contact));
    return `near:${group?.[0] ?? contact}`;
  };
  const farName = (contact: ContactId): string => {
    const near = contacts.find((c) => closed.arrivals[c]?.includes(contact));
    return near === undefined ? `far:${contact}` : nearName(near);
  };
  return canonical([...contacts.map((c) => label(nearName(c))), ...contacts.map((c) => label(farName(c)))]);
}
