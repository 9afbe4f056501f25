import * as fc from 'fast-check';
import { NoLaunch, readTrace, type EventKind, type TraceReading } from '../../src/index.js';
import { cat6, drawn, line, read, rg6, run } from './bench-line.js';

const kinds = (reading: TraceReading): EventKind[] => reading.events.map(({ kind }) => kind);
const real = (reading: TraceReading) => reading.events.filter(({ kind }) => kind !== 'ghost');

describe('Reading a trace', () => {
  it('finds an open end to the centimetre, and says so', () => {
    const reading = read({ chain: [run(40)], load: 'open' });
    expect(kinds(reading)).toEqual(['open']);
    expect(reading.main).toBe(0);
    const [open] = reading.events;
    expect(Math.abs(open!.distanceM - 40)).toBeLessThan(0.02);
    expect(open!.u95M).toBeLessThan(0.03);
    expect(open!.probability).toBeGreaterThan(0.95);
    expect(open!.reflection).toBeCloseTo(1, 1);
  });

  it('returns the distance put in, within what it says, for any length, launch and end', () => {
    let within = 0;
    let tried = 0;
    fc.assert(
      fc.property(
        fc.double({ min: 3, max: 120, noNaN: true }),
        fc.constantFrom('pulse' as const, 'step' as const),
        fc.constantFrom('open' as const, 'short' as const),
        fc.constantFrom(rg6, cat6),
        fc.integer({ min: 1, max: 1e6 }),
        (lengthM, shape, load, of, seed) => {
          const bench = {
            chain: [run(lengthM, of)],
            load,
            source: { shape, widthS: 8e-9 + lengthM * 2e-10, riseS: 3e-9 + lengthM * 4e-11 },
            samples: Math.ceil(300 + lengthM * 40),
            seed,
          };
          const reading = read(bench, { shape });
          const main = reading.events[reading.main!]!;
          tried++;
          if (Math.abs(main.distanceM - lengthM) <= main.u95M) within++;
          return main.kind === load && Math.abs(main.distanceM - lengthM) < 3 * main.u95M;
        },
      ),
      { numRuns: 12, seed: 7 },
    );
    expect(within / tried).toBeGreaterThan(0.8);
  });

  it('does not read long where loss has spread the echo, as its peak would', () => {
    const bench = { chain: [run(100, cat6)], load: 'open' as const, samples: 2400 };
    const { volts } = drawn({ ...bench, noiseV: 0, quantumV: 0, offsetV: 0 });
    const later = volts.subarray(400);
    const peakAt = 400 + later.indexOf(Math.max(...later));
    const launchAt = volts.indexOf(Math.max(...volts.subarray(0, 300)));
    const byPeak = ((peakAt - launchAt) * 0.5e-9 * cat6.velocityFactor * 299_792_458) / 2;
    const main = read(bench).events[0]!;
    expect(byPeak - 100).toBeGreaterThan(0.5);
    expect(Math.abs(main.distanceM - 100)).toBeLessThan(0.1);
  });

  it('finds nothing on a matched line, and says how far it has seen', () => {
    const reading = read({ chain: [run(20)], load: { ohm: 75 }, noiseV: 0.02 });
    expect(real(reading).filter(({ kind }) => kind !== 'matched-end')).toEqual([]);
    expect(reading.main).toBeNull();
    expect(reading.sightM).toBeGreaterThan(20);
    expect(reading.sightEndsBy).toBe('record');
  });

  it('sees less far the more noise there is', () => {
    const sight = (noiseV: number): number =>
      read({
        chain: [run(500, cat6)],
        load: 'open',
        noiseV,
        intervalS: 2e-9,
        samples: 3000,
        source: { widthS: 40e-9, riseS: 10e-9 },
      }).sightM;
    const [quiet, loud] = [sight(0.01), sight(0.1)];
    expect(loud).toBeLessThan(quiet);
  });

  it('counts distance from the far end of the lead, and calls a reflection there the joint', () => {
    const lead = { lengthM: 8, velocityFactor: 0.66, deviationM: 0 };
    const chain = [run(8, line('rg58')), run(30)];
    const reading = read({ chain, load: 'open' }, { line: rg6, lead });
    const joint = reading.events[0]!;
    expect(joint.kind).toBe('joint');
    expect(Math.abs(joint.distanceM)).toBeLessThan(0.05);
    expect(Math.abs(reading.events[reading.main!]!.distanceM - 30)).toBeLessThan(0.1);
  });

  it('states timing, velocity and lead apart, and together as their root of squares', () => {
    const lead = { lengthM: 1, velocityFactor: 0.82, deviationM: 0.01 };
    const [open] = read({ chain: [run(31)], load: 'open' }, { lead, velocityDeviation: 0.0041 }).events;
    const { timingM, velocityM, leadM } = open!.budget;
    // One per cent of the velocity is one per cent of the way.
    expect(velocityM).toBeCloseTo((1.96 * 30 * 0.0041) / 0.82, 2);
    expect(leadM).toBeCloseTo(0.0196, 4);
    expect(open!.u95M).toBeCloseTo(Math.hypot(timingM, velocityM, leadM), 9);
  });

  it('tells what reflects by what it does to the wave', () => {
    const of = (...parts: Parameters<typeof read>[0]['chain'][number][]) =>
      read({ chain: [run(25), ...parts, run(18)], load: 'open', samples: 1500 });
    const at25 = (reading: TraceReading) =>
      reading.events.find(({ distanceM }) => Math.abs(distanceM - 25) < 0.3)?.kind;
    const section = (ohm: number) => run(5, { ...rg6, impedanceOhm: ohm });
    expect(at25(of({ kind: 'series', ohm: 60 }))).toBe('series-resistance');
    expect(at25(of({ kind: 'shunt', ohm: 120 }))).toBe('wet-or-shunt');
    expect(at25(of(section(50)))).toBe('low-section');
    expect(at25(of(section(110)))).toBe('high-section');
    expect(at25(of({ kind: 'series', ohm: 8 }))).toBe('joint');
    expect(at25(of({ kind: 'stub', chain: [run(6)], load: 'open' }))).toBe('stub');
  });

  it('gives a section its length', () => {
    const low = { ...rg6, impedanceOhm: 50 };
    const reading = read({ chain: [run(20), run(6, low), run(20)], load: { ohm: 75 }, samples: 1600 });
    const section = reading.events.find(({ kind }) => kind === 'low-section')!;
    expect(section.lengthM).toBeCloseTo(6, 0);
  });

  it('names a ghost with the pair that makes it, and counts no fault for it', () => {
    const reading = read({
      chain: [run(15), { kind: 'shunt', ohm: 150 }, run(20)],
      load: 'open',
      samples: 1500,
    });
    const ghost = reading.events.find(({ kind }) => kind === 'ghost')!;
    expect(ghost.distanceM).toBeCloseTo(55, 0);
    expect(ghost.ghostOf!.map((of) => Math.round(reading.events[of]!.distanceM))).toEqual([15, 35]);
    expect(real(reading).length).toBe(2);
  });

  it('takes what a mismatched source sends out again for a ghost of the end with itself', () => {
    const reading = read({ chain: [run(20)], load: 'open', source: { impedanceOhm: 40 } });
    expect(kinds(reading).slice(0, 2)).toEqual(['open', 'ghost']);
    expect(reading.events[1]!.ghostOf).toEqual([0, 0]);
    expect(reading.events[1]!.distanceM).toBeCloseTo(40, 0);
  });

  it('reads a negative launch as well as a positive one', () => {
    const reading = read({ chain: [run(40)], load: 'short', source: { volts: -2 } });
    expect(kinds(reading)).toEqual(['short']);
  });

  it('does not care how finely a trace was sampled', () => {
    const coarse = read({ chain: [run(33)], load: 'open' }).events[0]!;
    const fine = read({ chain: [run(33)], load: 'open', intervalS: 0.1e-9, samples: 6000 }).events[0]!;
    expect(Math.abs(coarse.distanceM - fine.distanceM)).toBeLessThan(0.02);
  });

  it('asks for another trace where there is no launch, or the trace starts inside it', () => {
    const setting = {
      line: rg6,
      velocityDeviation: 0,
      lossKnown: true,
      lead: { lengthM: 0, velocityFactor: 1, deviationM: 0 },
    };
    const flat = { intervalS: 1e-9, startS: 0, volts: new Float64Array(500) };
    expect(() => readTrace(flat, setting)).toThrowError(NoLaunch, /No launch stands out/);
    const late = drawn({ chain: [run(10)], load: 'open' });
    expect(() => readTrace({ ...late, volts: late.volts.slice(101) }, setting)).toThrowError(
      NoLaunch,
      /inside its launch/,
    );
  });
});
