import fc from 'fast-check';
import {
  checkReading,
  designLampTester,
  expectLead,
  expectTold,
  toldWords,
  type ToldFault,
  fewestTouches,
  figuresOf,
  findIn,
  findPatterns,
  frameOf,
  guessMapping,
  huntPair,
  intendedLink,
  linkAsTold,
  namedBy,
  observe,
  practiceFrom,
  probeMap,
  provesMap,
  readingsFromTable,
  seededRandom,
  shareOf,
  storyOf,
  straightReading,
  TYPICAL_RATES,
  ToldWrong,
  wrongLabel,
  type LinkExpectation,
  type MapReading,
  type PatternLink,
  type ProbeWay,
  type SlipKind,
  type Touch,
  type TouchReading,
  type TrueLink,
} from '../src/index.js';
import { expectation, linkWith, PAIR_BY_PAIR, screened, T568A, T568B, wired } from './links.js';

const plain = expectation();

/** Probes a link as a person would, answering from what it is. */
function probe(expected: LinkExpectation, link: TrueLink, way: ProbeWay = 'probes') {
  const frame = frameOf(intendedLink(expected));
  const touches: Touch[] = [];
  for (;;) {
    const state = probeMap(
      expected,
      touches.map((t) => t.closed),
      way,
    );
    if (state.step !== 'touch') return { state, touches };
    const { from, to } = state.touch;
    const plan: TouchReading = { instrument: 'beeper', touches: [{ from, to, closed: false }] };
    const taken = observe(link, 'beeper', { frame, plan }) as TouchReading;
    touches.push(taken.touches[0] as Touch);
  }
}

