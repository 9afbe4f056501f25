import { matchingResistors, planLaunch, preferredResistors } from '../../src/index.js';
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
