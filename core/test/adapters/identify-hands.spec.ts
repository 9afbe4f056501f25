import fc from 'fast-check';
import { identifySeconds, planIdentification, USUAL_HANDS, type Hands } from '@near-spoke/core';

const plan = (count: number, hasReturn = false, helper = false) =>
  planIdentification({ count, hasReturn, helper });

describe('What telling unmarked conductors apart costs', () => {
  it('is worked out by hand for two conductors beside a return: one walk', () => {
    const { bothS, oneS, answerS, clipS, walkS } = USUAL_HANDS;
    const two = plan(2, true);
    expect(two.way === 'walk' && two.walks).toBe(1);
    const joined = two.way === 'walk' ? (two.groupsAtA[0]?.length ?? 0) : 0;
    // The return and what is joined to it; one probe on the return, the other over both.
    const first = joined > 0 ? (joined + 1) * clipS : 0;
    const found = bothS + oneS + joined * answerS;
    expect(identifySeconds(two)).toBeCloseTo(walkS + first + found, 9);
  });

  it('of two conductors alone is without end: nothing tells them', () => {
    expect(identifySeconds(plan(2))).toBe(Infinity);
  });

  it('grows by exactly the walks where only the way is longer, and with a helper not at all', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 60 }),
        fc.boolean(),
        fc.integer({ min: 1, max: 3000 }),
        (count, hasReturn, more) => {
          const far: Hands = { ...USUAL_HANDS, walkS: USUAL_HANDS.walkS + more };
          const alone = plan(count, hasReturn);
          const walks = alone.way === 'walk' ? alone.walks : 0;
          expect(identifySeconds(alone, far) - identifySeconds(alone)).toBeCloseTo(walks * more, 6);
          const helped = plan(count, hasReturn, true);
          expect(identifySeconds(helped, far)).toBe(identifySeconds(helped));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is never less for hands that are slower in anything', () => {
    const figures = Object.keys(USUAL_HANDS) as (keyof Hands)[];
    for (const count of [3, 5, 9, 16, 25])
      for (const helper of [false, true])
        for (const figure of figures) {
          const slower = { ...USUAL_HANDS, [figure]: 2 * USUAL_HANDS[figure] };
          const of = plan(count, true, helper);
          expect(identifySeconds(of, slower)).withContext(figure).toBeGreaterThanOrEqual(identifySeconds(of));
        }
  });
});