describe('guided probing', () => {
  it('proves a sound eight-contact link with two probes by seven sweeps and eight beeps', () => {
    const { state, touches } = probe(plain, linkWith(plain));
    expect(state.step).toBe('proved');
    expect(touches.map(({ to, closed }) => `${to.contacts.length} ${closed}`)).toEqual([
      ...[7, 6, 5, 4, 3, 2, 1].map((swept) => `${swept} false`),
      ...Array.from({ length: 8 }, () => '1 true'),
    ]);
    expect(fewestTouches(plain)).toEqual({ paths: 8, isolation: 7, allPairs: 36 });
    expect(provesMap(plain, { touches })).toBeTrue();
  });

  it('asks two hands for no more than one contact each at a time', () => {
    for (const bridges of [
      [],
      [
        { end: 'far' as const, contacts: ['3', '4'] as const },
        { end: 'far' as const, contacts: ['4', '7'] as const },
      ],
    ])
      for (const breaks of [[], [{ conductor: 'BU', atM: 9 }]]) {
        const answers: boolean[] = [];
        const { touches } = probe(plain, linkWith(plain, { bridges, breaks }));
        for (const { closed } of touches) {
          const asked = probeMap(plain, answers);
          if (asked.step !== 'touch') throw new Error('nothing asked');
          const { from, to, sweep } = asked.touch;
          expect(Math.min(from.contacts.length, to.contacts.length)).toBe(1);
          expect(sweep).toBe(Math.max(from.contacts.length, to.contacts.length) > 1);
          answers.push(closed);
        }
      }
  });

  it('proves it in eleven touches with clips, as few as can', () => {
    const { state, touches } = probe(plain, linkWith(plain), 'clips');
    expect(state.step).toBe('proved');
    expect(touches.length).toBe(11);
    expect(fewestTouches(plain, 'clips')).toEqual({ paths: 8, isolation: 3, allPairs: 36 });
    expect(provesMap(plain, { touches })).toBeTrue();
  });

  it('needs as many touches as conductors and bits with clips, for any cable', () => {
    for (const [cable, end, paths, bits] of [
      ['tel-25', 'block-110', 50, 6],
      ['rg6', 'coax-f', 2, 1],
      ['ribbon-10', 'ribbon-socket-10', 10, 4],
    ] as const) {
      const expected = expectation({ cable, near: end, far: end });
      expect(probe(expected, linkWith(expected), 'clips').touches.length)
        .withContext(cable)
        .toBe(paths + bits);
    }
  });

  it('does not take a map for proved while two conductors were never parted', () => {
    const { touches } = probe(plain, linkWith(plain));
    const without = touches.filter((_, i) => i !== 1);
    expect(provesMap(plain, { touches: without })).toBeFalse();
  });

  it('names a fault as soon as the touches leave one answer, long before the whole map is known', () => {
    const short = probe(plain, linkWith(plain, { bridges: [{ end: 'far', contacts: ['3', '4'] }] })).touches;
    const named = short.map((_, i) => namedBy(plain, short.slice(0, i + 1)));
    const first = named.findIndex((trouble) => trouble !== null);
    expect(named[first]).toBe('short on 3, 4');
    expect(first).toBeLessThan(short.length - 5);
    const open = probe(plain, linkWith(plain, { breaks: [{ conductor: 'BU', atM: 9 }] })).touches;
    expect(namedBy(plain, open)).toBe('open on 4');
    expect(namedBy(plain, probe(plain, linkWith(plain)).touches)).toBeNull();
  });

  it('ends in the true map whatever the link is: any order, opens and joins', () => {
    const arbitrary = fc.record({
      order: fc.shuffledSubarray(T568B, { minLength: 8 }),
      open: fc.uniqueArray(fc.constantFrom(...T568B), { maxLength: 3 }),
      bridge: fc.option(
        fc.tuple(fc.integer({ min: 1, max: 7 }), fc.constantFrom('near' as const, 'far' as const)),
      ),
    });
    fc.assert(
      fc.property(arbitrary, ({ order, open, bridge }) => {
        const link = linkWith(plain, {
          far: wired(...order),
          breaks: open.map((conductor) => ({ conductor, atM: 12 })),
          bridges: bridge ? [{ end: bridge[1], contacts: [String(bridge[0]), String(bridge[0] + 1)] }] : [],
        });
        const truth = observe(link, 'coded-mapper') as MapReading;
        for (const way of ['probes', 'clips'] as const) {
          const { state } = probe(plain, link, way);
          const found = state.step === 'measured' ? state.arrivals : straightReading(plain).arrivals;
          for (const [contact, reached] of Object.entries(truth.arrivals))
            expect([...(found[contact] ?? [])].sort()).toEqual([...reached].sort());
        }
      }),
      { numRuns: 150 },
    );
  });
});

