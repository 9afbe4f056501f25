import fc from 'fast-check';
import { canGive, entriesThatHold, reelStanding, type ReelEvent } from '@near-spoke/core';

const labelled = (lengthM: number): ReelEvent => ({ what: 'labelled', lengthM });
const drawn = (lengthM: number): ReelEvent => ({ what: 'drawn', lengthM });
const measured = (lengthM: number, u95M = 0.5): ReelEvent => ({ what: 'measured', lengthM, u95M });

describe('what is left on a reel', () => {
  it('is the label less the draws, and less sure with each draw', () => {
    const { leftM, u95M, drawnSinceM, drawsSince } = reelStanding([labelled(305), drawn(40), drawn(25)]);
    expect(leftM).toBeCloseTo(240, 9);
    expect(drawnSinceM).toBe(65);
    expect(drawsSince).toBe(2);
    // Label 3.05 m, draws 0.41 and 0.27 m, in quadrature.
    expect(u95M).toBeCloseTo(Math.hypot(3.05, Math.hypot(0.4, 0.1), Math.hypot(0.25, 0.1)), 9);
  });

  it('is not known where neither label nor measurement says how much there was', () => {
    const standing = reelStanding([drawn(10)]);
    expect(standing.leftM).toBeNull();
    expect(standing.overdrawn).toBeFalse();
    expect(canGive(standing, 5)).toBe('perhaps');
  });

  it('counts a label that was found late from the beginning', () => {
    expect(reelStanding([drawn(30), labelled(100)]).leftM).toBeCloseTo(70, 9);
  });

  it('comes closer to the surer of ledger and measurement where the two agree', () => {
    const { leftM, u95M, disagreement, drawsSince } = reelStanding([
      labelled(305),
      drawn(65),
      measured(241.5, 0.4),
    ]);
    expect(disagreement).toBeNull();
    expect(leftM).toBeGreaterThan(241.4);
    expect(leftM).toBeLessThan(241.5);
    expect(u95M).toBeLessThan(0.4);
    expect(drawsSince).toBe(0);
  });

  it('believes the measurement and tells the difference where a draw was not entered', () => {
    const events = [labelled(305), drawn(65), measured(190, 0.4)];
    const { leftM, u95M, disagreement } = reelStanding(events);
    expect(leftM).toBe(190);
    expect(u95M).toBeCloseTo(0.4, 9);
    expect(disagreement).toEqual(
      jasmine.objectContaining({ at: 2, measuredM: 190, ledgerM: jasmine.any(Number) }),
    );
    expect(disagreement?.ledgerM).toBeCloseTo(240, 9);
    expect(disagreement?.apart).toBeGreaterThan(20);
    expect(reelStanding([...events, drawn(10)]).disagreement).toEqual(disagreement);
    // The next measurement that fits settles it.
    expect(reelStanding([...events, drawn(10), measured(179.8)]).disagreement).toBeNull();
  });

  it('says so when more was drawn than there can have been', () => {
    expect(reelStanding([labelled(100), drawn(60), drawn(50)]).overdrawn).toBeTrue();
    expect(reelStanding([labelled(100), drawn(60), drawn(40.5)]).overdrawn).toBeFalse();
  });

  it('gives a piece surely, perhaps or not', () => {
    const standing = { leftM: 50, u95M: 1 };
    expect([48.9, 49.5, 50.9, 51.1].map((lengthM) => canGive(standing, lengthM))).toEqual([
      'yes',
      'perhaps',
      'perhaps',
      'no',
    ]);
  });

  it('never grows by a draw, and a measurement never makes it less sure than it is itself', () => {
    const event = fc.oneof(
      fc.double({ min: 0, max: 100, noNaN: true }).map(drawn),
      fc
        .tuple(fc.double({ min: 0, max: 400, noNaN: true }), fc.double({ min: 0.05, max: 5, noNaN: true }))
        .map(([lengthM, u95M]) => measured(lengthM, u95M)),
    );
    const law = fc.property(fc.array(event, { maxLength: 12 }), event, (before, last) => {
      const [was, is] = [
        reelStanding([labelled(305), ...before]),
        reelStanding([labelled(305), ...before, last]),
      ];
      if (last.what === 'drawn') return (is.leftM ?? 0) <= (was.leftM ?? 0) && is.u95M >= was.u95M;
      return last.what !== 'measured' || is.u95M <= last.u95M + 1e-9;
    });
    expect(() => fc.assert(law)).not.toThrow();
  });
});

describe('entries of a ledger', () => {
  const entry = (id: string, corrects: string | null = null) => ({ id, corrects });

  it('hold where nothing corrects them, and a correction stands where the first stood', () => {
    const kept = [entry('a'), entry('b'), entry('c', 'a'), entry('d'), entry('e', 'c')];
    expect(entriesThatHold(kept).map(({ id }) => id)).toEqual(['e', 'b', 'd']);
  });
});
