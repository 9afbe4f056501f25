import {
  checkReading,
  diagnose,
  findIn,
  frameFor,
  intendedLink,
  observe,
  seededRandom,
  type CapacitanceReading,
  type Explanation,
  type InstrumentClass,
  type Random,
  type TrueLink,
} from '../src/index.js';
import { drawNormal } from '../src/quantities/random.js';
import { toState } from '../src/continuity/link-state.js';
import { likelihoodOf } from '../src/continuity/observers.js';
import { expectation, linkWith, rightMap, wired } from './links.js';
import { worldsOf, type Drawn } from './world/draw-world.js';
import { asTrueLink } from './world/told-to-core.js';
import { cableOf, faradsAt } from './world/world-farads.js';
import { take } from './world/world-instruments.js';
import { wrongOnlyAt, type Place, type WorldLink } from './world/world-link.js';

const plain = expectation();
const PAIRS = ['1-2', '3-6', '4-5', '7-8'];
const C = (plain.faradPerM ?? 0) * 1e9;
const reads = (end: CapacitanceReading['end'], ...nF: (number | null)[]): CapacitanceReading => ({
  instrument: 'capacitance-meter',
  end,
  nF: Object.fromEntries(PAIRS.map((pair, n) => [pair, nF[n] ?? null])),
});
const whole = Math.round(40 * C * 1000) / 1000;
const seenOn = (link: TrueLink, end: CapacitanceReading['end'] = 'near'): (number | null)[] =>
  Object.values(
    (observe(link, 'capacitance-meter', { end, frame: frameFor(plain, intendedLink) }) as CapacitanceReading)
      .nF,
  );
const straight = rightMap(plain);

/** Four-pair links of the world. */
const worlds = (from: number, to: number, wrongShare: number) =>
  worldsOf(from, to, wrongShare, ({ expected }) => expected.family === 'balanced');

/** A reading of the world: the cable's own figures, the meter's share, and each figure's own error. */
function taken({ link, expected }: Drawn, end: 'near' | 'far', chance: Random): CapacitanceReading {
  const typical = (expected.faradPerM ?? 50e-12) * 1e12 * (1 + 0.05 * drawNormal(chance));
  const cable = cableOf(typical, 0.1 + 0.1 * chance(), link.twisted.length);
  const share = 1 + 0.015 * drawNormal(chance);
  const nF = Object.entries(faradsAt(link, end, cable)).map(([pair, figure]) => [
    pair,
    figure === null
      ? null
      : Math.max(
          0,
          Math.round(1000 * (figure * share * (1 + 0.01 * drawNormal(chance)) + 0.004 * drawNormal(chance))) /
            1000,
        ),
  ]);
  return { instrument: 'capacitance-meter', end, nF: Object.fromEntries(nF) as CapacitanceReading['nF'] };
}

/** Work with its share of belief, the likeliest first of all that asks for the same places. */
function mostBelieved(explanations: readonly Explanation[]): [string, number] {
  const shares = new Map<string, number>();
  for (const { repair, probability } of explanations) {
    const places = [...repair.places].sort().join();
    shares.set(places, (shares.get(places) ?? 0) + probability);
  }
  return [...shares].sort((a, b) => b[1] - a[1])[0] as [string, number];
}

/** The smallest sets of places whose mishaps alone would show what a map and a meter at the near end show. */
function enough(link: WorldLink): string[] {
  const cable = cableOf(50, 0.15, link.twisted.length);
  const whole = (50 * link.lengthM) / 1000;
  const shown = (one: WorldLink): [string, (number | null)[]] => [
    JSON.stringify(take(one, 'coded-mapper', { chance: null })),
    Object.values(faradsAt(one, 'near', cable)),
  ];
  const [map, farads] = shown(link);
  const explains = (places: readonly Place[]): boolean => {
    const [itsMap, itsFarads] = shown(wrongOnlyAt(link, places));
    return (
      itsMap === map &&
      itsFarads.every((nF, n) => {
        const seen = farads[n] ?? null;
        return nF === null || seen === null ? nF === seen : Math.abs(nF - seen) < 0.05 * whole;
      })
    );
  };
  const all: Place[] = ['cable', 'far', 'near', 'outlet', 'unplug'];
  const sets = Array.from({ length: 32 }, (_, bits) => all.filter((_place, n) => (bits >> n) & 1)).filter(
    explains,
  );
  const least = Math.min(...sets.map((places) => places.length));
  return sets.filter((places) => places.length === least).map((places) => places.join());
}

