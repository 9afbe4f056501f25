import * as fc from 'fast-check';
import {
  BadBatch,
  CABLE_TYPES,
  CONNECTOR_TYPES,
  planCords,
  seededRandom,
  type CordBatch,
  type CordPrices,
} from '../../src/index.js';

const of = <T extends { id: string }>(sheets: readonly T[], id: string): T => {
  const sheet = sheets.find((one) => one.id === id);
  if (!sheet) throw new Error(id);
  return sheet;
};
const PLUG = of(CONNECTOR_TYPES, 'plug-closed');
const JACK = of(CONNECTOR_TYPES, 'jack-punched');
const batch = (change: Partial<CordBatch> = {}): CordBatch => ({
  count: 20,
  lengthM: 1.5,
  cable: of(CABLE_TYPES, 'cat6-u'),
  ends: [PLUG, PLUG],
  ...change,
});
const PRICES: CordPrices = { cablePerM: 0.5, connectors: [0.4, 0.4], hour: 30, once: 0, boughtEach: 4 };
const KNOWN = { spoilt: () => ({ spoiled: 5, good: 94 }), confidence: 0.95 };

describe('cords in a batch', () => {
  it('come to what a hand works out', () => {
    // Belief Beta(6, 105): 110 / 104 tries for a good end. Pieces of 1.5 + 2 * 0.07 m.
    const { pieceM, used, minutes, costEach, costAll } = planCords(batch(), PRICES, KNOWN);
    expect(pieceM).toBeCloseTo(1.64, 9);
    const tries = 110 / 104;
    expect(used[0]).toBeCloseTo(20 * tries, 9);
    expect(minutes.terminate).toBeCloseTo(40 * tries * PLUG.minutes, 9);
    expect([minutes.cut, minutes.test, minutes.label]).toEqual([14, 20, 20]);
    const each = 1.64 * 0.5 + 2 * tries * 0.4 + ((2 * tries * PLUG.minutes + 0.7 + 1 + 1) / 60) * 30;
    expect(costEach).toBeCloseTo(each, 9);
    expect(costAll).toBeCloseTo(20 * each, 9);
  });

  it('bring spares by the crew’s own rates, parts and labels with them', () => {
    const { layOut } = planCords(batch({ ends: [PLUG, JACK] }), PRICES, KNOWN);
    const [cable] = layOut;
    expect(cable?.what === 'cable' && [cable.pieces, cable.metres.toFixed(2)]).toEqual([20, '32.80']);
    const connectors = layOut.filter(({ what }) => what === 'connector');
    expect(connectors.map(({ id }) => id)).toEqual([PLUG.id, JACK.id]);
    for (const line of connectors) if (line.what === 'connector') expect(line.bring).toBeGreaterThan(20);
  });

  it('use up as many connectors as drawing them one by one does', () => {
    const { used } = planCords(batch({ count: 400 }), PRICES, KNOWN);
    const random = seededRandom(5);
    // The rate itself is known only as far as its record goes: one is drawn for each crew.
    const gamma = (k: number): number => {
      let sum = 0;
      for (let i = 0; i < k; i++) sum -= Math.log(1 - random());
      return sum;
    };
    let total = 0;
    const crews = 1500;
    for (let crew = 0; crew < crews; crew++) {
      const [a, b] = [gamma(6), gamma(105)];
      const rate = a / (a + b);
      for (let good = 0; good < 400; total++) if (random() >= rate) good++;
    }
    expect(total / crews / used[0]).toBeCloseTo(1, 2);
  });

  it('turn from bought to made where the tool is paid for, and never where each costs more', () => {
    const turn = (change: Partial<CordPrices>, count = 20) =>
      planCords(batch({ count }), { ...PRICES, ...change }, KNOWN).turnsAt;
    const { costEach } = planCords(batch(), PRICES, KNOWN);
    const each = costEach ?? NaN;
    expect(turn({ boughtEach: each - 0.1 })).toBeNull();
    expect(turn({ boughtEach: each + 1 })).toBe(1);
    expect(turn({ boughtEach: each + 2, once: 60 })).toBe(31);
    expect(turn({ boughtEach: null })).toBeNull();
    expect(turn({ hour: null })).toBeNull();
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 500 }),
        fc.double({ min: 0.1, max: 50, noNaN: true }),
        (n, over) => {
          const once = 45;
          // At the very turn both cost the same, but for the last digit.
          fc.pre(Math.abs(n - once / over) > 1e-6);
          const at = turn({ boughtEach: each + over, once }) ?? 0;
          const made = n * each + once;
          expect(made < n * (each + over)).toBe(n >= at);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('say nothing of cost where a price is not known', () => {
    const { costEach, costAll } = planCords(batch(), { ...PRICES, connectors: [0.4, null] }, KNOWN);
    expect([costEach, costAll]).toEqual([null, null]);
  });

  it('never cost less each for more spoils, more length or dearer work', () => {
    const cost = (change: Partial<CordBatch>, prices: Partial<CordPrices> = {}, spoiled = 5): number =>
      planCords(
        batch(change),
        { ...PRICES, ...prices },
        { spoilt: () => ({ spoiled, good: 94 }), confidence: 0.9 },
      ).costEach ?? NaN;
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 60 }),
        fc.double({ min: 0.1, max: 40, noNaN: true }),
        (spoiled, m) => {
          expect(cost({ lengthM: m + 1 }, {}, spoiled)).toBeGreaterThan(cost({ lengthM: m }, {}, spoiled));
          expect(cost({ lengthM: m }, {}, spoiled + 1)).toBeGreaterThan(cost({ lengthM: m }, {}, spoiled));
          expect(cost({ lengthM: m }, { hour: 31 }, spoiled)).toBeGreaterThan(
            cost({ lengthM: m }, {}, spoiled),
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  it('are refused in words where a figure is none', () => {
    for (const [change, prices] of [
      [{ count: 0 }, {}],
      [{ count: 2.5 }, {}],
      [{ count: 1e6 }, {}],
      [{ lengthM: 0 }, {}],
      [{ lengthM: NaN }, {}],
      [{}, { hour: 0 }],
      [{}, { cablePerM: -1 }],
      [{}, { once: -5 }],
    ] as const)
      expect(() => planCords(batch(change), { ...PRICES, ...prices }, KNOWN)).toThrowError(BadBatch);
  });
});
