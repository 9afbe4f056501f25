import type { TraceRecord, TraceTold } from '@near-spoke/contracts';
import {
  brokenLine,
  CABLE_TYPES,
  imperfect,
  lineOf,
  NO_SCOPE,
  seededRandom,
  simulate,
  type CableType,
  type LineFault,
  type Trace,
} from '@near-spoke/core';

export const LEAD = { lengthM: 1, velocityFactor: 0.66 };

export function shippedCable(id: string): CableType {
  const cable = CABLE_TYPES.find((one) => one.id === id);
  if (!cable) throw new Error(`The kit ships no cable ${id}.`);
  return cable;
}

/** A trace of a cable with these faults, behind a lead of a metre, with an oscilloscope's noise. */
export function someTrace(cable: CableType, lengthM: number, faults: readonly LineFault[]): Trace {
  const line = lineOf(cable);
  const { impedanceOhm } = cable;
  const broken = brokenLine(line, lengthM, faults);
  const lead = {
    kind: 'line',
    lengthM: LEAD.lengthM,
    line: { ...line, velocityFactor: LEAD.velocityFactor },
  } as const;
  const source = {
    shape: 'pulse',
    volts: 2,
    widthS: 8e-9,
    riseS: 2e-9,
    edge: 'smooth',
    impedanceOhm,
  } as const;
  const network = { source, scope: NO_SCOPE, chain: [lead, ...broken.chain], load: broken.load };
  const clean = simulate(network, { intervalS: 4e-10, samples: 1400, launchS: 3e-8 });
  return imperfect(clean, { noiseV: 0.003, quantumV: 0.008, offsetV: 0.01 }, seededRandom(4));
}

/** What a person would tell of such a trace. */
export const someTold = (cable: CableType): TraceTold => ({
  velocityFactor: cable.velocityFactor,
  velocityU95: 0.004,
  impedanceOhm: cable.impedanceOhm,
  leadM: LEAD.lengthM,
  leadVelocityFactor: LEAD.velocityFactor,
  shape: 'pulse',
});

/** A trace that a link has, of one pair from its near end. */
export function someTraceRecord(
  cable: CableType,
  trace: Trace,
  change: Partial<TraceRecord> = {},
): TraceRecord {
  return {
    id: 'trace-1',
    at: '2026-11-02T09:00:00.000Z',
    by: 'Marit',
    end: 'near',
    pair: cable.family === 'coax' ? null : '1-2',
    name: 'first.csv',
    trace: { ...trace, volts: Array.from(trace.volts) },
    told: someTold(cable),
    ...change,
  };
}

/** A trace as an oscilloscope writes it: seconds and volts. */
export const asTable = ({ startS, intervalS, volts }: Trace): string =>
  ['time (s),CH1 (V)', ...Array.from(volts, (v, n) => `${startS + n * intervalS},${v.toFixed(5)}`)].join(
    '\n',
  );
