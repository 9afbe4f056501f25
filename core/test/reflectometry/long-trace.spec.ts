import { drawNormal, readTrace, seededRandom, type Trace } from '../../src/index.js';
import { readClosely } from '../../src/reflectometry/long-trace.js';
import { rg6 } from './bench-line.js';

const SAMPLES = 2_000_000;
const INTERVAL_S = 1e-10;
const LAUNCH = 2000;
const SPEED = 299_792_458;

/** A scope left at 200 us: a step and what comes back of it, drawn as edges of a logistic, by no line model. */
function drawn(
  lengthM: number,
  { edgeS = 2e-9, noiseV = 0.002, samples = SAMPLES, share = 0.9 } = {},
): Trace {
  const random = seededRandom(3);
  const echo = LAUNCH + (2 * lengthM) / (rg6.velocityFactor * SPEED) / INTERVAL_S;
  const edge = (n: number, at: number): number => 1 / (1 + Math.exp((-4.4 * INTERVAL_S * (n - at)) / edgeS));
  const volts = Float64Array.from(
    { length: samples },
    (_, n) => 0.5 * (edge(n, LAUNCH) + share * edge(n, echo)) + noiseV * drawNormal(random),
  );
  return { intervalS: INTERVAL_S, startS: 0, volts };
}
const read = (trace: Trace) =>
  readTrace(trace, {
    line: rg6,
    velocityDeviation: 0,
    lossKnown: false,
    lead: { lengthM: 0, velocityFactor: 0.66, deviationM: 0 },
    shape: 'step',
  });

describe('A trace of two million samples', () => {
  it('is read near to where something happens, as finely as a short one', () => {
    const long = read(drawn(40));
    const short = read(drawn(40, { samples: 20_000 }));
    const [open] = long.events;
    expect(open?.kind).toBe('open');
    expect(Math.abs((open?.distanceM ?? 0) - 40)).toBeLessThan(0.1);
    expect(Math.abs((open?.distanceM ?? 0) - (short.events[0]?.distanceM ?? 0))).toBeLessThan(0.02);
    expect(long.events.length).toBe(short.events.length);
  });

  it('is cut behind the last thing that happens and its echoes, and never before it', () => {
    for (const lengthM of [5, 300, 2000]) {
      const trace = drawn(lengthM);
      const { trace: kept, by } = readClosely(trace, 4);
      const echo = LAUNCH + (2 * lengthM) / (rg6.velocityFactor * SPEED) / INTERVAL_S;
      expect(kept.volts.length).toBeGreaterThan(2 * echo - LAUNCH);
      expect(kept.volts.length / by).toBeLessThanOrEqual(40_001);
    }
  });

  it('whose end lies far off keeps all of it, averaged', () => {
    const { trace, by } = readClosely(drawn(9000), 4);
    expect([trace.volts.length, by]).toEqual([SAMPLES, 50]);
  });

  it('that is short enough is left as it is; one of noise alone is averaged', () => {
    const short = drawn(40, { samples: 30_000 });
    expect(readClosely(short, 3)).toEqual({ trace: short, by: 3 });
    const noise = { ...short, volts: Float64Array.from({ length: SAMPLES }, ((r) => () => drawNormal(r))(seededRandom(9))) }; // prettier-ignore
    const { trace, by } = readClosely(noise, 1);
    expect([trace.volts.length, by]).toEqual([SAMPLES, 50]);
  });
});
