import { sameItem, type PriceList } from '@near-spoke/core';
import { unparse } from 'papaparse';

/** A table of items with the prices that are known, to be filled in and read back. */
export function priceTable(
  items: readonly string[],
  list: PriceList | null,
  usual: { currency: string; dated: string },
): string {
  const known = new Map(list?.prices.map(({ item, price }) => [sameItem(item), price]));
  const wanted = [...new Map(items.map((item) => [sameItem(item), item])).values()];
  const rest = (list?.prices ?? []).filter(
    ({ item }) => !wanted.some((one) => sameItem(one) === sameItem(item)),
  );
  const rows = [...wanted, ...rest.map(({ item }) => item)].map((item) => [
    item,
    known.get(sameItem(item)) ?? '',
    usual.currency,
    usual.dated,
  ]);
  return `${unparse({ fields: ['What', 'Price', 'Currency', 'Date'], data: rows }, { escapeFormulae: true })}\r\n`;
}
