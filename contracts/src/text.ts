import * as z from 'zod';
import { closestIssues, issueWords } from './issue-words.js';

/** Client-made identifier: sending the same create twice is harmless. */
export const uuid = z.uuid({ error: 'Give a UUID.' });

/** Control characters and direction overrides have no place in a name, and hide what it says. */

const HIDDEN = /[\u0000-\u001f\u007f\u202a-\u202e\u2066-\u2069]/;
const DIRECTED = /[\u202a-\u202e\u2066-\u2069]/;

/** No shape of ours goes half so deep: what does was made to break a reader that calls itself for each step down. */
const DEEPEST = 64;

/** Whether a value lies in itself deeper than any shape here; it never calls itself, however deep that is. */
export function isTooDeep(value: unknown): boolean {
  let level = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST) return true;
    level = level.flatMap((one) =>
      typeof one === 'object' && one !== null ? (Object.values(one) as unknown[]) : [],
    );
  }
  return false;
}

/** Where in a value a text is that no UTF-8 can hold: half of a surrogate pair. Null where all are whole. */
export function brokenTextIn(
  value: unknown,
  path: readonly (string | number)[] = [],
): (string | number)[] | null {
  if (typeof value === 'string') return /\p{Surrogate}/u.test(value) ? [...path] : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inner] of Object.entries(value)) {
    const at = [...path, Array.isArray(value) ? Number(key) : key];
    if (/\p{Surrogate}/u.test(key)) return at;
    const found = brokenTextIn(inner, at);
    if (found) return found;
  }
  return null;
}

/** One line of text a person typed: trimmed, 1 to `max` characters. Markup is kept as plain text. */
export const line = (max: number): z.ZodString =>
  z
    .string({ error: 'Give a text.' })
    .trim()
    .min(1, { error: 'Must not be empty.' })
    .max(max, { error: `At most ${max} characters.` })
    .refine((text) => !HIDDEN.test(text), { error: 'Leave out control characters and line breaks.' });

/** Several lines, possibly none. */
export const note = z
  .string()
  .trim()
  .max(2000, { error: 'At most 2000 characters.' })

  .refine((text) => !/[\u0000-\u0008\u000b-\u001f\u007f]/.test(text), {
    error: 'Leave out control characters.',
  })
  .refine((text) => !DIRECTED.test(text), {
    error: 'Leave out the signs that turn the direction of text: they make it read as something else.',
  });

/** A cable length in metres. */
export const lengthM = z
  .number({ error: 'Give the length in metres.' })
  .positive({ error: 'A length is more than 0 m.' })
  .max(10_000, { error: 'A length is at most 10 000 m.' });

export const timestamp = z.iso.datetime({ offset: true });

/** The version a person saw when they began to edit. */
export const version = z.int().positive({ error: 'Give the version you opened.' });

/** One of several shapes, told apart by a look at the value, so that an error is about the shape that was meant. */
export const chosen = <T>(choose: (value: object) => z.ZodType<T>): z.ZodType<T, unknown> =>
  z.unknown().transform((value, context): T => {
    const schema = choose(typeof value === 'object' && value !== null ? value : {});
    const parsed = schema.safeParse(value);
    if (parsed.success) return parsed.data;
    for (const issue of parsed.error.issues.flatMap((one) => closestIssues(one)))
      context.addIssue({ code: 'custom', path: [...issue.path], message: issueWords(issue) });
    return z.NEVER;
  });
