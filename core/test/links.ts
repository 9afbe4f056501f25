import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  expectLink,
  intendedLink,
  type LinkExpectation,
  type MapReading,
  type SchemeId,
  type TrueLink,
} from '../src/index.js';

const cable = (id: string) => CABLE_TYPES.find((type) => type.id === id) ?? CABLE_TYPES[0];
const connector = (id: string) => CONNECTOR_TYPES.find((type) => type.id === id) ?? CONNECTOR_TYPES[0];

/** What a link under test is meant to be. */
export function expectation(
  plan: Partial<{ cable: string; near: string; far: string; lengthM: number; scheme: SchemeId }> = {},
): LinkExpectation {
  const [c, near, far] = [
    cable(plan.cable ?? 'cat6-u'),
    connector(plan.near ?? 'jack-punched'),
    connector(plan.far ?? 'plug-closed'),
  ];
  if (!c || !near || !far) throw new Error('unknown type');
  return expectLink({ cable: c, near, far, lengthM: plan.lengthM ?? 40, scheme: plan.scheme ?? 'T568B' });
}

export const screened = (): LinkExpectation =>
  expectation({ cable: 'cat6-f-outdoor', near: 'jack-punched-screened', far: 'plug-outdoor', lengthM: 81.5 });

/** A link as intended, with some of it changed. */
export const linkWith = (expected: LinkExpectation, change: Partial<TrueLink> = {}): TrueLink => ({
  ...intendedLink(expected),
  ...change,
});

/** An end wired in this order on contacts 1 to 8. */
export const wired = (...order: (string | null)[]): Record<string, string | null> =>
  Object.fromEntries(order.map((conductor, i) => [String(i + 1), conductor]));

export const T568A = ['WH-GN', 'GN', 'WH-OG', 'BU', 'WH-BU', 'OG', 'WH-BN', 'BN'];
export const T568B = ['WH-OG', 'OG', 'WH-GN', 'BU', 'WH-BU', 'GN', 'WH-BN', 'BN'];
export const PAIR_BY_PAIR = ['WH-OG', 'OG', 'WH-GN', 'GN', 'WH-BU', 'BU', 'WH-BN', 'BN'];

/** The map of a link that is as intended, by a mapper that sees no splits. */
export const rightMap = (expected: LinkExpectation): MapReading => ({
  instrument: 'coded-mapper',
  arrivals: Object.fromEntries(Object.keys(intendedLink(expected).near).map((c) => [c, [c]])),
  joins: [],
  splits: null,
});
