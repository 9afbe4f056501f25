import * as fc from 'fast-check';
import {
  AS_IT_IS,
  besideEachOther,
  bundleRiseC,
  busReachM,
  CABLE_TYPES,
  channelLimitDb,
  CONNECTOR_TYPES,
  ductFill,
  feedDirectly,
  feedLink,
  findingHeadline,
  findingWords,
  cureWords,
  levelsAtEnd,
  longestByLossM,
  mostPowerW,
  ORDINARY,
  planIf,
  planJob,
  POWER_TYPES,
  powerTypeOf,
  runOf,
  solidDb,
  solveFeed,
  warmLossFactor,
  type CableType,
  type Carries,
  type ConnectorType,
  type PlannedLink,
  type RunPiece,
  type StretchConditions,
  type WhatIf,
} from '../src/index.js';

const cable = (id: string) => CABLE_TYPES.find((one) => one.id === id) as CableType;
const connector = (id: string) => CONNECTOR_TYPES.find((one) => one.id === id) as ConnectorType;
const jack = connector('jack-punched');
const plug = connector('plug-outdoor');

const planned = (given: Partial<PlannedLink>): PlannedLink => ({
  label: 'P1-01',
  cable: cable('cat6-u'),
  near: jack,
  far: jack,
  lengthM: 60,
  route: [],
  carries: {},
  ...given,
});
const roof: StretchConditions = { ...ORDINARY, name: 'roof tray', temperatureC: 45, space: 'outdoor' };
const findings = (link: PlannedLink, conditions: StretchConditions[] = [], others: PlannedLink[] = []) =>
  planJob([link, ...others], { conditions, cables: CABLE_TYPES }).links[0]?.findings ?? [];
const found = (link: PlannedLink, check: string, conditions: StretchConditions[] = []) =>
  findings(link, conditions).find((one) => one.check === check);
const straight = (lengthM: number, temperatureC = 20): RunPiece[] => [
  { name: '', lengthM, temperatureC, closed: false, space: 'indoor', fed: 1 },
];
function sure<T>(found: T | undefined): T {
  if (found === undefined) throw new Error('it is not there');
  return found;
}
const NO_ENDS = { cordsM: 0, connections: 0 };

describe('loss of a channel', () => {
  it('is that of the published formulas, worked by hand', () => {
    // Cat 5e: 1.967 × 10 + 0.023 × 100 + 0.050 / 10 = 21.975; Cat 6 at 250: 28.587 + 4.25 + 0.013 = 32.850.
    expect(solidDb('5e', 100)).toBeCloseTo(21.975, 3);
    expect(solidDb('6', 250)).toBeCloseTo(32.85, 2);
    expect(solidDb('6A', 500)).toBeCloseTo(45.257, 2);
    // 90 m of cable and 10 m of cord at 1.2 are 102 m; four connections at 0.4: 22.415 + 1.6.
    expect(channelLimitDb('5e', 100)).toBeCloseTo(24.01, 2);
  });

  it('rises with warmth: 8 % at 40 °C, 20 % at 60 °C unscreened; 8 % at 60 °C screened', () => {
    expect(warmLossFactor(40, false)).toBeCloseTo(1.08, 9);
    expect(warmLossFactor(60, false)).toBeCloseTo(1.2, 9);
    expect(warmLossFactor(60, true)).toBeCloseTo(1.08, 9);
    expect(warmLossFactor(5, false)).toBe(1);
  });

  it('lets 90 m with the model’s cords just pass mild, and says how long it may be warm', () => {
    const mild = found(planned({ lengthM: 90 }), 'loss');
    expect(mild?.verdict).toBe('close');
    expect(Math.abs(mild?.spare ?? 1)).toBeLessThan(1e-9);
    const conditions = [{ ...ORDINARY, name: 'loft', temperatureC: 40 }];
    const warm = found(planned({ lengthM: 90, route: [{ name: 'loft', lengthM: 90 }] }), 'loss', conditions);
    expect(warm?.verdict).toBe('fails');
    const shorter = warm?.cures.find(({ cure }) => cure === 'shorten');
    // 90 m over 1.08: the warm cable has to make up for its own warmth alone.
    expect(shorter && 'toM' in shorter ? shorter.toM : 0).toBeCloseTo(90 / 1.08, 6);
  });

  it('at the longest length leaves nothing, for any channel', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('5e' as const, '6' as const, '6A' as const),
        fc.double({ min: 5, max: 90, noNaN: true }),
        fc.double({ min: 20, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        (category, lengthM, temperatureC, cordsM) => {
          const channel = {
            cable: { screened: false, stranded: false, awg: 23 },
            category,
            pieces: [{ lengthM, temperatureC }],
            cordsM,
            connections: 4,
          };
          const longest = longestByLossM(channel, category, 100);
          const at = (m: number) =>
            longestByLossM({ ...channel, pieces: [{ lengthM: m, temperatureC }] }, category, 100);
          expect(at(longest)).toBeCloseTo(longest, 6);
        },
      ),
    );
  });

  it('10GBASE-T goes 37 m over Cat 6 with its cords, and not at all over Cat 5e', () => {
    const over = (id: string, lengthM: number) =>
      findings(planned({ cable: cable(id), lengthM, carries: { data: '10gbase-t' } })).filter(
        ({ verdict }) => verdict === 'fails',
      );
    expect(over('cat6-u', 27)).toEqual([]);
    expect(over('cat6-u', 28)[0]?.check).toBe('reach');
    expect(over('cat5e-u', 5)[0]?.check).toBe('category');
    expect(over('cat5e-u', 5)[0]?.cures).toContain(jasmine.objectContaining({ cableId: 'cat6a-f' }));
    expect(over('cat6a-f', 88)).toEqual([]);
  });
});

