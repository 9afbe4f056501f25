import {
  designLampTester,
  expectTold,
  intendedLink,
  observe,
  type LampReading,
  type TrueLink,
} from '../src/index.js';

const tested = expectTold({
  cable: 'cat6-u',
  scheme: 'T568B',
  lengthM: 30,
  near: 'jack-punched',
  far: 'jack-punched',
});
const parts = { supplyV: 9, lampDropV: 2, lampMa: 10, pairs: 4, loopOhm: 25 };
const sound = intendedLink(tested);
const EIGHT = [...'12345678'];
/** Pairs of the plug, feed (white-based) first. */
const PAIRS: readonly [string, string][] = [
  ['1', '2'],
  ['3', '6'],
  ['5', '4'],
  ['7', '8'],
];

type Mishap = (link: TrueLink) => TrueLink;
const exchange =
  (a: string, b: string): Mishap =>
  (link) => ({ ...link, far: { ...link.far, [a]: link.far[b] ?? null, [b]: link.far[a] ?? null } });
const open =
  (contact: string): Mishap =>
  (link) => ({ ...link, near: { ...link.near, [contact]: null } });
const short =
  (a: string, b: string): Mishap =>
  (link) => ({ ...link, bridges: [...link.bridges, { end: 'near', contacts: [a, b] }] });
const two = (make: (a: string, b: string) => Mishap): Mishap[] =>
  EIGHT.flatMap((a, i) => EIGHT.slice(i + 1).map((b) => make(a, b)));
const MISHAPS: readonly Mishap[] = [...EIGHT.map(open), ...two(exchange), ...two(short)];

/** Lamps by a circuit of its own, solved node by node: nothing of the observer's is used. */
function lampsOf(link: TrueLink): boolean[] {
  const names = [...EIGHT.map((n) => `near ${n}`), ...EIGHT.map((n) => `far ${n}`)];
  const index = new Map(names.map((name, n) => [name, n]));
  const size = names.length;
  const matrix = names.map(() => new Array<number>(size + 1).fill(0));
  const at = (name: string): number => index.get(name) as number;
  const put = (row: number, column: number, value: number): void => {
    (matrix[row] as number[])[column] = ((matrix[row] as number[])[column] ?? 0) + value;
  };
  const between = (a: number, b: number, ohm: number): void => {
    put(a, a, 1 / ohm);
    put(b, b, 1 / ohm);
    put(a, b, -1 / ohm);
    put(b, a, -1 / ohm);
  };
  const toVolts = (a: number, ohm: number, volts: number): void => {
    put(a, a, 1 / ohm);
    put(a, size, volts / ohm);
  };
  // A leak ties everything down.
  names.forEach((_, n) => toVolts(n, 1e9, 0));
  for (const near of EIGHT)
    for (const far of EIGHT)
      if (link.near[near] != null && link.near[near] === link.far[far])
        between(at(`near ${near}`), at(`far ${far}`), 2.5);
  for (const { end, contacts } of link.bridges)
    between(at(`${end} ${contacts[0]}`), at(`${end} ${contacts[1]}`), 0.01);
  for (const [a, b] of PAIRS) between(at(`far ${a}`), at(`far ${b}`), 0.01);
  // A lamp as what is left of the supply behind its drop, through its resistor; all on one return.
  const DRIVE = 7;
  const OHM = 820;
  for (const [feed, back] of PAIRS) {
    toVolts(at(`near ${feed}`), OHM, DRIVE);
    toVolts(at(`near ${back}`), 0.01, 0);
  }
  const volts = solve(matrix);
  return PAIRS.map(([feed]) => (DRIVE - (volts[at(`near ${feed}`)] as number)) / OHM > DRIVE / OHM / 3);
}

