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
