import {
  madeEnds,
  repeatsIn,
  repeatWords,
  workmanship,
  type LinkWork,
  type MadeEnd,
} from '../../src/workmanship.js';
import { seededRandom, type SlipKind } from '../../src/index.js';

const attempt = (turn: number, change: Partial<LinkWork['terminations'][number]> = {}) => ({
  id: `t${turn}`,
  turn,
  at: new Date(Date.UTC(2026, 10, 2, 8, turn)).toISOString(),
  by: 'Tobi',
  side: 'far' as const,
  connector: 'plug',
  outcome: 'good' as const,
  connectorsSpoiled: 0,
  lot: '',
  tool: '',
  corrects: null,
  ...change,
});
const test = (turn: number, failed = false) => ({
  id: `r${turn}`,
  turn,
  result: failed ? ('fail' as const) : ('pass' as const),
});
const swapFound = (turn: number, place: 'near' | 'far' | 'cable' = 'far') => ({
  testId: `r${turn}`,
  place,
  slip: 'neighbour-swap' as SlipKind,
});
const work = (change: Partial<LinkWork>): LinkWork => ({
  linkId: 'l',
  terminations: [],
  tests: [],
  found: [],
  ...change,
});

describe('the ends that were made', () => {
  it('bear what was wrong with them by whose end was in place when it was last read, not by who mended it', () => {
    const ends = madeEnds(
      work({
        terminations: [
          attempt(1, { side: 'near', by: 'Marit' }),
          attempt(2, { connectorsSpoiled: 1 }),
          attempt(4, { by: 'Ines' }),
        ],
        tests: [test(3, true), test(5)],
        found: [swapFound(5)],
      }),
    );
    expect(ends.map(({ by, wrong, tested, spoiled }) => [by, wrong, tested, spoiled])).toEqual([
      ['Marit', null, true, 0],
      ['Tobi', 'neighbour-swap', true, 1],
      ['Ines', null, true, 0],
    ]);
  });

  it('are not blamed for what lay in the cable, nor before anything was read', () => {
    const record = work({
      terminations: [attempt(1), attempt(6, { corrects: null })],
      tests: [test(3, true), test(5)],
      found: [swapFound(5, 'cable')],
    });
    expect(madeEnds(record).map(({ wrong, tested }) => [wrong, tested])).toEqual([
      [null, true],
      [null, false],
    ]);
  });

  it('are open while their link fails: neither right nor wrong', () => {
    const [only] = madeEnds(work({ terminations: [attempt(1)], tests: [test(2, true)] }));
    expect([only?.tested, only?.wrong]).toEqual([false, null]);
  });

  it('are not counted where a later entry corrects them', () => {
    const record = work({ terminations: [attempt(1), attempt(2, { corrects: 't1', by: 'Marit' })] });
    expect(madeEnds(record).map(({ by }) => by)).toEqual(['Marit']);
  });
});

const end = (n: number, change: Partial<MadeEnd> = {}): MadeEnd => ({
  linkId: String(n),
  at: new Date(Date.UTC(2026, 10, 2, 8) + n * 6 * 60_000).toISOString(),
  by: 'Tobi',
  connector: 'plug',
  lot: '',
  tool: '',
  spoiled: 0,
  tested: true,
  wrong: null,
  ...change,
});

describe('figures of the work', () => {
  it('count by person, connector, tool and lot what was right, spoiled and lost, by the plan of the connector', () => {
    const ends = [
      end(0, { spoiled: 2 }),
      end(1, { wrong: 'missed-slot', lot: 'b7' }),
      end(2, { by: 'Marit', tested: false }),
    ];
    const { groups } = workmanship(ends, () => 4);
    const tobi = groups.find(({ kind, name }) => kind === 'person' && name === 'Tobi');
    expect([tobi?.made, tobi?.right.of, tobi?.right.count, tobi?.spoiled, tobi?.lostMinutes]).toEqual([
      2, 2, 1, 2, 12,
    ]);
    expect(tobi?.slips).toEqual([{ slip: 'missed-slot', count: 1 }]);
    expect(groups.filter(({ kind }) => kind === 'lot').map(({ name }) => name)).toEqual(['b7']);
    const marit = groups.find(({ name }) => name === 'Marit');
    expect([marit?.made, marit?.right.of]).toEqual([1, 0]);
  });

  it('take the time of an end from the one before it by the same hand, pauses left out', () => {
    const ends = [...Array.from({ length: 7 }, (_, n) => end(n)), end(200)];
    const [time] = workmanship(ends, () => 5).times;
    expect([time?.median, time?.plannedMinutes, time?.known]).toEqual([6, 5, 6]);
    expect(workmanship(ends.slice(0, 4), () => 5).times).toEqual([]);
  });
});

