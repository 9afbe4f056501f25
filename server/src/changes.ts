/** How a field is called in the log, and how its value reads; a field without one is named by itself. */
export type FieldWords = Readonly<Record<string, string>>;

/**
 * What changed of a record, each field as from and to: `length from 31.4 to 33; route`. Lists and groups are only named.
 *
 * @param after the fields that were sent
 */
export function changesInWords(
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
  names: FieldWords = {},
): string {
  const changed = Object.keys(after).filter(
    (key) => after[key] !== undefined && JSON.stringify(after[key]) !== JSON.stringify(before[key]),
  );
  const words = changed.map((key) => {
    const name = names[key] ?? key;
    const [from, to] = [before[key], after[key]];
    return isPlain(from) && isPlain(to) ? `${name} from ${from} to ${to}` : name;
  });
  return words.join('; ') || 'nothing';
}

const isPlain = (value: unknown): value is string | number | boolean =>
  ['string', 'number', 'boolean'].includes(typeof value);
