import { enoughNineInTen, paceOf, seededRandom, type TimesOfEnds } from '@near-spoke/core';

const times = (connector: string, ratio: number, known: number): TimesOfEnds => ({
  connector,
  plannedMinutes: 6,
  median: 6 * ratio,
  known,
});

describe('a crew’s pace', () => {
  it('is the plan’s before there is a record, and the record’s once there is enough of it', () => {
    expect(paceOf([]).factor).toBe(1);
    const few = paceOf([times('jack', 2, 3)], 'jack');
    const many = paceOf([times('jack', 2, 300)], 'jack');
    expect(few.factor).toBeGreaterThan(1.2);
    expect(few.factor).toBeLessThan(1.9);
    // Half of them took twice the plan or more: on average it is more than that.
    expect(many.factor).toBeGreaterThan(2.1);
    expect(many.sd).toBeLessThan(few.sd);
    expect(many.known).toBe(300);
  });

  it('is moved by what other connectors took, and by its own more', () => {
    const slow = [times('plug', 1.6, 80), times('coax', 1.5, 60)];
    const never = paceOf(slow, 'jack').factor;
    expect(never).toBeGreaterThan(1.3);
    expect(paceOf([...slow, times('jack', 0.9, 80)], 'jack').factor).toBeLessThan(1.15);
    expect(paceOf(slow, 'jack').sd).toBeGreaterThan(paceOf([...slow, times('jack', 0.9, 80)], 'jack').sd);
  });

  it('promises minutes that are enough nine times in ten for crews that it did not draw', () => {
    // A world of its own: paces lie in a triangle about 1.1, single ends are skewed sums of waits, medians are counted.
    const random = seededRandom(5);
    const exponential = (): number => -Math.log(1 - random());
    const one = (pace: number): number => (pace * (exponential() + exponential() + exponential() + 1)) / 4;
    let enough = 0;
    const CREWS = 1500;
    for (let crew = 0; crew < CREWS; crew++) {
      const pace = 0.7 + 0.8 * ((random() + random()) / 2);
      const known = Math.floor(random() * 30);
      const taken = Array.from({ length: known }, () => one(pace)).sort((a, b) => a - b);
      const record = known === 0 ? [] : [times('jack', taken[Math.floor(known / 2)] ?? 1, known)];
      const { factor, sd } = paceOf(record, 'jack');
      const pieces = 5 + Math.floor(random() * 60);
      const promised = pieces * factor * enoughNineInTen([{ minutes: pieces * factor, sd, pieces }]);
      const took = Array.from({ length: pieces }, () => one(pace)).reduce((sum, minutes) => sum + minutes, 0);
      if (took <= promised) enough++;
    }
    expect(enough / CREWS).toBeGreaterThan(0.86);
    expect(enough / CREWS).toBeLessThan(0.995);
  });

  it('needs less over itself the more operations share the work', () => {
    const apart = enoughNineInTen([{ minutes: 50, sd: 0.3, pieces: 50 }, { minutes: 50, sd: 0.3, pieces: 50 }]); // prettier-ignore
    const alone = enoughNineInTen([{ minutes: 100, sd: 0.3, pieces: 100 }]);
    expect(apart).toBeLessThan(alone);
    expect(enoughNineInTen([])).toBe(1);
  });
});