describe('observers that err', () => {
  it('say the same for the same seed, and the truth without one', () => {
    const link = linkWith(plain, { loose: [{ place: { end: 'far', contact: '3' }, openShare: 0.5 }] });
    const take = (seed: number) => observe(link, 'coded-mapper', { random: seededRandom(seed) });
    expect(take(7)).toEqual(take(7));
    expect((observe(link, 'coded-mapper') as MapReading).arrivals['3']).toEqual(['3']);
    const open = Array.from({ length: 200 }, (_, seed) => take(seed) as MapReading).filter(
      (reading) => reading.arrivals['3']?.length === 0,
    ).length;
    expect(open).toBeGreaterThan(60);
    expect(open).toBeLessThan(140);
  });

  it('miss a corroded joint by threshold: the beeper from 30 ohm, the mapper from 300', () => {
    const link = (ohm: number) => linkWith(plain, { poor: [{ place: { end: 'far', contact: '3' }, ohm }] });
    const beeps = (ohm: number) =>
      (observe(link(ohm), 'beeper') as TouchReading).touches.find((t) => t.from.contacts[0] === '3')?.closed;
    const maps = (ohm: number) => (observe(link(ohm), 'coded-mapper') as MapReading).arrivals['3']?.length;
    expect([beeps(20), beeps(80), beeps(900)]).toEqual([true, false, false]);
    expect([maps(20), maps(80), maps(900)]).toEqual([1, 1, 0]);
    const ohms = observe(link(80), 'ohmmeter') as TouchReading;
    expect(ohms.touches.find((t) => t.from.contacts[0] === '3')?.ohm).toBeCloseTo(80 + 40 * 0.0668 + 0.04, 1);
  });

  it('read shorts within pairs while equipment hangs on an end, and nothing where the remote is elsewhere', () => {
    const plugged = observe(linkWith(plain, { equipment: ['far'] }), 'coded-mapper') as MapReading;
    expect(plugged.joins).toEqual([
      ['1', '2'],
      ['3', '6'],
      ['4', '5'],
      ['7', '8'],
    ]);
    const away = observe(linkWith(plain, { farPresent: false }), 'coded-mapper') as MapReading;
    expect(Object.values(away.arrivals).flat()).toEqual([]);
  });

  it('find a screen closed through the building when both ends are earthed', () => {
    const expected = screened();
    const link = linkWith(expected, { far: { ...linkWith(expected).far, S: null } });
    const plan = { ...straightReading(expected), screenEarthed: 'both-ends' as const };
    expect((observe(link, 'coded-mapper', { plan }) as MapReading).arrivals['S']).toEqual(['S']);
    expect((observe(link, 'coded-mapper') as MapReading).arrivals['S']).toEqual([]);
  });

  it('follow a splice made wrong that both ends’ colours hide', () => {
    const link = linkWith(plain, { splices: [{ conductors: ['OG', 'WH-OG'], atM: 20 }] });
    expect((observe(link, 'coded-mapper') as MapReading).arrivals['1']).toEqual(['2']);
    for (const end of ['near', 'far'] as const)
      expect(findIn(plain, observe(link, 'eye', { end }))).toEqual([]);
  });
});

describe('a told link', () => {
  const told = {
    cable: 'cat6-u',
    scheme: 'T568B' as const,
    lengthM: 30,
    near: 'jack-punched',
    far: 'plug-closed',
  };

  it('is refused where it cannot be: with the place and what there is', () => {
    const wrong = (make: () => unknown): string => {
      try {
        make();
        return 'taken';
      } catch (error) {
        return error instanceof ToldWrong ? `${error.path.join('.')}: ${error.message}` : 'another error';
      }
    };
    const expected = expectTold(told);
    expect(wrong(() => expectTold({ ...told, cable: 'x' }))).toMatch(
      /^cable: there is no cable x\. Known: cat6-u/,
    );
    expect(wrong(() => linkAsTold(expected, [{ kind: 'broken', conductor: 'RD', atM: 3 }]))).toMatch(
      /^faults\.0: this cable has no RD conductor/,
    );
    expect(wrong(() => linkAsTold(expected, [{ kind: 'broken', conductor: 'BU', atM: 31 }]))).toMatch(
      /beyond/,
    );
    expect(wrong(() => linkAsTold(expected, [{ kind: 'poor', ohm: 50, end: 'far' }]))).toMatch(/say where/);
    expect(wrong(() => linkAsTold(expected, [{ kind: 'screen-loose', end: 'far' }]))).toMatch(/no contact S/);
    expect(wrong(() => linkAsTold(expected, [{ kind: 'wired', end: 'far', order: ['BU'] }]))).toMatch(
      /order names 1 conductors for the 8/,
    );
  });

  it('says each of its faults in words that name end, contact or distance', () => {
    const words = (
      [
        { kind: 'wired', end: 'far', order: ['OG', null, 'WH-GN'] },
        { kind: 'broken', conductor: 'BU', atM: 12 },
        { kind: 'broken', conductor: 'SCREEN', atM: 12 },
        { kind: 'joined', conductors: ['BU', 'OG'], atM: 7.25 },
        { kind: 'screen-loose', end: 'near' },
        { kind: 'wet', atM: 10, lengthM: 1.5 },
        { kind: 'unseated', end: 'far', contact: '3' },
        { kind: 'bridged', end: 'near', contacts: ['1', '2'] },
        { kind: 'poor', ohm: 12, end: 'near', contact: '4' },
        { kind: 'poor', ohm: 30, conductor: 'GN', atM: 5 },
        { kind: 'loose', openShare: 0.25, conductor: 'GN' },
        { kind: 'spliced', conductors: ['OG', 'WH-OG'], atM: 20 },
        { kind: 'plugged-in', end: 'far' },
        { kind: 'other-outlet' },
      ] satisfies ToldFault[]
    ).map(toldWords);
    expect(words).toEqual([
      'the far end carries, from its first contact on: OG, nothing, WH-GN',
      'BU is broken at 12.0 m',
      'the screen is broken at 12.0 m',
      'BU and OG touch at 7.3 m',
      'the screen is not bonded at the near end',
      'wet or crushed for 1.5 m from 10.0 m on',
      'the wire at contact 3 of the far end does not reach its contact',
      'contacts 1 and 2 touch at the near end',
      'a poor joint of 12 ohm at contact 4 of the near end',
      'a poor joint of 30 ohm in GN at 5.0 m',
      'a loose joint in GN, open 25 % of the time',
      'OG and WH-OG are exchanged at a splice at 20.0 m',
      'equipment is still connected at the far end',
      'the cable ends at another outlet',
    ]);
  });

  it('may be a lead in an order of its own, judged by its own map', () => {
    const wire = (id: string) => ({ id, pair: null, leg: null });
    const lead = expectLead({
      lengthM: 1,
      conductors: ['RD', 'BK', 'WH'].map(wire),
      near: { 1: 'RD', 2: 'BK', 3: 'WH' },
      far: { 2: 'RD', 5: 'BK', 7: 'WH', 8: null },
    });
    const straight = observe(intendedLink(lead), 'coded-mapper', {
      frame: frameOf(intendedLink(lead)),
    }) as MapReading;
    expect(straight.arrivals).toEqual({ 1: ['2'], 2: ['5'], 3: ['7'] });
    expect(findIn(lead, straight)).toEqual([]);
  });
});

