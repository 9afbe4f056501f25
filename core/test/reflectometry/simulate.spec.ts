import fc from 'fast-check';
import {
  LIGHT_M_PER_S,
  losslessLine,
  lossDb,
  NO_SCOPE,
  simulate,
  type Element,
  type Load,
  type Network,
  type Source,
} from '../../src/index.js';
import { signalOf, spectrumOf } from '../../src/reflectometry/spectrum.js';

const NS = 1e-9;
const step = (impedanceOhm: number, riseS = 1 * NS): Source => ({
  shape: 'step',
  volts: 2,
  widthS: 0,
  riseS,
  edge: 'smooth',
  impedanceOhm,
});
const sampling = { intervalS: 0.25 * NS, samples: 2000, launchS: 20 * NS };

/** The error function to 1.2e-7 (Numerical approximation of Chebyshev type). */
function erf(x: number): number {
  const t = 1 / (1 + Math.abs(x) / 2);
  const series = [
    -1.26551223, 1.00002368, 0.37409196, 0.09678418, -0.18628806, 0.27886807, -1.13520398, 1.48851587,
    -0.82215223, 0.17087277,
  ].reduceRight((sum, c) => sum * t + c, 0);
  const tail = t * Math.exp(-x * x + series);
  return x >= 0 ? 1 - tail : tail - 1;
}
const smoothEdge = (t: number, riseS: number): number => (1 + erf(t / ((riseS / 2.5631) * Math.SQRT2))) / 2;

/** Steps that a bounce diagram of one lossless line gives at the tee: [time, height]. */
function bounces(
  source: Source,
  z0: number,
  delayS: number,
  load: number,
  untilS: number,
): [number, number][] {
  const atSource = (source.impedanceOhm - z0) / (source.impedanceOhm + z0);
  const atLoad = load === Infinity ? 1 : (load - z0) / (load + z0);
  let wave = (source.volts * z0) / (z0 + source.impedanceOhm);
  const steps: [number, number][] = [[0, wave]];
  for (let t = 2 * delayS; t < untilS; t += 2 * delayS) {
    wave *= atLoad;
    steps.push([t, wave * (1 + atSource)]);
    wave *= atSource;
  }
  return steps;
}

const loadOf = (ohm: number): Load => (ohm === Infinity ? 'open' : ohm === 0 ? 'short' : { ohm });

function largestDifference(
  a: Float64Array,
  b: (t: number) => number,
  startS: number,
  intervalS: number,
): number {
  return a.reduce((most, v, n) => Math.max(most, Math.abs(v - b(startS + n * intervalS))), 0);
}

