import {
  brokenLine,
  delayOf,
  imperfect,
  LIGHT_M_PER_S,
  LINE_FAULTS,
  lineOf,
  NO_SCOPE,
  readTrace,
  seededRandom,
  simulate,
  CABLE_TYPES,
  type LineFaultKind,
  type LineFault,
  type TraceReading,
} from '@near-spoke/core';

const cable = CABLE_TYPES.find(({ id }) => id === 'rg6');
if (!cable) throw new Error('no rg6');
const line = lineOf(cable);
const LENGTH_M = 60;

/** A broken line as a bench oscilloscope shows it, read. */
function seen(faults: readonly LineFault[]): TraceReading {
  const network = {
    source: { shape: 'pulse', volts: 2, widthS: 8e-9, riseS: 2e-9, edge: 'smooth', impedanceOhm: 75 },
    scope: NO_SCOPE,
    ...brokenLine(line, LENGTH_M, faults),
  } as const;
  const clean = simulate(network, { intervalS: 4e-10, samples: 1800, launchS: 3e-8 });
  const trace = imperfect(clean, { noiseV: 0.003, quantumV: 0.008, offsetV: 0.01 }, seededRandom(7));
  return readTrace(trace, {
    line,
    velocityDeviation: 0,
    lossKnown: true,
    lead: { lengthM: 0, velocityFactor: 0.66, deviationM: 0.005 },
    shape: 'pulse',
  });
}

describe('a broken line', () => {
  for (const kind of Object.keys(LINE_FAULTS) as LineFaultKind[]) {
    it(`shows ${LINE_FAULTS[kind].name.toLowerCase()} where it is`, () => {
      const { events } = seen([{ kind, atM: 24, severity: 0.7 }]);
      const there = events.find(({ distanceM }) => Math.abs(distanceM - 24) < 0.5);
      expect(there).withContext(JSON.stringify(events)).toBeDefined();
      expect(LINE_FAULTS[kind].shows).toContain(there?.kind ?? 'ghost');
    });
  }

  it('hides all that lies behind a break', () => {
    const faults = [
      { kind: 'short', atM: 40, severity: 1 },
      { kind: 'open', atM: 12, severity: 1 },
    ] as const;
    const { chain, load } = brokenLine(line, LENGTH_M, faults);
    expect(load).toBe('open');
    expect(delayOf(chain, LIGHT_M_PER_S)).toBeCloseTo(12 / (line.velocityFactor * LIGHT_M_PER_S), 15);
  });

  it('is no longer than it was, whatever is put into it', () => {
    for (const kind of ['wet', 'crushed', 'apart'] as const) {
      const { chain } = brokenLine(line, LENGTH_M, [{ kind, atM: 20, severity: 1 }]);
      const metres = chain.reduce((sum, part) => sum + (part.kind === 'line' ? part.lengthM : 0), 0);
      expect(metres).withContext(kind).toBeCloseTo(LENGTH_M, 9);
    }
  });

  it('is the sound line where nothing is wrong, closed by its load', () => {
    expect(brokenLine(line, LENGTH_M, [], { ohm: 75 })).toEqual({
      chain: [{ kind: 'line', lengthM: LENGTH_M, line }],
      load: { ohm: 75 },
    });
  });
});
