import type { Job } from '@near-spoke/contracts';
import { inCurrency, type Offer, type OfferLine, type OfferTerms } from '@near-spoke/core';

const INK = '#1b2225';
const SECOND = '#56626a';
const RULE = '#d9d8d0';
const PAGE = { margin: 42 };

/** What stands on an offer beside its lines. */
export interface OfferHead {
  job: Pick<Job, 'site' | 'title' | 'hub'>;
  by: string;
  until: string;
  note: string;
  /** The day that the prices are of; null where none was needed. */
  dated: string | null;
  terms: Pick<OfferTerms, 'tax'>;
}

/** An offer as a document to be set: what is brought, the hours of work, and what it comes to. */
export function offerDocument(offer: Offer, { job, by, until, note, dated, terms }: OfferHead): object {
  const money = (amount: number | null): string => inCurrency(amount ?? 0, offer.currency);
  const figure = (text: string, bold = false): object => ({
    text,
    alignment: 'right',
    font: 'Mono',
    fontSize: 8.4,
    bold,
  });
  const rows = (lines: readonly OfferLine[]): object[][] =>
    lines.map(({ item, quantity, unit, price, sum }) => [
      { text: item },
      figure(unit === 'hour' ? `${quantity.toFixed(1)} h` : String(quantity)),
      figure(money(price)),
      figure(money(sum)),
    ]);
  const heading = (words: string): object[] => [
    { text: words, bold: true, margin: [0, 6, 0, 0] },
    ...['', '', ''].map((text) => ({ text })),
  ];
  const totals: [string, number | null][] = [
    ['Net', offer.net],
    ...(terms.tax > 0 ? [[`Tax, ${terms.tax} %`, offer.tax] as [string, number | null]] : []),
    ['Total', offer.total],
  ];
  const last = totals.length - 1;
  return {
    pageSize: 'A4',
    pageMargins: PAGE.margin,
    info: { title: `Offer, ${job.title}` },
    defaultStyle: { font: 'Atkinson', fontSize: 9.4, color: INK },
    content: [
      { text: 'Offer', bold: true, fontSize: 22 },
      { text: `${job.site}: ${job.title}`, fontSize: 13, margin: [0, 2, 0, 0] },
      {
        text: `Hub ${job.hub}. Made by ${by}, good until ${until}. All amounts in ${offer.currency}${dated ? `, by prices of ${dated}` : ''}.`,
        color: SECOND,
        margin: [0, 2, 0, 10],
      },
      {
        table: {
          headerRows: 1,
          dontBreakRows: true,
          widths: ['*', 50, 70, 80],
          body: [
            [
              { text: 'What', color: SECOND },
              ...['Quantity', 'Each', 'Sum'].map((text) => ({ text, color: SECOND, alignment: 'right' })),
            ],
            ...(offer.material.length > 0 ? [heading('Material'), ...rows(offer.material)] : []),
            ...(offer.work.length > 0 ? [heading('Work'), ...rows(offer.work)] : []),
          ],
        },
        layout: {
          hLineWidth: () => 0.5,
          vLineWidth: () => 0,
          hLineColor: () => RULE,
        },
      },
      {
        unbreakable: true,
        margin: [0, 10, 0, 0],
        table: {
          widths: ['*', 90, 80],
          body: totals.map(([words, amount], at) => [
            { text: '' },
            { text: words, bold: at === last, alignment: 'right' },
            figure(money(amount), at === last),
          ]),
        },
        layout: 'noBorders',
      },
      ...(note === '' ? [] : [{ text: note, margin: [0, 14, 0, 0] }]),
      {
        text: 'Material is counted with the spares that this work usually takes. Hours are of one person. Local code and licensed practice come first.',
        color: SECOND,
        fontSize: 8,
        margin: [0, 14, 0, 0],
      },
    ],
    footer: (page: number, pages: number) => ({
      text: `${job.title}, page ${page} of ${pages}`,
      fontSize: 7,
      color: SECOND,
      margin: [PAGE.margin, 8, PAGE.margin, 0],
    }),
  };
}