describe('a capacitance meter', () => {
  it('shows the length of each pair, up to where a wire of it ends', () => {
    expect(seenOn(linkWith(plain))).toEqual([whole, whole, whole, whole]);
    const cut = linkWith(plain, { breaks: [{ conductor: 'BU', atM: 10 }] });
    expect(seenOn(cut)[2]).toBeCloseTo(10 * C, 2);
    expect(seenOn(cut, 'far')[2]).toBeCloseTo(30 * C, 2);
    expect(seenOn(linkWith(plain, { unseated: [{ end: 'near', contact: '4' }] }))[2]).toBe(0);
  });

  it('shows no figure for a loop, and far less for wires of two pairs', () => {
    const bridged = linkWith(plain, { bridges: [{ end: 'far', contacts: ['1', '2'], ohm: 0 }] });
    expect(seenOn(bridged)).toEqual([null, whole, whole, whole]);
    expect(seenOn(linkWith(plain, { equipment: ['far'] }))).toEqual([null, null, null, null]);
    const split = wired('WH-OG', 'OG', 'WH-GN', 'GN', 'WH-BU', 'BU', 'WH-BN', 'BN');
    const [a, b, c, d] = seenOn(linkWith(plain, { near: split, far: split })) as number[];
    expect([a, d]).toEqual([whole, whole]);
    expect(b).toBeLessThan(0.7 * whole);
    expect(c).toBe(b as number);
  });

  it('shows what a network of floating wires shows, split pairs and poor joints among it', () => {
    const off: number[] = [];
    let [split, loops] = [0, 0];
    for (const drawn of worlds(1, 500, 0.8)) {
      const { link, expected } = drawn;
      if (drawn.kind.screened || link.elsewhere) continue;
      const told = asTrueLink(link, expected);
      const frame = frameFor(expected, intendedLink);
      const mutual = (expected.faradPerM ?? 0) * 1e12;
      for (const end of ['near', 'far'] as const) {
        const world = faradsAt(link, end, cableOf(mutual, 0.15, 4));
        const { nF } = observe(told, 'capacitance-meter', { end, frame }) as CapacitanceReading;
        for (const [pair, figure] of Object.entries(world)) {
          const seen = nF[pair] ?? null;
          if (figure === null || seen === null) {
            if (figure === null) loops++;
            expect([drawn.seed, pair, seen]).toEqual([drawn.seed, pair, figure]);
            continue;
          }
          const full = mutual * link.lengthM * 1e-3;
          if (figure < 0.7 * full && figure > 0.4 * full) split++;
          off.push(Math.abs(seen - figure) / full);
        }
      }
    }
    off.sort((a, b) => a - b);
    expect(off.length).toBeGreaterThan(1000);
    expect(loops).toBeGreaterThan(20);
    expect(split).toBeGreaterThan(20);
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.06);
  });

  it('is never likelier than its best, and sums to one over what a pair can show', () => {
    const frame = frameFor(plain, intendedLink);
    const states = [
      {},
      { breaks: [{ conductor: 'BU' as const, atM: 10 }] },
      { bridges: [{ end: 'far' as const, contacts: ['4', '5'] as const, ohm: 0 }] },
    ].map((change) => toState(frame, linkWith(plain, change)));
    const only = (nF: number | null): CapacitanceReading => ({
      instrument: 'capacitance-meter',
      end: 'near',
      nF: { '4-5': nF },
    });
    const stepM = 0.05;
    for (const state of states) {
      let sum = Math.exp(likelihoodOf(frame, only(null)).of(state, 0));
      for (let metres = -2; metres < 60; metres += stepM) {
        const one = likelihoodOf(frame, only(metres * C));
        expect(one.of(state, 0)).toBeLessThanOrEqual(one.best + 1e-3);
        if (metres >= 0) sum += Math.exp(one.of(state, 0)) * stepM;
      }
      expect(sum).toBeGreaterThan(0.97);
      expect(sum).toBeLessThan(1.03);
    }
  });
});

