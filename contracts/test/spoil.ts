import fc from 'fast-check';

/** Values that hurry or hostile hands send where something else was asked. */
export const NASTY = fc.constantFrom<unknown>(
  null,
  '',
  ' ',
  -1,
  0,
  1e300,
  -1e-300,
  2 ** 53,
  true,
  [],
  {},
  [[]],
  'x'.repeat(3000),
  '\u202eabc',
  '=1+1',
  '../../..',
  '%00',
  { toString: 1, constructor: 2 },
  JSON.parse('{"__proto__": {"a": 1}}'),
  '1; DROP TABLE link',
);

/** Puts a value somewhere into a tree of JSON, at the place of that number, counted depth first; nowhere beyond the last. */
export function putAt(tree: unknown, place: number, value: unknown): unknown {
  let left = place;
  const walk = (node: unknown): unknown => {
    if (left-- === 0) return value;
    if (Array.isArray(node)) return node.map(walk);
    if (typeof node === 'object' && node !== null)
      return Object.fromEntries(Object.entries(node).map(([name, one]) => [name, walk(one)]));
    return node;
  };
  return walk(tree);
}

/** How many places a tree of JSON has. */
export function placesOf(tree: unknown): number {
  if (typeof tree !== 'object' || tree === null) return 1;
  return 1 + Object.values(tree).reduce((sum: number, one) => sum + placesOf(one), 0);
}

/** A tree of JSON with something else at one or two of its places. */
export const spoiled = (tree: unknown): fc.Arbitrary<unknown> =>
  fc
    .array(fc.tuple(fc.nat({ max: placesOf(tree) - 1 }), NASTY), { minLength: 1, maxLength: 2 })
    .map((spots) => spots.reduce((now, [place, value]) => putAt(now, place, value), tree));
