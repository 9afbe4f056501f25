import fc from 'fast-check';
import {
  apartPlan,
  FEWEST_FOR_JOINS,
  judgeTouches,
  nextTouch,
  pointKey,
  probesPlan,
  suspectsOf,
  wouldBeep,
  wrongTouches,
  type AcrossBy,
  type ApartPlan,
  type MadeTouch,
  type Net,
  type RealJoins,
} from '@near-spoke/core';
import { anyNets, endsOf } from './any-nets.js';
import { sound, wrongLeads } from './wrong-leads.js';

const HERE = ['A'];
const isHere = ({ end }: { end: string }): boolean => HERE.includes(end);
const across = (nets: readonly Net[]): number =>
  nets.filter(({ points }) => points.some(isHere) && !points.every(isHere)).length;
/** Every way in which a lead may be proved across. */
const plansOf = (nets: readonly Net[]): ApartPlan[] =>
  (across(nets) >= FEWEST_FOR_JOINS ? (['joins', 'return'] as const) : (['return'] as const)).map(
    (by: AcrossBy) => apartPlan(nets, endsOf(nets), HERE, { by }),
  );
const madeOn = ({ touches }: ApartPlan, real: RealJoins): MadeTouch[] =>
  touches.map((touch) => ({ ...touch, beeped: wouldBeep(touch, real) }));
const straight = (count: number): Net[] =>
  Array.from({ length: count }, (_, n) => ({
    name: `w${n + 1}`,
    points: ['A', 'B'].map((end) => ({ end, contact: String(n + 1) })),
  }));

