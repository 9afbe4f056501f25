import * as fc from 'fast-check';
import { chainFrom, chainVector, type Chain, type Part } from '../../src/reflectometry/chain/chain.js';
import { seenOf, times, wireOf, type ChainModel } from '../../src/reflectometry/chain/chain-model.js';
import { seenWithSlopes } from '../../src/reflectometry/chain/chain-slopes.js';
import type { Spectrum } from '../../src/reflectometry/spectrum.js';

const BINS = 30;
const ground = { sigma: 0.004, omega: Float64Array.from({ length: BINS }, (_, n) => n * 0.07) };
const launch: Spectrum = {
  re: ground.omega.map((w) => Math.cos(3 * w) / (1 + w)),
  im: ground.omega.map((w) => -Math.sin(3 * w) / (1 + w)),
};

const between = (min: number, max: number): fc.Arbitrary<number> =>
  fc.double({ min, max, noNaN: true, noDefaultInfinity: true });
const partIn = (from: number): fc.Arbitrary<Part> => {
  const at = between(from, from + 20);
  const value = between(0.05, 2);
  return fc.oneof(
    fc.record({ kind: fc.constant('series' as const), at, value }),
    fc.record({ kind: fc.constant('shunt' as const), at, value }),
    fc.record({
      kind: fc.constant('section' as const),
      at,
      value: between(-0.8, 0.8),
      length: between(2, 15),
    }),
    fc.record({ kind: fc.constant('stub' as const), at, length: between(3, 60) }),
  );
};
const chains: fc.Arbitrary<Chain> = fc
  .record({
    lead: fc.option(fc.record({ at: between(2, 9), value: between(-0.5, 0.5) })),
    first: fc.option(partIn(12)),
    second: fc.option(partIn(50)),
    end: fc.record({
      kind: fc.constantFrom('open' as const, 'short' as const, 'matched' as const, 'beyond' as const),
      at: between(90, 200),
    }),
  })
  .map(({ lead, first, second, end }) => ({
    lead,
    parts: [first, second].filter((part) => part !== null),
    end,
  }));
const models = fc.record({
  source: between(0.3, 3),
  input: between(0.01, 2),
  flat: between(1e-5, 2e-3),
  skin: between(1e-4, 2e-2),
  chain: chains,
});
type Seen = Pick<ChainModel, 'source' | 'input' | 'flat' | 'skin' | 'chain'>;

describe('The slopes of what a chain shows', () => {
  it('are what moving each figure a little makes of it', () => {
    fc.assert(
      fc.property(models, (model: Seen) => {
        const vector = [
          ...[model.source, model.input, model.flat, model.skin].map(Math.log),
          ...chainVector(model.chain),
        ];
        const shown = (moved: readonly number[]): Spectrum => {
          const [source, input, flat, skin] = moved.slice(0, 4).map(Math.exp) as [
            number,
            number,
            number,
            number,
          ];
          const chain = chainFrom(model.chain, moved, 4);
          return times(
            launch,
            seenOf(ground, { source, input, flat, skin, chain }, wireOf(ground, flat, skin)),
          );
        };
        const { seen, slopes } = seenWithSlopes(
          ground,
          model,
          wireOf(ground, model.flat, model.skin),
          launch,
        );
        const here = times(launch, seen);
        const again = shown(vector);
        here.re.forEach((value, bin) => expect(value).toBeCloseTo(again.re[bin] as number, 9));
        expect(slopes.length).toBe(vector.length);
        const step = 1e-5;
        slopes.forEach((slope, n) => {
          const [less, more] = [-step, step].map((by) =>
            shown(vector.map((value, k) => (k === n ? value + by : value))),
          ) as [Spectrum, Spectrum];
          const size = Math.max(1e-3, ...slope.re.map(Math.abs), ...slope.im.map(Math.abs));
          for (const part of ['re', 'im'] as const)
            slope[part].forEach((value, bin) => {
              const measured = ((more[part][bin] as number) - (less[part][bin] as number)) / (2 * step);
              expect(Math.abs(measured - value) / size)
                .withContext(`figure ${n}, bin ${bin}`)
                .toBeLessThan(1e-5);
            });
        });
      }),
      { numRuns: 60 },
    );
  });
});
