import type { ConnectorType } from '../connectors/connector-types.js';
import { spoilBelief } from '../termination/spoil-rate.js';
import { sameItem, type PriceList } from './price-list.js';
import type { OpenLink } from './take-off.js';

/** Something that is brought, so many of it. */
export interface Brought {
  item: string;
  count: number;
}

/** What a job's ends take in minutes. */
export interface WorkToDo {
  /** Ends to be made, by their connector. */
  ends: readonly { connectorId: string; name: string; count: number; minutes: number }[];
  /** Pieces of cable that are pulled in. */
  pulls: number;
  /** Links to be tested and labelled. */
  links: number;
}

/**
 * What is left to be done by hand on the links of a job: ends that are not made, cable that is not in, links whose map
 * nobody has proved.
 */
export function workLeft(
  links: readonly (Pick<
    OpenLink,
    'pulled' | 'nearConnectorId' | 'farConnectorId' | 'nearDone' | 'farDone'
  > & {
    proved: boolean;
  })[],
  connectors: readonly Pick<ConnectorType, 'id' | 'name' | 'minutes'>[],
): WorkToDo {
  const counts = new Map<string, number>();
  for (const { nearConnectorId, nearDone, farConnectorId, farDone } of links)
    for (const [id, done] of [
      [nearConnectorId, nearDone],
      [farConnectorId, farDone],
    ] as const)
      if (!done) counts.set(id, (counts.get(id) ?? 0) + 1);
  return {
    ends: [...counts].map(([connectorId, count]) => {
      const connector = connectors.find(({ id }) => id === connectorId);
      return { connectorId, name: connector?.name ?? connectorId, count, minutes: connector?.minutes ?? 0 };
    }),
    pulls: links.filter(({ pulled }) => !pulled).length,
    links: links.filter(({ proved }) => !proved).length,
  };
}

/** What an offer is reckoned with. */
export interface OfferTerms {
  currency: string;
  /** An hour of one person's work; null where that is not known. */
  hour: number | null;
  /** Minutes to pull one piece, and to test and label one link. */
  pullMinutes: number;
  testMinutes: number;
  /** On material, and on all, per cent. */
  markup: number;
  tax: number;
}

export interface OfferLine {
  item: string;
  quantity: number;
  unit: 'piece' | 'hour';
  /** With the markup, as it is offered; null where there is no price. */
  price: number | null;
  sum: number | null;
}

export interface Offer {
  currency: string;
  material: OfferLine[];
  work: OfferLine[];
  /** What has no price: until each has, there is no total. */
  unpriced: string[];
  net: number | null;
  tax: number | null;
  total: number | null;
}

/** Pulling in one piece, and testing and labelling one link (typical), minutes. */
export const USUAL_WORK = { pullMinutes: 12, testMinutes: 6 } as const;

/**
 * What a job is offered for: what is brought, at the crew's prices with a markup, and the hours of its work. Each line is
 * rounded to the currency's own digits and the total is the sum of the lines, so that whoever adds it up comes to the same.
 *
 * @param spoilt the crew's count of a connector: an end that is made twice takes its time twice
 */
export function offerOf(
  wanted: readonly Brought[],
  work: WorkToDo,
  prices: Pick<PriceList, 'prices'>,
  terms: OfferTerms,
  spoilt: (connectorId: string) => { spoiled: number; good: number },
): Offer {
  const round = rounding(terms.currency);
  const byItem = new Map(prices.prices.map(({ item, price }) => [sameItem(item), price]));
  const line = (item: string, quantity: number, unit: OfferLine['unit'], each: number | null): OfferLine => {
    const price = each === null ? null : round(each);
    return { item, quantity, unit, price, sum: price === null ? null : round(quantity * price) };
  };
  const material = wanted
    .filter(({ count }) => count > 0)
    .map(({ item, count }) => {
      const price = byItem.get(sameItem(item));
      return line(item, count, 'piece', price === undefined ? null : price * (1 + terms.markup / 100));
    });
  const hours = (item: string, minutes: number): OfferLine[] =>
    // To the tenth of an hour, up: what is begun is worked.
    minutes > 0 ? [line(item, Math.ceil(minutes / 6 - 1e-9) / 10, 'hour', terms.hour)] : [];
  const ends = work.ends.reduce(
    (sum, { connectorId, count, minutes }) => sum + count * minutes * triesOf(spoilt(connectorId)),
    0,
  );
  const lines = [
    ...hours('Pulling in cable', work.pulls * terms.pullMinutes),
    ...hours('Terminating', ends),
    ...hours('Testing and labelling', work.links * terms.testMinutes),
  ];
  const all = [...material, ...lines];
  const unpriced = [
    ...material.filter(({ price }) => price === null).map(({ item }) => item),
    ...(lines.length > 0 && terms.hour === null ? ['an hour of work'] : []),
  ];
  const net = unpriced.length > 0 ? null : round(all.reduce((sum, { sum: one }) => sum + (one ?? 0), 0));
  const tax = net === null ? null : round((net * terms.tax) / 100);
  return {
    currency: terms.currency,
    material,
    work: lines,
    unpriced,
    net,
    tax,
    total: net === null || tax === null ? null : round(net + tax),
  };
}

/** Tries until an end is good, on average, over what is believed of the crew (Beta). */
export function triesOf(spoilt: { spoiled: number; good: number }): number {
  const { a, b } = spoilBelief(spoilt);
  return (a + b - 1) / (b - 1);
}

/** To the digits that a currency has of its own: cents for most, none for some, thousandths for a few. */
function rounding(currency: string): (amount: number) => number {
  const digits = currencyDigits(currency);
  const times = 10 ** digits;
  return (amount) => Math.round((amount + Number.EPSILON * Math.sign(amount)) * times) / times;
}

/** An amount as it is printed, with the digits of its currency and without its name. */
export function inCurrency(amount: number, currency: string): string {
  const digits = currencyDigits(currency);
  return amount.toLocaleString('en', { minimumFractionDigits: digits, maximumFractionDigits: digits });
}

/** Digits after the point in a currency (ISO 4217); two where nobody knows it. */
function currencyDigits(currency: string): number {
  try {
    return (
      new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ??
      2
    );
  } catch {
    return 2;
  }
}
