import type { MapReading } from '@near-spoke/core';

/** A map being keyed in: near contacts in order, each with where it arrives. */
export interface KeyedMap {
  readonly contacts: readonly string[];
  readonly arrivals: Readonly<Record<string, readonly string[]>>;
  /** The contact whose answer is awaited; past the end when all are answered. */
  readonly at: number;
  /** The next contact key adds to the last answer instead of starting a new one. */
  readonly adding: boolean;
}

export const startKeying = (contacts: readonly string[]): KeyedMap => ({
  contacts,
  arrivals: {},
  at: 0,
  adding: false,
});

export const isComplete = (map: KeyedMap): boolean => map.at >= map.contacts.length;

/** The awaited contact arrives here; after `several`, the last one arrives here too. */
export function arrives(map: KeyedMap, far: string): KeyedMap {
  if (!map.contacts.includes(far)) return map;
  if (map.adding) {
    const last = map.contacts[map.at - 1] as string;
    const already = map.arrivals[last] ?? [];
    const together = already.includes(far) ? already : [...already, far];
    return { ...map, adding: false, arrivals: { ...map.arrivals, [last]: together } };
  }
  return answer(map, [far]);
}

export const nowhere = (map: KeyedMap): KeyedMap => answer({ ...map, adding: false }, []);

/** The last answered contact arrives at one more place. */
export function several(map: KeyedMap): KeyedMap {
  const last = map.contacts[map.at - 1];
  return last !== undefined && (map.arrivals[last]?.length ?? 0) > 0 ? { ...map, adding: true } : map;
}

/** All contacts not yet answered arrive at their own number. */
export function straight(map: KeyedMap): KeyedMap {
  const rest = map.contacts.slice(map.at).map((contact) => [contact, [contact]]);
  return {
    ...map,
    at: map.contacts.length,
    adding: false,
    arrivals: { ...map.arrivals, ...Object.fromEntries(rest) },
  };
}

/** Takes back the last answer, or the wish to add to it. */
export function back(map: KeyedMap): KeyedMap {
  if (map.adding) return { ...map, adding: false };
  const last = map.contacts[map.at - 1];
  if (last === undefined) return map;
  const { [last]: _, ...rest } = map.arrivals;
  return { ...map, at: map.at - 1, arrivals: rest };
}

function answer(map: KeyedMap, far: readonly string[]): KeyedMap {
  const contact = map.contacts[map.at];
  return contact === undefined
    ? map
    : { ...map, at: map.at + 1, arrivals: { ...map.arrivals, [contact]: far } };
}

/** The finished reading. Splits are only for an instrument that can see them. */
export function keyedReading(
  map: KeyedMap,
  instrument: MapReading['instrument'],
  splits: readonly string[],
): MapReading {
  return {
    instrument,
    arrivals: map.arrivals,
    joins: [],
    splits: instrument === 'coded-mapper-crosstalk' ? splits : null,
  };
}
