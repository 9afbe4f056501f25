import fc from 'fast-check';
import {
  gangsPlan,
  handSeconds,
  inOrderSeconds,
  judgeTouches,
  linkProofCost,
  pointKey,
  probeMoves,
  probesPlan,
  stepSeconds,
  USUAL_HANDS,
  wouldBeep,
  wrongTouches,
  type AdapterEnd,
  type Net,
  type ProbePoint,
} from '@near-spoke/core';
import { expectation } from '../links.js';
import { anyNets, end, endsOf } from './any-nets.js';
import { sound, wrongLeads } from './wrong-leads.js';

/** The fewest seconds of any order of touches of two probes that leaves nothing open: all states gone through, cheapest first. */
function fewestSeconds(nets: readonly Net[], ends: readonly AdapterEnd[]): number {
  const move = probeMoves(ends);
  const points = nets.flatMap(({ points: some }, net) => some.map((point) => ({ point, net })));
  const pairs = points.flatMap((one, a) =>
    points.slice(a + 1).map((other, b) => ({ one, other, a, b: a + 1 + b })),
  );
  // Of each net its pairs of contacts, of which all but one of its contacts' number have to be touched; each two nets once.
  const bits = new Map<string, number>();
  const bitOf = ({ one, other }: (typeof pairs)[number]): number => {
    const key =
      one.net === other.net
        ? `${pointKey(one.point)}|${pointKey(other.point)}`
        : `${Math.min(one.net, other.net)}-${Math.max(one.net, other.net)}`;
    if (!bits.has(key)) bits.set(key, bits.size);
    return bits.get(key) as number;
  };
  const touches = pairs.map((pair) => ({
    ...pair,
    bit: bitOf(pair),
    beeps: pair.one.net === pair.other.net,
  }));
  const apart = touches.filter(({ beeps }) => !beeps).reduce((mask, { bit }) => mask | (1 << bit), 0);
  const own = nets.map(({ points: some }, net) => ({
    most: some.length - 1,
    mask: touches
      .filter(({ beeps, one }) => beeps && one.net === net)
      .reduce((mask, { bit }) => mask | (1 << bit), 0),
  }));
  const count = (mask: number): number => mask.toString(2).replaceAll('0', '').length;
  const done = (mask: number): boolean =>
    (mask & apart) === apart && own.every((each) => count(mask & each.mask) >= each.most);
  interface State {
    mask: number;
    at: number;
    /** Contact that stays through a sweep; -1: no sweep, -2: either. */
    stays: number;
    seconds: number;
  }
  const heaps = new Map<number, State[]>();
  const scale = 10;
  const put = (state: State): void => {
    const slot = Math.round(state.seconds * scale);
    const some = heaps.get(slot);
    if (some) some.push(state);
    else heaps.set(slot, [state]);
  };
  const seen = new Set<number>();
  put({ mask: 0, at: -1, stays: -1, seconds: 0 });
  for (let slot = 0; slot < 1e5; slot++) {
    const some = heaps.get(slot) ?? [];
    for (const { mask, at, stays, seconds } of some) {
      const key = (mask * 64 + at + 1) * 64 + stays + 2;
      if (seen.has(key)) continue;
      seen.add(key);
      if (done(mask)) return seconds;
      const from = touches[at];
      touches.forEach((touch, n) => {
        if ((mask >> touch.bit) & 1) return;
        const step = stepSeconds(
          from ? [from.one.point, from.other.point] : null,
          [touch.one.point, touch.other.point],
          move,
          USUAL_HANDS,
        );
        const common = from ? [from.a, from.b].filter((p) => p === touch.a || p === touch.b) : [];
        const goesOn =
          !touch.beeps && stays !== -1 && common.length === 1 && (stays === -2 || stays === common[0]);
        put({
          mask: mask | (1 << touch.bit),
          at: n,
          stays: touch.beeps ? -1 : goesOn ? (common[0] as number) : -2,
          seconds: seconds + step + (goesOn ? 0 : USUAL_HANDS.answerS),
        });
      });
    }
    heaps.delete(slot);
  }
  throw new Error('Nothing left to try.');
}