describe('patterns over a panel', () => {
  const port = (n: number, link: TrueLink, remote?: string): PatternLink => ({
    id: `l${n}`,
    label: `P-${n}`,
    panel: 'P',
    port: n,
    expected: plain,
    readings: [{ ...(observe(link, 'coded-mapper') as MapReading), ...(remote ? { remote } : {}) }],
    wrong: true,
  });
  const mixed = linkWith(plain, { near: wired(...T568A) });

  it('tell a closet done in the other scheme once, not port by port', () => {
    const [pattern, ...more] = findPatterns([1, 2, 3, 4].map((n) => port(n, mixed)));
    expect(more).toEqual([]);
    expect(pattern?.kind).toBe('same-slip');
    expect(pattern?.links.length).toBe(4);
    expect(pattern?.end).toBe('near');
    expect(pattern?.words).toContain('wired as T568A');
    expect(pattern?.probability).toBeGreaterThan(0.9);
  });

  it('say nothing of two links that are wrong in different ways', () => {
    const reversed = linkWith(plain, { far: wired('OG', 'WH-OG', ...T568B.slice(2)) });
    expect(findPatterns([port(1, mixed), port(2, reversed)])).toEqual([]);
  });

  it('name two labels exchanged, and a panel punched one port off', () => {
    const sound = linkWith(plain);
    const exchanged = findPatterns([port(1, sound, 'P-2'), port(2, sound, 'P-1'), port(3, sound, 'P-3')]);
    expect(exchanged.map((p) => p.kind)).toEqual(['labels-exchanged']);
    const off = findPatterns([
      port(1, sound, 'P-2'),
      port(2, sound, 'P-3'),
      port(3, sound, 'P-4'),
      port(4, sound),
    ]);
    expect(off.map((p) => [p.kind, p.links.length])).toEqual([['panel-one-off', 3]]);
  });

  it('suspect a wrong label at once', () => {
    const silent = observe(linkWith(plain, { farPresent: false }), 'coded-mapper');
    expect(wrongLabel('P-1', silent, true)).toContain('passed before');
    expect(wrongLabel('P-1', { ...straightReading(plain), remote: 'P-7' }, false)).toContain('hangs at P-7');
    expect(wrongLabel('P-1', straightReading(plain), false)).toBeNull();
  });
});

