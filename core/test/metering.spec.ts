import {
  BadMetering,
  faradPerM,
  lengthByLoop,
  loopByGauge,
  openByBothEnds,
  openByPerMetre,
  pairsByCapacitance,
  perMetreByGoodPair,
  screenContinuity,
  seededRandom,
  shortByBothEnds,
  typedQuantity,
  unbalanceOf,
  wireOhmPerM,
  withoutLeads,
  type MeterErrors,
} from '../src/index.js';
import { drawNormal } from '../src/quantities/random.js';

/** A meter with a gain of its own and digits that wander, within what it states. */
function meter(random: () => number, { share, fixed }: MeterErrors): (truth: number) => number {
  const gain = 1 + (share / 1.96) * drawNormal(random);
  return (truth) => Math.max(0, truth * gain + (fixed / 1.96) * drawNormal(random));
}
const CASES = 1500;
/** Share of cases whose interval holds the truth. */
function covered(one: (random: () => number) => { value: number; u95: number; truth: number }): number {
  const random = seededRandom(20261);
  let held = 0;
  for (let n = 0; n < CASES; n++) {
    const { value, u95, truth } = one(random);
    if (Math.abs(value - truth) <= u95) held++;
  }
  return held / CASES;
}

describe('An open by its capacitance', () => {
  it('divides the length as the two readings do, worked by hand', () => {
    // 31.4 m * 0.62 / (0.62 + 1.01) = 31.4 * 0.38037 = 11.944 m
    const open = openByBothEnds(0.62e-9, 1.01e-9, { lengthM: 31.4, deviationM: 0.1 });
    expect(open.value).toBeCloseTo(11.944, 3);
    expect(open.arithmetic).toBe('31.4 m × 0.620 / (0.620 + 1.010) = 11.94 m');
  });

  it('needs no figure of the cable and no gain of the meter from both ends, and holds its promise', () => {
    const errors = { share: 0.04, fixed: 12e-12 };
    const share = covered((random) => {
      const lengthM = 10 + 90 * random();
      const truth = lengthM * random();
      const perM = (40 + 60 * random()) * 1e-12;
      const read = meter(random, errors);
      const planned = lengthM * (1 + 0.005 * drawNormal(random));
      const open = openByBothEnds(
        read(perM * truth),
        read(perM * (lengthM - truth)),
        { lengthM: planned, deviationM: 0.005 * lengthM },
        errors,
      );
      return { ...open, truth };
    });
    expect(share).toBeGreaterThan(0.93);
    expect(share).toBeLessThan(0.985);
  });

  it('goes by a good pair of the same cable and meter, and holds its promise', () => {
    const errors = { share: 0.04, fixed: 12e-12 };
    const share = covered((random) => {
      const lengthM = 10 + 90 * random();
      const truth = lengthM * random();
      const perM = (40 + 60 * random()) * 1e-12;
      const other = perM * (1 + (0.02 / 1.96) * drawNormal(random));
      const read = meter(random, errors);
      const good = perMetreByGoodPair(read(perM * lengthM), lengthM, errors);
      return { ...openByPerMetre(read(other * truth), good, { byGoodPair: true, errors }), truth };
    });
    expect(share).toBeGreaterThan(0.93);
  });

  it('takes capacitance per metre from velocity and impedance: 67 pF/m for 75 ohm of solid dielectric', () => {
    expect(faradPerM({ velocityFactor: 0.66, impedanceOhm: 75 }) * 1e12).toBeCloseTo(67.4, 1);
    expect(faradPerM({ velocityFactor: 0.66, impedanceOhm: 50 }) * 1e12).toBeCloseTo(101, 0);
  });

  it('names the pair that is open and where, by the pairs that agree', () => {
    const typical = { farad: 48e-12, u95Share: 0.12 };
    const pairs = pairsByCapacitance(
      { '1-2': 1.63e-9, '3-6': 0.62e-9, '4-5': 1.61e-9, '7-8': 0.004e-9 },
      31.4,
      typical,
    );
    expect(pairs.map(({ is }) => is)).toEqual(['whole', 'open-on-the-way', 'whole', 'open-here']);
    expect(pairs[1]?.endsAt.value).toBeCloseTo((31.4 * 0.62) / 1.63, 1);
    // One alone may be cut itself: then the typical figure has to do, and the interval says so.
    const [alone] = pairsByCapacitance({ '3-6': 0.62e-9 }, 31.4, typical);
    expect(alone?.endsAt.u95).toBeGreaterThan(4 * (pairs[1]?.endsAt.u95 ?? 0));
  });

  it('says when there is more on a pair than a cable has, and refuses what is none', () => {
    const typical = { farad: 48e-12, u95Share: 0.12 };
    expect(pairsByCapacitance({ '1-2': 9e-9, '3-6': 1.6e-9, '4-5': 1.6e-9 }, 31.4, typical)[0]?.is).toBe(
      'too-much',
    );
    expect(() => openByPerMetre(9e-9, typical, { lengthM: 31.4 })).toThrowError(BadMetering, /connected/);
    const length = { lengthM: 31.4, deviationM: 0 };
    expect(() => openByBothEnds(0, 0, length)).toThrowError(BadMetering, /Clip on both wires/);
    expect(() => openByBothEnds(1e-9, 4e-9, length, undefined, typical)).toThrowError(
      BadMetering,
      /connected/,
    );
    expect(() => openByBothEnds(1e-9, 1e-9, { lengthM: 0, deviationM: 0 })).toThrowError(
      BadMetering,
      /over 0 m/,
    );
    expect(() => withoutLeads(0.01, 0.2, 'The reading')).toThrowError(BadMetering, /less than the leads/);
    expect(() => pairsByCapacitance({}, 31.4, typical)).toThrowError(BadMetering, /at least one pair/);
  });
});