describe('a plan for two probes', () => {
  it('shows every single open, short and exchange, on whatever lead', () => {
    fc.assert(
      fc.property(anyNets(14, 8), (nets) => {
        const { touches } = probesPlan(nets, endsOf(nets));
        expect(wrongTouches(touches, sound(nets))).toEqual([]);
        for (const { what, real } of wrongLeads(nets))
          if (wrongTouches(touches, real).length === 0) throw new Error(`${what} is not seen`);
      }),
      { numRuns: 60 },
    );
  });

  it('never asks for more than two probes, and stands still while it sweeps', () => {
    fc.assert(
      fc.property(anyNets(12, 8), (nets) => {
        for (const touch of probesPlan(nets, endsOf(nets)).touches) {
          expect(touch.one.length).toBe(1);
          expect(touch.sweep === true || touch.other.length === 1).toBeTrue();
        }
      }),
      { numRuns: 30 },
    );
  });

  it('never takes longer than touching all in order, and its seconds are those of its list', () => {
    fc.assert(
      fc.property(anyNets(14, 10), (nets) => {
        const ends = endsOf(nets);
        const plan = probesPlan(nets, ends);
        expect(plan.seconds).toBeLessThanOrEqual(inOrderSeconds(nets, ends) + 1e-9);
        expect(handSeconds(plan.touches, probeMoves(ends))).toBeCloseTo(plan.seconds, 6);
      }),
      { numRuns: 60 },
    );
  });

  it('is mostly the best of all orders there are, and never a third longer, up to seven contacts', () => {
    const over: number[] = [];
    fc.assert(
      fc.property(anyNets(7, 4), (nets) => {
        const ends = endsOf(nets);
        const fewest = fewestSeconds(nets, ends);
        const { seconds } = probesPlan(nets, ends);
        expect(seconds).toBeGreaterThanOrEqual(fewest - 1e-6);
        if (fewest > 0) over.push(seconds / fewest - 1);
      }),
      { numRuns: 40, seed: 22 },
    );
    const sorted = over.sort((a, b) => a - b);
    expect(sorted[Math.floor(sorted.length / 2)]).toBeLessThan(1e-6);
    expect(sorted[Math.floor(sorted.length * 0.9)]).toBeLessThan(0.2);
    expect(sorted.at(-1)).toBeLessThan(1 / 3);
  });

  it('slides to the contact beside by where contacts lie, not by their numbers', () => {
    // A 2 by 5 header is numbered across: 1 lies beside 2 and 3, not beside 10.
    const contacts = ['1', '2', '3', '9', '10'];
    const move = probeMoves([end('A', contacts, 'header-2x5')]);
    const a = (contact: string): ProbePoint => ({ end: 'A', contact });
    expect(move(a('1'), a('2'))).toBe(USUAL_HANDS.besideS);
    expect(move(a('1'), a('3'))).toBe(USUAL_HANDS.besideS);
    expect(move(a('3'), a('9'))).toBe(USUAL_HANDS.oneS);
    expect(move(a('9'), { end: 'B', contact: '9' })).toBe(USUAL_HANDS.oneS + USUAL_HANDS.turnS);
  });

  it('costs a gang its clips: four wires are quicker with two probes, however few its touches are', () => {
    const nets = ['1', '2', '3', '4'].map((contact) => ({
      name: contact,
      points: [
        { end: 'A', contact },
        { end: 'B', contact },
      ],
    }));
    const [probes, gangs] = [probesPlan(nets), gangsPlan(nets)];
    expect(gangs.touches.length).toBeLessThan(probes.touches.length);
    expect(gangs.seconds).toBeGreaterThan(probes.seconds);
    // One probe to seven places, the other beside it: by hand, 4 beeps and 3 sweeps over 3, 2 and 1 contacts.
    expect(probes.touches.map(({ should, other }) => `${should} ${other.length}`)).toEqual([
      'beep 1',
      'stay silent 3',
      'beep 1',
      'stay silent 2',
      'beep 1',
      'stay silent 1',
      'beep 1',
    ]);
  });
});

describe('a link under two probes', () => {
  it('costs hands less than under clips, though it takes more touches', () => {
    const plain = expectation();
    const [probes, clips] = [linkProofCost(plain, 'probes'), linkProofCost(plain, 'clips')];
    expect([probes.touches, clips.touches]).toEqual([15, 11]);
    expect(probes.seconds).toBeLessThan(clips.seconds);
    // By hand: seven sweeps over 7 to 1 contacts, then one probe to each path's two ends.
    const { bothS, oneS, besideS, answerS } = USUAL_HANDS;
    const slow = linkProofCost(plain, 'probes', { ...USUAL_HANDS, answerS: answerS + 1 });
    expect(slow.seconds - probes.seconds).toBeCloseTo(15, 6);
    expect(probes.seconds).toBeGreaterThan(bothS + 20 * besideS + 15 * answerS);
    expect(probes.seconds).toBeLessThan(15 * bothS + 28 * oneS + 15 * answerS);
  });
});

describe('touches as they were made', () => {
  it('prove a sound lead by whichever list, and less than all of a list proves nothing', () => {
    fc.assert(
      fc.property(anyNets(10, 6), fc.nat(), (nets, which) => {
        for (const { touches } of [probesPlan(nets, endsOf(nets)), gangsPlan(nets)]) {
          const made = touches.map((touch) => ({ ...touch, beeped: wouldBeep(touch, sound(nets)) }));
          expect(judgeTouches(nets, made)).toBe('proved');
          if (made.length === 0) continue;
          const left = made.filter((_touch, n) => n !== which % made.length);
          expect(judgeTouches(nets, left)).toBe('unfinished');
        }
      }),
      { numRuns: 60 },
    );
  });

  it('fail a lead with any one thing wrong', () => {
    fc.assert(
      fc.property(anyNets(8, 5), (nets) => {
        const { touches } = probesPlan(nets, endsOf(nets));
        for (const { real } of wrongLeads(nets)) {
          const made = touches.map((touch) => ({ ...touch, beeped: wouldBeep(touch, real) }));
          expect(judgeTouches(nets, made)).toBe('failed');
        }
      }),
      { numRuns: 20 },
    );
  });

  it('speak of contacts that the lead has', () => {
    const nets = [{ name: 'GND', points: [{ end: 'A', contact: '1' }] }];
    const stray = { one: [{ end: 'A', contact: '1' }], other: [{ end: 'A', contact: '9' }], beeped: false };
    expect(() => judgeTouches(nets, [stray])).toThrowError(RangeError, 'This lead has no contact 9 at A.');
  });
});
