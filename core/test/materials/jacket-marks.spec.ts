import fc from 'fast-check';
import { BadMarks, lengthByMarks, type MarkUnit } from '../../src/index.js';

describe('marks along a jacket', () => {
  it('give a length by their difference, whichever way they count', () => {
    // By hand: 1489 - 1342 = 147 ft = 44.81 m; 1 % of it, and half a foot at either end.
    for (const [one, other] of [
      ['1342', '1489'],
      ['1489', '1342'],
      ['1342 ft', "1489'"],
    ] as const) {
      const { lengthM, u95M, wentOver } = lengthByMarks(one, other, 'ft');
      expect(lengthM).toBeCloseTo(44.8056, 4);
      expect(u95M).toBeCloseTo(Math.hypot(0.448056, 0.1524, 0.1524), 6);
      expect(wentOver).toBeFalse();
    }
    expect(lengthByMarks('0071,5', '0102', 'm').lengthM).toBeCloseTo(30.5, 9);
  });

  it('go over the last figure of their counter', () => {
    expect(lengthByMarks('9987', '0043', 'm')).toEqual(
      jasmine.objectContaining({ lengthM: 56, wentOver: true }),
    );
    // Of fewer figures nobody knows what the counter does.
    expect(lengthByMarks('987', '43', 'm').lengthM).toBe(944);
  });

  it('of one length anywhere on a counter are that length', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 99_999 }),
        fc.integer({ min: 1, max: 4000 }),
        fc.constantFrom<MarkUnit>('m', 'ft'),
        (from, length, unit) => {
          const mark = (at: number): string => String(at % 100_000).padStart(5, '0');
          const told = lengthByMarks(mark(from), mark(from + length), unit);
          expect(told.lengthM / (unit === 'm' ? 1 : 0.3048)).toBeCloseTo(length, 6);
          expect(told.wentOver).toBe(from + length > 99_999);
          expect(told).toEqual(lengthByMarks(mark(from + length), mark(from), unit));
        },
      ),
    );
  });

  it('that are none, of two units, or one and the same are refused in words', () => {
    const cases: readonly [string, string, MarkUnit, RegExp][] = [
      ['', '12', 'm', /no mark/],
      ['-5', '12', 'm', /"-5" is no mark/],
      ['12x4', '12', 'm', /no mark: write its figures/],
      ['1234567', '12', 'm', /no mark/],
      ['120 m', '340', 'ft', /in m, and the jacket is marked in ft/],
      ['0120', '120', 'm', /the same/],
    ];
    for (const [one, other, unit, words] of cases)
      expect(() => lengthByMarks(one, other, unit)).toThrowError(BadMarks, words);
  });
});
