import { colouredNoise, latticeTrace, unevenLine } from '../world/lattice-line.js';
import { drawStranger, tellStranger } from '../world/lattice-trial.js';
import { seededRandom } from '../../src/index.js';

describe('Traces of another world', () => {
  it('are explained: things found where they are, and told for what they are when that is said to be sure', () => {
    const told = [];
    let [things, found] = [0, 0];
    for (let seed = 0; seed < 14; seed++) {
      const one = tellStranger(drawStranger(seed));
      things += one.things;
      found += one.found;
      told.push(...one.told);
    }
    expect(found / things).toBeGreaterThan(0.9);
    const sure = told.filter(({ probability }) => probability > 0.95);
    expect(sure.length).toBeGreaterThan(12);
    expect(sure.filter(({ right }) => right).length / sure.length).toBeGreaterThan(0.9);
    const real = told.filter(({ real: there }) => there);
    expect(real.filter(({ offM, u95M }) => offM <= u95M).length / real.length).toBeGreaterThan(0.9);
  });

  it('obey Kirchhoff: what leaves a matched line is what went in, shared out by the joints', () => {
    const launch = new Float64Array(120);
    launch[0] = 2;
    const bare = {
      impedances: new Float64Array(20).fill(1),
      keeps: 1,
      smears: [],
      series: new Map<number, number>(),
      shunts: new Map<number, number>(),
      stubs: new Map<number, number>(),
      end: 'matched' as const,
      source: 1,
    };
    expect([...latticeTrace(bare, launch)].slice(1).every((volt) => Math.abs(volt) < 1e-12)).toBeTrue();
    // 2 across 1 at a joint: rho = (0.5 || ... ) as a divider gives it, by hand -1/3 for a shunt of 1.
    const shunted = latticeTrace({ ...bare, shunts: new Map([[7, 1]]) }, launch);
    expect(shunted[14]).toBeCloseTo(-1 / 3, 12);
    const open = latticeTrace({ ...bare, end: 'open' }, launch);
    expect(open[40]).toBeCloseTo(1, 12);
  });

  it('have lines that wander and noise that hangs together', () => {
    const line = unevenLine(seededRandom(1), 400, 0.01, 0);
    const mean = line.reduce((sum, z) => sum + z, 0) / line.length;
    expect(mean).toBeCloseTo(1, 1);
    expect(Math.max(...line) - Math.min(...line)).toBeGreaterThan(0.01);
    const noise = colouredNoise(seededRandom(2), 4000, 1);
    const beside = noise.slice(1).reduce((sum, x, n) => sum + x * (noise[n] ?? 0), 0);
    expect(beside / noise.reduce((sum, x) => sum + x * x, 0)).toBeGreaterThan(0.4);
  });
});
