import {
  alternates,
  checkPlan,
  compareSchemes,
  CABLE_TYPES,
  CONNECTOR_TYPES,
  CONTACT_PAIRS,
  conductorAt,
  expectedMap,
  explainScheme,
  FOUR_PAIR,
  insulation,
  insulationName,
  pairOf,
  SCHEMES,
  WIRING_LAYOUTS,
  type SchemeId,
} from '../src/index.js';
import { PAIR_BY_PAIR, T568A, T568B } from './links.js';

describe('colours', () => {
  it('reads base before band: WH-OG is white with an orange band', () => {
    expect(insulation('WH-OG').base.name).toBe('white');
    expect(insulation('WH-OG').band?.name).toBe('orange');
    expect(insulationName('WH-OG')).toBe('white-orange');
    expect(insulationName('BN')).toBe('brown');
  });

  for (const code of ['XX', 'WH-', 'WH-OG-BU', 'wh-og', '']) {
    it(`refuses "${code}" and says how a code is written`, () => {
      expect(() => insulation(code)).toThrowError(RangeError, /write BU for blue/);
    });
  }
});

describe('schemes', () => {
  it('lays T568A and T568B as ANSI/TIA-568 prints them', () => {
    expect(SCHEMES.T568A.order).toEqual(T568A);
    expect(SCHEMES.T568B.order).toEqual(T568B);
  });

  it('uses each of the eight conductors once, whatever the scheme', () => {
    const all = FOUR_PAIR.map((wire) => wire.id).sort();
    for (const scheme of Object.values(SCHEMES)) expect([...scheme.order].sort()).toEqual(all);
  });

  it('puts whole pairs on the pair contacts in every Ethernet scheme, and not in the nested one', () => {
    const whole = (id: SchemeId): boolean =>
      CONTACT_PAIRS.every(([a, b]) => pairOf(conductorAt(id, a) ?? '') === pairOf(conductorAt(id, b) ?? ''));
    for (const { id, ethernet } of Object.values(SCHEMES)) expect(whole(id)).withContext(id).toBe(ethernet);
  });

  it('finds that A and B differ by the orange and green pairs on 1, 2, 3 and 6 only', () => {
    expect(compareSchemes('T568A', 'T568B')).toEqual({ contacts: ['1', '2', '3', '6'], pairs: [2, 3] });
    expect(compareSchemes('T568B', 'T568B')).toEqual({ contacts: [], pairs: [] });
  });

  it('does not take alternation for proof: mirror and pair-by-pair alternate too', () => {
    expect(alternates(T568B)).toBeTrue();
    expect(alternates([...T568B].reverse())).toBeTrue();
    expect(alternates(PAIR_BY_PAIR)).toBeTrue();
    expect(alternates(['WH-OG', 'OG', 'BU', 'WH-GN', 'WH-BU', 'GN', 'WH-BN', 'BN'])).toBeFalse();
  });

  it('explains T568B aloud', () => {
    expect(explainScheme('T568B')).toContain('white-orange, orange, white-green, blue');
    expect(explainScheme('T568B')).toContain('orange first on 1 and 2, and green straddles');
    expect(explainScheme('T568A')).toContain('green first on 1 and 2, and orange straddles');
  });
});

describe('wiring layouts', () => {
  it('reaches every contact exactly once', () => {
    for (const { id, map } of Object.values(WIRING_LAYOUTS)) {
      expect(Object.values(map).sort()).withContext(id).toEqual(['1', '2', '3', '4', '5', '6', '7', '8']);
    }
  });

  it('is its own reverse, end for end, for all of them', () => {
    for (const { id, map } of Object.values(WIRING_LAYOUTS)) {
      for (const [near, far] of Object.entries(map)) expect(map[far]).withContext(`${id} ${near}`).toBe(near);
    }
  });

  it('makes the two-pair crossover what A at one end and B at the other gives', () => {
    const { map } = WIRING_LAYOUTS.crossover;
    T568A.forEach((conductor, i) => expect(map[String(i + 1)]).toBe(String(T568B.indexOf(conductor) + 1)));
  });

  it('expects the screen where there is one', () => {
    expect(expectedMap('straight', true)['S']).toBe('S');
    expect('S' in expectedMap('straight', false)).toBeFalse();
  });
});

describe('a plan', () => {
  const cable = (id: string) => CABLE_TYPES.find((c) => c.id === id) as (typeof CABLE_TYPES)[number];
  const connector = (id: string) =>
    CONNECTOR_TYPES.find((c) => c.id === id) as (typeof CONNECTOR_TYPES)[number];
  const plan = {
    cable: cable('cat6-u'),
    near: connector('jack-punched'),
    far: connector('plug-closed'),
    lengthM: 60,
    route: [],
  };

  it('passes when nothing speaks against it', () => {
    expect(checkPlan(plan)).toEqual([]);
  });

  it('notices a route that does not add up', () => {
    const [remark] = checkPlan({ ...plan, route: [{ name: 'tray', lengthM: 50 }] });
    expect(remark).toEqual({
      severity: 'unsure',
      words: 'The route adds up to 50.0 m, the link says 60.0 m.',
    });
  });

  it('names the end whose connector does not take the cable, and a screen left unbonded', () => {
    const remarks = checkPlan({ ...plan, cable: cable('cat6-f-outdoor') });
    expect(remarks.find((r) => r.severity === 'wrong')?.words).toBe(
      'Far end, 8-contact plug, closed end: Jacket 7.6 mm is too thick by 1.3 mm: it takes 5 to 6.3 mm (typical figures).',
    );
    expect(remarks.find((r) => r.severity === 'unsure')?.words).toContain('nowhere to bond it');
  });
});
