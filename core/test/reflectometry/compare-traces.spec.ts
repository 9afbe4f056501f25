import {
  brokenLine,
  CABLE_TYPES,
  compareTraces,
  imperfect,
  lineOf,
  NO_SCOPE,
  readTrace,
  seededRandom,
  simulate,
  snapTo,
  type LineFault,
  type ReadForComparison,
  type Trace,
} from '@near-spoke/core';

const cable = CABLE_TYPES.find(({ id }) => id === 'rg213');
if (!cable) throw new Error('no rg213');
const line = lineOf(cable);
const LENGTH_M = 41;

function taken(
  faults: readonly LineFault[],
  { seed = 1, volts = 2, widthS = 1e-8, launchS = 4e-8, lengthM = LENGTH_M, faster = 1 } = {},
): ReadForComparison {
  const source = { shape: 'pulse', volts, widthS, riseS: 2.5e-9, edge: 'smooth', impedanceOhm: 50 } as const;
  const twisted = { ...line, velocityFactor: line.velocityFactor * faster };
  const network = { source, scope: NO_SCOPE, ...brokenLine(twisted, lengthM, faults) };
  const clean = simulate(network, { intervalS: 5e-10, samples: 1500, launchS });
  const trace = imperfect(clean, { noiseV: 0.004, quantumV: 0.0118, offsetV: 0.01 }, seededRandom(seed));
  const { explained, ...reading } = readTrace(trace, {
    line,
    velocityDeviation: 0,
    lossKnown: true,
    lead: { lengthM: 0, velocityFactor: 0.66, deviationM: 0.005 },
    shape: 'pulse',
  });
  const { trace: seen, fit, launch } = explained;
  return {
    trace: seen,
    reading,
    launchAtS: seen.startS + fit.launch.at * seen.intervalS,
    launchV: fit.launch.height,
    levelV: launch.baselineV + fit.level,
  };
}
const wet: LineFault = { kind: 'wet', atM: 26.7, severity: 0.35 };
const largest = (share: Float64Array): number => Math.max(...share.map(Math.abs));

describe('two traces of one line', () => {
  it('differ by noise alone where nothing changed, whatever was set on the generator', () => {
    const { share, noiseShare, alike, changes } = compareTraces(
      taken([]),
      taken([], { seed: 2, volts: 1.6, launchS: 5.3e-8 }),
    );
    expect(alike).toBeTrue();
    expect(changes).toEqual([]);
    expect(largest(share)).toBeLessThan(0.09);
    expect(Math.sqrt(share.reduce((sum, x) => sum + x * x, 0) / share.length)).toBeLessThan(0.015);
    expect(noiseShare).toBeLessThan(0.01);
  });

  it('show what is new, and nothing else', () => {
    const { changes, share, noiseShare } = compareTraces(taken([wet]), taken([], { seed: 3 }));
    expect(new Set(changes.map(({ what }) => what))).toEqual(new Set(['new']));
    // The wet stretch has two edges, which may be told as two things; nothing elsewhere is new.
    expect(changes.every(({ event }) => Math.abs(event.distanceM - 27) < 0.6)).toBeTrue();
    expect(changes[0]?.event.kind).toMatch(/low-section|wet-or-shunt/);
    expect(changes[0]?.event.distanceM).toBeCloseTo(26.7, 0);
    expect(largest(share)).toBeGreaterThan(8 * noiseShare);
  });

  it('show what was mended as gone', () => {
    const { changes } = compareTraces(taken([]), taken([wet], { seed: 4 }));
    expect(new Set(changes.map(({ what }) => what))).toEqual(new Set(['gone']));
    expect(changes.every(({ event }) => Math.abs(event.distanceM - 27) < 0.6)).toBeTrue();
  });

  it('tell a fault that grew', () => {
    const poor = (severity: number): LineFault => ({ kind: 'poor', atM: 15, severity });
    const { changes } = compareTraces(taken([poor(0.8)]), taken([poor(0.2)], { seed: 5 }));
    const [change] = changes;
    expect(change?.what).toBe('changed');
    expect(Math.abs(change?.event.reflection ?? 0)).toBeGreaterThan(
      2 * Math.abs(change?.was?.reflection ?? 1),
    );
  });

  it('do not call gone what a new break hides', () => {
    const broken: LineFault = { kind: 'open', atM: 12, severity: 1 };
    const { changes } = compareTraces(taken([broken]), taken([wet], { seed: 6 }));
    expect(changes.map(({ what, event }) => [what, event.kind])).toEqual([['new', 'open']]);
  });

  it('say so where they were launched otherwise', () => {
    expect(compareTraces(taken([]), taken([], { seed: 7, widthS: 3e-8 })).alike).toBeFalse();
  });
});

