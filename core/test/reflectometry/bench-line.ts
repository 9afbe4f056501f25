import {
  CABLE_TYPES,
  imperfect,
  lineOf,
  NO_SCOPE,
  readTrace,
  seededRandom,
  simulate,
  type Element,
  type LineFigures,
  type Load,
  type Network,
  type Trace,
  type TraceReading,
  type TraceSetting,
} from '../../src/index.js';
import { signalOf } from '../../src/reflectometry/spectrum.js';

/** A cable of the library as a line. */
export const line = (id: string): LineFigures => lineOf(CABLE_TYPES.find((cable) => cable.id === id)!);
export const rg6 = line('rg6');
export const cat6 = line('cat6-u');

export interface Bench {
  chain: readonly Element[];
  load: Load;
  source?: Partial<Network['source']>;
  intervalS?: number;
  samples?: number;
  noiseV?: number;
  quantumV?: number;
  offsetV?: number;
  seed?: number;
}

/** What an oscilloscope shows of a chain behind a matched pulser of 1 V into the line. */
export function drawn(bench: Bench): Trace {
  const first = bench.chain.find((element) => element.kind === 'line');
  const source: Network['source'] = {
    shape: 'pulse',
    volts: 2,
    widthS: 20e-9,
    riseS: 3e-9,
    edge: 'smooth',
    impedanceOhm: first?.kind === 'line' ? first.line.impedanceOhm : 75,
    ...bench.source,
  };
  const clean = simulate(
    { source, scope: NO_SCOPE, chain: bench.chain, load: bench.load },
    { intervalS: bench.intervalS ?? 0.5e-9, samples: bench.samples ?? 1200, launchS: 50e-9 },
  );
  const { noiseV = 0.004, quantumV = 0.0118, offsetV = 0.02, seed = 1 } = bench;
  return imperfect(clean, { noiseV, quantumV, offsetV }, seededRandom(seed));
}

/** Reads a drawn trace, its cable known and its velocity exact. */
export function read(bench: Bench, setting: Partial<TraceSetting> = {}): TraceReading {
  const first = bench.chain.find((element) => element.kind === 'line');
  return readTrace(drawn(bench), {
    line: first?.kind === 'line' ? first.line : rg6,
    velocityDeviation: 0,
    lossKnown: true,
    lead: { lengthM: 0, velocityFactor: 0.66, deviationM: 0 },
    ...setting,
  });
}

export const run = (lengthM: number, of: LineFigures = rg6): Element => ({ kind: 'line', lengthM, line: of });

/**
 * A matched step or pulse into a line of constant impedance whose loss goes with a power of the
 * frequency, `neper` one way at 30 MHz, and with the delay that belongs to it; open at its end.
 */
export function powerLawTrace(
  {
    lengthM,
    velocityFactor,
    power,
    neper,
  }: { lengthM: number; velocityFactor: number; power: number; neper: number },
  { noiseV = 0.002, samples = 2400, seed = 3 } = {},
): Trace {
  const [intervalS, size, widthS, riseS, launchS] = [5e-10, 4096, 2e-8, 3e-9, 5e-8];
  const sigma = 14 / (size * intervalS);
  const re = new Float64Array(size / 2 + 1);
  const im = new Float64Array(size / 2 + 1);
  const scale = neper / ((2 * Math.PI * 3e7) ** power * Math.cos((power * Math.PI) / 2));
  for (let bin = 0; bin < re.length; bin++) {
    const w = (2 * Math.PI * bin) / (size * intervalS);
    const [radius, angle] = [Math.hypot(sigma, w) ** power, power * Math.atan2(w, sigma)];
    const wayS = (2 * lengthM) / (velocityFactor * 299_792_458);
    const lost = 2 * scale * radius;
    const echo = polar(-sigma * wayS - lost * Math.cos(angle), -w * wayS - lost * Math.sin(angle));
    const edge = riseS / 2.5631;
    const shape = times(
      polar(((sigma ** 2 - w ** 2) * edge ** 2) / 2 - sigma * launchS, sigma * w * edge ** 2 - w * launchS),
      times(minus([1, 0], polar(-sigma * widthS, -w * widthS)), inverse([sigma, w])),
    );
    [re[bin], im[bin]] = times(shape, [1 + echo[0], echo[1]]);
  }
  const signal = signalOf({ re, im });
  const volts = new Float64Array(samples).map(
    (_, n) => (signal[n]! / intervalS) * Math.exp(sigma * n * intervalS),
  );
  return imperfect(
    { intervalS, startS: 0, volts },
    { noiseV, quantumV: 0.004, offsetV: 0.01 },
    seededRandom(seed),
  );
}
type Complex = readonly [number, number];
const polar = (log: number, angle: number): Complex => [
  Math.exp(log) * Math.cos(angle),
  Math.exp(log) * Math.sin(angle),
];
const times = ([a, b]: Complex, [c, d]: Complex): Complex => [a * c - b * d, a * d + b * c];
const minus = ([a, b]: Complex, [c, d]: Complex): Complex => [a - c, b - d];
const inverse = ([a, b]: Complex): Complex => [a / (a * a + b * b), -b / (a * a + b * b)];