describe('power over the pairs', () => {
  it('is the standard’s own arithmetic at the standard’s own channels', () => {
    // Type 1: (44 - sqrt(1936 - 1036)) / 40 = 0.35 A, 37 V. Type 2: (50 - 35) / 25 = 0.6 A, 42.5 V.
    expect(solveFeed(44, 12.95, 20)).toEqual(jasmine.objectContaining({ currentA: 0.35, deviceV: 37 }));
    expect(solveFeed(50, 25.5, 12.5)?.deviceV).toBeCloseTo(42.5, 9);
    expect(solveFeed(50, 51, 6.25)?.currentA).toBeCloseTo(1.2, 9);
    for (const [id, ohm] of [
      ['type-1', 20],
      ['type-2', 12.5],
      ['type-3', 6.25],
      ['type-4', 6.25],
    ] as const) {
      const type = powerTypeOf(id);
      if (!type) throw new Error(id);
      // What each type promises at the device is what its source gives less what its channel keeps.
      expect(mostPowerW(type, ohm))
        .withContext(id)
        .toBeCloseTo(type.deviceW ?? 0, 0);
    }
  });

  it('has no root where the wire cannot carry it', () => {
    // 12² = 144 < 4 × 10 × 5.
    expect(solveFeed(12, 10, 5)).toBeNull();
    expect(solveFeed(12, 7.2, 5)?.deviceV).toBeCloseTo(6, 6);
  });

  it('solves P = V I - R I² by the low root, and gives back what went in', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 60, noNaN: true }),
        fc.oneof(fc.constant(0), fc.double({ min: 0.001, max: 20, noNaN: true })),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (volts, ohm, share) => {
          const watts = ohm === 0 ? 10 * share : (share * volts ** 2) / (4 * ohm);
          const point = solveFeed(volts, watts, ohm);
          if (!point) throw new Error('there is a root');
          expect(point.deviceV * point.currentA).toBeCloseTo(watts, 6);
          expect(point.deviceV).toBeGreaterThanOrEqual(volts / 2 - 1e-6);
          expect(point.sourceW - point.lostW).toBeCloseTo(watts, 6);
        },
      ),
    );
  });

  it('never gains by more length, warmth, neighbours, or thinner wire', () => {
    const piece = fc.record({
      lengthM: fc.double({ min: 1, max: 80, noNaN: true }),
      temperatureC: fc.double({ min: 20, max: 55, noNaN: true }),
      fed: fc.integer({ min: 1, max: 100 }),
      closed: fc.boolean(),
    });
    const spare = (
      one: { lengthM: number; temperatureC: number; fed: number; closed: boolean },
      id = 'cat6-u',
      type = 'type-3',
    ) => feedLink({ type, deviceW: 40 }, cable(id), [{ name: '', space: 'indoor', ...one }], NO_ENDS).spareW;
    fc.assert(
      fc.property(piece, fc.double({ min: 1, max: 1.3, noNaN: true }), (one, more) => {
        const here = spare(one) + 1e-6;
        expect(spare({ ...one, lengthM: one.lengthM * more })).toBeLessThanOrEqual(here);
        expect(spare({ ...one, temperatureC: one.temperatureC * more })).toBeLessThanOrEqual(here);
        expect(spare({ ...one, fed: one.fed + 5 })).toBeLessThanOrEqual(here);
        expect(spare({ ...one, closed: true })).toBeLessThanOrEqual(here);
        expect(spare(one, 'cat5e-u')).toBeLessThanOrEqual(here);
      }),
      { numRuns: 60 },
    );
  });

  it('a device that wants more than its type promises has to be fed otherwise, however near it is', () => {
    const near = planned({ lengthM: 5, carries: { power: { type: 'type-2', deviceW: 28 } } });
    const power = found(near, 'power');
    expect([power?.verdict, power?.is]).toEqual(['fails', 25.5]);
    expect(power?.cures).toEqual([
      jasmine.objectContaining({ cure: 'other-feed', feed: { type: 'type-3', deviceW: 28 } }),
      jasmine.objectContaining({ cure: 'other-feed', feed: { type: 'type-4', deviceW: 28 } }),
    ]);
    expect(
      found(planned({ lengthM: 5, carries: { power: { type: 'type-2', deviceW: 25.5 } } }), 'power')?.verdict,
    ).toBe('fits');
  });

  it('a bundle’s middle warms by a part in its number and a part in its root', () => {
    const rise = (fed: number) => bundleRiseC({ fed, jacketMm: 5.2, wattPerM: 0.0675, closed: false });
    // 100 cables of 24 AWG at 0.6 A a pair: 6.75 W/m. Through 4 pi 0.15: 3.6; off a radius of 29 mm at 8: 4.6.
    expect(rise(100)).toBeCloseTo(3.58 + 4.62, 1);
    const [a, b, c] = [rise(4), rise(16), rise(64)];
    // Two unknown parts from two figures foretell the third.
    const perN = ((b ?? 0) - 2 * (a ?? 0)) / (16 - 8);
    const perRoot = ((a ?? 0) - 4 * perN) / 2;
    expect(64 * perN + 8 * perRoot).toBeCloseTo(c ?? 0, 9);
  });
});

