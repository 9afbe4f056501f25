import { isCurrency, isDay, sameItem } from '@near-spoke/core';
import * as z from 'zod';
import { line, note } from './text.js';

const day = z.string().refine(isDay, { error: 'Give a day, as 2026-11-30.' });
const currency = z.string().refine(isCurrency, { error: 'Give a currency by its three letters, as EUR.' });
const price = z
  .number({ error: 'Give a price as a number.' })
  .positive({ error: 'A price of 0 says nothing: leave it out until it is known.' })
  .max(1e9, { error: 'At most a thousand million.' });
const item = line(200);

const priceList = z.strictObject({
  currency,
  /** The day that the prices are of. */
  dated: day,
  prices: z
    .array(z.strictObject({ item, price }))
    .min(1, { error: 'There is no price in it.' })
    .max(5000, { error: 'At most 5,000 prices.' })
    .refine((all) => new Set(all.map((one) => sameItem(one.item))).size === all.length, {
      error: 'Give each item one price.',
    }),
});

/** What the crew pays for what it buys. */
export const crewPrices = z.object({
  /** Null while nobody has said. */
  list: priceList.nullable(),
  version: z.int().min(0),
});
export type CrewPrices = z.infer<typeof crewPrices>;
export const newCrewPrices = z.strictObject({ list: priceList.nullable(), version: z.int().min(0) });

const percent = (what: string): z.ZodNumber =>
  z
    .number({ error: `Give the ${what} in per cent.` })
    .min(0)
    .max(500, { error: 'At most 500 %.' });
const minutes = z
  .number({ error: 'Give minutes as a number.' })
  .min(0)
  .max(10_000, { error: 'At most 10,000 minutes.' });
const count = z.int({ error: 'Give a whole number.' }).min(0).max(1e6);

/** What a job is to be offered for: what is brought, its work, and what it is reckoned with. */
export const offerOrder = z.strictObject({
  material: z.array(z.strictObject({ item, count })).max(2000, { error: 'At most 2,000 items.' }),
  work: z.strictObject({
    ends: z
      .array(z.strictObject({ connectorId: line(60), name: line(120), count, minutes }))
      .max(200, { error: 'At most 200 kinds of ends.' }),
    pulls: count,
    links: count,
  }),
  terms: z.strictObject({
    currency,
    hour: price.nullable(),
    pullMinutes: minutes,
    testMinutes: minutes,
    markup: percent('markup'),
    tax: percent('tax'),
  }),
  /** The last day that it is good for. */
  until: day,
  /** What is to be said with it. */
  note,
});
export type OfferOrder = z.input<typeof offerOrder>;
