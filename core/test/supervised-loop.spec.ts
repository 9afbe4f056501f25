import fc from 'fast-check';
import {
  LOOP_LAYOUTS,
  loopReadings,
  shortedAtM,
  statesAt,
  wireOhmPerM,
  type LoopState,
  type SupervisedLoop,
} from '../src/index.js';

const loop = (change: Partial<SupervisedLoop> = {}): SupervisedLoop => ({
  layout: 'two resistors',
  contact: 'closed at rest',
  endOhm: 4700,
  alarmOhm: 4700,
  faultOhm: 2200,
  lengthM: 30,
  awg: 24,
  tolerance: 0.05,
  endAt: 'the detector',
  ...change,
});

/** A resistor between two nodes. */
type Edge = readonly [one: string, other: string, ohm: number];

/**
 * Resistance from "+" to "-": every other node is taken out of the network, star for mesh (Rosen). No reading is infinite.
 */
function between(edges: readonly Edge[]): number {
  const conductances = new Map<string, Map<string, number>>();
  const of = (node: string): Map<string, number> => conductances.get(node) ?? new Map<string, number>();
  const add = (one: string, other: string, siemens: number): void => {
    for (const [here, there] of [
      [one, other],
      [other, one],
    ] as const)
      conductances.set(here, new Map(of(here)).set(there, (of(here).get(there) ?? 0) + siemens));
  };
  for (const [one, other, ohm] of edges) add(one, other, 1 / Math.max(ohm, 1e-6));
  for (const node of [...conductances.keys()].filter((each) => each !== '+' && each !== '-')) {
    const around = [...of(node)];
    const sum = around.reduce((total, [, siemens]) => total + siemens, 0);
    conductances.delete(node);
    for (const [other] of around) conductances.get(other)?.delete(node);
    around.forEach(([one, a], n) => {
      for (const [other, b] of around.slice(n + 1)) add(one, other, (a * b) / sum);
    });
  }
  return 1 / (of('+').get('-') ?? 0);
}

/** The loop drawn as a circuit: nodes named by where they lie. */
function drawn(built: SupervisedLoop, state: LoopState, shortAt = 0.5): Edge[] {
  const wire = built.lengthM * wireOhmPerM(built.awg);
  const closed = (built.contact === 'closed at rest') !== (state === 'alarm');
  const on = (one: string, other: string, is: boolean): Edge[] => (is ? [[one, other, 0.1]] : []);
  const cable: Edge[] =
    state === 'cut'
      ? []
      : state === 'shorted'
        ? [
            ['+', 'p', wire * shortAt],
            ['p', 'q', 0],
            ['q', '-', wire * shortAt],
          ]
        : [
            ['+', 'a', wire],
            ['z', '-', wire],
          ];
  const detector: Edge[] = {
    'contact alone': [...on('a', 'b', closed), ...on('b', 'z', state !== 'tamper')],
    'one resistor': [
      ...on('a', 'b', closed),
      ...on('b', 'c', state !== 'tamper'),
      ['c', 'z', built.endOhm] as Edge,
    ],
    'resistor across': [
      ...on('a', 'b', state !== 'tamper'),
      ...on('b', 'z', closed),
      ['b', 'z', built.endOhm] as Edge,
    ],
    'two resistors': [
      ['a', 'b', built.endOhm] as Edge,
      ...on('b', 'c', closed),
      ['b', 'c', built.alarmOhm] as Edge,
      ...on('c', 'z', state !== 'tamper'),
    ],
    'three resistors': [
      ['a', 'b', built.endOhm] as Edge,
      ...on('b', 'c', closed),
      ['b', 'c', built.alarmOhm] as Edge,
      ...on('c', 'd', state !== 'fault'),
      ['c', 'd', built.faultOhm] as Edge,
      ...on('d', 'z', state !== 'tamper'),
    ],
  }[built.layout];
  return [...cable, ...detector];
}

const anyLoop = fc.record({
  layout: fc.constantFrom(...LOOP_LAYOUTS),
  contact: fc.constantFrom('closed at rest' as const, 'open at rest' as const),
  endOhm: fc.constantFrom(1000, 2200, 4700, 5600, 10000),
  alarmOhm: fc.constantFrom(1000, 2200, 4700, 6800),
  faultOhm: fc.constantFrom(1000, 2200, 4700),
  lengthM: fc.double({ min: 1, max: 400, noNaN: true }),
  awg: fc.constantFrom(20, 22, 24, 26),
  tolerance: fc.constantFrom(0.01, 0.05),
  endAt: fc.constant('the detector' as const),
});

describe('A supervised loop', () => {
  it('reads in every state what a solved circuit of it reads, wherever it is shorted', () => {
    fc.assert(
      fc.property(anyLoop, fc.double({ min: 0, max: 1, noNaN: true }), (built, along) => {
        for (const { state, leastOhm, mostOhm } of loopReadings(built).readings) {
          const ohm = between(drawn(built, state, along));
          if (ohm === Infinity) expect(mostOhm).withContext(state).toBe(Infinity);
          else {
            expect(ohm).withContext(`${built.layout}, ${state}`).toBeGreaterThanOrEqual(leastOhm);
            expect(ohm).withContext(`${built.layout}, ${state}`).toBeLessThanOrEqual(mostOhm);
          }
          expect(statesAt(built, ohm)).withContext(`${built.layout}, ${state}`).toContain(state);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('of two resistors tells rest, alarm, short and cut apart; of one, an alarm is a cut; alone, nothing is watched', () => {
    const alike = (change: Partial<SupervisedLoop>) =>
      loopReadings(loop(change)).alike.map((states) => states.join(' '));
    expect(alike({})).toEqual(['tamper cut']);
    expect(alike({ layout: 'one resistor' })).toEqual(['alarm tamper cut']);
    expect(alike({ layout: 'contact alone' })).toEqual(['at rest shorted', 'alarm tamper cut']);
    expect(alike({ layout: 'three resistors' })).toEqual(['tamper cut']);
    // Equal resistors in a place where they answer for each other.
    expect(alike({ layout: 'three resistors', faultOhm: 4700 })).toContain('alarm fault');
  });

  it('with its resistor in the panel is said not to be watched', () => {
    const { warnings } = loopReadings(loop({ layout: 'one resistor', endAt: 'the panel' }));
    expect(warnings.join(' ')).toContain('belongs behind the last detector');
    expect(warnings.join(' ')).toContain('shorted reads as at rest');
    expect(loopReadings(loop()).warnings).toEqual([]);
  });

  it('says where a short lies, and of a reading that fits nothing that it fits nothing', () => {
    const built = loop({ lengthM: 40 });
    const halfway = 40 * wireOhmPerM(24);
    expect(shortedAtM(built, halfway)).toBeCloseTo(20, 6);
    expect(shortedAtM(built, 4700)).toBeNull();
    expect(shortedAtM(loop({ layout: 'one resistor', endAt: 'the panel' }), 4700)).toBeNull();
    expect(statesAt(built, 1200)).toEqual([]);
    expect(() => loopReadings(loop({ endOhm: 0 }))).toThrowError(/read its bands/);
    expect(() => statesAt(built, -1)).toThrowError(/nought or more/);
  });
});