describe('a lead whose ends are out of reach of each other', () => {
  it('is proved where it is sound, and left open by less than all of its touches', () => {
    fc.assert(
      fc.property(anyNets(10, 6), fc.nat(), (nets, which) => {
        for (const plan of plansOf(nets)) {
          const made = madeOn(plan, sound(nets));
          expect(wrongTouches(plan.touches, sound(nets))).toEqual([]);
          expect(judgeTouches(nets, made)).toBe('proved');
          if (made.length === 0) continue;
          const left = made.filter((_touch, n) => n !== which % made.length);
          expect(judgeTouches(nets, left)).toBe('unfinished');
        }
      }),
      { numRuns: 150 },
    );
  });

  it('shows every single open, short and exchange, at either site', () => {
    fc.assert(
      fc.property(anyNets(9, 6), (nets) => {
        for (const plan of plansOf(nets))
          for (const { real } of wrongLeads(nets)) {
            expect(wrongTouches(plan.touches, real).length).toBeGreaterThan(0);
            expect(judgeTouches(nets, madeOn(plan, real))).toBe('failed');
          }
      }),
      { numRuns: 60 },
    );
  });

  it('is never proved while anything at all is other than meant, however many things are', () => {
    // Any lumps whatever, the meant ones among them: no single slip, no model.
    const lead = anyNets(8, 5).chain((nets) => {
      const keys = nets.flatMap(({ points }) => points.map(pointKey));
      const places = fc.array(fc.nat({ max: keys.length }), {
        minLength: keys.length,
        maxLength: keys.length,
      });
      const moved = fc.tuple(fc.nat(), fc.nat(), fc.nat(), fc.nat()).map(([a, b, c, d]) => {
        const real = new Map(sound(nets));
        for (const [x, y] of [
          [a, b],
          [c, d],
        ] as const) {
          const [one, other] = [keys[x % keys.length] ?? '', keys[y % keys.length] ?? ''];
          const lump = real.get(one) ?? 0;
          real.set(one, real.get(other) ?? 0).set(other, lump);
        }
        return real;
      });
      const real = fc.oneof(
        places.map((lumps): Map<string, number> => new Map(keys.map((key, n) => [key, lumps[n] ?? 0]))),
        moved,
      );
      return fc.tuple(fc.constant(nets), real);
    });
    const alike = (nets: readonly Net[], real: RealJoins): boolean => {
      const keys = nets.flatMap(({ points }) => points.map(pointKey));
      const meant = sound(nets);
      return keys.every((a) =>
        keys.every((b) => (meant.get(a) === meant.get(b)) === (real.get(a) === real.get(b))),
      );
    };
    fc.assert(
      fc.property(lead, ([nets, real]) => {
        for (const plan of plansOf(nets))
          expect(judgeTouches(nets, madeOn(plan, real)) === 'proved').toBe(alike(nets, real));
      }),
      { numRuns: 600 },
    );
  });

  it('has its meter at one site, and nothing joined until all is held apart there', () => {
    const { touches, by } = apartPlan(straight(9), endsOf(straight(9)), HERE);
    expect(by).toBe('joins');
    expect(touches.flatMap(({ one, other }) => [...one, ...other]).every(isHere)).toBeTrue();
    const joins = touches.filter(({ joined }) => joined !== undefined);
    expect(joins.length).toBe(8);
    expect(touches.slice(-8)).toEqual(joins);
    expect(joins.flatMap(({ joined = [] }) => joined).some(isHere)).toBeFalse();
    // The other site's clip stays on one conductor.
    expect(new Set(joins.map(({ joined }) => joined?.[0]?.contact)).size).toBe(1);
  });

  it('takes more time than one within reach', () => {
    const nets = straight(9);
    const plan = apartPlan(nets, endsOf(nets), HERE);
    expect(plan.seconds).toBeGreaterThan(probesPlan(nets, endsOf(nets)).seconds);
  });

  it('needs a known conductor where two or one go across: joins do not show an exchange of two', () => {
    for (const count of [1, 2]) {
      const nets = straight(count);
      expect(apartPlan(nets, endsOf(nets), HERE).by).toBe('return');
      expect(() => apartPlan(nets, endsOf(nets), HERE, { by: 'joins' })).toThrowError(
        RangeError,
        /a conductor known to be good has to serve as return/,
      );
    }
    // The two loops of a pair, straight and exchanged, are the same loop.
    const nets = straight(2);
    const loop = {
      one: [{ end: 'A', contact: '1' }],
      other: [{ end: 'A', contact: '2' }],
      joined: [
        { end: 'B', contact: '1' },
        { end: 'B', contact: '2' },
      ],
    };
    const exchanged = new Map(sound(nets)).set('B 1', 1).set('B 2', 0);
    expect([wouldBeep(loop, sound(nets)), wouldBeep(loop, exchanged)]).toEqual([true, true]);
    const silent = { one: loop.one, other: loop.other };
    expect(
      judgeTouches(nets, [
        { ...silent, beeped: false },
        { ...loop, beeped: true },
      ]),
    ).toBe('unfinished');
  });

  it('has its one mistake named from what was heard', () => {
    const nets = straight(5);
    const { touches } = apartPlan(nets, endsOf(nets), HERE);
    // Nobody exchanges a contact of one connector with one of another site.
    const slips = [...wrongLeads(nets)].filter(
      ({ what }) => !/^(\w) \d and (?!\1)\w \d exchanged/.test(what),
    );
    for (const { real } of slips) {
      const heard = touches.map((touch) => ({ touch, beeped: wouldBeep(touch, real) }));
      const suspects = suspectsOf(nets, heard);
      expect(suspects.length).toBeGreaterThan(0);
      for (const suspect of suspects)
        expect(heard.every(({ touch, beeped }) => wouldBeep(touch, suspect.real) === beeped)).toBeTrue();
      // What tells them apart is within reach.
      const next = nextTouch(suspects, nets, { here: HERE, by: 'joins' });
      if (suspects.length < 2 || next === null) continue;
      expect([...next.one, ...next.other].every(isHere)).toBeTrue();
      expect((next.joined ?? []).some(isHere)).toBeFalse();
      const beeps = suspects.filter((suspect) => wouldBeep(next, suspect.real)).length;
      expect(beeps).toBeGreaterThan(0);
      expect(beeps).toBeLessThan(suspects.length);
    }
  });
});
