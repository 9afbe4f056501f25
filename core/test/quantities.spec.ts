import fc from 'fast-check';
import {
  awgAreaMm2,
  cableLengthFromM,
  cableLengthToM,
  formatCableLength,
  formatGauge,
  formatStripLength,
  typedNumber,
  typedWithin,
} from '../src/index.js';

describe('quantities', () => {
  it('gives 24 AWG as 0.205 mm² and 23 AWG as 0.258 mm² (ASTM B258)', () => {
    expect(awgAreaMm2(24)).toBeCloseTo(0.205, 3);
    expect(awgAreaMm2(23)).toBeCloseTo(0.258, 3);
    expect(formatGauge(24)).toBe('24 AWG (0.20 mm²)');
  });

  it('halves the area every third gauge number, nearly', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 33 }), (awg) => {
        const ratio = awgAreaMm2(awg) / awgAreaMm2(awg + 3);
        expect(ratio).toBeGreaterThan(1.99);
        expect(ratio).toBeLessThan(2.02);
      }),
    );
  });

  it('says cable lengths in metres to a decimetre or in whole feet', () => {
    expect(formatCableLength(31.44, 'metric')).toBe('31.4 m');
    expect(formatCableLength(30.48, 'imperial')).toBe('100 ft');
  });

  it('says strip lengths in millimetres or in sixteenths in lowest terms', () => {
    expect(formatStripLength(42, 'metric')).toBe('42 mm');
    expect(formatStripLength(12.7, 'imperial')).toBe('1/2 in');
    expect(formatStripLength(30, 'imperial')).toBe('1 3/16 in');
    expect(formatStripLength(50.8, 'imperial')).toBe('2 in');
  });

  it('returns the figure a person typed, in either system', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 30_000 }),
        fc.constantFrom('metric' as const, 'imperial' as const),
        (tenths, system) => {
          expect(cableLengthFromM(cableLengthToM(tenths / 10, system), system)).toBe(tenths / 10);
        },
      ),
    );
  });

  it('takes a typed figure with a point or a comma, and nothing else for one', () => {
    expect([' 12.5 ', '12,5', '-3', '1e3', '.5'].map(typedNumber)).toEqual([12.5, 12.5, -3, 1000, 0.5]);
    for (const text of ['', '  ', 'twelve', '1,2,3', '5 m', 'Infinity', '0x10', '1_000', '.', 'e3'])
      expect(typedNumber(text)).withContext(text).toBeNaN();
  });

  it('takes a typed figure within its range, or says which field wants what', () => {
    const lead = { what: 'Lead', unit: 'metres', least: 0, most: 1000 };
    expect(['0', '1000', ' 2,5'].map((text) => typedWithin(text, lead).figure)).toEqual([0, 1000, 2.5]);
    for (const text of ['-0.1', '1000.1', '', '2 m', '1e999'])
      expect(typedWithin(text, lead))
        .withContext(text)
        .toEqual({ figure: null, trouble: 'Lead: write metres from 0 to 1000.' });
    expect(typedWithin('2', { what: 'Velocity factor', least: 0.3, most: 1 }).trouble).toBe(
      'Velocity factor: write a figure from 0.3 to 1.',
    );
  });
});
