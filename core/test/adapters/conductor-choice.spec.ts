import fc from 'fast-check';
import {
  CABLE_TYPES,
  cableWires,
  chooseConductors,
  pairedConductors,
  TooFewConductors,
  type ColourCode,
  type Passing,
  type Wire,
} from '@near-spoke/core';

const wire = (id: string, colour: string, change: Partial<Wire> = {}): Wire => ({
  id,
  colour,
  areaMm2: 0.14,
  pair: null,
  ...change,
});
const passing = (signal: string, change: Partial<Passing> = {}): Passing => ({
  signal,
  use: 'signal',
  currentA: 0,
  together: null,
  ...change,
});
const wireOf = (plan: ReturnType<typeof chooseConductors>, signal: string): string | undefined =>
  plan.choices.find((choice) => choice.signal === signal)?.wire;

describe('conductors for signals', () => {
  it('are red and black for supply and ground where they are free, and not for anything else', () => {
    const wires = [wire('w1', 'RD'), wire('w2', 'WH'), wire('w3', 'BK'), wire('w4', 'GN')];
    const plan = chooseConductors(wires, [
      passing('TXD'),
      passing('GND', { use: 'ground' }),
      passing('+5V', { use: 'supply', currentA: 0.2 }),
    ]);
    expect(wireOf(plan, '+5V')).toBe('w1');
    expect(wireOf(plan, 'GND')).toBe('w3');
    expect(['w2', 'w4']).toContain(wireOf(plan, 'TXD') ?? '');
    expect(plan.spares.length).toBe(1);
    expect(plan.choices.find(({ signal }) => signal === '+5V')?.reasons).toContain('red for supply');
  });

  it('keep a pair for what belongs together, though others came first', () => {
    const wires = [
      wire('w1', 'WH', { pair: 1 }),
      wire('w2', 'GN', { pair: 1 }),
      wire('w3', 'YE'),
      wire('w4', 'BU'),
    ];
    const plan = chooseConductors(wires, [
      passing('RESET'),
      passing('D+', { together: 'usb' }),
      passing('READY'),
      passing('D-', { together: 'usb' }),
    ]);
    expect([wireOf(plan, 'D+'), wireOf(plan, 'D-')].sort()).toEqual(['w1', 'w2']);
    expect(plan.choices.find(({ signal }) => signal === 'D+')?.reasons).toEqual(['on one pair with D-']);
  });

  it('take the thickest for supply even against its colour, and say so when none bears the current', () => {
    const wires = [wire('thin', 'RD'), wire('thick', 'BU', { areaMm2: 0.5 }), wire('other', 'BK')];
    const plan = chooseConductors(wires, [passing('+12V', { use: 'supply', currentA: 2 })]);
    expect(wireOf(plan, '+12V')).toBe('thick');
    const overloaded = chooseConductors(wires, [passing('+12V', { use: 'supply', currentA: 4 })]);
    expect(overloaded.choices[0]?.reasons.at(-1)).toMatch(/^OVERLOADED: 4 A on 0.5 mm2, which bears 2.50 A/);
  });

  it('take a ribbon’s edge for supply, and leave whole pairs to spare', () => {
    const ribbon = ['BN', 'RD', 'OG', 'YE'].map((colour, n) =>
      wire(`r${n + 1}`, colour as ColourCode, { edge: n === 0 || n === 3 }),
    );
    const noRed = ribbon.filter(({ colour }) => colour !== 'RD');
    expect(['r1', 'r4']).toContain(
      wireOf(chooseConductors(noRed, [passing('+5V', { use: 'supply' })]), '+5V') ?? '',
    );
    const pairs = [1, 1, 2, 2].map((pair, n) => wire(`p${n}`, 'GY', { pair }));
    const plan = chooseConductors([...pairs, wire('single', 'VT')], [passing('A')]);
    expect(wireOf(plan, 'A')).toBe('single');
  });

  it('are as cheap as any choice there is: against all of them, up to five', () => {
    const colours: ColourCode[] = ['RD', 'BK', 'WH', 'GN', 'BU', 'YE', 'VT', 'GY'];
    const some = fc.record({
      areas: fc.array(fc.constantFrom(0.08, 0.14, 0.25), { minLength: 5, maxLength: 5 }),
      pairs: fc.array(fc.constantFrom(1, 2, null), { minLength: 5, maxLength: 5 }),
      edges: fc.array(fc.boolean(), { minLength: 5, maxLength: 5 }),
      order: fc.shuffledSubarray(colours, { minLength: 5, maxLength: 5 }),
      uses: fc.array(
        fc.record({
          use: fc.constantFrom('supply' as const, 'ground' as const, 'signal' as const),
          currentA: fc.constantFrom(0, 0.3, 1),
          together: fc.constantFrom(null, 'x'),
        }),
        { minLength: 1, maxLength: 5 },
      ),
    });
    const law = fc.property(some, ({ areas, pairs, edges, order, uses }) => {
      const wires = order.map((colour, n) =>
        wire(`w${n}`, colour, {
          areaMm2: areas[n] ?? 0.14,
          // A pair has two: a third of its number is single.
          pair: pairs.slice(0, n).filter((pair) => pair === pairs[n]).length < 2 ? (pairs[n] ?? null) : null,
          edge: edges[n] ?? false,
        }),
      );
      const signals = uses.map((use, n) => passing(`s${n}`, use));
      const plan = chooseConductors(wires, signals);
      // Every other choice, priced by forcing it: one conductor for each signal, no other left.
      let best = Infinity;
      const go = (n: number, chosen: Wire[]): void => {
        if (n === signals.length) {
          best = Math.min(best, priceOf(wires, signals, chosen));
          return;
        }
        for (const each of wires) if (!chosen.includes(each)) go(n + 1, [...chosen, each]);
      };
      go(0, []);
      const used = new Set(plan.choices.map((choice) => choice.wire));
      return used.size === signals.length && Math.abs(plan.cost - best) < 1e-6;
    });
    expect(() => fc.assert(law, { numRuns: 150 })).not.toThrow();
  });

  it('are as cheap as any of the 40,320 ways to lay eight signals on eight conductors', () => {
    const wires = (['RD', 'BK', 'WH', 'GN', 'BU', 'YE', 'VT', 'GY'] as const).map((colour, n) =>
      wire(`w${n}`, colour, { areaMm2: n < 2 ? 0.08 : n < 4 ? 0.25 : 0.14, pair: n < 6 ? n >> 1 : null }),
    );
    const signals = [
      passing('+5V', { use: 'supply', currentA: 0.9 }),
      passing('GND', { use: 'ground', currentA: 0.9 }),
      passing('D+', { together: 'usb' }),
      passing('D-', { together: 'usb' }),
      passing('VIDEO', { together: 'video' }),
      passing('VIDEO RETURN', { together: 'video' }),
      passing('KEY'),
      passing('LAMP'),
    ];
    let best = Infinity;
    const go = (chosen: Wire[]): void => {
      if (chosen.length === 8) best = Math.min(best, priceOf(wires, signals, chosen));
      for (const each of wires) if (!chosen.includes(each)) go([...chosen, each]);
    };
    go([]);
    expect(chooseConductors(wires, signals).cost).toBeCloseTo(best, 9);
  });

  it('are found for twenty-five signals on twenty-five pairs, one of which has to be split', () => {
    const wires = pairedConductors(25).map(({ id, pair }) =>
      wire(id, id.split('-')[0] as ColourCode, { pair }),
    );
    const signals = Array.from({ length: 25 }, (_, n) =>
      passing(`s${n}`, n < 2 ? { use: n === 0 ? 'supply' : 'ground' } : n < 4 ? { together: 'x' } : {}),
    );
    const plan = chooseConductors(wires, signals);
    expect(plan.cost).toBe(1);
    expect(new Set(plan.choices.map((choice) => choice.wire)).size).toBe(25);
  });

  it('put a shield on the screen, and nothing else, even when wires run out', () => {
    const wires = [wire('a', 'WH'), wire('b', 'BN'), wire('SCREEN', 'SCREEN')];
    const plan = chooseConductors(wires, [passing('MIC'), passing('SHIELD', { use: 'shield' })]);
    expect(wireOf(plan, 'SHIELD')).toBe('SCREEN');
    expect(wireOf(chooseConductors(wires, [passing('A'), passing('B')]), 'B')).not.toBe('SCREEN');
  });

  it('come from a kit’s cable: pairs, areas and a ribbon’s edges with them', () => {
    const cable = (id: string): Wire[] => {
      const found = CABLE_TYPES.find((type) => type.id === id);
      if (!found) throw new Error(id);
      return cableWires(found);
    };
    expect(cable('cat6-u').map(({ id, pair }) => `${id} ${pair}`)[0]).toBe('WH-BU 1');
    for (const type of CABLE_TYPES) {
      const wires = cableWires(type);
      expect(new Set(wires.map(({ id }) => id)).size)
        .withContext(type.id)
        .toBe(wires.length);
      expect(wires.filter(({ edge }) => edge).length)
        .withContext(type.id)
        .toBe(type.family === 'ribbon' ? 2 : 0);
    }
  });

  it('are still a sound choice where there are more ways than can be weighed, and say so', () => {
    const wires = Array.from({ length: 40 }, (_, n) =>
      wire(`w${n}`, 'WH', { areaMm2: 0.1 + 0.013 * n, pair: n % 3 === 0 ? null : Math.floor(n / 2) }),
    );
    const signals = Array.from({ length: 30 }, (_, n) =>
      passing(`s${n}`, { use: 'supply', currentA: 0.2 + 0.07 * n, together: n % 5 === 0 ? 'x' : null }),
    );
    const plan = chooseConductors(wires, signals);
    expect(plan.proven).toBeFalse();
    expect(new Set(plan.choices.map((choice) => choice.wire)).size).toBe(30);
    // A wire that bears it is found for every current but, at most, a tenth of an ampere.
    for (const { signal, wire: id } of plan.choices) {
      const flows = 0.2 + 0.07 * Number(signal.slice(1));
      const bears = 5 * (0.1 + 0.013 * Number(id.slice(1)));
      expect(flows - bears)
        .withContext(`${signal} on ${id}`)
        .toBeLessThan(0.1);
    }
    const few = chooseConductors(wires.slice(0, 3), [passing('A')]);
    expect(few.proven).toBeTrue();
  });

  it('are refused where there are too few', () => {
    expect(() => chooseConductors([wire('a', 'RD')], [passing('A'), passing('B')])).toThrowError(
      TooFewConductors,
      /2 signals and 1 conductors/,
    );
  });
});