describe('A short by the ohmmeter at both ends', () => {
  it('drops the contact’s own ohms out, worked by hand', () => {
    // 31.4 * (1/2 + (2.1 - 3.4) / (2 * 5.29)) = 31.4 * 0.37713 = 11.842 m; (2.1 + 3.4 - 5.29) / 2 = 0.105 ohm
    const loop = { ohm: 5.29, deviation: 0.02 };
    const short = shortByBothEnds(2.1, 3.4, { lengthM: 31.4, deviationM: 0.1 }, loop);
    expect(short.value).toBeCloseTo(11.842, 3);
    expect(short.contactOhm).toBeCloseTo(0.105, 6);
    const dirty = shortByBothEnds(2.1 + 40, 3.4 + 40, { lengthM: 31.4, deviationM: 0.1 }, loop);
    expect(dirty.value).toBeCloseTo(short.value, 9);
    expect(dirty.contactOhm).toBeCloseTo(40.105, 6);
  });

  it('holds its promise with contacts of any ohms', () => {
    const errors = { share: 0.01, fixed: 0.03 };
    const share = covered((random) => {
      const lengthM = 15 + 85 * random();
      const truth = lengthM * random();
      const perM = 2 * (0.05 + 0.1 * random());
      const contact = random() < 0.5 ? 0.05 : 3 * random();
      const read = meter(random, errors);
      const short = shortByBothEnds(
        read(perM * truth + contact),
        read(perM * (lengthM - truth) + contact),
        { lengthM, deviationM: 0 },
        { ohm: read(perM * lengthM), deviation: errors.fixed / 1.96 },
        errors,
      );
      return { ...short, truth };
    });
    expect(share).toBeGreaterThan(0.93);
  });

  it('refuses figures that no short on this cable gives', () => {
    const loop = loopByGauge(24, 31.4);
    const length = { lengthM: 31.4, deviationM: 0.1 };
    expect(() => shortByBothEnds(12, 1, length, loop)).toThrowError(BadMetering, /No short on 31.4 m/);
    expect(() => shortByBothEnds(0.1, 0.1, length, loop)).toThrowError(BadMetering, /No short on/);
  });
});

describe('Length and joints by ohms', () => {
  it('gives the length of a loop, and says what else has the same ohms', () => {
    const truth = 62;
    const length = lengthByLoop(2 * truth * wireOhmPerM(24, 35), 24, 35);
    expect(length.value).toBeCloseTo(truth, 6);
    expect(length.or.map(({ metal }) => metal)).toEqual(['copper-clad aluminium', 'copper of 26 AWG']);
    expect(length.or[0]?.lengthM).toBeCloseTo(truth / 1.55, 6);
    // 24 AWG solid is about 0.0842 ohm/m, and a wire in a twisted pair is a little longer than its cable.
    expect(wireOhmPerM(24)).toBeCloseTo(0.085, 3);
    expect(() => lengthByLoop(-1, 24)).toThrowError(BadMetering);
  });

  it('tells the wire with the bad joint, and leaves a good pair in peace', () => {
    const [a, b, c] = [2.61, 2.66, 2.64];
    const good = unbalanceOf(a + b, a + c, b + c);
    expect(good.suspect).toBeNull();
    expect(good.wires[1]).toBeCloseTo(b, 9);
    expect(unbalanceOf(a + b + 0.4, a + c, b + 0.4 + c).suspect).toBe(1);
    expect(unbalanceOf(a + 0.4 + b, a + 0.4 + c, b + c).suspect).toBe(0);
    expect(() => unbalanceOf(1, 1, 9)).toThrowError(BadMetering, /No three wires/);
  });

  it('tells a whole screen from a poor and a torn one, with both bonds lifted', () => {
    expect(screenContinuity(3.2, 2.6, 0.63).is).toBe('whole');
    expect(screenContinuity(9, 2.6, 0.63).is).toBe('poor');
    expect(screenContinuity(null, 2.6, 0.63).is).toBe('open');
    expect(screenContinuity(3.2, 2.6, 0.63).cautions.join()).toContain('bonds of the screen lifted');
  });
});

describe('A figure with its unit', () => {
  it('is understood as people write it', () => {
    const s = (text: string): number | null => typedQuantity(text, 'time', 'Echo').figure;
    for (const text of ['41.8 ns', '41,8ns', '0.0418 us', '0.0418µs', '.0418 μs', '41800 ps', '4.18e1 ns'])
      expect(s(text)).withContext(text).toBeCloseTo(41.8e-9, 15);
    const ohm = (text: string): number | null => typedQuantity(text, 'resistance', 'Loop').figure;
    for (const text of ['2.1', '2.1 ohm', '2.1Ω', '0.0021 kohm', '2100 mohm', '2.1 ohms'])
      expect(ohm(text)).withContext(text).toBeCloseTo(2.1, 12);
    expect(ohm('3 Mohm')).toBe(3e6);
    expect(typedQuantity('103 ft', 'length', 'Length').figure).toBeCloseTo(31.39, 2);
    expect(typedQuantity('620 pF', 'capacitance', 'C').figure).toBeCloseTo(0.62e-9, 15);
  });

  it('is never guessed: no unit, another unit or no figure is said in words', () => {
    for (const text of ['41.8', '41.8 m', '', 'soon', '1.2.3 ns', 'NaN ns', '4 1 ns'])
      expect(typedQuantity(text, 'time', 'Echo'))
        .withContext(text)
        .toEqual({ figure: null, trouble: 'Echo: write a time with its unit, such as 41.8 ns or 1.32 us.' });
  });
});
