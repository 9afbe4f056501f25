import * as fc from 'fast-check';
import { LIGHT_M_PER_S, NoVelocity, velocityOf, type KnownPiece } from '../../src/index.js';

const piece = (lengthM: number, velocityFactor: number, beforeS = 0): KnownPiece => ({
  lengthM,
  lengthDeviationM: 0.002,
  delayS: beforeS + (2 * lengthM) / (velocityFactor * LIGHT_M_PER_S),
  delayDeviationS: 2e-11,
});

describe('The velocity factor', () => {
  it('comes from a known piece by 2 L / (t c), the lead taken off', () => {
    const { velocityFactor } = velocityOf([piece(20, 0.83, 9e-9)], { delayS: 9e-9, deviationS: 0 });
    expect(velocityFactor).toBeCloseTo(0.83, 9);
  });

  it('comes from two lengths whatever the lead', () => {
    expect().nothing();
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 0.95, noNaN: true }),
        fc.double({ min: 0, max: 5e-8, noNaN: true }),
        (factor, beforeS) => {
          const { velocityFactor, offsetS } = velocityOf([
            piece(5, factor, beforeS),
            piece(30, factor, beforeS),
          ]);
          return Math.abs(velocityFactor - factor) < 1e-9 && Math.abs(offsetS - beforeS) < 1e-14;
        },
      ),
    );
  });

  it('is surer from more pieces', () => {
    const of = (lengths: number[]) => velocityOf(lengths.map((length) => piece(length, 0.7))).u95;
    expect(of([5, 10, 20, 30, 40])).toBeLessThan(of([5, 40]));
  });

  it('is wrong by a per cent where the tape is, and says so', () => {
    const { u95, velocityFactor } = velocityOf([{ ...piece(10, 0.7), lengthDeviationM: 0.1 }]);
    expect(u95 / velocityFactor).toBeCloseTo(0.0196, 3);
  });

  it('points at the piece that does not fit, and widens', () => {
    const good = [5, 12, 20, 31].map((length) => piece(length, 0.7));
    const wrong = [...good.slice(0, 3), { ...good[3]!, lengthM: 30 }];
    const { off, u95 } = velocityOf(wrong);
    expect(Math.max(...off.map(Math.abs))).toBeGreaterThan(3);
    expect(u95).toBeGreaterThan(10 * velocityOf(good).u95);
  });

  it('is refused where it cannot be told', () => {
    expect(() => velocityOf([])).toThrowError(NoVelocity);
    expect(() => velocityOf([piece(10, 0.7), piece(10.1, 0.7)])).toThrowError(NoVelocity, /one length/);
    expect(() => velocityOf([{ ...piece(10, 0.7), lengthM: 40 }])).toThrowError(
      NoVelocity,
      /which no cable has/,
    );
    expect(() => velocityOf([piece(10, 0.7)], { delayS: 1, deviationS: 0 })).toThrowError(
      NoVelocity,
      /before the lead/,
    );
  });
});
