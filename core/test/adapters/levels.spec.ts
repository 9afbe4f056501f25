import fc from 'fast-check';
import {
  chooseDivider,
  LEVEL_FAMILIES,
  matchLevels,
  preferredValues,
  proposeLevelChange,
  type LevelFamily,
} from '@near-spoke/core';

const family = (id: string): LevelFamily => {
  const found = LEVEL_FAMILIES.find((each) => each.id === id);
  if (!found) throw new Error(id);
  return found;
};
const verdict = (driver: string, receiver: string, supplies = {}): string =>
  matchLevels(family(driver), family(receiver), supplies).verdict;

describe('levels', () => {
  it('fit themselves, with the margins of the published figures', () => {
    for (const each of LEVEL_FAMILIES) {
      const { highMarginV, lowMarginV, bearsV } = matchLevels(each, each);
      expect(Math.min(highMarginV, lowMarginV, bearsV))
        .withContext(each.name)
        .toBeGreaterThan(0);
    }
    const { highMarginV, lowMarginV } = matchLevels(family('ttl-5'), family('ttl-5'));
    expect([highMarginV, lowMarginV].map((volts) => volts.toFixed(2))).toEqual(['0.40', '0.40']);
  });

  it('of 3.3 V logic are read by 5 V TTL and not by 5 V CMOS', () => {
    expect(verdict('cmos-3v3', 'ttl-5')).toBe('fits');
    expect(verdict('cmos-3v3', 'cmos-5')).toBe('does not read');
  });

  it('of 5 V logic damage a 3.3 V input that is not made for them', () => {
    expect(verdict('ttl-5', 'cmos-3v3')).toBe('damages');
    expect(verdict('ttl-5', 'cmos-3v3-5t')).toBe('fits');
  });

  it('of RS-232 damage logic, and logic does not drive RS-232, though its thresholds may seem met', () => {
    expect(verdict('rs-232', 'cmos-5')).toBe('damages');
    expect(verdict('rs-232', 'ttl-5')).toBe('damages');
    expect(verdict('cmos-5', 'rs-232')).toBe('does not read');
    // An input that takes logic levels and bears anything still reads it upside down.
    const kind = { ...family('rs-232'), inLowV: 0.8, inHighV: 2.4 };
    expect(matchLevels(family('cmos-5'), kind).verdict).toBe('inverted');
  });

  it('run out of margin as a battery sags', () => {
    const margins = [1, 0.9, 0.8].map(
      (driver) => matchLevels(family('cmos-3v3'), family('ttl-5'), { driver }).highMarginV,
    );
    expect(margins.map((volts) => volts.toFixed(2))).toEqual(['0.40', '0.16', '-0.08']);
    expect(verdict('cmos-3v3', 'ttl-5', { driver: 0.9 })).toBe('tight');
    expect(verdict('cmos-3v3', 'ttl-5', { driver: 0.8 })).toBe('does not read');
    // Where both hang on the same cells, thresholds sag as well.
    expect(verdict('cmos-3v3', 'cmos-3v3', { driver: 0.8, receiver: 0.8 })).not.toBe('does not read');
  });

  it('never have more margin the further a supply sags', () => {
    const some = fc.constantFrom(...LEVEL_FAMILIES);
    const share = fc.double({ min: 0.5, max: 1, noNaN: true });
    const law = fc.property(some, some, share, share, (driver, receiver, a, b) => {
      const margin = (sag: number): number => matchLevels(driver, receiver, { driver: sag }).highMarginV;
      return margin(Math.min(a, b)) <= margin(Math.max(a, b)) + 1e-12;
    });
    expect(() => fc.assert(law)).not.toThrow();
  });
});

describe('a divider', () => {
  it('brings 5 V CMOS down to 3.3 V and 1.8 V logic, by values one can buy, at every tolerance', () => {
    for (const id of ['cmos-3v3', 'cmos-1v8', 'cmos-1v5']) {
      const receiver = family(id);
      const divider = chooseDivider(family('cmos-5'), receiver);
      expect(divider).withContext(id).not.toBeNull();
      if (!divider) continue;
      const buyable = preferredValues('E24', 1000, 100_000);
      expect(buyable).toContain(divider.seriesOhm);
      expect(buyable).toContain(divider.groundOhm);
      for (const [series, ground] of [
        [0.95, 1.05],
        [1.05, 0.95],
      ]) {
        const [r1, r2] = [divider.seriesOhm * (series ?? 1), divider.groundOhm * (ground ?? 1)];
        expect((4.4 * r2) / (r1 + r2)).toBeGreaterThanOrEqual(receiver.inHighV);
        expect((5 * r2) / (r1 + r2)).toBeLessThanOrEqual(receiver.mostV);
      }
      expect(divider.loadA).toBeLessThanOrEqual(1e-3);
      expect(divider.mostBaud).toBeGreaterThan(100_000);
    }
  });

  it('is none for levels on both sides of ground', () => {
    expect(chooseDivider(family('rs-232'), family('cmos-3v3'))).toBeNull();
  });

  it('is slower the less it may load the output', () => {
    const light = chooseDivider(family('cmos-5'), family('cmos-3v3'), { mostLoadA: 1e-4 });
    const heavy = chooseDivider(family('cmos-5'), family('cmos-3v3'), { mostLoadA: 2e-3 });
    expect(light?.loadA).toBeLessThanOrEqual(1e-4);
    expect(light?.mostBaud ?? NaN).toBeLessThan(heavy?.mostBaud ?? 0);
  });
});

describe('a level change', () => {
  const by = (driver: string, receiver: string, bothWays = false): string =>
    proposeLevelChange(family(driver), family(receiver), { bothWays }).by;

  it('is nothing, resistors, transistors, a FET or a chip, as the two ask', () => {
    expect(by('cmos-3v3', 'ttl-5')).toBe('nothing');
    expect(by('cmos-5', 'cmos-3v3')).toBe('divider');
    expect(by('cmos-3v3', 'cmos-5')).toBe('two-transistor stage');
    expect(by('cmos-3v3', 'cmos-5', true)).toBe('FET with two pull-ups');
    expect(by('rs-232', 'cmos-3v3')).toBe('RS-232 driver chip');
    expect(by('cmos-3v3', 'rs-232')).toBe('RS-232 driver chip');
  });

  it('says in words what to fit and how fast it is', () => {
    const change = proposeLevelChange(family('cmos-5'), family('cmos-3v3'));
    expect(change.words).toMatch(/^\d+ ohm in the way and \d+ ohm to ground: \d\.\d\d V at least/);
    expect(change.mostBaud).toBeGreaterThan(0);
    expect(proposeLevelChange(family('cmos-3v3'), family('cmos-5'), { bothWays: true }).mostBaud).toBeCloseTo(
      400_000,
      -3,
    );
  });
});
