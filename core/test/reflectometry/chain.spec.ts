import { groundOf } from '../../src/reflectometry/ground.js';
import { chainFrom, chainVector, isPossible, type Chain } from '../../src/reflectometry/chain/chain.js';
import { fitChain } from '../../src/reflectometry/chain/chain-fit.js';
import { voltsOf, type ChainModel } from '../../src/reflectometry/chain/chain-model.js';
import { seededRandom, type TraceReading } from '../../src/index.js';
import { drawNormal } from '../../src/quantities/random.js';
import { cat6, line, read, rg6, run } from './bench-line.js';

const SAMPLES = 1200;
const launch = {
  shape: 'pulse',
  at: 60,
  height: 1,
  logDeviation: Math.log(1.2),
  logLag: Math.log(0.5),
  logRamp: Math.log(1),
  logWidth: Math.log(12),
} as const;
const model = (chain: Chain): ChainModel => ({
  launch,
  level: 0,
  source: 1,
  input: 0.01,
  flat: 4e-5,
  skin: 2e-4,
  chain,
});
const ground = groundOf(
  { volts: new Float64Array(SAMPLES), noiseV: 0.002, intervalS: 1e-9, line: rg6 },
  () => 1,
);
const heightAt = (volts: Float64Array, at: number): number => {
  const [from, until] = [Math.round(60 + at), Math.round(60 + at + 12)];
  return volts.slice(from + 4, until - 3).reduce((sum, v) => sum + v, 0) / (until - from - 7);
};

describe('A chain of things on a line', () => {
  const bare: Chain = { lead: null, parts: [], end: { kind: 'beyond', at: 0 } };

  it('sends back what reflection coefficients say, and to and fro what follows from them', () => {
    const quiet = (chain: Chain): Float64Array =>
      voltsOf(ground, { ...model(chain), flat: 1e-9, skin: 1e-9 });
    const ends = { open: 1, short: -1, matched: 0 } as const;
    for (const [kind, r] of Object.entries(ends))
      expect(heightAt(quiet({ ...bare, end: { kind: kind as 'open', at: 300 } }), 300)).toBeCloseTo(r, 2);
    const series: Chain = {
      ...bare,
      parts: [{ kind: 'series', at: 200, value: 0.5 }],
      end: { kind: 'open', at: 500 },
    };
    const volts = quiet(series);
    expect(heightAt(volts, 200)).toBeCloseTo(0.5 / 2.5, 2);
    // Through the part twice.
    expect(heightAt(volts, 500)).toBeCloseTo((2 / 2.5) ** 2, 2);
    // And once to and fro between part and end: seen from behind the part reflects alike.
    expect(heightAt(volts, 800)).toBeCloseTo((2 / 2.5) ** 2 * (0.5 / 2.5), 2);
    const shunt: Chain = { ...bare, parts: [{ kind: 'shunt', at: 200, value: 1 }] };
    expect(heightAt(quiet(shunt), 200)).toBeCloseTo(-1 / 3, 2);
    const stub: Chain = { ...bare, parts: [{ kind: 'stub', at: 200, length: 100 }] };
    expect(heightAt(quiet(stub), 200)).toBeCloseTo(-1 / 3, 2);
    expect(heightAt(quiet(stub), 300)).toBeCloseTo(4 / 9, 2);
  });

  it('comes back from its figures as it was, and refuses what cannot be', () => {
    const chain: Chain = {
      lead: { at: 12, value: 0.4 },
      parts: [
        { kind: 'series', at: 90, value: 0.3 },
        { kind: 'section', at: 140, value: -0.4, length: 30 },
        { kind: 'stub', at: 250, length: 40 },
      ],
      end: { kind: 'open', at: 400 },
    };
    const back = chainFrom(chain, chainVector(chain));
    expect(JSON.stringify(back, (_, v: unknown) => (typeof v === 'number' ? Number(v.toFixed(9)) : v))).toBe(
      JSON.stringify(chain),
    );
    expect(isPossible(chain, 1000)).toBeTrue();
    expect(isPossible({ ...chain, end: { kind: 'open', at: 120 } }, 1000)).toBeFalse();
    expect(isPossible({ ...chain, parts: [...chain.parts].reverse() }, 1000)).toBeFalse();
    expect(isPossible({ ...chain, end: { kind: 'open', at: 5000 } }, 1000)).toBeFalse();
  });

  it('is found again by its fit, as well as its noise allows', () => {
    const random = seededRandom(8);
    const truth = model({
      ...bare,
      parts: [{ kind: 'shunt', at: 210, value: 0.6 }],
      end: { kind: 'open', at: 430 },
    });
    const volts = voltsOf(ground, truth).map((volt) => volt + 0.002 * drawNormal(random));
    const start: ChainModel = {
      ...truth,
      flat: 1e-5,
      skin: 1e-4,
      chain: { ...bare, parts: [{ kind: 'shunt', at: 212, value: 0.3 }], end: { kind: 'open', at: 428 } },
    };
    const prior = {
      flat: 5e-5,
      skin: 3e-4,
      mean: 1,
      deviation: 0.8,
      lead: null,
      input: { mean: 0, deviation: 0.5 },
    };
    const fit = fitChain({ ...ground, volts }, start, prior, { rounds: 40, launchHeld: false });
    expect(fit.misfit / SAMPLES).toBeLessThan(1.2);
    const [part] = fit.chain.parts;
    expect(part?.at).toBeCloseTo(210, 0);
    expect(part && 'value' in part ? part.value : 0).toBeCloseTo(0.6, 1);
    expect(fit.chain.end.at).toBeCloseTo(430, 0);
  });
});

