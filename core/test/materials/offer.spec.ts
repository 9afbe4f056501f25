import fc from 'fast-check';
import {
  BadPriceList,
  offerOf,
  readPriceList,
  triesOf,
  USUAL_WORK,
  workLeft,
  type Brought,
  type OfferTerms,
  type WorkToDo,
} from '@near-spoke/core';

const usual = { currency: 'EUR', dated: '2026-11-30' };
const rowsOf = (error: unknown): readonly string[] => (error instanceof BadPriceList ? error.rows : []);
const refused = (rows: string[][]): readonly string[] => {
  try {
    readPriceList(rows, usual);
  } catch (error) {
    return rowsOf(error);
  }
  return [];
};
const HEAD = ['What', 'Price'];

describe('A price list', () => {
  it('is read from a table whose columns stand anywhere, below whatever is above them', () => {
    const rows = [
      ['Our prices'],
      [],
      ['Notes', 'Item', 'Currency', 'Price each', 'Date'],
      ['', 'Cat 6 unscreened,  box of 305 m', 'chf', '141,50', '2026-10-01'],
      ['dear', '8-contact plug', '', '.8', ''],
      ['', 'not priced yet', '', '', ''],
    ];
    expect(readPriceList(rows, usual)).toEqual({
      currency: 'CHF',
      dated: '2026-10-01',
      prices: [
        { item: 'Cat 6 unscreened, box of 305 m', price: 141.5 },
        { item: '8-contact plug', price: 0.8 },
      ],
    });
    expect(readPriceList([HEAD, ['plug', '1']], usual).currency).toBe('EUR');
  });

  it('says of every row that cannot be taken what to do about it', () => {
    const head = ['What', 'Price', 'Currency', 'Date'];
    const said = refused([
      head,
      ['a', 'about 3', 'EUR', ''],
      ['b', '0', '', '2026-02-30'],
      ['c', '2', 'CHF', ''],
      ['d', '4', 'euro', ''],
      ['C ', '5', '', ''],
    ]);
    expect(said).toEqual([
      'Row 2: "about 3" is no price. Write a figure alone, as 12.50.',
      'Row 3: a price of 0 says nothing. Leave it empty until it is known.',
      'Row 3: "2026-02-30" is no day. Write it as 2026-11-30.',
      'Row 4: CHF, and EUR in row 2. One list is of one currency.',
      'Row 5: "euro" is no currency. Write its three letters, as EUR.',
      'Row 6: C has a price in row 4 already.',
    ]);
    expect(refused([['plug', '3']])[0]).toContain('head the two columns so');
    expect(refused([HEAD, ['plug', '']])).toEqual(['There is no price in it.']);
  });
});

describe('The work that is left', () => {
  const link = (change: object) => ({
    pulled: false,
    nearConnectorId: 'jack',
    farConnectorId: 'plug',
    nearDone: false,
    farDone: false,
    proved: false,
    ...change,
  });
  const connectors = [{ id: 'jack', name: 'a jack', minutes: 5 }];

  it('is what is not in, not made and not proved, each by itself', () => {
    const links = [
      link({}),
      link({ pulled: true, nearDone: true }),
      link({ pulled: true, nearDone: true, farDone: true }),
      link({ pulled: true, nearDone: true, farDone: true, proved: true }),
    ];
    expect(workLeft(links, connectors)).toEqual({
      ends: [
        { connectorId: 'jack', name: 'a jack', count: 1, minutes: 5 },
        { connectorId: 'plug', name: 'plug', count: 2, minutes: 0 },
      ],
      pulls: 1,
      links: 3,
    });
  });
});

describe('An offer', () => {
  const terms: OfferTerms = { currency: 'EUR', hour: 60, ...USUAL_WORK, markup: 0, tax: 0 };
  const none = { spoiled: 0, good: 0 };
  const noWork: WorkToDo = { ends: [], pulls: 0, links: 0 };

  it('is worked out by hand', () => {
    const material = [
      { item: 'Box', count: 2 },
      { item: 'plug', count: 61 },
    ];
    const work: WorkToDo = {
      ends: [{ connectorId: 'p', name: 'plug', count: 40, minutes: 4 }],
      pulls: 20,
      links: 20,
    };
    const prices = {
      prices: [
        { item: 'box ', price: 141.5 },
        { item: 'Plug', price: 0.83 },
      ],
    };
    const offer = offerOf(material, work, prices, { ...terms, markup: 10, tax: 20 }, () => ({
      spoiled: 5,
      good: 95,
    }));
    // 141.5 x 1.1 = 155.65; 0.83 x 1.1 = 0.913, offered at 0.91.
    expect(offer.material.map(({ price, sum }) => [price, sum])).toEqual([
      [155.65, 311.3],
      [0.91, 55.51],
    ]);
    // 20 x 12 min = 4 h; 40 x 4 min and what is made again; 20 x 6 min = 2 h.
    const ends = Math.ceil((40 * 4 * triesOf({ spoiled: 5, good: 95 })) / 6) / 10;
    expect(offer.work.map(({ quantity, sum }) => [quantity, sum])).toEqual([
      [4, 240],
      [ends, ends * 60],
      [2, 120],
    ]);
    const net = 311.3 + 55.51 + 360 + ends * 60;
    expect(offer.net).toBeCloseTo(net, 6);
    expect(offer.tax).toBeCloseTo(Math.round(net * 20) / 100, 6);
    expect(offer.total).toBeCloseTo(net + Math.round(net * 20) / 100, 6);
  });

  it('has no total while anything has no price, and names it', () => {
    const offer = offerOf(
      [
        { item: 'plug', count: 2 },
        { item: 'boot', count: 2 },
        { item: 'nothing of this', count: 0 },
      ],
      { ...noWork, links: 1 },
      { prices: [{ item: 'plug', price: 1 }] },
      { ...terms, hour: null },
      () => none,
    );
    expect(offer.unpriced).toEqual(['boot', 'an hour of work']);
    expect([offer.net, offer.tax, offer.total]).toEqual([null, null, null]);
  });

  it('is in the digits of its currency', () => {
    const of = (currency: string): number | null =>
      offerOf(
        [{ item: 'plug', count: 3 }],
        noWork,
        { prices: [{ item: 'plug', price: 1.2345 }] },
        { ...terms, currency },
        () => none,
      ).total;
    expect([of('EUR'), of('JPY'), of('KWD')]).toEqual([3.69, 3, 3.705]);
  });

  it('adds up: its total is the sum of its lines and its tax, and grows with any price and count', () => {
    const brought = fc.array(
      fc.record({
        item: fc.uuid(),
        count: fc.integer({ min: 1, max: 500 }),
        price: fc.double({ min: 0.01, max: 900, noNaN: true }),
      }),
      { minLength: 1, maxLength: 12 },
    );
    fc.assert(
      fc.property(
        brought,
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 25 }),
        (all, markup, tax) => {
          const total = (times: number): number => {
            const offer = offerOf(
              all as Brought[],
              noWork,
              { prices: all.map(({ item, price }) => ({ item, price: price * times })) },
              { ...terms, markup, tax },
              () => none,
            );
            const lines = offer.material.reduce((sum, { sum: one }) => sum + Math.round((one ?? 0) * 100), 0);
            expect(Math.round((offer.net ?? 0) * 100)).toBe(lines);
            expect(Math.round((offer.total ?? 0) * 100)).toBe(lines + Math.round((offer.tax ?? 0) * 100));
            return offer.total ?? 0;
          };
          expect(total(2)).toBeGreaterThan(total(1));
        },
      ),
    );
  });
});