describe('the story of the evidence', () => {
  it('says which place each reading ruled in or out', () => {
    const link = linkWith(plain, { far: wired('OG', 'WH-OG', ...T568B.slice(2)) });
    const story = storyOf(plain, [observe(link, 'coded-mapper'), observe(link, 'eye', { end: 'far' })]);
    expect(story[0]?.moved.map((m) => m.place).sort()).toEqual(['far', 'near']);
    const near = story[1]?.moved.find((m) => m.place === 'near');
    expect(near?.after).toBeLessThan(0.05);
  });

  it('learns from work: a fault that outlives a new far end is at the near one', () => {
    const link = linkWith(plain, { near: wired('OG', 'WH-OG', ...T568B.slice(2)) });
    const map = observe(link, 'coded-mapper');
    const [, , last] = storyOf(plain, [map, { work: 'far' }, map]);
    expect(last?.moved[0]?.place).toBe('near');
    expect(last?.moved[0]?.after).toBeGreaterThan(0.8);
  });
});

describe('a table of readings', () => {
  const header = ['Link', 'Pin 1', 'Pin 2', 'Pin 3', 'Pin 4', 'Pin 5', 'Pin 6', 'Pin 7', 'Pin 8', 'Split'];
  const mapping = { label: 0, instrument: 'coded-mapper' as const, splits: null, ...guess() };
  function guess() {
    const { columns } = guessMapping(header);
    return { columns };
  }
  const read = (...rows: string[][]) =>
    readingsFromTable(rows, mapping, (label) => (label.startsWith('P') ? plain : null));

  it('guesses its columns from the header', () => {
    const guessed = guessMapping(header);
    expect([guessed.label, guessed.instrument, guessed.splits]).toEqual([0, 'coded-mapper-crosstalk', 9]);
    expect(guessed.columns['8']).toBe(8);
    expect(guessMapping(['label', '1-2', '3-6', '4-5', '7-8']).instrument).toBe('lamp-pairs');
  });

  it('reads good rows and says of each bad one what is wrong with it', () => {
    const [good, twice, unknown, nonsense, open] = read(
      ['P1', '2', '1', '3', '4', '5', '6', '7', '8'],
      ['P1', '1', '2', '3', '4', '5', '6', '7', '8'],
      ['X9', '1', '2', '3', '4', '5', '6', '7', '8'],
      ['P2', '1', '2', '3', '4', '5', '6', '7', '9'],
      ['P3', '1', '2', '3', '-', '5', '6', '7+8', '7+8'],
    );
    expect(good?.reading && findIn(plain, good.reading)[0]?.kind).toBe('reversed');
    expect(twice?.problem).toBe('P1 is already in row 2: keep one of them.');
    expect(unknown?.problem).toBe('This job has no link X9.');
    expect(nonsense?.problem).toContain('This link has no contact 9');
    expect(open?.reading && findIn(plain, open.reading).map((f) => f.kind)).toEqual(['short', 'open']);
  });

  it('never throws, whatever the cells hold', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.string(), { maxLength: 10 }), { maxLength: 8 }), (rows) => {
        const out = read(...rows);
        const written = rows.filter((cells) => cells.some((cell) => cell.trim() !== ''));
        expect(out.length).toBe(written.length);
        for (const row of out) {
          expect(row.reading === null).toBe(row.problem !== null);
          if (row.reading) expect(checkReading(plain, row.reading)).toEqual([]);
        }
      }),
    );
  });
});