describe('A trace explained by a chain', () => {
  const thorough: typeof read = (bench, setting = {}) => read(bench, { ...setting, thorough: true });
  const told = ({ events }: TraceReading): [string, number][] =>
    events
      .filter(({ kind, probability }) => kind !== 'ghost' && kind !== 'matched-end' && probability > 0.5)
      .map(({ kind, distanceM }) => [kind, Math.round(distanceM) + 0]);

  it('has the open end behind a part across the line, and nothing behind the end', () => {
    for (const ohm of [30, 110]) {
      const chain = [run(20), { kind: 'shunt' as const, ohm }, run(14)];
      expect(told(thorough({ chain, load: 'open', samples: 1500, noiseV: 0.003 }))).toEqual([
        ['wet-or-shunt', 20],
        ['open', 34],
      ]);
    }
  });

  it('has the end behind a branch, whose echoes go to and fro', () => {
    const chain = [run(18), { kind: 'stub' as const, chain: [run(7)], load: 'open' as const }, run(16)];
    expect(told(thorough({ chain, load: 'open', samples: 1500, noiseV: 0.003 }))).toEqual([
      ['stub', 18],
      ['open', 34],
    ]);
  });

  it('makes no joints of a wire’s own resistance under a step', () => {
    const thin = { ...cat6, loopOhmPerM: 0.7, skinDb: 0, dielectricDb: 0 };
    const reading = thorough(
      {
        chain: [run(40, thin)],
        load: { ohm: cat6.impedanceOhm },
        source: { shape: 'step', impedanceOhm: cat6.impedanceOhm, riseS: 2e-9 },
        samples: 1600,
        noiseV: 0.003,
      },
      { line: cat6, shape: 'step', lossKnown: false },
    );
    expect(told(reading)).toEqual([]);
  });

  it('sees through a lead of another impedance that its source is made for', () => {
    const lead = { lengthM: 2, velocityFactor: 0.66, deviationM: 0.01 };
    const fifty = line('rg58');
    const reading = thorough(
      {
        chain: [run(2, { ...fifty, velocityFactor: 0.66 }), run(45, cat6)],
        load: 'open',
        source: { impedanceOhm: 50 },
        samples: 1800,
        noiseV: 0.003,
      },
      { line: cat6, lead },
    );
    expect(told(reading)).toEqual([
      ['joint', 0],
      ['open', 45],
    ]);
  });
});
