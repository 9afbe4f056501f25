import { seededRandom } from '../../src/index.js';
import { minimise, putProducts } from '../../src/reflectometry/levenberg.js';
import { transformOf, transformSizeFrom } from '../../src/reflectometry/spectrum.js';

describe('A transform', () => {
  const random = seededRandom(12);
  const noise = (length: number): Float64Array => new Float64Array(length).map(() => random() - 0.5);

  for (const size of [16, 20, 24, 40, 48, 64, 80, 96, 160])
    it(`of ${size} points is the sum that it stands for, there and back`, () => {
      const signal = noise(size);
      const spectrum = new Float64Array(2 * size);
      transformOf(size).realTransform(spectrum, signal);
      const full = noise(2 * size);
      const back = new Float64Array(2 * size);
      transformOf(size).inverseTransform(back, full);
      for (let k = 0; k < size; k++) {
        let [re, im, backRe, backIm] = [0, 0, 0, 0];
        for (let n = 0; n < size; n++) {
          const turn = (2 * Math.PI * k * n) / size;
          const [c, s] = [Math.cos(turn), Math.sin(turn)];
          const [x, a, b] = [signal[n] as number, full[2 * n] as number, full[2 * n + 1] as number];
          re += x * c;
          im -= x * s;
          backRe += (a * c - b * s) / size;
          backIm += (a * s + b * c) / size;
        }
        if (k <= size / 2) {
          expect(spectrum[2 * k]).toBeCloseTo(re, 9);
          expect(spectrum[2 * k + 1]).toBeCloseTo(im, 9);
        }
        expect(back[2 * k]).toBeCloseTo(backRe, 9);
        expect(back[2 * k + 1]).toBeCloseTo(backIm, 9);
      }
    });

  it('is of the least size that there is one for, and never a quarter too large', () => {
    for (let least = 17; least < 5000; least += 13) {
      const size = transformSizeFrom(least);
      expect(size).toBeGreaterThanOrEqual(least);
      expect(size).toBeLessThanOrEqual(least * (4 / 3) + 4);
      expect(() => transformOf(size)).not.toThrow();
    }
    expect(() => transformOf(28)).toThrowError(/No transform of 28 points/);
  });
});

describe('Least squares', () => {
  /** Rosenbrock's valley, as residuals 10 (y - x^2) and 1 - x, its ground at 1 and 1. */
  const valley = (parameters: Float64Array) => {
    const [x, y] = parameters as unknown as [number, number];
    const [r, s] = [-10 * (y - x * x), -(1 - x)];
    const normal = { matrix: new Float64Array(4), gradient: new Float64Array(2) };
    const columns = [Float64Array.of(-20 * x, -1), Float64Array.of(10, 0)];
    putProducts(columns, [0, 1], 1, normal);
    columns.forEach(
      (column, n) => (normal.gradient[n] = (column[0] as number) * r + (column[1] as number) * s),
    );
    return { ...normal, cost: (r * r + s * s) / 2 };
  };

  it('finds the ground of a bent valley, and the lowest place within bounds', () => {
    const free = minimise(Float64Array.of(-1.2, 1), valley, 200, { enough: 1e-12 });
    expect(free.parameters[0]).toBeCloseTo(1, 4);
    expect(free.parameters[1]).toBeCloseTo(1, 4);
    const bounds = { least: Float64Array.of(-2, -2), most: Float64Array.of(0.5, 2) };
    const held = minimise(Float64Array.of(-1.2, 1), valley, 200, { enough: 1e-12, bounds });
    expect(held.parameters[0]).toBeCloseTo(0.5, 3);
    expect(held.parameters[1]).toBeCloseTo(0.25, 3);
  });

  it('takes products of any number of slopes', () => {
    const random = seededRandom(5);
    for (let count = 1; count <= 7; count++) {
      const columns = Array.from({ length: count }, () => new Float64Array(9).map(() => random()));
      const normal = { matrix: new Float64Array(count * count), gradient: new Float64Array(count) };
      putProducts(columns, [...columns.keys()], 2, normal);
      columns.forEach((one, i) =>
        columns.forEach((other, j) =>
          expect(normal.matrix[i * count + j]).toBeCloseTo(
            2 * one.reduce((sum, value, n) => sum + value * (other[n] as number), 0),
            9,
          ),
        ),
      );
    }
  });
});
