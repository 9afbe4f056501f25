import {
  askAbout,
  CABLE_TYPES,
  FAR_ENDS,
  imperfect,
  lineOf,
  lossAt,
  lossFor,
  lossWords,
  NO_SCOPE,
  readTrace,
  seededRandom,
  simulate,
  typedLoss,
  type CableType,
  type LineFigures,
  type Load,
  type TraceReading,
  type TraceSetting,
  type VelocityFigure,
} from '@near-spoke/core';

const rg6 = CABLE_TYPES.find(({ id }) => id === 'rg6') as CableType;
const line = lineOf(rg6);
const OPEN: Load = 'open';

function drawn(world: LineFigures, lengthM: number, load: Load, seed = 3): ReturnType<typeof imperfect> {
  const source = {
    shape: 'pulse',
    volts: 2,
    widthS: 8e-9,
    riseS: 2e-9,
    edge: 'smooth',
    impedanceOhm: 75,
  } as const;
  const clean = simulate(
    { source, scope: NO_SCOPE, chain: [{ kind: 'line', lengthM, line: world }], load },
    { intervalS: 5e-10, samples: 1200, launchS: 4e-8 },
  );
  return imperfect(clean, { noiseV: 0.004, quantumV: 0.004, offsetV: 0 }, seededRandom(seed));
}
const setting = (change: Partial<TraceSetting> = {}): TraceSetting => ({
  line,
  velocityDeviation: 0,
  lossKnown: true,
  lead: { lengthM: 0, velocityFactor: 0.66, deviationM: 0 },
  shape: 'pulse',
  thorough: true,
  ...change,
});

describe('What a trace says of loss', () => {
  it('is the world’s, within its interval, where an open end shows its height', () => {
    for (const [times, lengthM] of [
      [0.7, 60],
      [1, 60],
      [1.5, 50],
    ] as const) {
      const world = { ...line, skinDb: line.skinDb * times, dielectricDb: line.dielectricDb * times };
      const { loss } = readTrace(drawn(world, lengthM, OPEN), setting());
      expect(loss).withContext(`${times}`).not.toBeNull();
      expect(Math.abs((loss?.share ?? 0) - times))
        .withContext(`${times} times: ${loss?.share} ± ${loss?.u95}`)
        .toBeLessThan(Math.max(0.06, 1.5 * (loss?.u95 ?? 0)));
    }
  });

  it('odd enough is asked about, once, and told it is not asked again', () => {
    const world = { ...line, skinDb: line.skinDb * 2.2, dielectricDb: line.dielectricDb * 2.2 };
    const trace = drawn(world, 40, OPEN);
    const first = readTrace(trace, setting({ farEnd: 'open' }));
    expect(askAbout(first, setting({ farEnd: 'open' }))?.about).toBe('loss');
    const told = setting({
      farEnd: 'open',
      lossKnown: 'measured',
      line: lineOf(rg6, { loss: [{ mhz: 100, dbPer100m: 2.2 * lossAt(line, 100) }] }),
    });
    const again = readTrace(trace, told);
    expect(askAbout(again, told)).toBeNull();
    expect(again.events[0]?.kind).toBe('open');
  });
});

