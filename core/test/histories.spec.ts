import { count, history, newTally } from './world/histories.js';
import { KINDS, soundLink } from './world/draw-world.js';
import { take } from './world/world-instruments.js';
import { diagnose, findIn, TYPICAL_PRACTICE } from '../src/index.js';

describe('links of a world that the judge’s model did not draw', () => {
  it('are each judged by one belief at most, whatever was read', () => {
    // A belief asks once how often a link is wrong at all.
    let beliefs = 0;
    const practice = new Proxy(TYPICAL_PRACTICE, {
      get: (of, name) => {
        if (name === 'wrongShare') beliefs++;
        return Reflect.get(of, name) as unknown;
      },
    });
    const counts: number[] = [];
    for (let seed = 1; seed <= 20; seed++)
      for (const { drawn, evidence } of history(seed)) {
        beliefs = 0;
        diagnose(drawn.expected, evidence, practice);
        counts.push(beliefs);
      }
    expect(Math.max(...counts)).toBe(1);
    expect(counts.length).toBeGreaterThan(40);
  });

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
