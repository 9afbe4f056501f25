import { readTrace, simulate, type Element, type LineFigures, type TraceReading } from '../../src/index.js';
import { cat6, powerLawTrace, read, rg6, run } from './bench-line.js';

/** The same loss at 50 MHz, of another law: less of it by skin effect, the rest in proportion to frequency. */
function otherLaw(line: LineFigures, skinShare: number): LineFigures {
  const at50 = line.skinDb * Math.sqrt(50) + line.dielectricDb * 50;
  const skinDb = skinShare * line.skinDb;
  return { ...line, skinDb, dielectricDb: (at50 - skinDb * Math.sqrt(50)) / 50 };
}
const mainOf = ({ events, main }: TraceReading) => (main === null ? undefined : events[main]);

describe('A trace that is not of our making', () => {
  it('is placed to half a per cent where its loss follows another law than the cable’s figures', () => {
    for (const skinShare of [0.35, 0.6]) {
      for (const lengthM of [35, 80]) {
        const chain = [run(lengthM, otherLaw(cat6, skinShare))];
        const main = mainOf(read({ chain, load: 'open', noiseV: 0.003, samples: 2600 }, { line: cat6 }));
        const told = `${skinShare} of the skin loss, ${lengthM} m: ${JSON.stringify(main)}`;
        expect(main?.kind).withContext(told).toBe('open');
        expect(Math.abs((main?.distanceM ?? NaN) - lengthM))
          .withContext(told)
          .toBeLessThan(0.0055 * lengthM);
      }
    }
  });

  it('is placed to one per cent where its loss goes with another power of the frequency', () => {
    const { velocityFactor } = cat6;
    for (const power of [0.45, 0.6, 0.66]) {
      const trace = powerLawTrace({ lengthM: 60, velocityFactor, power, neper: 0.5 });
      const reading = readTrace(trace, {
        line: cat6,
        velocityDeviation: 0,
        lossKnown: true,
        lead: { lengthM: 0, velocityFactor: 0.66, deviationM: 0 },
        shape: 'pulse',
      });
      const main = mainOf(reading);
      expect(main?.kind).withContext(`power ${power}`).toBe('open');
      expect(Math.abs((main?.distanceM ?? NaN) - 60))
        .withContext(`power ${power}`)
        .toBeLessThan(0.6);
    }
  });

  it('is read behind a short lead of half the cable’s impedance, launched by a step', () => {
    const lead: Element = {
      kind: 'line',
      lengthM: 0.9,
      line: { ...rg6, impedanceOhm: 50, velocityFactor: 0.66, skinDb: 0, dielectricDb: 0, loopOhmPerM: 0 },
    };
    for (const load of ['open', 'short'] as const) {
      const reading = read(
        {
          chain: [lead, run(90, cat6)],
          load,
          source: { shape: 'step', riseS: 4e-9, impedanceOhm: 50 },
          samples: 2600,
        },
        { line: cat6, lead: { lengthM: 0.9, velocityFactor: 0.66, deviationM: 0.005 }, shape: 'step' },
      );
      expect(mainOf(reading)?.kind).toBe(load);
      expect(mainOf(reading)?.distanceM).toBeCloseTo(90, 0);
    }
  });

  it('has nothing but ghosts behind an end that sends everything back', () => {
    const low = { ...rg6, impedanceOhm: 50 };
    const reading = read({
      chain: [run(25), run(0.9, low), { kind: 'shunt', ohm: 400 }, run(14)],
      load: 'open',
      noiseV: 0.002,
      samples: 1800,
    });
    const behind = reading.events.filter(({ distanceM }) => distanceM > 41);
    expect(behind.length).toBeGreaterThan(0);
    expect(behind.every(({ kind, ghostOf }) => kind === 'ghost' && ghostOf !== null)).toBeTrue();
  });

  it('is called an end and not a part in the way where little of the height is known', () => {
    // A third more loss than the figures say: the end's echo comes back lower than it should.
    const lossy = { ...cat6, skinDb: 1.33 * cat6.skinDb, dielectricDb: 1.33 * cat6.dielectricDb };
    const bench = { chain: [run(140, lossy)], load: 'open' as const, samples: 3600, noiseV: 0.004 };
    const main = mainOf(read({ ...bench, source: { widthS: 40e-9, riseS: 8e-9 } }, { line: cat6 }));
    expect(main?.kind).toBe('open');
  });

  it('is simulated alike with and without the short way for lines without loss', () => {
    const source = {
      shape: 'pulse',
      volts: 2,
      widthS: 2e-8,
      riseS: 3e-9,
      edge: 'smooth',
      impedanceOhm: 75,
    } as const;
    const sampling = { intervalS: 5e-10, samples: 900, launchS: 5e-8 };
    const none = { ...rg6, skinDb: 0, dielectricDb: 0, loopOhmPerM: 0 };
    const trace = (line: LineFigures): Float64Array =>
      simulate(
        { source, scope: { inputOhm: Infinity, inputF: 0 }, chain: [run(30, line)], load: 'open' },
        sampling,
      ).volts;
    const [exact, nearly] = [trace(none), trace({ ...none, loopOhmPerM: 1e-9 })];
    const off = exact.map((volt, n) => Math.abs(volt - (nearly[n] ?? NaN)));
    expect(Math.max(...off)).toBeLessThan(1e-6);
  });
});