/** What a whole choice costs, written down anew from the rules. */
function priceOf(wires: readonly Wire[], signals: readonly Passing[], chosen: readonly Wire[]): number {
  const thickest = Math.max(...wires.map(({ areaMm2 }) => areaMm2));
  let price = 0;
  signals.forEach((signal, n) => {
    const on = chosen[n] as Wire;
    price += 1000 * Math.max(0, signal.currentA - 5 * on.areaMm2);
    if (signal.use === 'supply' || signal.use === 'ground') {
      const wanted = signal.use === 'supply' ? 'RD' : 'BK';
      price += 40 * (thickest - on.areaMm2);
      if (on.colour !== wanted && wires.some(({ colour }) => colour === wanted)) price += 4;
      if (!on.edge && wires.some(({ edge }) => edge)) price += 0.5;
    }
    if ((on.colour === 'RD' && signal.use !== 'supply') || (on.colour === 'BK' && signal.use !== 'ground'))
      price += 3;
    for (let m = 0; m < n; m++) {
      if (signal.together === null || signals[m]?.together !== signal.together) continue;
      if (on.pair === null || on.pair !== chosen[m]?.pair) price += 100;
    }
  });
  for (const pair of [1, 2]) if (chosen.filter((on) => on.pair === pair).length === 1) price += 1;
  return price;
}