describe('the pair of a telephone line', () => {
  it('is the one with about 48 V, whichever way round', () => {
    const hunt = huntPair([
      { pair: 'blue', volts: -47.9 },
      { pair: 'orange', volts: 0.2 },
    ]);
    expect(hunt.answer).toBe('blue');
    expect(hunt.words).toContain('legs exchanged');
  });

  it('is left alone while a pair is in use, and hands off when more than a line is on it', () => {
    expect(huntPair([{ pair: 'blue', volts: 8 }]).words).toContain('do not touch');
    expect(huntPair([{ pair: 'blue', volts: 110 }]).caution).toContain('Hands off');
    expect(
      huntPair([
        { pair: 'a', volts: 48 },
        { pair: 'b', volts: 50 },
      ]).answer,
    ).toBeNull();
    expect(() =>
      huntPair([
        { pair: 'a', volts: 1 },
        { pair: 'a', volts: 2 },
      ]),
    ).toThrowError(/twice/);
  });
});

describe('a home-made lamp tester', () => {
  const parts = { supplyV: 9, lampDropV: 2, lampMa: 10, pairs: 4, loopOhm: 25 };

  it('never drives a lamp beyond its current, by the next resistor of the E12 series', () => {
    const tester = designLampTester(parts, plain);
    expect(tester.resistorOhm).toBe(820);
    expect(tester.fullMa).toBeCloseTo(7000 / 820, 6);
    expect(tester.blindTo).toContain('split');
    fc.assert(
      fc.property(
        fc.double({ min: 3, max: 30, noNaN: true }),
        fc.double({ min: 0.5, max: 2.4, noNaN: true }),
        fc.double({ min: 1, max: 30, noNaN: true }),
        (supplyV, lampDropV, lampMa) => {
          const made = designLampTester({ ...parts, supplyV, lampDropV, lampMa }, plain);
          expect(made.fullMa).toBeLessThanOrEqual(lampMa + 1e-9);
          expect(made.longestMa).toBeLessThan(made.fullMa);
        },
      ),
    );
  });

  it('refuses what cannot light, and what is not safe', () => {
    expect(() => designLampTester({ ...parts, supplyV: 2.2 }, plain)).toThrowError(/does not light/);
    expect(() => designLampTester({ ...parts, supplyV: 48 }, plain)).toThrowError(/below 30 V/);
    expect(() => designLampTester({ ...parts, lampMa: 0 }, plain)).toThrowError(/more than nothing/);
  });
});

describe('figures and practice', () => {
  it('carry their uncertainty: three of four is no 75 %', () => {
    const share = shareOf(3, 4);
    expect(share.mean).toBeCloseTo(4 / 6, 6);
    expect(share.low).toBeLessThan(0.4);
    expect(share.high).toBeGreaterThan(0.9);
    expect(() => shareOf(5, 4)).toThrowError(/no share/);
  });

  it('count first tests, kinds and connectors', () => {
    const figures = figuresOf({
      firstTests: [{ passed: true }, { passed: false }],
      found: [{ slip: 'reversed-pair', kind: 'reversed', connector: 'plug' }],
      ends: [
        { connector: 'jack', count: 9 },
        { connector: 'plug', count: 4 },
      ],
    });
    expect([figures.firstPass.count, figures.firstPass.of]).toEqual([1, 2]);
    expect(figures.byKind).toEqual([{ kind: 'reversed', count: 1 }]);
    expect(figures.byConnector[0]?.connector).toBe('plug');
  });

  it('move from what is typical to what the crew really does', () => {
    const few = practiceFrom({ mirror: 3 }, 30).rates.mirror;
    const many = practiceFrom({ mirror: 300 }, 3000).rates.mirror;
    const none = practiceFrom({}, 0).rates;
    for (const [kind, rate] of Object.entries(TYPICAL_RATES))
      expect(none[kind as SlipKind])
        .withContext(kind)
        .toBeCloseTo(rate, 12);
    expect(few).toBeGreaterThan(TYPICAL_RATES.mirror);
    expect(many).toBeCloseTo(0.1, 1);
  });

  it('make split pairs at both ends likelier than at one, for a hand carries its order along', () => {
    const end = wired(...PAIR_BY_PAIR);
    const both = observe(linkWith(plain, { near: end, far: end }), 'coded-mapper-crosstalk');
    expect(findIn(plain, both)[0]?.kind).toBe('split');
  });
});