describe('A simulated line', () => {
  it('follows the bounce diagram of one lossless line, whatever closes it and drives it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 300, noNaN: true }),
        fc.double({ min: 20, max: 150, noNaN: true }),
        fc.constantFrom(0, 10, 75, 300, Infinity),
        fc.double({ min: 1, max: 40, noNaN: true }),
        (sourceOhm, z0, load, lengthM) => {
          const source = step(sourceOhm);
          const delayS = lengthM / (0.66 * LIGHT_M_PER_S);
          const trace = simulate(
            {
              source,
              scope: NO_SCOPE,
              chain: [{ kind: 'line', lengthM, line: losslessLine(z0, 0.66) }],
              load: loadOf(load),
            },
            sampling,
          );
          const steps = bounces(source, z0, delayS, load, 500 * NS);
          const expected = (t: number) =>
            steps.reduce((sum, [at, height]) => sum + height * smoothEdge(t - at, source.riseS), 0);
          expect(largestDifference(trace.volts, expected, trace.startS, trace.intervalS)).toBeLessThan(3e-5);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('sees half the source into a match and nothing after it', () => {
    const trace = simulate(
      {
        source: { ...step(50), shape: 'pulse', widthS: 20 * NS },
        scope: NO_SCOPE,
        chain: [{ kind: 'line', lengthM: 10, line: losslessLine(50, 0.66) }],
        load: { ohm: 50 },
      },
      sampling,
    );
    const at = (t: number) => trace.volts[Math.round((t - trace.startS) / trace.intervalS)]!;
    expect(at(10 * NS)).toBeCloseTo(1, 5);
    expect(at(60 * NS)).toBeCloseTo(0, 5);
    expect(at(101 * NS + 10 * NS)).toBeCloseTo(0, 5);
  });

  it('lets a capacitor at the end charge through the line with the time constant Z0 C', () => {
    const delayS = 20 / (0.66 * LIGHT_M_PER_S);
    const farad = 200e-12;
    const trace = simulate(
      {
        source: step(50, 0.5 * NS),
        scope: NO_SCOPE,
        chain: [{ kind: 'line', lengthM: 20, line: losslessLine(50, 0.66) }],
        load: { farad },
      },
      sampling,
    );
    for (const t of [5 * NS, 15 * NS, 40 * NS]) {
      const at = Math.round((2 * delayS + t - trace.startS) / trace.intervalS);
      const exact = trace.startS + at * trace.intervalS - 2 * delayS;
      // Matched source: 1 V launched, the end rises as 2 (1 - e^(-t/tau)); the tee sees one wave of it.
      expect(trace.volts[at]!).toBeCloseTo(2 * (1 - Math.exp(-exact / (50 * farad))), 3);
    }
  });

  it('shows a part in the way by its own reflection coefficient', () => {
    const cases: [Element, number][] = [
      [{ kind: 'series', ohm: 25 }, 25 / (25 + 100)],
      [{ kind: 'shunt', ohm: 100 }, -50 / (200 + 50)],
      [
        { kind: 'stub', chain: [{ kind: 'line', lengthM: 200, line: losslessLine(50, 0.66) }], load: 'open' },
        -1 / 3,
      ],
      [{ kind: 'line', lengthM: 200, line: losslessLine(75, 0.66) }, 25 / 125],
    ];
    for (const [element, reflection] of cases) {
      const line: Element = { kind: 'line', lengthM: 10, line: losslessLine(50, 0.66) };
      const trace = simulate(
        {
          source: step(50),
          scope: NO_SCOPE,
          chain: [line, element, { ...line, lengthM: 200 }],
          load: 'open',
        },
        sampling,
      );
      const settled = Math.round((160 * NS - trace.startS) / trace.intervalS);
      expect(trace.volts[settled]!)
        .withContext(element.kind)
        .toBeCloseTo(1 + reflection, 5);
    }
  });

  it('is delayed and rounded by the scope as by one pole of half Z0 C', () => {
    const farad = 20e-12;
    const network: Network = {
      source: step(50, 0.5 * NS),
      scope: { inputOhm: Infinity, inputF: farad },
      chain: [{ kind: 'line', lengthM: 300, line: losslessLine(50, 0.66) }],
      load: 'open',
    };
    const trace = simulate(network, sampling);
    const tau = 25 * farad;
    const area = trace.volts
      .slice(0, Math.round((60 * NS) / trace.intervalS))
      .reduce((sum, v) => sum + (1 - v) * trace.intervalS, -trace.intervalS / 2);
    // The missing area before the launch settles: from the first sample to the edge, and then tau.
    expect(area).toBeCloseTo(20 * NS + tau, 10);
  });

  it('lets no echo come before its time, with loss of every kind', () => {
    const line = {
      impedanceOhm: 100,
      velocityFactor: 0.68,
      skinDb: 2,
      dielectricDb: 0.02,
      loopOhmPerM: 0.19,
    };
    const trace = simulate(
      {
        source: { ...step(100, 0.4 * NS), shape: 'pulse', widthS: 2 * NS },
        scope: NO_SCOPE,
        chain: [{ kind: 'line', lengthM: 60, line }],
        load: 'open',
      },
      { intervalS: 0.5 * NS, samples: 3000, launchS: 10 * NS },
    );
    const arrival = (2 * 60) / (0.68 * LIGHT_M_PER_S);
    const before = Math.round((arrival - 3 * NS - trace.startS) / trace.intervalS);
    const quiet = trace.volts.slice(Math.round((60 * NS - trace.startS) / trace.intervalS), before);
    const peak = trace.volts.slice(before).reduce((most, v) => Math.max(most, v), 0);
    expect(peak).toBeGreaterThan(0.05);
    // Only the cable's own resistance is seen, slowly; nothing like an edge.
    expect(
      quiet.reduce((most, v, n) => (n ? Math.max(most, Math.abs(v - quiet[n - 1]!)) : most), 0),
    ).toBeLessThan(peak / 200);
  });

  it('loses what its figures say', () => {
    const line = {
      impedanceOhm: 100,
      velocityFactor: 0.68,
      skinDb: 1.808,
      dielectricDb: 0.017,
      loopOhmPerM: 0,
    };
    for (const mhz of [4, 31, 100]) {
      const sheet = 1.808 * Math.sqrt(mhz) + 0.017 * mhz;
      expect(Math.abs(lossDb(line, 100, mhz * 1e6) / sheet - 1))
        .withContext(`${mhz} MHz`)
        .toBeLessThan(0.04);
    }
  });

  it('adds up: the trace of two sources is the sum of their traces', () => {
    const network = (volts: number, widthS: number): Network => ({
      source: { ...step(30), shape: 'pulse', volts, widthS },
      scope: { inputOhm: 1e6, inputF: 12e-12 },
      chain: [
        { kind: 'line', lengthM: 7, line: losslessLine(50, 0.66) },
        { kind: 'shunt', ohm: 40, farad: 30e-12 },
        { kind: 'line', lengthM: 12, line: losslessLine(75, 0.8) },
      ],
      load: 'short',
    });
    const pulse = simulate(network(2, 30 * NS), sampling).volts;
    const steps = simulate({ ...network(2, 0), source: step(30) }, sampling).volts;
    const later = 30 / 0.25;
    for (let n = later; n < pulse.length; n += 37)
      expect(pulse[n]!).toBeCloseTo(steps[n]! - steps[n - later]!, 5);
  });

  it('refuses a window too large to hold, in words', () => {
    expect(() =>
      simulate(
        { source: step(50, 1e-12), scope: NO_SCOPE, chain: [], load: 'open' },
        { intervalS: 1e-9, samples: 1_000_000, launchS: 0 },
      ),
    ).toThrowError(/Take fewer samples or a slower edge/);
  });
});

describe('The transform', () => {
  it('gives a real signal back', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -10, max: 10, noNaN: true }), { minLength: 16, maxLength: 64 }),
        (signal) => {
          const back = signalOf(spectrumOf(signal, 64));
          signal.forEach((value, n) => expect(back[n]!).toBeCloseTo(value, 9));
          for (let n = signal.length; n < 64; n++) expect(back[n]!).toBeCloseTo(0, 9);
        },
      ),
    );
  });
});