describe('other runs', () => {
  it('a coil’s voltage by Ohm’s law, and twice the wires halve the loss', () => {
    const load = { sourceV: 12, loadA: 0.5, leastV: 10.8, wires: 1 };
    const one = feedDirectly(load, cable('tel-2'), straight(30));
    // 24 AWG: 0.0842 ohm/m and 1 % for the twist, two ways of 30 m: 5.1 ohm.
    expect(one.ohm).toBeCloseTo(2 * 30 * 0.0842 * 1.01, 1);
    expect(12 - (one.loadV ?? 0)).toBeCloseTo(0.5 * one.ohm, 9);
    expect(feedDirectly({ ...load, wires: 2 }, cable('tel-2'), straight(30)).ohm).toBeCloseTo(one.ohm / 2, 9);
    expect(one.mostOhm).toBeCloseTo(2.4, 9);
    expect(() =>
      feedDirectly({ sourceV: 12, leastV: 10, wires: 1 }, cable('tel-2'), straight(3)),
    ).toThrowError(RangeError);
  });

  it('a drop that is too much names a length, a thicker cable or more wires that would do', () => {
    const load = { sourceV: 12, loadW: 6, leastV: 10.8, wires: 1 };
    const link = planned({ cable: cable('tel-2'), lengthM: 40, carries: { load } });
    const drop = found(link, 'drop');
    expect(drop?.verdict).toBe('fails');
    const shorten = drop?.cures.find(({ cure }) => cure === 'shorten');
    if (!shorten || !('toM' in shorten)) throw new Error('a length is named');
    expect(found({ ...link, lengthM: shorten.toM * 0.999 }, 'drop')?.verdict).not.toBe('fails');
    expect(found({ ...link, lengthM: shorten.toM * 1.01 }, 'drop')?.verdict).toBe('fails');
  });

  it('a level at the outlet: source less cable, splitter and connectors', () => {
    const signal = {
      sourceDb: 20,
      unit: 'dBmV',
      fromMhz: 100,
      toMhz: 1000,
      leastDb: 0,
      mostDb: 15,
      passiveDb: 4,
    } as const;
    const levels = levelsAtEnd(signal, cable('rg6'), straight(50));
    // RG-6: 6.6 dB per 100 m at 100 MHz and 21.5 at 1 GHz, as its row says.
    expect(levels[0]?.levelDb).toBeCloseTo(20 - 3.3 - 4 - 0.2, 1);
    expect(levels.at(-1)?.levelDb).toBeCloseTo(20 - 10.75 - 4 - 0.2, 1);
    const link = (lengthM: number, leastDb = 0) =>
      found(
        planned({
          cable: cable('rg6'),
          near: connector('coax-f'),
          far: connector('coax-f'),
          lengthM,
          carries: { signal: { ...signal, leastDb } },
        }),
        'level',
      );
    expect(link(50)?.verdict).toBe('fits');
    expect(link(120)?.verdict).toBe('fails');
    expect(link(120)?.cures[0]?.cure).toBe('amplify');
    // Near the source the low edge of the band is too strong.
    expect(link(1)?.cures[0]?.cure).toBe('attenuate');
  });

  it('a telephone line is one by its socket too, whatever cable it runs in', () => {
    const line = planned({ cable: cable('cat5e-u'), far: connector('phone-socket'), lengthM: 120 });
    expect(findings(line).map(({ check }) => check)).toEqual(['telephone-loop']);
    expect(found({ ...line, far: jack }, 'permanent-link')?.verdict).toBe('fails');
    expect(found({ ...line, carries: { data: '100base-tx' } }, 'permanent-link')?.verdict).toBe('fails');
  });

  it('a bus reaches by its speed', () => {
    expect(busReachM({ law: 'rs-485', bitPerS: 1_000_000 })).toBe(100);
    expect(busReachM({ law: 'rs-485', bitPerS: 9600 })).toBe(1200);
    expect(busReachM({ law: 'can', bitPerS: 500_000 })).toBe(100);
    expect(busReachM({ law: 'can', bitPerS: 300_000 })).toBe(100);
    expect(busReachM({ law: 'can', bitPerS: 2_000_000 })).toBe(0);
  });

  it('a duct holds one cable to 53 %, two to 31 %, more to 40 %', () => {
    expect(ductFill(20, [10])).toEqual({ share: 0.25, most: 0.53 });
    expect(ductFill(20, [10, 10]).most).toBe(0.31);
    expect(ductFill(20, [6, 6, 6])).toEqual({ share: 0.27, most: 0.4 });
  });
});