describe('a reading of capacitances', () => {
  it('is clean where all pairs agree, and proves nothing by itself', () => {
    const clean = reads('near', 2.05, 2.07, 2.04, 2.06);
    expect(findIn(plain, clean)).toEqual([]);
    expect(diagnose(plain, [clean]).result).toBe('cannot-tell');
    expect(diagnose(plain, [straight, clean]).result).toBe('pass');
  });

  it('says where a pair ends, and what shows no figure', () => {
    const words = findIn(plain, reads('far', 2.05, 0.51, null, 2.06)).map((finding) => finding.words);
    expect(words).toEqual([
      '3-6 ends at about 10 m from the far end, or is split (0.51 nF)',
      '4-5 is a loop, or has something on it',
    ]);
    expect(findIn(plain, reads('near', 2.05, 0.01, 2.05, 4.4)).map(({ kind }) => kind)).toEqual([
      'open',
      'equipment',
    ]);
  });

  it('of pairs that agree, and not with the plan, speaks of the length', () => {
    const short = reads('near', 1.2, 1.21, 1.19, 1.2);
    expect(findIn(plain, short).map(({ words }) => words)).toEqual([
      'whole pairs have that of about 25 m where the plan has 40.0 m',
    ]);
    expect(diagnose(plain, [straight, short]).detail).toContain("correct the plan's length");
    // Three pairs with nothing on them are not whole because they agree.
    expect(findIn(plain, reads('near', 0.003, 0.004, 0.003, 2.05)).map(({ kind }) => kind)).toEqual([
      'open',
      'open',
      'open',
    ]);
  });

  it('tells with a map at which end a wire is open', () => {
    const open = { ...straight, arrivals: { ...straight.arrivals, 4: [] } };
    const near = diagnose(plain, [open, reads('near', whole, whole, 0.01, whole)]);
    expect(near.result).toBe('fail');
    expect(near.explanations[0]?.repair.places).toEqual(['near']);
    const far = diagnose(plain, [open, reads('near', whole, whole, whole, whole)]);
    expect(far.explanations[0]?.repair.places).toEqual(['far']);
  });

  it('tells a pair that is split from one that is right, where a plain map cannot', () => {
    const split = reads('near', 2.05, 1.16, 1.18, 2.06);
    const { result, explanations } = diagnose(plain, [straight, split]);
    expect(result).toBe('fail');
    expect(explanations[0]?.faults.map(({ kind }) => kind)).toContain('split');
  });

  it('calls hardly any sound link of the world wrong, and is right as often as it says', () => {
    const chance = seededRandom(31);
    let [sound, called, judged, right, belief] = [0, 0, 0, 0, 0];
    for (const drawn of worlds(4000, 4400, 0.7)) {
      const { link, expected, story } = drawn;
      const map = take(link, 'coded-mapper', { chance: null });
      const { result, explanations } = diagnose(expected, [map, taken(drawn, 'near', chance)]);
      if (story.length === 0) {
        sound++;
        called += result === 'fail' ? 1 : 0;
      } else if (result === 'fail' && explanations[0]) {
        const [places, share] = mostBelieved(explanations);
        judged++;
        belief += share;
        right += enough(link).includes(places) ? 1 : 0;
      }
    }
    expect(sound).toBeGreaterThan(50);
    expect(called / sound).toBeLessThan(0.04);
    expect(judged).toBeGreaterThan(120);
    // Over 1,800 seeds it is 0.03 under what it says; here so many are judged that chance has as much again.
    expect(right / judged).toBeGreaterThan(belief / judged - 0.06);
  });

  it('is asked for where a crew has a meter and no reflectometer', () => {
    const open = { ...straight, arrivals: { ...straight.arrivals, 4: [] } };
    const asked = (...owned: InstrumentClass[]): (string | undefined)[] => {
      const { nextLook, otherLooks } = diagnose(plain, [open], undefined, owned);
      return [nextLook, ...otherLooks].map((look) => look?.instrument);
    };
    expect(asked('coded-mapper', 'capacitance-meter')).toContain('capacitance-meter');
    expect(asked('coded-mapper', 'capacitance-meter', 'pair-reflectometer')).not.toContain(
      'capacitance-meter',
    );
  });

  it('is refused for pairs that the link does not have', () => {
    const wrong = { ...reads('near', 2, 2, 2, 2), nF: { '1-3': 2 } };
    expect(checkReading(plain, wrong)[0]?.message).toContain('This link has no 1-3');
    expect(checkReading(plain, { ...wrong, nF: {} })[0]?.message).toBe('Measure at least one pair.');
    expect(checkReading(plain, { ...wrong, nF: { '4-5': null } })).toEqual([]);
  });
});
