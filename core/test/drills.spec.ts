import { CONTACT_LAYOUTS, conductorAt, expectedMap, lookAt } from '@near-spoke/core';
import {
  calledFor,
  DRILL_KINDS,
  DRILLS,
  makeDrill,
  isRightReply,
  type ChoiceDrill,
  type Drill,
  type DrillKind,
} from '@near-spoke/core/drills';

const SEEDS = Array.from({ length: 120 }, (_, n) => n * 7919 + 1);
const drills = (kind: DrillKind): Drill[] => SEEDS.map((seed) => makeDrill(kind, seed));
const choices = (kind: DrillKind): ChoiceDrill[] =>
  drills(kind).flatMap((drill) => (drill.by === 'choice' ? [drill] : []));
const rightOf = ({ options, right }: ChoiceDrill): string => options[right]?.words ?? '';
const LAID = DRILL_KINDS.filter((kind) => makeDrill(kind, 1).by === 'laying');
const CHOSEN = DRILL_KINDS.filter((kind) => makeDrill(kind, 1).by === 'choice');
const figures = (text: string): number[] =>
  [...text.matchAll(/\d+(?:\.\d+)?/g)].map(([each]) => Number(each));

describe('a drill', () => {
  for (const kind of CHOSEN)
    it(`of ${DRILLS[kind].name.toLowerCase()} has two to four different answers, one right, and its reason`, () => {
      for (const drill of choices(kind)) {
        const words = drill.options.map((option) => option.words);
        expect(new Set(words).size).withContext(drill.asks).toBe(words.length);
        expect(words.length).withContext(drill.asks).toBeGreaterThanOrEqual(2);
        expect(words.length).withContext(drill.asks).toBeLessThanOrEqual(4);
        expect(rightOf(drill)).withContext(drill.asks).not.toBe('');
        expect(drill.reason.length).withContext(drill.asks).toBeGreaterThan(10);
        expect(`${drill.asks} ${drill.reason} ${words.join(' ')}`).not.toMatch(/undefined|null|NaN/);
      }
      expect(makeDrill(kind, 4)).toEqual(makeDrill(kind, 4));
      expect(
        new Set(drills(kind).map(({ asks, picture }) => `${asks} ${JSON.stringify(picture)}`)).size,
      ).toBeGreaterThan(5);
      // The right answer is not always at the same key.
      expect(new Set(choices(kind).map(({ right }) => right)).size).toBeGreaterThan(1);
    });

  for (const kind of LAID)
    it(`of ${DRILLS[kind].name.toLowerCase()} has a piece for each place, and none lies right from the start`, () => {
      for (const drill of drills(kind)) {
        if (drill.by !== 'laying') throw new Error('no pieces');
        const every = drill.pieces.map((_piece, n) => n);
        expect([...drill.right].sort((a, b) => a - b)).toEqual(every);
        expect(drill.places.length).toBe(drill.pieces.length);
        expect(isRightReply(drill, { chosen: null, laid: drill.right })).toBeTrue();
        expect(isRightReply(drill, { chosen: null, laid: [...drill.right].reverse() })).toBeFalse();
        for (const laid of [null, [], every.slice(1), every.map(() => 0), every.map((n) => n + 1)])
          expect(() => isRightReply(drill, { chosen: null, laid })).toThrowError(
            RangeError,
            /one piece into each/,
          );
        expect(() => isRightReply(drill, { chosen: 0, laid: null })).toThrowError(RangeError);
      }
      expect(new Set(drills(kind).map(({ asks }) => asks)).size).toBe(4);
    });

  it('of laying the eight reads as the standard with the latch down, and back to front with it up', () => {
    const rows: Record<string, string> = {
      T568A: 'WH-GN GN WH-OG BU WH-BU OG WH-BN BN',
      T568B: 'WH-OG OG WH-GN BU WH-BU GN WH-BN BN',
    };
    for (const drill of drills('lay-the-eight')) {
      if (drill.by !== 'laying') throw new Error('no pieces');
      const [, scheme = '', latch] = /^(T568[AB]), latch (up|down)/.exec(drill.asks) ?? [];
      const row = rows[scheme]?.split(' ') ?? [];
      expect(drill.right.map((n) => drill.pieces[n]?.conductor ?? '')).toEqual(
        latch === 'down' ? row : row.reverse(),
      );
    }
  });

  it('of choices takes one of them and nothing else', () => {
    const [drill] = choices('how-far') as [ChoiceDrill];
    expect(isRightReply(drill, { chosen: drill.right, laid: null })).toBeTrue();
    expect(isRightReply(drill, { chosen: drill.right === 0 ? 1 : 0, laid: null })).toBeFalse();
    for (const chosen of [null, -1, 4])
      expect(() => isRightReply(drill, { chosen, laid: null })).toThrowError(RangeError);
    expect(() => isRightReply(drill, { chosen: null, laid: [0] })).toThrowError(RangeError);
  });

  it('of the order of eight agrees with the standard’s own row', () => {
    const rows: Record<string, string> = {
      T568A: 'WH-GN GN WH-OG BU WH-BU OG WH-BN BN',
      T568B: 'WH-OG OG WH-GN BU WH-BU GN WH-BN BN',
    };
    for (const drill of choices('order-of-eight')) {
      const [, scheme = '', contact = ''] = /^(T568[AB]).*contact (\d)/.exec(drill.asks) ?? [];
      expect(rightOf(drill)).toBe(rows[scheme]?.split(' ')[Number(contact) - 1] ?? '');
    }
  });

  it('of a plug turned over counts from the left latch down, from the right latch up', () => {
    for (const drill of choices('plug-turned')) {
      if (drill.picture?.shows !== 'plug') throw new Error('no plug');
      const { latch, place } = drill.picture;
      expect(Number(rightOf(drill))).toBe(latch === 'down' ? place + 1 : 8 - place);
    }
  });

  it('of a face has the mirror’s contact among the wrong ones, wherever it is another', () => {
    for (const drill of choices('which-face')) {
      if (drill.picture?.shows !== 'face') throw new Error('no face');
      const { layout: id, view, contact } = drill.picture;
      const layout = CONTACT_LAYOUTS.find((each) => each.id === id);
      if (!layout) throw new Error(id);
      expect(rightOf(drill)).toBe(contact);
      const mine = lookAt(layout, view).find((each) => each.contact === contact);
      const other = lookAt(layout, { ...view, face: view.face === 'rear' ? 'mating' : 'rear' }).find(
        ({ xMm, yMm }) => mine && Math.hypot(xMm - mine.xMm, yMm - mine.yMm) < 0.05,
      );
      if (other && other.contact !== contact)
        expect(drill.options.map(({ words }) => words)).toContain(other.contact);
    }
  });

  it('of the wrong end asks for a look where nobody has looked, and else for the end that is not as the job', () => {
    for (const drill of choices('which-end')) {
      const [, job = ''] = /job is (T568[AB])/.exec(drill.asks) ?? [];
      const near = /Near end: (\S+) on contact 1/.exec(drill.asks)?.[1];
      const wanted =
        near === undefined
          ? 'neither yet: look at the colours of one end'
          : near === conductorAt(job as 'T568A', '1')
            ? 'the far end'
            : 'the near end';
      expect(rightOf(drill)).toBe(wanted);
    }
  });

  it('of a map names what crosses in it', () => {
    const sound = expectedMap('straight', false);
    const pairs = [
      ['1', '2'],
      ['3', '6'],
      ['4', '5'],
      ['7', '8'],
    ];
    for (const drill of choices('what-the-map-shows')) {
      if (drill.picture?.shows !== 'map') throw new Error('no map');
      const { map } = drill.picture;
      const off = Object.keys(sound).filter((contact) => map[contact] !== contact);
      const open = off.filter((contact) => map[contact] === null);
      const samePair = pairs.some((pair) => off.length === 2 && off.every((each) => pair.includes(each)));
      const wanted =
        open.length > 0
          ? 'one wire is open'
          : off.length === 8
            ? 'one end is put on back to front'
            : off.length === 4
              ? 'two whole pairs are exchanged'
              : samePair
                ? 'the two wires of a pair are exchanged'
                : 'two wires of different pairs are exchanged';
      expect(rightOf(drill)).withContext(JSON.stringify(map)).toBe(wanted);
    }
  });

  it('of a distance and of two capacitances is right by hand', () => {
    for (const drill of choices('how-far')) {
      const [ns = 0, vf = 0] = figures(drill.asks);
      expect(Math.abs((figures(rightOf(drill))[0] ?? NaN) - (vf * 0.299792458 * ns) / 2)).toBeLessThan(0.06);
    }
    for (const drill of choices('open-by-capacitance')) {
      const [lengthM = 0, near = 0, far = 0] = figures(drill.asks);
      expect(Math.abs((figures(rightOf(drill))[0] ?? NaN) - (lengthM * near) / (near + far))).toBeLessThan(
        0.06,
      );
    }
  });

  it('of a tool’s size tells what another size of that tool does, not of another tool', () => {
    const speaksOf: readonly [RegExp, RegExp][] = [
      [/stripper/, /nicks the core/],
      [/insertion tool/, /slot/],
      [/compression tool/, /pressed/],
      [/hex crimp/, /ferrule/],
      [/pin crimp/, /\bpin\b/],
    ];
    for (const drill of choices('which-die'))
      for (const [tool, effect] of speaksOf)
        expect(tool.test(drill.asks))
          .withContext(`${drill.asks} ${drill.reason}`)
          .toBe(effect.test(drill.reason));
  });

  it('of a trace shows the echo that its answer speaks of', () => {
    for (const drill of choices('read-a-trace').slice(0, 40)) {
      if (drill.picture?.shows !== 'trace') throw new Error('no trace');
      const { volts } = drill.picture;
      const launch = Math.max(...volts.slice(0, 80));
      // The first echo after the launch that stands out.
      const from = volts.findIndex((volt, n) => n > 80 && Math.abs(volt) > 0.08 * launch);
      const after = volts.slice(from, from + 25);
      const peak = after.reduce((most, volt) => (Math.abs(volt) > Math.abs(most) ? volt : most), 0);
      const upright = /broken|resistance/.test(rightOf(drill));
      expect(peak > 0)
        .withContext(`${drill.asks} ${rightOf(drill)}`)
        .toBe(upright);
    }
  });
});

describe('what practice is called for', () => {
  it('follows from what was found wrong at work', () => {
    const called = calledFor([
      { slip: 'mirror', times: 3 },
      { slip: 'screen-not-bonded', times: 1 },
      { slip: 'nothing of ours', times: 9 },
    ]);
    expect([
      called['plug-turned'],
      called['which-face'],
      called['what-goes-on-first'],
      called['how-far'],
    ]).toEqual([3, 3, 1, 0]);
  });
});