describe('what repeats', () => {
  const SLIPS: readonly (readonly [SlipKind, number])[] = [
    ['missed-slot', 0.02],
    ['reversed-pair', 0.015],
    ['neighbour-swap', 0.01],
    ['pair-by-pair', 0.005],
    ['screen-not-bonded', 0.02],
  ];
  /** A crew's ends, drawn: everybody slips alike, but for what one is said to do. */
  const crew = (seed: number, odd: Partial<Record<string, readonly [SlipKind, number]>> = {}): MadeEnd[] => {
    const random = seededRandom(seed);
    return Array.from({ length: 400 }, (_, n) => {
      const by = ['Tobi', 'Marit', 'Ines', 'Rosa'][Math.floor(random() * 4)] ?? '';
      const lot = ['a1', 'b7', 'c3'][Math.floor(random() * 3)] ?? '';
      const tool = `tool ${Math.floor(random() * 3)}`;
      const slips = [...SLIPS, ...(odd[by] ? [odd[by]] : []), ...(odd[lot] ? [odd[lot]] : [])];
      const wrong = slips.find(([, rate]) => random() < rate)?.[0] ?? null;
      return end(n, { by, lot, tool, wrong });
    });
  };

  it('is hardly ever told of a crew whose hands, tools and lots are alike', () => {
    const told = Array.from({ length: 120 }, (_, n) => repeatsIn(crew(n + 1)).length);
    expect(told.filter((count) => count > 0).length).toBeLessThanOrEqual(6);
  });

  it('is told of a hand, and of a lot, that slips one way far more often than elsewhere', () => {
    const found = Array.from({ length: 30 }, (_, n) => {
      const [first] = repeatsIn(crew(n + 1, { Marit: ['other-scheme', 0.12] }));
      return first?.kind === 'person' && first.name === 'Marit' && first.slip === 'other-scheme';
    });
    expect(found.filter(Boolean).length).toBeGreaterThanOrEqual(27);
    const lots = Array.from({ length: 30 }, (_, n) => repeatsIn(crew(n + 1, { b7: ['poor-joint', 0.12] })));
    expect(
      lots.filter(([first]) => first?.kind === 'lot' && first.name === 'b7').length,
    ).toBeGreaterThanOrEqual(27);
  });

  it('is told once of ends that have several things in common, with what it may be besides', () => {
    const ends = Array.from({ length: 60 }, (_, n) =>
      end(n, n < 20 ? { by: 'Marit', lot: 'b7', wrong: n < 6 ? 'mirror' : null } : { by: 'Tobi', lot: 'a1' }),
    );
    const told = repeatsIn(ends);
    const [only] = told;
    if (!only || told.length > 1) throw new Error(`told ${told.length} times`);
    expect([only.kind, ...only.or.map(({ kind }) => kind)].sort()).toEqual(['lot', 'person']);
    const { headline, rests, help } = repeatWords(only);
    expect(headline).toContain('Ends laid mirrored, 6 times in');
    expect(rests).toContain('6 of 20 that were tested; elsewhere 0 of 40.');
    expect(rests).toContain('cannot tell which it is');
    expect(help).toContain('latch away from you');
  });

  it('is not told of two, nor where elsewhere is not known', () => {
    const two = Array.from({ length: 60 }, (_, n) =>
      end(n, n < 2 ? { by: 'Marit', wrong: 'mirror' } : { by: 'Tobi' }),
    );
    expect(repeatsIn(two)).toEqual([]);
    expect(repeatsIn(two.map((one) => ({ ...one, by: 'Marit', wrong: 'mirror' })))).toEqual([]);
  });
});
