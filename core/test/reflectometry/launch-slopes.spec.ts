import * as fc from 'fast-check';
import {
  SHAPE_FIGURES,
  SHAPE_ROOM,
  shapeAsVector,
  shapeFromVector,
  shapeSpectrum,
  type PulseShape,
} from '../../src/reflectometry/pulse-shape.js';

const between = (min: number, max: number): fc.Arbitrary<number> =>
  fc.double({ min, max, noNaN: true, noDefaultInfinity: true });
const shapes: fc.Arbitrary<PulseShape> = fc.record({
  shape: fc.constantFrom('pulse' as const, 'step' as const),
  at: between(0, 40),
  height: between(0.5, 2),
  logDeviation: between(-2, 1),
  logLag: between(-3, 1),
  logRamp: between(-2, 2),
  logWidth: between(0, 3),
});

const spectrumOf = (shape: PulseShape, omega: number): Float64Array => {
  const out = new Float64Array(SHAPE_ROOM);
  shapeSpectrum(shape, 0.004, omega, out);
  return out;
};

describe('A launch as figures', () => {
  it('is the same launch again, whichever way it is written', () => {
    fc.assert(
      fc.property(shapes, (shape) => {
        const again = shapeFromVector(shape.shape, shapeAsVector(shape));
        for (const figure of SHAPE_FIGURES)
          if (shape.shape === 'pulse' || figure !== 'logWidth')
            expect(again[figure]).toBeCloseTo(shape[figure], 9);
      }),
    );
  });

  it('has the slopes that moving each figure a little makes', () => {
    fc.assert(
      fc.property(shapes, between(0.02, 1.5), (shape, omega) => {
        const vector = shapeAsVector(shape);
        const slopes = spectrumOf(shape, omega);
        vector.forEach((_, figure) => {
          const moved = (by: number): Float64Array =>
            spectrumOf(
              shapeFromVector(
                shape.shape,
                vector.map((value, n) => (n === figure ? value + by : value)),
              ),
              omega,
            );
          const [more, less] = [moved(1e-5), moved(-1e-5)];
          for (const part of [0, 1]) {
            const slope = (more[part]! - less[part]!) / 2e-5;
            expect(slopes[2 * (figure + 1) + part]).toBeCloseTo(slope, 4);
          }
        });
      }),
    );
  });

  it('turns a pole into a shift with nothing to gain on the way: the first figure stays where it is', () => {
    // Of a pole much shorter than the edge only its delay is seen.
    const base: PulseShape = {
      shape: 'step',
      at: 20,
      height: 1,
      logDeviation: 1,
      logLag: Math.log(0.2),
      logRamp: 0,
      logWidth: 0,
    };
    const vector = shapeAsVector(base);
    const without = shapeFromVector('step', [...vector.slice(0, 3), Math.log(0.01), vector[4]!]);
    const [pole, shift] = [spectrumOf(base, 0.3), spectrumOf(without, 0.3)];
    expect(Math.hypot(pole[0]! - shift[0]!, pole[1]! - shift[1]!)).toBeLessThan(
      0.005 * Math.hypot(pole[0]!, pole[1]!),
    );
  });
});
