import * as fc from 'fast-check';
import { seededRandom, sparesFor } from '../../src/index.js';

describe('spares', () => {
  it('for one end with nothing known are two: one alone comes out good 11 times in 12', () => {
    expect(sparesFor(1, { spoiled: 0, good: 0 }, 0.9)).toEqual({ needed: 1, bring: 1, chance: 11 / 12 });
    expect(sparesFor(1, { spoiled: 0, good: 0 }, 0.95).bring).toBe(2);
    expect(sparesFor(0, { spoiled: 3, good: 5 }, 0.95).bring).toBe(0);
    expect(() => sparesFor(3, { spoiled: 0, good: 0 }, 1)).toThrowError(RangeError);
    expect(() => sparesFor(2.5, { spoiled: 0, good: 0 }, 0.9)).toThrowError(RangeError);
  });

  it('are enough as often as is said, drawn connector by connector', () => {
    // After so long a record the rate is as good as known: 5 of 100.
    const { bring, chance } = sparesFor(40, { spoiled: 5000, good: 95_000 }, 0.95);
    const random = seededRandom(11);
    let enough = 0;
    const trials = 20_000;
    for (let trial = 0; trial < trials; trial++) {
      let good = 0;
      for (let n = 0; n < bring; n++) if (random() >= 0.05) good++;
      if (good >= 40) enough++;
    }
    expect(enough / trials).toBeCloseTo(chance, 2);
    expect(chance).toBeGreaterThanOrEqual(0.95);
  });

  it('never fewer for more ends, more spoiled, or more confidence', () => {
    const count = fc.integer({ min: 0, max: 60 });
    fc.assert(
      fc.property(count, count, count, (needed, spoiled, good) => {
        const { bring } = sparesFor(needed, { spoiled, good }, 0.9);
        expect(bring).toBeGreaterThanOrEqual(needed);
        expect(sparesFor(needed + 1, { spoiled, good }, 0.9).bring).toBeGreaterThan(bring - 1);
        expect(sparesFor(needed, { spoiled: spoiled + 5, good }, 0.9).bring).toBeGreaterThanOrEqual(bring);
        expect(sparesFor(needed, { spoiled, good }, 0.99).bring).toBeGreaterThanOrEqual(bring);
      }),
      { numRuns: 60 },
    );
  });
});
