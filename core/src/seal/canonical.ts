/** A value that JSON has no way to write. */
export class NotJson extends Error {
  constructor(readonly path: string) {
    super(`${path || 'the value'} cannot be written as JSON`);
  }
}

/**
 * The one text of a JSON value: keys in the order of their code units, no space, numbers as ECMAScript writes
 * them, so that equal values have equal text whatever order they were kept in (RFC 8785). What is undefined is left out of
 * objects, as JSON leaves it out.
 *
 * @throws NotJson with the place of what JSON cannot hold: a function, undefined in a list, a number that is not finite
 */
export function canonicalJson(value: unknown, path = ''): string {
  if (value === null || typeof value === 'string' || typeof value === 'boolean') return JSON.stringify(value);
  if (typeof value === 'number') {
    if (!Number.isFinite(value)) throw new NotJson(path);
    return JSON.stringify(value);
  }
  if (Array.isArray(value))
    return `[${value.map((each, n) => canonicalJson(each, `${path}[${n}]`)).join(',')}]`;
  if (typeof value !== 'object') throw new NotJson(path);
  const fields = Object.entries(value)
    .filter(([, field]) => field !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
    .map(([key, field]) => `${JSON.stringify(key)}:${canonicalJson(field, path ? `${path}.${key}` : key)}`);
  return `{${fields.join(',')}}`;
}
