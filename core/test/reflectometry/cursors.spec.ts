import {
  BadCursors,
  CABLE_TYPES,
  latenessS,
  lineOf,
  losslessLine,
  lossByHeight,
  NO_SCOPE,
  pieceByCursors,
  placeByCursors,
  readCursors,
  seededRandom,
  simulate,
  velocityArithmetic,
  velocityOf,
  type CursorReading,
  type LineFigures,
  type Trace,
} from '../../src/index.js';

const reading = (change: Partial<CursorReading>): CursorReading => ({
  timeS: 41.8e-9,
  points: 'edge',
  perDivisionS: 10e-9,
  edgeS: 2e-9,
  echoShare: null,
  ...change,
});
const NO_LEAD = { lengthM: 0, velocityFactor: 0.66, deviationM: 0 };
const RISE = 4e-9;

/** The screen of a bench with an open line of this length. */
function screen(line: LineFigures, lengthM: number): Trace {
  const roundS = (2 * lengthM) / (line.velocityFactor * 299_792_458);
  const intervalS = 0.1e-9;
  return simulate(
    {
      source: {
        shape: 'pulse',
        volts: 2,
        widthS: RISE,
        riseS: RISE * 0.6,
        edge: 'smooth',
        impedanceOhm: line.impedanceOhm,
      },
      scope: NO_SCOPE,
      chain: [{ kind: 'line', lengthM, line }],
      load: 'open',
    },
    { intervalS, samples: Math.ceil((roundS * 1.4 + 60e-9) / intervalS), launchS: 20e-9 },
  );
}

/** Where a person puts the cursors: at the foot of each pulse, a tenth of the way up, or on its top. */
function eye({ volts, intervalS }: Trace, points: 'edge' | 'peak', splitS: number): [number, number] {
  const split = Math.round((20e-9 + splitS) / intervalS);
  const of = (from: number, until: number): number => {
    let top = from;
    for (let i = from; i < until; i++) if (volts[i]! > volts[top]!) top = i;
    if (points === 'peak') return top * intervalS;
    let foot = top;
    while (foot > from && volts[foot]! > 0.1 * volts[top]!) foot--;
    return foot * intervalS;
  };
  return [of(0, split), of(split, volts.length)];
}

const LENGTHS = [12, 31, 75];
const PAIRS = CABLE_TYPES.filter(({ id }) => ['cat5e-u', 'cat6-u', 'rg59', 'rg6'].includes(id));

