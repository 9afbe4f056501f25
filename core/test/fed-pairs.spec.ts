import {
  checkReading,
  diagnose,
  findIn,
  frameFor,
  intendedLink,
  observe,
  POWER_TYPES,
  seededRandom,
  supplyConcerns,
  supplyWords,
  type FedAs,
  type PowerReading,
  type TrueLink,
} from '../src/index.js';
import { toState } from '../src/continuity/link-state.js';
import { likelihoodOf } from '../src/continuity/observers.js';
import { expectation, linkWith, rightMap } from './links.js';
import { drawWorld, KINDS, worldsOf } from './world/draw-world.js';
import { asTrueLink } from './world/told-to-core.js';
import { take } from './world/world-instruments.js';
import { fedAt } from './world/world-power.js';

const plain = expectation();
const shows = (
  feeds: PowerReading['feeds'],
  a: FedAs,
  b: FedAs,
  more: Partial<PowerReading> = {},
): PowerReading => ({ instrument: 'power-tester', end: 'far', feeds, sets: { a, b }, ...more });
const seenOn = (link: TrueLink, feeds: PowerReading['feeds'], end: 'near' | 'far' = 'far') =>
  (observe(link, 'power-tester', { end, plan: { ...shows(feeds, 'none', 'none'), end } }) as PowerReading)
    .sets;
const straight = rightMap(plain);

/** Links of the world with eight contacts, and what is wrong with them. */
const worlds = (from: number, to: number, wrongShare: number) =>
  worldsOf(from, to, wrongShare, ({ link }) => link.contacts.includes('8') && !link.contacts.includes('9'));

