import fc from 'fast-check';
import { leastAssignment } from '@near-spoke/core';

/** Every way to give rows columns of their own. */
function cheapest(costs: readonly (readonly number[])[], row = 0, taken = new Set<number>()): number {
  const here = costs[row];
  if (!here) return 0;
  let best = Infinity;
  here.forEach((cost, column) => {
    if (taken.has(column)) return;
    best = Math.min(best, cost + cheapest(costs, row + 1, new Set([...taken, column])));
  });
  return best;
}

const tables = fc
  .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 0, max: 2 }))
  .chain(([rows, more]) =>
    fc.array(
      fc.array(fc.double({ min: -5, max: 20, noNaN: true }), {
        minLength: rows + more,
        maxLength: rows + more,
      }),
      { minLength: rows, maxLength: rows },
    ),
  );

describe('a least assignment', () => {
  it('costs what the cheapest of all ways costs, each row in a column of its own', () => {
    fc.assert(
      fc.property(tables, (costs) => {
        const { columns, cost } = leastAssignment(costs);
        expect(new Set(columns).size).toBe(costs.length);
        expect(cost).toBeCloseTo(cheapest(costs), 9);
      }),
    );
  });

  it('is proved by its prices: no entry is under the two together, and they add up to the cost', () => {
    fc.assert(
      fc.property(tables, (costs) => {
        const { cost, rowPrices, columnPrices } = leastAssignment(costs);
        costs.forEach((row, n) =>
          row.forEach((entry, m) =>
            expect(entry - (rowPrices[n] ?? 0) - (columnPrices[m] ?? 0)).toBeGreaterThan(-1e-9),
          ),
        );
        for (const price of columnPrices) expect(price).toBeLessThanOrEqual(1e-12);
        const sum = (prices: Float64Array): number => prices.reduce((total, price) => total + price, 0);
        expect(sum(rowPrices) + sum(columnPrices)).toBeCloseTo(cost, 9);
      }),
    );
  });

  it('is refused where there are more rows than columns', () => {
    expect(() => leastAssignment([[1], [2]])).toThrowError(RangeError, /2 rows do not go into 1 columns/);
  });
});