describe('What somebody sees at the far end', () => {
  const matched: Load = { ohm: 75 };
  const belief = ({ events }: TraceReading, kind: string): number =>
    Math.max(
      0,
      ...events.flatMap((event) => [
        event.kind === kind ? event.probability : 0,
        ...event.or.filter((other) => other.kind === kind).map(({ probability }) => probability),
      ]),
    );

  it('is asked where no end is seen, with every answer there is', () => {
    const reading = readTrace(drawn(line, 55, matched), setting());
    const ask = askAbout(reading, setting());
    expect(ask?.about).toBe('far end');
    expect(ask?.about === 'far end' && ask.answers.map(({ farEnd }) => farEnd)).toEqual([...FAR_ENDS]);
    expect(askAbout(reading, setting({ farEnd: 'connected' }))?.about).not.toBe('far end');
  });

  it('narrows what it can be: where something hangs at the end, a faint echo there is less of an open', () => {
    const trace = drawn(line, 55, { ohm: 100 }, 7);
    const [open, connected] = (['open', 'connected'] as const).map((farEnd) =>
      belief(readTrace(trace, setting({ farEnd })), 'open'),
    ) as [number, number];
    expect(open).toBeGreaterThan(0.3);
    expect(connected).toBeLessThan(open - 0.05);
  });

  it('is asked where a faint echo may as well be a whole one that the source took up', () => {
    const world = {
      impedanceOhm: 100,
      velocityFactor: 0.69,
      skinDb: 1.9,
      dielectricDb: 0.017,
      loopOhmPerM: 0.13,
    };
    const source = {
      shape: 'pulse',
      volts: 2,
      widthS: 1e-8,
      riseS: 2e-9,
      edge: 'smooth',
      impedanceOhm: 100,
    } as const;
    const trace = simulate(
      { source, scope: NO_SCOPE, chain: [{ kind: 'line', lengthM: 40, line: world }], load: { ohm: 140 } },
      { intervalS: 5e-10, samples: 1400, launchS: 4e-8 },
    );
    const cat6 = CABLE_TYPES.find(({ id }) => id === 'cat6-u') as CableType;
    const asked = setting({ line: lineOf(cat6) });
    const first = readTrace(
      imperfect(trace, { noiseV: 0.001, quantumV: 0, offsetV: 0 }, seededRandom(4)),
      asked,
    );
    expect(askAbout(first, asked)?.about).toBe('far end');
    const told = readTrace(imperfect(trace, { noiseV: 0.001, quantumV: 0, offsetV: 0 }, seededRandom(4)), {
      ...asked,
      farEnd: 'connected',
    });
    expect(belief(told, 'open')).toBeLessThan(belief(first, 'open'));
  });

  it('hides no fault: a break on the way stays one, whatever hangs behind it', () => {
    const trace = drawn(line, 22, OPEN, 5);
    for (const farEnd of FAR_ENDS) {
      const [event] = readTrace(trace, setting({ farEnd })).events;
      expect([event?.kind, Math.round(event?.distanceM ?? 0)])
        .withContext(farEnd)
        .toEqual(['open', 22]);
    }
  });
});

describe('A loss as it is written', () => {
  it('is read as it is written out, with comma or point, and refused with what to write', () => {
    const points = [
      { mhz: 100, dbPer100m: 6.6 },
      { mhz: 1000, dbPer100m: 21.5 },
    ];
    expect(typedLoss(lossWords(points)).loss).toEqual(points);
    expect(typedLoss('6,6@100').loss).toEqual([{ mhz: 100, dbPer100m: 6.6 }]);
    expect(typedLoss('  ')).toEqual({ loss: undefined, trouble: '' });
    for (const text of ['much', '6.6', '6.6 at', '0 at 100', '6.6 at -1', '6.6 at 100; x'])
      expect([typedLoss(text).loss, typedLoss(text).trouble])
        .withContext(text)
        .toEqual([undefined, jasmine.stringContaining('such as 6.6 at 100')]);
  });
});

describe('The loss that is known of a cable', () => {
  const figure = (change: Partial<VelocityFigure>): VelocityFigure => ({
    cableTypeId: 'rg6',
    lot: '',
    reelId: null,
    velocityFactor: 0.82,
    u95: 0.004,
    at: '2026-01-01T00:00:00Z',
    loss: [{ mhz: 100, dbPer100m: 7 }],
    ...change,
  });

  it('is that of its reel, else of its lot, else of its type, else its sheet’s', () => {
    const figures = [
      figure({ at: '2026-03-01T00:00:00Z', loss: null, reelId: 'r1', lot: 'L' }),
      figure({ reelId: 'r1', lot: 'L', loss: [{ mhz: 100, dbPer100m: 8 }] }),
      figure({ lot: 'L', at: '2026-02-01T00:00:00Z', loss: [{ mhz: 100, dbPer100m: 9 }] }),
    ];
    const known = (of: object) => lossFor(figures, rg6, of);
    // A newer figure of the reel that says nothing of loss does not hide the older one that does.
    expect([known({ reelId: 'r1', lot: 'L' }).from, known({ reelId: 'r1' }).loss?.[0]?.dbPer100m]).toEqual([
      'reel',
      8,
    ]);
    expect([known({ lot: 'L' }).from, known({ lot: 'L' }).loss?.[0]?.dbPer100m]).toEqual(['lot', 9]);
    expect(known({}).from).toBe('type');
    expect(lossFor([], rg6)).toEqual({ loss: rg6.loss ?? null, from: 'catalogue', figure: null });
  });
});
