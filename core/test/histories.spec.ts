import { count, history, newTally } from './world/histories.js';
import { KINDS, soundLink } from './world/draw-world.js';
import { take } from './world/world-instruments.js';
import { diagnose, findIn } from '../src/index.js';

describe('links of a world that the judge’s model did not draw', () => {
  // The bench measures many thousands; here a few show that none of it has come apart.
  const tally = newTally();
  beforeAll(() => {
    for (let seed = 700; seed < 745; seed++) count(tally, history(seed));
  });

  it('are never passed over a reading that shows a fault', () => {
    expect(tally.judgements).toBeGreaterThan(90);
    expect(tally.falsePasses).toBe(0);
  });

  it('are mended where the work is, mostly by the first proposal', () => {
    expect(tally.repairs).toBeGreaterThan(20);
    expect(tally.repairsRight / tally.repairs).toBeGreaterThan(0.8);
  });

  it('in order, are called wrong hardly ever', () => {
    expect(tally.needlessFails / tally.sound).toBeLessThan(0.05);
  });

  it('are read by its instruments as by ours, where nothing is wrong', () => {
    for (const kind of KINDS) {
      for (const scheme of ['T568A', 'T568B'] as const) {
        const { expected, link } = soundLink(kind, scheme, 30, 30);
        for (const instrument of [
          'coded-mapper-crosstalk',
          'lamp-pairs',
          'ohmmeter',
          'pair-reflectometer',
          'eye',
        ] as const) {
          const reading = take(link, instrument, { chance: null });
          expect(findIn(expected, reading)).withContext(`${kind.name} ${instrument}`).toEqual([]);
          expect(diagnose(expected, [reading]).result).not.toBe('fail');
        }
      }
    }
  });
});
