import fc from 'fast-check';
import { z } from 'zod';
import { endpoints, fieldErrors, firstError, type Endpoint } from '../src/index.js';

/** What a value is told about it: place and words. */
function told(schema: z.ZodType, value: unknown): string[] {
  const parsed = schema.safeParse(value);
  return parsed.success ? [] : fieldErrors(parsed.error).map(({ path, message }) => `${path}: ${message}`);
}
const field = (schema: z.ZodType, value: unknown): string | undefined =>
  told(z.strictObject({ it: schema }), value === undefined ? {} : { it: value })[0]?.replace(/^it: /, '');

describe('what is wrong with input', () => {
  it('is said as what to do, never in words of the validator', () => {
    for (const [schema, value, words] of [
      [z.number(), undefined, 'Missing: give a number.'],
      [z.number(), 'much', 'Give a number.'],
      [z.number(), Number.NaN, 'Give a number.'],
      [z.int(), 1.5, 'Give a whole number.'],
      [z.string(), 3, 'Give text.'],
      [z.boolean(), 'yes', 'Give true or false.'],
      [z.array(z.number()), {}, 'Give a list.'],
      [z.strictObject({}), 4, 'Give an object with named fields.'],
      [z.literal('drum'), 'box', 'Give drum.'],
      [z.enum(['drum', 'box']), 'reel', 'Give one of drum, box.'],
      [z.number().min(0), -1, 'At least 0.'],
      [z.number().positive(), 0, 'More than 0.'],
      [z.number().max(5), 9, 'At most 5.'],
      [z.number().lt(5), 5, 'Less than 5.'],
      [z.string().min(2), 'x', 'At least 2 characters.'],
      [z.string().max(2), 'xyz', 'At most 2 characters.'],
      [z.array(z.number()).min(1), [], 'At least 1 item.'],
      [z.uuid(), 'x', 'Give an id (UUID).'],
      [z.iso.datetime(), 'today', 'Give a time as 2026-01-31T09:30:00Z.'],
      [z.string().regex(/^x$/), 'y', 'Give text of the form that is asked.'],
      [
        z.record(z.string().max(2), z.number()),
        { abc: 1 },
        'abc: This name cannot be: At most 2 characters.',
      ],
    ] as const)
      expect(field(schema, value))
        .withContext(words)
        .toContain(words.replace(/^abc: /, ''));
  });

  it('keeps the words that a schema gives itself', () => {
    expect(field(z.number({ error: 'Give the length in metres.' }), 'x')).toBe('Give the length in metres.');
    expect(field(z.number().max(5, { error: 'No drum holds more.' }), 6)).toBe('No drum holds more.');
  });

  it('names fields that nobody knows', () => {
    expect(told(z.strictObject({ a: z.number() }), { a: 1, b: 2, c: 3 })).toEqual([
      'body: Unknown field b, c: leave it out.',
    ]);
  });

  it('is about the form that was meant, where there are several', () => {
    const shape = z.union([
      z.string(),
      z.strictObject({ at: z.number(), by: z.string() }),
      z.array(z.strictObject({ at: z.number() })),
    ]);
    expect(told(shape, { at: 'x', by: 'me' })).toEqual(['at: Give a number.']);
    expect(told(shape, [{ at: 1 }, { at: null }])).toEqual(['[1].at: Give a number.']);
    expect(told(shape, 4)).toEqual(['body: Not of any form it may have.']);
    const kinds = z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('drum') }),
      z.strictObject({ kind: z.literal('box') }),
    ]);
    expect(told(kinds, { kind: 'reel' })).toEqual(['kind: Give one of drum, box.']);
  });

  it('may be told by the first thing alone', () => {
    const parsed = z.strictObject({ a: z.number(), b: z.number() }).safeParse({ a: 'x' });
    expect(parsed.success ? '' : firstError(parsed.error)).toBe('a: Give a number.');
  });

  it('is for a person, whatever is sent to whichever endpoint', () => {
    const bodies = Object.values(endpoints as Record<string, Endpoint>).flatMap(({ body }) => body ?? []);
    expect(bodies.length).toBeGreaterThan(25);
    fc.assert(
      fc.property(fc.constantFrom(...bodies), fc.jsonValue({ maxDepth: 3 }), (schema, value) => {
        for (const line of told(schema, value)) {
          if (
            /\bundefined\b|\bNaN\b|Invalid|Too (big|small)|Unrecognized|expected|\[object/.test(
              line.slice(line.indexOf(': ')),
            )
          )
            throw new Error(line);
          if (!line.endsWith('.') && !line.endsWith('?')) throw new Error(`No sentence: ${line}`);
        }
      }),
      { numRuns: 600 },
    );
  });
});