describe('a trace beside that of a like line that is good', () => {
  const coupling: LineFault = { kind: 'poor', atM: 15, severity: 0.4 };
  const good = taken([coupling], { seed: 12, faster: 1.015 });
  const shownAs = ({ changes }: ReturnType<typeof compareTraces>): string[] =>
    changes.map(({ what, event }) => `${what} ${event.kind} ${Math.round(event.distanceM)}`);

  it('has what both have for the line’s own, though its pair is twisted otherwise, and shows what is only here', () => {
    const bad = taken([coupling, wet], { seed: 11 });
    const { changes, shared } = compareTraces(bad, good, { like: true });
    expect(changes.map(({ what }) => what)).toContain('new');
    expect(changes.every(({ event }) => Math.abs(event.distanceM - 27) < 1)).toBeTrue();
    const own = shared.map((n) => bad.reading.events[n]);
    expect(own.some((event) => Math.abs((event?.distanceM ?? 0) - 15) < 0.3)).toBeTrue();
    expect(own.some((event) => event?.kind === 'open')).toBeTrue();
  });

  it('knows a break for one, and takes no end of another length for news', () => {
    const broken = taken([{ kind: 'open', atM: 23, severity: 1 }], { seed: 13 });
    expect(shownAs(compareTraces(broken, taken([], { seed: 14 }), { like: true }))).toEqual(['new open 23']);
    const longer = taken([], { seed: 15, lengthM: 60 });
    const planned = { lengthM: LENGTH_M, deviationM: 1.2 };
    expect(shownAs(compareTraces(taken([]), longer, { like: true, planned }))).toEqual([]);
    expect(shownAs(compareTraces(taken([]), longer, { like: true }))).toEqual(['new open 41']);
  });

  it('says how far the two are compared: behind the good one’s end nothing is known', () => {
    const shorter = taken([], { seed: 16, lengthM: 20 });
    const far = compareTraces(taken([wet], { seed: 17 }), shorter, { like: true });
    expect(far.untilM).toBeCloseTo(20, 0);
    expect(far.changes.every(({ event }) => event.distanceM < 20.5)).toBeTrue();
    expect(compareTraces(taken([wet]), taken([])).untilM).toBeCloseTo(LENGTH_M, 0);
  });
});

describe('a cursor', () => {
  /** A pulse of one volt from 50 to 70 ns with edges of about 4 ns, and noise. */
  const pulse = (noiseV: number): Trace => {
    const step = (at: number) => (t: number) => 1 / (1 + Math.exp(-(t - at) / 1));
    const [up, down] = [step(50), step(70)];
    const volts = Float64Array.from({ length: 400 }, (_, n) => up(n / 2) - down(n / 2));
    return imperfect(
      { intervalS: 5e-10, startS: 0, volts },
      { noiseV, quantumV: 0, offsetV: 0 },
      seededRandom(3),
    );
  };
  const ns = (value: number | null): number => (value ?? NaN) * 1e9;

  it('snaps to the middle of the edge next to it', () => {
    const trace = pulse(0.003);
    expect(ns(snapTo(trace, 40e-9, 'edge'))).toBeCloseTo(50, 0);
    expect(ns(snapTo(trace, 100e-9, 'edge'))).toBeCloseTo(70, 0);
    expect(ns(snapTo(trace, 61e-9, 'edge'))).toBeCloseTo(70, 0);
  });

  it('snaps to the top or bottom of the peak next to it', () => {
    const volts = Float64Array.from({ length: 600 }, (_, n) => {
      const bump = (at: number, height: number): number => height * Math.exp(-(((n / 2 - at) / 6) ** 2));
      return bump(80.2, 1) + bump(200.7, -0.4);
    });
    const trace = imperfect(
      { intervalS: 5e-10, startS: 0, volts },
      { noiseV: 0.004, quantumV: 0, offsetV: 0 },
      seededRandom(5),
    );
    expect(Math.abs(ns(snapTo(trace, 60e-9, 'peak')) - 80.2)).toBeLessThan(1.2);
    expect(Math.abs(ns(snapTo(trace, 230e-9, 'peak')) - 200.7)).toBeLessThan(1.5);
  });

  it('stays where it is where nothing stands out', () => {
    const volts = new Float64Array(300);
    const flat = imperfect(
      { intervalS: 1e-9, startS: 0, volts },
      { noiseV: 0.01, quantumV: 0, offsetV: 0 },
      seededRandom(2),
    );
    expect(snapTo(flat, 1e-7, 'edge')).toBeNull();
    expect(snapTo(flat, 1e-7, 'peak')).toBeNull();
  });
});
