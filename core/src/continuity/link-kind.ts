import type { LinkExpectation } from './expectation.js';

/** Kinds of link by all that makes them one, each with a short name; the oldest is forgotten. */
const names = new Map<string, string>();
const REMEMBERED = 1000;
const known = new WeakMap<LinkExpectation, string>();
let named = 0;

/** A name that two links share exactly when they differ in nothing but their label and their length. */
export function kindOfLink(expected: LinkExpectation): string {
  const before = known.get(expected);
  if (before !== undefined) return before;
  const whole = JSON.stringify({ ...expected, label: undefined, lengthM: undefined });
  const kind = remember(names, REMEMBERED, whole, () => `${named++}`);
  known.set(expected, kind);
  return kind;
}

/** What was worked out before, or now; of more than so many the one not asked for longest is forgotten. */
export function remember<T>(results: Map<string, T>, most: number, key: string, make: () => T): T {
  const before = results.get(key);
  const value = before ?? make();
  if (before !== undefined) results.delete(key);
  results.set(key, value);
  if (results.size > most) results.delete(results.keys().next().value as string);
  return value;
}
