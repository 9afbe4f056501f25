import type * as z from 'zod';

type Issue = z.core.$ZodIssue;

/** Messages that a schema did not word itself. */
const UNWORDED = /^(?:Invalid |Too big|Too small|Unrecognized )/;

/** What to give where something else came, by the type that is expected. */
const GIVE: Readonly<Record<string, string>> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  object: 'an object with named fields',
  record: 'an object with named fields',
  null: 'null',
};
const FORMATS: Readonly<Record<string, string>> = {
  uuid: 'an id (UUID)',
  datetime: 'a time as 2026-01-31T09:30:00Z',
  date: 'a day as 2026-01-31',
  base64: 'base64',
};
const SIZES: Readonly<Record<string, string>> = { string: 'character', array: 'item', set: 'item' };

function sized(figure: number | bigint, origin: string): string {
  const unit = SIZES[origin];
  if (!unit) return String(figure);
  return `${figure} ${unit}${Number(figure) === 1 ? '' : 's'}`;
}

/**
 * One issue in words that say what to do. A message that a schema gives stands as it is; the
 * validator's own, which speak of types and of `undefined`, are worded anew.
 */
export function issueWords(issue: Issue): string {
  if (issue.code === 'unrecognized_keys') return `Unknown field ${issue.keys.join(', ')}: leave it out.`;
  if (!UNWORDED.test(issue.message)) return issue.message;
  switch (issue.code) {
    case 'invalid_type': {
      const give = GIVE[issue.expected] ?? issue.expected;
      return issue.message.endsWith('received undefined') ? `Missing: give ${give}.` : `Give ${give}.`;
    }
    case 'invalid_value':
      return issue.values.length === 1
        ? `Give ${String(issue.values[0])}.`
        : `Give one of ${issue.values.map(String).join(', ')}.`;
    case 'too_big':
      return `${issue.inclusive === false ? 'Less than' : 'At most'} ${sized(issue.maximum, issue.origin)}.`;
    case 'too_small':
      return `${issue.inclusive === false ? 'More than' : 'At least'} ${sized(issue.minimum, issue.origin)}.`;
    case 'invalid_format':
      return `Give ${FORMATS[issue.format] ?? 'text of the form that is asked'}.`;
    case 'invalid_key':
      return `This name cannot be: ${issue.issues.map((one) => issueWords(one)).join(' ')}`;
    case 'invalid_union': {
      const options = (issue as { options?: readonly unknown[] }).options ?? [];
      return options.length > 0
        ? `Give one of ${options.map(String).join(', ')}.`
        : 'Not of any form it may have.';
    }
    default:
      return 'This cannot be.';
  }
}

/** Where several forms are possible and none fits: the issues of the one that fits best. */
export function closestIssues(issue: Issue): Issue[] {
  if (issue.code !== 'invalid_union' || issue.errors.length === 0) return [issue];
  const depth = (issues: readonly Issue[]): number => Math.max(...issues.map(({ path }) => path.length));
  const best = issue.errors.reduce((one, other) =>
    depth(other) > depth(one) || (depth(other) === depth(one) && other.length < one.length) ? other : one,
  );
  // No form was even begun: that says more than the troubles of any one of them.
  if (depth(best) === 0) return [issue];
  return best.flatMap((one) => closestIssues({ ...one, path: [...issue.path, ...one.path] }));
}
