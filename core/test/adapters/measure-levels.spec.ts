import fc from 'fast-check';
import {
  familyFromLevels,
  imperfect,
  LEVEL_FAMILIES,
  matchLevels,
  measureLevels,
  NoLevels,
  seededRandom,
  type Trace,
} from '@near-spoke/core';

/** A line that sends these bits: levels, bit and edge in microseconds, ten samples to the microsecond. */
function sent(
  bits: string,
  { low = 0, high = 3.3, bitUs = 8, edgeUs = 1, noiseV = 0.01, quantumV = 0 } = {},
): Trace {
  const at = (us: number): number => {
    let level = bits[0] === '1' ? 1 : 0;
    [...bits].forEach((bit, n) => {
      const before = n === 0 ? bit : bits[n - 1];
      if (bit === before) return;
      // A straight edge about the bit's boundary.
      const x = Math.min(1, Math.max(0, (us - n * bitUs) / edgeUs + 0.5));
      level += bit === '1' ? x : -x;
    });
    return low + (high - low) * level;
  };
  const volts = Float64Array.from({ length: bits.length * bitUs * 10 }, (_, n) => at(n / 10));
  return imperfect({ intervalS: 1e-7, startS: 0, volts }, { noiseV, quantumV, offsetV: 0 }, seededRandom(2));
}
const BITS = '1010011100101101110100';
const EDGES = [...BITS].filter((bit, n) => n > 0 && bit !== BITS[n - 1]).length;

describe('levels measured on a line', () => {
  it('are its low, high and swing, its edge time and its shortest bit', () => {
    const seen = measureLevels(sent(BITS));
    expect(seen.lowV).toBeCloseTo(0, 1);
    expect(seen.highV).toBeCloseTo(3.3, 1);
    expect(seen.swingV).toBeCloseTo(3.3, 1);
    // Ten to ninety per cent of a straight edge of a microsecond.
    expect((seen.edgeS ?? 0) * 1e6).toBeCloseTo(0.8, 1);
    expect((seen.shortestBitS ?? 0) * 1e6).toBeCloseTo(8, 0);
    expect(seen.edges).toBe(EDGES);
  });

  it('are those of a clean line whose samples have but two values', () => {
    const volts = Float64Array.from({ length: 600 }, (_, n) => (Math.floor(n / 20) % 3 === 0 ? 4.8 : 0.2));
    const seen = measureLevels({ intervalS: 1e-6, startS: 0, volts });
    expect([seen.lowV, seen.highV, seen.edgeS]).toEqual([0.2, 4.8, null]);
    expect(seen.shortestBitS).toBeCloseTo(20e-6, 9);
  });

  it('are not one step of the converter of a line that is still', () => {
    const random = seededRandom(5);
    for (const stepV of [0.04, 0.4]) {
      const volts = Float64Array.from({ length: 2000 }, () => 3 + (random() < 0.5 ? 0 : stepV));
      expect(() => measureLevels({ intervalS: 1e-6, startS: 0, volts }))
        .withContext(String(stepV))
        .toThrowError(NoLevels, /does not move/);
    }
    const still = new Float64Array(2000).fill(3.3);
    expect(() => measureLevels({ intervalS: 1e-6, startS: 0, volts: still })).toThrowError(NoLevels);
  });

  it('are told for lines on both sides of ground, which are then taken for inverted', () => {
    const seen = measureLevels(sent(BITS, { low: -6.2, high: 6.4, noiseV: 0.05 }));
    expect([seen.lowV, seen.highV].map((volts) => volts.toFixed(1))).toEqual(['-6.2', '6.4']);
    const family = familyFromLevels(seen, null);
    expect(family.inverted).toBeTrue();
    const logic = LEVEL_FAMILIES.find(({ id }) => id === 'cmos-3v3');
    if (!logic) throw new Error('no 3.3 V logic');
    expect(matchLevels(family, logic).verdict).toBe('damages');
  });

  it('give a family that takes the place of a looked-up one', () => {
    const like = LEVEL_FAMILIES.find(({ id }) => id === 'ttl-5') ?? null;
    const weak = familyFromLevels(measureLevels(sent(BITS, { high: 2.1 })), like);
    if (!like) throw new Error('no TTL');
    expect(matchLevels(weak, like).verdict).toBe('tight');
    expect(weak.source).toBe('sheet');
  });

  it('are found whatever they are, with noise and the steps of a converter', () => {
    const law = fc.property(
      fc.double({ min: -12, max: 5, noNaN: true }),
      fc.double({ min: 1, max: 12, noNaN: true }),
      fc.constantFrom(0, 0.04, 0.1),
      (low, swing, quantumV) => {
        const seen = measureLevels(sent(BITS, { low, high: low + swing, noiseV: 0.02, quantumV }));
        const slack = 0.03 + quantumV;
        return (
          Math.abs(seen.lowV - low) < slack &&
          Math.abs(seen.highV - low - swing) < slack &&
          seen.edges === EDGES
        );
      },
    );
    expect(() => fc.assert(law, { numRuns: 60 })).not.toThrow();
  });

  it('are not told of a line that stands still, nor of one with a single glitch', () => {
    expect(() => measureLevels(sent('1111111111'))).toThrowError(NoLevels, /does not move/);
    const glitch = sent('1111111111', { noiseV: 0.001 });
    glitch.volts[400] = 0;
    expect(() => measureLevels(glitch)).toThrowError(NoLevels, /hardly there/);
  });

  it('have no edge time where the samples are slower than the edges', () => {
    expect(measureLevels(sent(BITS, { edgeUs: 0.01 })).edgeS).toBeNull();
  });
});
