import { typedNumber } from '../quantities/typed-number.js';

/** What a crew pays, of one day and in one currency. */
export interface PriceList {
  /** ISO 4217. */
  currency: string;
  /** ISO 8601, the day that the prices are of. */
  dated: string;
  prices: readonly Price[];
}

export interface Price {
  /** As it stands on a shopping list. */
  item: string;
  price: number;
}

/** A price list that cannot be taken, row by row in words. */
export class BadPriceList extends Error {
  constructor(readonly rows: readonly string[]) {
    super(rows.join(' '));
  }
}

/** How the columns may be headed. */
const HEADS = {
  item: ['what', 'item', 'article', 'material'],
  price: ['price', 'price each', 'each', 'unit price'],
  currency: ['currency'],
  dated: ['date', 'dated', 'valid from', 'of'],
} as const;
type Column = keyof typeof HEADS;

const MOST_PRICES = 5000;
const MOST_NAME = 200;
/** Whether a text is written as a currency is (ISO 4217). */
export const isCurrency = (text: string): boolean => /^[A-Z]{3}$/.test(text);

/** A day as ISO 8601 writes it, that there is. */
export function isDay(text: string): boolean {
  const day = new Date(`${text}T00:00:00Z`);
  return (
    /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(day.getTime()) && day.toISOString().startsWith(text)
  );
}

/** Names are the same whatever their case and blanks are. */
export const sameItem = (item: string): string => item.trim().replace(/\s+/g, ' ').toLowerCase();

/**
 * A price list from the rows of a table: one headed row, then an item and its price each; a currency and a day stand in
 * columns of their own, or are what is usual. Rows without an item and a price are passed over.
 *
 * @throws BadPriceList with every row that cannot be taken
 */
export function readPriceList(
  rows: readonly (readonly string[])[],
  usual: { currency: string; dated: string },
): PriceList {
  const head = rows.findIndex((row) => columnOf(row, 'item') >= 0 && columnOf(row, 'price') >= 0);
  if (head < 0)
    throw new BadPriceList([
      'No row is headed with both What and Price: head the two columns so, and read it again.',
    ]);
  const column = (name: Column): number => columnOf(rows[head] ?? [], name);
  const [item, price, currency, dated] = (['item', 'price', 'currency', 'dated'] as const).map(column) as [
    number,
    number,
    number,
    number,
  ];
  const wrong: string[] = [];
  const prices: Price[] = [];
  const seen = new Map<string, number>();
  const said: Record<'currency' | 'dated', { is: string; row: number } | null> = {
    currency: null,
    dated: null,
  };
  rows.slice(head + 1).forEach((cells, i) => {
    const row = head + 2 + i;
    const cell = (at: number): string => (at < 0 ? '' : (cells[at] ?? '').trim());
    // What would be a formula is written with an apostrophe before it.
    const name = cell(item)
      .replace(/^'(?=[=+\-@])/, '')
      .replace(/\s+/g, ' ');
    // A list of wants that nobody has priced yet is no mistake.
    if (name === '' || cell(price) === '') return;
    const figure = typedNumber(cell(price));
    const before = seen.get(sameItem(name));
    if (Number.isNaN(figure))
      wrong.push(`Row ${row}: "${cell(price)}" is no price. Write a figure alone, as 12.50.`);
    else if (figure <= 0)
      wrong.push(`Row ${row}: a price of ${figure} says nothing. Leave it empty until it is known.`);
    else if (name.length > MOST_NAME) wrong.push(`Row ${row}: a name has at most ${MOST_NAME} letters.`);
    else if (before !== undefined) wrong.push(`Row ${row}: ${name} has a price in row ${before} already.`);
    else prices.push({ item: name, price: figure });
    if (before === undefined) seen.set(sameItem(name), row);
    const [money, day] = [cell(currency).toUpperCase(), cell(dated)];
    if (money !== '' && !isCurrency(money))
      wrong.push(`Row ${row}: "${cell(currency)}" is no currency. Write its three letters, as EUR.`);
    if (day !== '' && !isDay(day)) wrong.push(`Row ${row}: "${day}" is no day. Write it as 2026-11-30.`);
    for (const [what, is, good] of [
      ['currency', money, isCurrency(money)],
      ['dated', day, isDay(day)],
    ] as const) {
      if (!good) continue;
      const other = said[what];
      if (other && other.is !== is)
        wrong.push(
          `Row ${row}: ${is}, and ${other.is} in row ${other.row}. One list is of one ${what === 'dated' ? 'day' : 'currency'}.`,
        );
      said[what] ??= { is, row };
    }
  });
  if (prices.length > MOST_PRICES) wrong.push(`A list has at most ${MOST_PRICES} prices.`);
  if (wrong.length === 0 && prices.length === 0) wrong.push('There is no price in it.');
  if (wrong.length > 0) throw new BadPriceList(wrong);
  return { currency: said.currency?.is ?? usual.currency, dated: said.dated?.is ?? usual.dated, prices };
}

const columnOf = (row: readonly string[], name: Column): number =>
  row.findIndex((cell) => (HEADS[name] as readonly string[]).includes(sameItem(cell)));
