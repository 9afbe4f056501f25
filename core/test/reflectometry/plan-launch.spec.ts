import * as fc from 'fast-check';
import {
  fromTheDrawer,
  leftOver,
  matchingResistors,
  planLaunch,
  preferredResistors,
} from '../../src/index.js';
import { cat6, read, rg6, run } from './bench-line.js';

describe('Planning a launch', () => {
  const wanted = { line: cat6, lengthM: 60, reflection: 1, noiseShare: 0.005 };

  it('sends the shortest pulse that is still seen from the end: longer cable, longer pulse', () => {
    const widths = [10, 100, 300, 1000].map((lengthM) => planLaunch({ ...wanted, lengthM }).widthS);
    expect([...widths].sort((a, b) => a - b)).toEqual(widths);
    expect(widths[3]).toBeGreaterThan(widths[0] ?? 0);
  });

  it('sends a longer pulse after a smaller fault, or through more noise', () => {
    const { widthS } = planLaunch(wanted);
    expect(planLaunch({ ...wanted, reflection: 0.03 }).widthS).toBeGreaterThan(widthS);
    expect(planLaunch({ ...wanted, noiseShare: 0.1 }).widthS).toBeGreaterThan(widthS);
  });

  it('records the round trip and some more, in steps that oscilloscopes have', () => {
    const { recordS, divisionS, intervalS, riseS } = planLaunch({ ...wanted, line: rg6, lengthM: 80 });
    expect(recordS).toBeGreaterThan((2 * 80) / (0.82 * 299_792_458));
    expect(divisionS * 10).toBeGreaterThanOrEqual(recordS);
    expect([1, 2, 5]).toContain(Math.round(divisionS / 10 ** Math.floor(Math.log10(divisionS) + 1e-9)));
    expect(riseS / intervalS).toBeGreaterThanOrEqual(4);
  });

  it('takes what the bench has: slower edges see less sharply, and what limits is named', () => {
    const best = planLaunch(wanted);
    expect(best.limitedBy).toEqual([]);
    expect(planLaunch(wanted, {})).toEqual(best);
    const slow = planLaunch(wanted, { edgeS: 20e-9 });
    expect(slow.riseS).toBeCloseTo(20e-9, 12);
    expect(slow.widthS).toBeGreaterThanOrEqual(slow.riseS);
    expect(slow.resolutionM).toBeGreaterThan(best.resolutionM);
    expect(slow.limitedBy).toContain('edge');
    // Edge and bandwidth one behind the other: 0.35 / 50 MHz is 7 ns.
    expect(planLaunch(wanted, { edgeS: 7e-9, bandwidthHz: 50e6 }).riseS).toBeCloseTo(7e-9 * Math.SQRT2, 10);
    expect(planLaunch(wanted, { bandwidthHz: 1e6 }).limitedBy[0]).toBe('bandwidth');
    expect(planLaunch(wanted, { intervalS: 40e-9 }).limitedBy[0]).toBe('interval');
    const small = planLaunch(wanted, { memory: 60 });
    expect(small.recordS / small.intervalS).toBeLessThanOrEqual(60 + 1e-9);
    expect(small.limitedBy[0]).toBe('memory');
    expect(planLaunch(wanted, { leastWidthS: 500e-9 }).widthS).toBeCloseTo(500e-9, 12);
    expect(planLaunch(wanted, { leastWidthS: 500e-9 }).limitedBy).toContain('width');
    expect(planLaunch(wanted, { leastWidthS: 1 }).enough).toBeFalse();
  });

  it('never sees more with a worse bench', () => {
    const size = fc.option(fc.double({ min: 1e-9, max: 1e-7, noNaN: true }), { nil: undefined });
    fc.assert(
      fc.property(size, size, size, (edgeS, leastWidthS, intervalS) => {
        const [best, here] = [planLaunch(wanted), planLaunch(wanted, { edgeS, leastWidthS, intervalS })];
        expect(here.resolutionM).toBeGreaterThanOrEqual(best.resolutionM - 1e-9);
        expect(here.deadZoneM).toBeGreaterThanOrEqual(best.deadZoneM - 1e-9);
        expect(here.riseS / here.intervalS).toBeGreaterThanOrEqual(2 - 1e-9);
      }),
    );
  });

  it('says so where no pulse would do', () => {
    expect(planLaunch({ ...wanted, lengthM: 5000 }).enough).toBeFalse();
  });

  it('sees less the farther it looks, and what it promises is found', () => {
    const plan = planLaunch({ ...wanted, reflection: 0.1 });
    const seen = plan.smallest.map(({ reflection }) => reflection);
    expect([...seen].sort((a, b) => a - b)).toEqual(seen);
    // A resistance in the way that reflects twice the promised tenth, at the end of the way.
    const reading = read({
      chain: [run(50, cat6), { kind: 'series', ohm: 50 }, run(10, cat6)],
      load: { ohm: 100 },
      source: { widthS: plan.widthS, riseS: plan.riseS },
      intervalS: plan.intervalS,
      samples: Math.ceil(plan.recordS / plan.intervalS),
      noiseV: 0.005,
    });
    expect(reading.events.some(({ distanceM }) => Math.abs(distanceM - 50) < 0.5)).toBeTrue();
  });
});

describe('Resistors out of a drawer', () => {
  it('come as near as one, two side by side or two in a row can', () => {
    expect(fromTheDrawer(75, [])).toBeNull();
    expect(fromTheDrawer(75, [150])).toEqual({ ohm: [150, 150], together: 75 });
    expect(fromTheDrawer(100, [47, 56, 1000])?.ohm).toEqual([47, 56]);
    expect(fromTheDrawer(100, [47, 56, 1000])?.inARow).toBeTrue();
    expect(leftOver(75, 75)).toBe(0);
    expect(leftOver(75, 100)).toBeCloseTo(1 / 7, 9);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 2000 }), { minLength: 1, maxLength: 6 }), (drawer) => {
        const found = fromTheDrawer(100, drawer);
        for (const a of drawer)
          for (const b of drawer)
            for (const together of [a, a + b, (a * b) / (a + b)])
              expect(Math.abs((found?.together ?? Infinity) - 100)).toBeLessThanOrEqual(
                Math.abs(together - 100) + 1e-9,
              );
      }),
    );
  });
});

describe('Preferred resistors', () => {
  it('make up the impedances of the trade to a few per cent', () => {
    for (const ohm of [50, 75, 100, 120]) {
      const { together, ohm: values } = preferredResistors(ohm);
      expect(Math.abs(together / ohm - 1)).toBeLessThan(0.01);
      expect(values.length).toBeLessThanOrEqual(2);
    }
    expect(preferredResistors(100).ohm).toEqual([100]);
    expect(preferredResistors(50).ohm).toEqual([100, 100]);
    expect(preferredResistors(75).ohm).toEqual([150, 150]);
  });

  it('closes a line with its own impedance, and puts in series what a lower generator lacks', () => {
    for (const ohm of [50, 75, 100, 120]) {
      const { closes, inSeries } = matchingResistors(ohm, 50);
      expect(closes.together).withContext(`${ohm}`).toBeCloseTo(ohm, 0);
      if (ohm === 50) expect(inSeries).toBeNull();
      else
        expect(50 + (inSeries?.together ?? 0))
          .withContext(`${ohm}`)
          .toBeCloseTo(ohm, 0);
    }
  });
});
