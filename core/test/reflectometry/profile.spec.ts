import { impedanceProfile, LIGHT_M_PER_S, type Element } from '../../src/index.js';
import { cat6, read, rg6, run } from './bench-line.js';

/** Mean impedance that the profile gives between two distances. */
function between(
  chain: readonly Element[],
  fromM: number,
  toM: number,
  shape: 'pulse' | 'step',
  of = rg6,
): number {
  const reading = read(
    {
      chain,
      load: { ohm: of.impedanceOhm },
      source: { shape },
      noiseV: 0.002,
      quantumV: 0.004,
      samples: 1500,
    },
    { shape },
  );
  const { layerS, ohm } = impedanceProfile(reading.explained, of.impedanceOhm);
  const layerM = (layerS * of.velocityFactor * LIGHT_M_PER_S) / 2;
  const part = ohm.slice(Math.round(fromM / layerM), Math.round(toM / layerM)).filter(Number.isFinite);
  return part.reduce((sum, value) => sum + value, 0) / part.length;
}
const at = (ohm: number, of = rg6) => ({ ...of, impedanceOhm: ohm });

describe('The impedance profile', () => {
  const chain = [run(8), run(6, at(50)), run(12)];

  it('shows a section with its own impedance, and the line before and behind it with theirs', () => {
    for (const shape of ['step', 'pulse'] as const) {
      expect(between(chain, 2, 7, shape)).toBeCloseTo(75, -0.8);
      expect(Math.abs(between(chain, 9.5, 13, shape) - 50)).toBeLessThan(4);
      expect(Math.abs(between(chain, 16, 20, shape) - 75)).toBeLessThan(6);
    }
  });

  it('takes off what goes to and fro between two changes: the second is as high as the first', () => {
    const two = [run(6), run(4, at(150)), run(4), run(4, at(150)), run(8)];
    const [first, second] = [between(two, 7.5, 9.5, 'step'), between(two, 15.5, 17.5, 'step')];
    expect(Math.abs(first - 150)).toBeLessThan(10);
    expect(Math.abs(second - 150)).toBeLessThan(18);
  });

  it('takes loss back: a far section is as far off as a near one', () => {
    const far = [run(45, cat6), run(8, at(75, cat6)), run(10, cat6)];
    expect(Math.abs(between(far, 48, 52, 'step', cat6) - 75)).toBeLessThan(16);
  });

  it('takes the cable behind a lead of another impedance for what it is', () => {
    const lead = { lengthM: 2, velocityFactor: 0.82, deviationM: 0 };
    const mixed = [run(2, at(50)), run(20), run(5, at(50)), run(5)];
    const { explained } = read({ chain: mixed, load: { ohm: 75 } }, { line: rg6, lead });
    const leadS = 4 / (0.82 * LIGHT_M_PER_S);
    const { layerS, ohm } = impedanceProfile(explained, 75, leadS);
    const layerM = (layerS * 0.82 * LIGHT_M_PER_S) / 2;
    expect(Math.abs((ohm[Math.round(12 / layerM)] ?? NaN) - 75)).toBeLessThan(5);
    expect(Math.abs((ohm[Math.round(24.5 / layerM)] ?? NaN) - 50)).toBeLessThan(6);
  });

  it('ends at an open', () => {
    const reading = read({ chain: [run(20)], load: 'open', source: { shape: 'step' } }, { shape: 'step' });
    const { ohm } = impedanceProfile(reading.explained, 75);
    const last = ohm.findIndex((value) => !Number.isFinite(value));
    const layerM = (reading.explained.trace.intervalS * 0.82 * LIGHT_M_PER_S) / 2;
    expect(last * layerM).toBeGreaterThan(19);
    expect(last * layerM).toBeLessThan(24);
  });
});