describe('a power tester', () => {
  it('shows the pairs that are fed, the first at plus', () => {
    expect(seenOn(linkWith(plain), 'a')).toEqual({ a: 'plus', b: 'none' });
    expect(seenOn(linkWith(plain), 'b')).toEqual({ a: 'none', b: 'plus' });
    expect(seenOn(linkWith(plain), 'both', 'near')).toEqual({ a: 'plus', b: 'plus' });
  });

  it('takes one wire of a pair for the pair, and none for nothing', () => {
    const one = linkWith(plain, { breaks: [{ conductor: 'BU', atM: 5 }] });
    expect(seenOn(one, 'b')).toEqual({ a: 'none', b: 'plus' });
    const two = linkWith(plain, {
      breaks: [
        { conductor: 'BU', atM: 5 },
        { conductor: 'WH-BU', atM: 5 },
      ],
    });
    expect(seenOn(two, 'both')).toEqual({ a: 'plus', b: 'none' });
  });

  it('shows crossed pairs as plus and minus exchanged, and pairs of both sets as nothing', () => {
    const { far } = linkWith(plain);
    const crossed = { ...far, 1: far['3'], 2: far['6'], 3: far['1'], 6: far['2'] } as typeof far;
    expect(seenOn(linkWith(plain, { far: crossed }), 'a')).toEqual({ a: 'minus', b: 'none' });
    const mixed = { ...far, 1: far['4'], 2: far['5'], 4: far['1'], 5: far['2'] } as typeof far;
    expect(seenOn(linkWith(plain, { far: mixed }), 'a')).toEqual({ a: 'none', b: 'none' });
  });

  it('shows nothing where plus and minus touch, and goes on where wires of one pair do', () => {
    const touching = (a: string, b: string) =>
      linkWith(plain, { joins: [{ conductors: [a, b] as never, atM: 9 }] });
    expect(seenOn(touching('OG', 'GN'), 'a')).toEqual({ a: 'none', b: 'none' });
    expect(seenOn(touching('OG', 'WH-OG'), 'a')).toEqual({ a: 'plus', b: 'none' });
  });

  it('shows what ohms between centre taps of a world of resistors say', () => {
    const differ: number[] = [];
    let compared = 0;
    const kinds = new Set<string>();
    for (const { link, expected, seed } of worlds(1, 500, 0.6)) {
      const told = asTrueLink(link, expected);
      for (const feeds of ['a', 'b', 'both'] as const)
        for (const end of ['near', 'far'] as const) {
          const world = fedAt(link, end, { a: feeds === 'b' ? 0 : 50, b: feeds === 'a' ? 0 : 50 });
          kinds.add(JSON.stringify(world));
          compared++;
          if (JSON.stringify(seenOn(told, feeds, end)) !== JSON.stringify(world)) differ.push(seed);
        }
    }
    expect(compared).toBeGreaterThan(1200);
    expect(kinds.size).toBeGreaterThan(5);
    // Of a joint in the thousands of ohms nobody can say what a tester makes.
    expect(differ.length / compared).toBeLessThan(0.005);
  });

  it('is never likelier than its best, and sums to one over all that it can show', () => {
    const as: FedAs[] = ['plus', 'minus', 'none'];
    for (const { link, expected } of worlds(500, 560, 0.7)) {
      const frame = frameFor(expected, intendedLink);
      const state = toState(frame, asTrueLink(link, expected));
      for (const feeds of ['a', 'b', 'both', null] as const) {
        const each = as.flatMap((a) => as.map((b) => likelihoodOf(frame, shows(feeds, a, b))));
        for (const one of each) expect(one.of(state, 0)).toBeLessThanOrEqual(one.best + 1e-12);
        expect(each.reduce((sum, one) => sum + Math.exp(one.of(state, 0)), 0)).toBeCloseTo(1, 9);
      }
    }
  });

  it('is drawn as often as it is likely', () => {
    const random = seededRandom(4);
    const frame = frameFor(plain, intendedLink);
    const link = intendedLink(plain);
    const counts = new Map<string, number>();
    const times = 6000;
    for (let n = 0; n < times; n++) {
      const drawn = observe(link, 'power-tester', { plan: shows('a', 'none', 'none'), random, frame });
      const key = JSON.stringify((drawn as PowerReading).sets);
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    for (const [key, count] of counts) {
      const { a, b } = JSON.parse(key) as PowerReading['sets'];
      const p = Math.exp(likelihoodOf(frame, shows('a', a, b)).of(toState(frame, link), 0));
      expect(Math.abs(count / times - p)).toBeLessThan(5 * Math.sqrt(p / times) + 1e-3);
    }
  });
});

describe('a reading of which pairs are fed', () => {
  it('proves nothing by itself, and takes no pass from a map that is right', () => {
    expect(diagnose(plain, [shows('a', 'plus', 'none')]).result).toBe('cannot-tell');
    expect(diagnose(plain, [straight, shows('both', 'minus', 'plus')]).result).toBe('pass');
  });

  it('that misses a feed says so, and blames no wire as long as the supply may be off', () => {
    const { result, headline } = diagnose(plain, [shows('a', 'none', 'none')]);
    expect([result, headline]).toEqual(['cannot-tell', '1-2 and 3-6 are not fed']);
    expect(findIn(plain, shows('a', 'none', 'plus')).map(({ words }) => words)).toEqual([
      '1-2 and 3-6 are not fed',
      '4-5 and 7-8 are fed, which the supply does not feed',
    ]);
    expect(findIn(plain, shows(null, 'none', 'none'))).toEqual([]);
  });

  it('stands beside a map that shows the pair open, and against one that should not', () => {
    const open = { ...straight, arrivals: { ...straight.arrivals, 4: [], 5: [] } };
    expect(diagnose(plain, [open, shows('both', 'minus', 'none')]).result).toBe('fail');
    expect(diagnose(plain, [open, shows('both', 'minus', 'plus')]).headline).toContain('Readings disagree');
  });

  it('calls hardly any sound link of the world wrong, and passes no wrong one that its map shows', () => {
    const chance = seededRandom(77);
    let [sound, called, passed] = [0, 0, 0];
    for (const { link, expected } of worlds(3000, 3120, 0.4)) {
      const isOn = chance() > 0.05;
      const sign = chance() < 0.5 ? 1 : -1;
      const seen = fedAt(link, 'far', { a: isOn ? 50 * sign : 0, b: isOn ? 50 : 0 });
      const map = take(link, 'coded-mapper', { chance: null });
      const { result } = diagnose(expected, [map, shows('both', seen.a, seen.b)]);
      if (findIn(expected, map).length > 0) passed += result === 'pass' ? 1 : 0;
      else if (seen.a !== 'none' || !isOn) {
        sound++;
        called += result === 'fail' ? 1 : 0;
      }
    }
    expect(sound).toBeGreaterThan(30);
    expect(called / sound).toBeLessThan(0.03);
    expect(passed).toBe(0);
  });

  it('is refused where there are no eight contacts', () => {
    const coax = KINDS.map((_, n) => drawWorld(n + 1, 0)).find(({ link }) => !link.contacts.includes('8'));
    expect(
      coax && checkReading(coax.expected, shows('a', 'plus', 'none')).map(({ message }) => message),
    ).toEqual([
      'The near end has no eight contacts that could be fed.',
      'The far end has no eight contacts that could be fed.',
    ]);
    expect(checkReading(plain, shows('a', 'plus', 'none'))).toEqual([]);
  });
});

describe('a supply against the device planned', () => {
  const concernsOf = (type: string, deviceW: number, reading: PowerReading, sourceV?: number): string[] =>
    supplyConcerns({ type, deviceW, ...(sourceV ? { sourceV } : {}) }, reading).map(({ concern }) => concern);

  it('will do where it offers what is planned', () => {
    expect(concernsOf('type-2', 25, shows('a', 'plus', 'none', { volts: 53, offers: 'type-2' }))).toEqual([]);
    expect(concernsOf('type-4', 71, shows(null, 'plus', 'plus', { volts: 54 }))).toEqual([]);
    expect(concernsOf('passive-24', 12, shows('b', 'none', 'plus', { volts: 23.4 }))).toEqual([]);
  });

  it('is told where it gives nothing, too little, on too few pairs, or at other volts', () => {
    expect(concernsOf('type-1', 5, shows('a', 'none', 'none'))).toEqual(['nothing']);
    expect(concernsOf('type-2', 25, shows('a', 'plus', 'none', { offers: 'type-1' }))).toEqual([
      'too-little',
    ]);
    expect(concernsOf('type-3', 51, shows('both', 'plus', 'none'))).toEqual(['two-pairs']);
    expect(concernsOf('type-2', 25, shows('a', 'plus', 'none', { volts: 47 }))).toEqual(['volts']);
    expect(concernsOf('passive-24', 12, shows('b', 'none', 'plus', { volts: 48 }))).toEqual(['volts']);
    expect(concernsOf('type-2', 12, shows('a', 'plus', 'none', { volts: 44 }), 44)).toEqual([]);
  });

  it('that asks and one that does not are never taken for each other', () => {
    expect(concernsOf('type-2', 25, shows('b', 'none', 'plus', { offers: 'passive-48' }))).toEqual([
      'unasked',
    ]);
    expect(concernsOf('passive-24', 12, shows('b', 'none', 'plus', { offers: 'type-1' }))).toEqual(['waits']);
  });

  it('is never short for less power where it does for more', () => {
    for (const { id } of POWER_TYPES)
      for (const offers of POWER_TYPES.map((type) => type.id)) {
        const count = (deviceW: number): number =>
          concernsOf(id, deviceW, shows('a', 'plus', 'none', { offers })).length;
        for (let watts = 5; watts < 90; watts += 5)
          expect(count(watts)).toBeLessThanOrEqual(count(watts + 5));
      }
  });

  it('has words for each concern that say what and what to do', () => {
    const all = [
      shows('a', 'none', 'none'),
      shows('a', 'plus', 'none', { offers: 'type-1', volts: 60 }),
      shows('a', 'plus', 'none', { offers: 'passive-48', volts: 30 }),
    ].flatMap((reading) => supplyConcerns({ type: 'type-3', deviceW: 51 }, reading).map(supplyWords));
    expect(all.length).toBe(7);
    expect(new Set(all).size).toBe(6);
    expect(all).toContain(
      'The supply offers type 1, 12.95 W at the device, and 51 W are planned: another port or supply.',
    );
    expect(all).toContain('30 V is under the 50 V that this way of feeding begins with.');
  });
});
