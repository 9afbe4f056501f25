import * as fc from 'fast-check';
import { drawNormal, fromBothEnds, onRoute, seededRandom, wholeLength } from '../../src/index.js';

const route = [
  { name: 'shelf', lengthM: 3 },
  { name: 'tray over hall', lengthM: 13.2 },
  { name: 'wall bay 3', lengthM: 3.3 },
  { name: 'wall bay 4', lengthM: 5.7 },
  { name: 'ceiling void', lengthM: 34.8 },
  { name: 'drop', lengthM: 6.2 },
];

describe('A located event on the route', () => {
  it('lies in the stretch that its distance falls in, counted from that stretch’s near end', () => {
    const [first, ...others] = onRoute({ distanceM: 22.1, u95M: 0.2 }, route, 66.2);
    expect(first?.name).toBe('wall bay 4');
    expect(first?.fromM).toBeCloseTo(2.4, 6);
    expect(first?.toM).toBeCloseTo(2.8, 6);
    expect(others).toEqual([]);
  });

  it('lies in either of two stretches where its interval spans their border, likelier first', () => {
    const named = onRoute({ distanceM: 19.7, u95M: 0.5 }, route, 66.2);
    expect(named.map(({ name }) => name)).toEqual(['wall bay 4', 'wall bay 3']);
    expect(named.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 2);
  });

  it('always lies somewhere', () => {
    expect().nothing();
    fc.assert(
      fc.property(
        fc.double({ min: -5, max: 80, noNaN: true }),
        fc.double({ min: 0.01, max: 10, noNaN: true }),
        (distanceM, u95M) => {
          const named = onRoute({ distanceM, u95M }, route, 66.2);
          const belief = named.reduce((sum, { probability }) => sum + probability, 0);
          return (
            belief > 0.85 &&
            belief < 1.0001 &&
            named.every(({ fromM, toM, lengthM }) => fromM >= 0 && toM <= lengthM)
          );
        },
      ),
    );
  });

  it('is told of a link without a route as well', () => {
    expect(onRoute({ distanceM: 5, u95M: 0.1 }, [], 20)[0]?.name).toBe('the cable');
    expect(onRoute({ distanceM: 19, u95M: 0.1 }, [{ name: 'riser', lengthM: 10 }], 20)[0]?.name).toBe(
      'the rest',
    );
  });
});

describe('An event seen from both ends', () => {
  it('is put where both say, and the velocity is set right', () => {
    // Read with a velocity 3 % too high: 23.69 and 44.5 of 66.2 m.
    const both = fromBothEnds(
      { distanceM: 23 * 1.03, u95M: 0.04 },
      { distanceM: 43.2 * 1.03, u95M: 0.04 },
      { lengthM: 66.2, deviationM: 0.02 },
      0.02,
    );
    expect(both.velocityScale).toBeCloseTo(1 / 1.03, 3);
    expect(both.distanceM).toBeCloseTo(23, 1);
    expect(both.u95M).toBeLessThan(0.1);
    expect(both.apart).toBeLessThan(3);
  });

  it('holds what it says, over many draws', () => {
    const random = seededRandom(5);
    let within = 0;
    for (let n = 0; n < 600; n++) {
      const scale = 1 + 0.012 * drawNormal(random);
      const seen = (metres: number) => ({
        distanceM: metres * scale + 0.02 * drawNormal(random),
        u95M: 0.0392,
      });
      const lengthM = 66.2 + 0.05 * drawNormal(random);
      const both = fromBothEnds(seen(23), seen(43.2), { lengthM, deviationM: 0.05 }, 0.012);
      if (Math.abs(both.distanceM - 23) <= both.u95M) within++;
    }
    expect(within / 600).toBeGreaterThan(0.93);
  });

  it('is found to be two places where the distances do not fit the link', () => {
    const both = fromBothEnds(
      { distanceM: 23, u95M: 0.1 },
      { distanceM: 30, u95M: 0.1 },
      { lengthM: 66.2, deviationM: 0.1 },
      0.012,
    );
    expect(both.apart).toBeGreaterThan(3);
  });
});

describe('Two ends that see each other', () => {
  const link = { lengthM: 55.4, deviationM: 1.7 };
  const seen = (distanceM: number, u95M = 0.05) => ({ distanceM, u95M });

  it('give the length of the line, as sure as velocity allows', () => {
    const whole = wholeLength(seen(54.91), seen(54.95), link, 0.006);
    expect(whole?.distanceM).toBeCloseTo(54.93, 2);
    expect(whole?.u95M).toBeCloseTo(1.96 * 0.006 * 54.93, 1);
  });

  it('are no length where they see a place between them, or differ, or are far from the plan', () => {
    expect(wholeLength(seen(23), seen(32.4), link, 0.006)).toBeNull();
    expect(wholeLength(seen(54.9), seen(54.2), link, 0.006)).toBeNull();
    expect(wholeLength(seen(40), seen(40), link, 0.006)).toBeNull();
  });
});