describe('Two cursors on a screen', () => {
  it('give the distance by the hand’s arithmetic', () => {
    // 0.66 * 0.299792 m/ns * 41.8 ns / 2 = 4.135 m on a line without loss
    const place = placeByCursors(reading({ echoShare: 0.9 }), losslessLine(75, 0.66), 0.01, NO_LEAD);
    expect(place.distanceM).toBeCloseTo(4.135, 3);
    expect(place.kind).toBe('open');
    expect(place.arithmetic).toBe('0.660 × 0.2998 m/ns × 41.80 ns / 2 = 4.14 m');
    expect(place.u95M).toBeCloseTo(
      Math.hypot(place.budget.timingM, place.budget.velocityM, place.budget.leadM),
      9,
    );
    expect(placeByCursors(reading({ echoShare: -0.4 }), losslessLine(75, 0.66), 0, NO_LEAD).kind).toBe(
      'short',
    );
  });

  it('give the velocity of a piece: 2 x 4 m in 41.8 ns is 0.638', () => {
    // 8 / (0.299792 * 41.8) = 0.6384
    const piece = pieceByCursors(reading({}), losslessLine(75, 0.7), 4);
    const { velocityFactor, u95 } = velocityOf([piece]);
    expect(velocityFactor).toBeCloseTo(0.6384, 4);
    expect(velocityArithmetic(4, piece.delayS, 0, velocityFactor)).toBe(
      '2 × 4 m / (0.2998 m/ns × 41.80 ns) = 0.638',
    );
    // hypot(100 ns / 500, 2 ns / 5) / sqrt 3 each, two of them: 0.365 ns of 41.8, 1.96 times.
    expect(u95).toBeCloseTo(1.96 * 0.6384 * Math.hypot(0.365 / 41.8, Math.hypot(0.002, 0.002) / 4), 4);
  });

  it('are wider where the screen showed more, or nobody noted its time per division', () => {
    const deviation = (change: Partial<CursorReading>): number =>
      readCursors(reading(change), losslessLine(75, 0.66), 4).deviationS;
    expect(deviation({ perDivisionS: 50e-9 })).toBeGreaterThan(1.3 * deviation({}));
    expect(deviation({ edgeS: null })).toBeGreaterThan(deviation({}));
    expect(deviation({ perDivisionS: null, edgeS: null })).toBeGreaterThan(deviation({ perDivisionS: 5e-9 }));
  });

  it('know how late a lossy line is read: within half of what its screen shows', () => {
    for (const cable of PAIRS)
      for (const lengthM of LENGTHS)
        for (const points of ['edge', 'peak'] as const) {
          const line = lineOf(cable);
          const frontS = (2 * lengthM) / (line.velocityFactor * 299_792_458);
          const [launch, echo] = eye(screen(line, lengthM), points, frontS / 2);
          const late = echo - launch - frontS;
          const reckoned = latenessS(line, lengthM, points, RISE);
          expect(Math.abs(reckoned - late))
            .withContext(`${cable.id} ${lengthM} m ${points}: ${late}, ${reckoned}`)
            .toBeLessThan(0.5 * late + 0.4e-9);
        }
  });

  it('hold the truth 19 times in 20, with a hand’s errors and the screen’s places', () => {
    const random = seededRandom(7);
    let [held, all] = [0, 0];
    for (const cable of PAIRS)
      for (const lengthM of LENGTHS) {
        const truth = lineOf(cable);
        const frontS = (2 * lengthM) / (truth.velocityFactor * 299_792_458);
        const shown = screen(truth, lengthM);
        for (const points of ['edge', 'peak'] as const) {
          const [launch, echo] = eye(shown, points, frontS / 2);
          const perDivisionS = [5, 10, 20, 50, 100, 200].map((n) => n * 1e-9).find((d) => 9 * d > frontS)!;
          for (let n = 0; n < 40; n++) {
            const hand = (at: number): number => {
              const off = (random() * 2 - 1) * (RISE / 5);
              const place = (perDivisionS * 10) / 500;
              return Math.round((at + off) / place) * place;
            };
            const place = placeByCursors(
              reading({ timeS: hand(echo) - hand(launch), points, perDivisionS, edgeS: RISE }),
              truth,
              0,
              NO_LEAD,
            );
            all++;
            if (Math.abs(place.distanceM - lengthM) <= place.u95M) held++;
          }
        }
      }
    expect(held / all).toBeGreaterThan(0.93);
  });

  it('tell the loss by the height of a plain end, there and back', () => {
    // 6.02 dB over 2 x 50 m
    expect(lossByHeight(-0.5, 50, losslessLine(75, 0.66), 10e-9)?.dbPer100M).toBeCloseTo(6.02, 2);
    expect(lossByHeight(1.2, 50, losslessLine(75, 0.66), 10e-9)).toBeNull();
  });

  it('are refused where they cannot be, with what to do', () => {
    const line = losslessLine(75, 0.66);
    expect(() => placeByCursors(reading({ timeS: -3e-9 }), line, 0, NO_LEAD)).toThrowError(
      BadCursors,
      /first cursor on the launch/,
    );
    expect(() => placeByCursors(reading({ timeS: 300e-9 }), line, 0, NO_LEAD)).toThrowError(
      BadCursors,
      /wider than a screen/,
    );
    expect(() =>
      placeByCursors(reading({}), line, 0, { lengthM: 5, velocityFactor: 0.66, deviationM: 0 }),
    ).toThrowError(BadCursors, /before the lead of 5 m ends/);
    expect(() => pieceByCursors(reading({}), line, 0)).toThrowError(BadCursors, /no length/);
  });
});