function solve(given: readonly number[][]): number[] {
  const m = given.map((row) => [...row]);
  const size = m.length;
  for (let n = 0; n < size; n++) {
    const best = m
      .slice(n)
      .reduce((top, row, k) => (Math.abs(row[n] ?? 0) > Math.abs(m[top]?.[n] ?? 0) ? n + k : top), n);
    [m[n], m[best]] = [m[best] as number[], m[n] as number[]];
    for (let r = n + 1; r < size; r++) {
      const by = ((m[r] as number[])[n] as number) / ((m[n] as number[])[n] as number);
      if (by !== 0)
        for (let c = n; c <= size; c++)
          (m[r] as number[])[c] = ((m[r] as number[])[c] as number) - by * ((m[n] as number[])[c] as number);
    }
  }
  const x = new Array<number>(size).fill(0);
  for (let n = size - 1; n >= 0; n--) {
    let sum = (m[n] as number[])[size] as number;
    for (let c = n + 1; c < size; c++) sum -= ((m[n] as number[])[c] as number) * (x[c] as number);
    x[n] = sum / ((m[n] as number[])[n] as number);
  }
  return x;
}

describe('a home-made lamp tester, drawn', () => {
  it('whose lamps share one return shows every lamp as its circuit would, for all single and double mishaps', () => {
    const shown = (link: TrueLink): boolean[] => {
      const { lamps } = observe(link, 'lamps-one-return') as LampReading;
      return ['1-2', '3-6', '4-5', '7-8'].map((pair) => lamps[pair] ?? false);
    };
    expect(shown(sound)).toEqual([true, true, true, true]);
    let cases = 0;
    const held = (link: TrueLink, which: string): void => {
      cases++;
      if (shown(link).join() !== lampsOf(link).join())
        fail(`${which}: observed ${shown(link).join()}, circuit ${lampsOf(link).join()}`);
    };
    MISHAPS.forEach((mishap, i) => {
      held(mishap(sound), `mishap ${i}`);
      MISHAPS.slice(i + 1).forEach((other, k) => held(other(mishap(sound)), `mishaps ${i} and ${i + 1 + k}`));
    });
    expect(cases).toBeGreaterThan(2000);
  });

  it('passes exchanges among its returns and among its feeds, and is proved with a cord that it does show', () => {
    const one = designLampTester({ ...parts, returns: 'one for all' }, tested);
    const each = designLampTester(parts, tested);
    for (const [tester, instrument] of [
      [one, 'lamps-one-return'],
      [each, 'lamp-pairs'],
    ] as const)
      for (const [cord, dark] of [
        [tester.shows, true],
        [tester.passes, false],
      ] as const) {
        expect(cord).withContext(instrument).not.toBeNull();
        if (!cord) continue;
        const { lamps } = observe(exchange(...cord.exchanged)(sound), instrument) as LampReading;
        expect(Object.keys(lamps).filter((pair) => !lamps[pair]))
          .withContext(instrument)
          .toEqual([...cord.dark]);
        expect(cord.dark.length > 0)
          .withContext(instrument)
          .toBe(dark);
      }
    // Two feeds, or two returns, in each other's place: every lamp still finds a way back.
    for (const [a, b] of [
      ['1', '3'],
      ['2', '6'],
    ] as const) {
      const cord = exchange(a, b)(sound);
      expect(
        Object.values((observe(cord, 'lamps-one-return') as LampReading).lamps).every(Boolean),
      ).toBeTrue();
      expect(Object.values((observe(cord, 'lamp-pairs') as LampReading).lamps).every(Boolean)).toBeFalse();
    }
    expect(one.blindTo.length).toBeGreaterThan(each.blindTo.length);
  });

  it('dims as more lamps are lit where they share one resistor, and not where each has its own', () => {
    const shared = designLampTester({ ...parts, resistor: 'one in the supply' }, tested);
    const own = designLampTester(parts, tested);
    expect(own.litMa).toEqual([own.fullMa, own.fullMa, own.fullMa, own.fullMa]);
    shared.litMa.forEach((ma, n) => expect(ma * (n + 1)).toBeCloseTo(shared.fullMa, 9));
    expect(shared.hours).toBeCloseTo(4 * own.hours, 6);
    expect(shared.wiring.join()).toContain('one kind and colour');
  });

  it('is made with what goes on first before anything is soldered, and the battery last', () => {
    for (const returns of ['pair by pair', 'one for all'] as const) {
      const { making } = designLampTester({ ...parts, returns }, tested);
      expect(making[0]).toContain('strain relief');
      expect(making.findIndex((line) => line.includes('sleeve'))).toBeLessThan(
        making.findIndex((line) => line.includes('minus')),
      );
      expect(making.at(-1)).toContain('Battery last');
    }
  });
});