describe('a job’s plan', () => {
  const mast = (label: string, lengthM: number, carries: Carries): PlannedLink =>
    planned({
      label,
      cable: cable('cat6-f-outdoor'),
      near: connector('jack-punched-screened'),
      far: plug,
      lengthM,
      route: [
        { name: 'riser', lengthM: 11 },
        { name: 'roof tray', lengthM: lengthM - 11 },
      ],
      carries,
    });

  it('warns of a powered mast in a hot tray, and each cure that it names does cure', () => {
    const feed = { type: 'type-2', deviceW: 25.5 };
    const closed = [{ ...roof, temperatureC: 60, closed: true }];
    const links = Array.from({ length: 24 }, (_, i) => mast(`M-${i}`, 89, { power: feed }));
    const { links: all, stretches } = planJob(links, { conditions: closed, cables: CABLE_TYPES });
    expect(stretches.find(({ name }) => name === 'roof tray')).toEqual(
      jasmine.objectContaining({ fed: 24, lengthM: 78 }),
    );
    const heat = all[0]?.findings.find(({ check }) => check === 'heat');
    expect(heat?.verdict).toBe('fails');
    expect(heat?.at?.stretch).toBe('roof tray');
    expect(findingHeadline(sure(heat), { units: 'metric' })).toMatch(/^warmth: \d+ °C short$/);
  });

  it('says how much a device lacks, and what would bring it', () => {
    const feed = { type: 'type-3', deviceW: 51, sourceV: 43, sourceW: 60 };
    const link = mast('M-1', 89, { power: feed });
    const power = found(link, 'power', [roof]);
    expect(power?.verdict).toBe('fails');
    const reader = { units: 'imperial', cableName: (id: string) => cable(id).name } as const;
    expect(findingHeadline(sure(power), reader)).toMatch(/^power: \d+\.\d W short$/);
    expect(findingWords(sure(power), reader)).toContain('in roof tray (IEEE 802.3)');
    for (const cure of power?.cures ?? []) {
      expect(cureWords(cure, reader)).not.toBe('');
      if (cure.cure === 'shorten')
        expect(found({ ...link, lengthM: cure.toM * 0.99 }, 'power', [roof])?.verdict).not.toBe('fails');
      if (cure.cure === 'other-cable')
        expect(found({ ...link, cable: cable(cure.cableId) }, 'power', [roof])?.verdict).not.toBe('fails');
      if (cure.cure === 'other-feed')
        expect(found({ ...link, carries: { power: cure.feed } }, 'power', [roof])?.verdict).not.toBe('fails');
    }
    expect(power?.cures.map(({ cure }) => cure)).toContain('shorten');
    expect(power?.cures.map(({ cure }) => cure)).toContain('other-feed');
  });

  it('an indoor jacket outdoors is wrong; a riser is a question to its print; outdoors asks for a licensed person', () => {
    const link = planned({
      route: [
        { name: 'shaft', lengthM: 10 },
        { name: 'roof tray', lengthM: 50 },
      ],
    });
    const all = findings(link, [roof, { ...ORDINARY, name: 'shaft', space: 'riser' }]);
    const verdict = (check: string) => all.find((one) => one.check === check)?.verdict;
    expect(verdict('outdoor-jacket')).toBe('fails');
    expect(verdict('jacket-rating')).toBe('look');
    expect(verdict('between-buildings')).toBe('look');
  });

  it('keeps the proportions of a route that does not add up, so that no metre is forgotten', () => {
    const link = planned({
      lengthM: 66,
      route: [
        { name: 'a', lengthM: 20 },
        { name: 'b', lengthM: 40 },
      ],
    });
    expect(runOf(link, [], () => 0).map(({ lengthM }) => lengthM)).toEqual([22, 44]);
    expect(runOf({ lengthM: 12, route: [] }, [], () => 0)).toEqual(straight(12));
  });

  it('gives no verdict without its margin, for any link and any use', () => {
    const uses = fc.record<Carries>({
      data: fc.constantFrom('100base-tx', '1000base-t', '5gbase-t', undefined),
      power: fc.option(
        fc.record({
          type: fc.constantFrom(...POWER_TYPES.map(({ id }) => id)),
          deviceW: fc.double({ min: 1, max: 90, noNaN: true }),
        }),
        { nil: undefined },
      ),
    });
    fc.assert(
      fc.property(
        fc.constantFrom('cat5e-u', 'cat6-u', 'cat6a-f', 'cat6-gel', 'tel-2'),
        fc.double({ min: 1, max: 300, noNaN: true }),
        uses,
        (id, lengthM, carries) => {
          for (const one of findings(planned({ cable: cable(id), lengthM, carries }))) {
            const counted = one.verdict === 'fits' || one.verdict === 'close';
            if (counted) expect(one.spare).toBeGreaterThanOrEqual(0);
            if (one.spare !== null && one.spare < 0) expect(one.verdict).toBe('fails');
            expect(findingWords(one, { units: 'metric' })).not.toContain('NaN');
            expect(one.source).not.toBe('');
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('a plan thought otherwise', () => {
  const mast = (label: string, change: Partial<PlannedLink> = {}): PlannedLink =>
    planned({
      label,
      cable: cable('cat6-f-outdoor'),
      far: plug,
      lengthM: 80,
      route: [{ name: 'roof tray', lengthM: 80 }],
      carries: { power: { type: 'passive-24', deviceW: 16 } },
      ...change,
    });
  const of = (links: PlannedLink[], conditions: StretchConditions[] = []) =>
    planJob(links, { conditions, cables: CABLE_TYPES });
  const beside = (links: PlannedLink[], otherwise: Partial<WhatIf>) => {
    const then = planIf(links, [roof], { ...AS_IT_IS, ...otherwise });
    return besideEachOther(of(links, [roof]), of(then.links, then.conditions));
  };

  it('changes nothing where nothing is otherwise', () => {
    expect(beside([mast('M-1'), planned({ label: 'P-1' })], {}).changed).toEqual([]);
  });

  it('leaves less to spare in warmer air, of links without a named way too', () => {
    const { changed } = beside(
      [mast('M-1'), planned({ label: 'P-1', lengthM: 88, carries: { data: '1000base-t' } })],
      {
        warmerC: 15,
      },
    );
    expect(changed.map(({ label }) => label).sort()).toEqual(['M-1', 'P-1']);
    expect(changed.find(({ label }) => label === 'P-1')?.after).toEqual(
      jasmine.objectContaining({ check: 'loss', verdict: 'close' }),
    );
    for (const { before, after } of changed)
      expect(sure(after ?? undefined).margin ?? -1).toBeLessThan(sure(before ?? undefined).margin ?? -1);
  });

  it('takes another cable where the one is planned, and another feed where there is one, and counts what that mends', () => {
    const links = [mast('M-1', { lengthM: 85 }), planned({ label: 'P-1' })];
    const { before, after, changed } = beside(links, { powerType: 'passive-48' });
    expect([before.fails, after.fails]).toEqual([1, 0]);
    expect(changed.map(({ label }) => label)).toEqual(['M-1']);
    const thicker = planIf(links, [], { ...AS_IT_IS, cable: { from: 'cat6-u', to: cable('cat6a-f') } });
    expect(thicker.links.map((one) => one.cable.id)).toEqual(['cat6-f-outdoor', 'cat6a-f']);
    expect(thicker.links[0]?.carries).toEqual(links[0]?.carries ?? {});
  });
});
