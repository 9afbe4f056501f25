import fc from 'fast-check';
import {
  helperRoundsOf,
  JoiningMistake,
  namesByRounds,
  planIdentification,
  wiresByTwo,
  type IdentifyPlan,
  type Told,
} from '../src/index.js';

type HelperPlan = Extract<IdentifyPlan, { way: 'helper' }>;
const planOf = (count: number, hasReturn: boolean): HelperPlan => {
  const plan = planIdentification({ count, hasReturn, helper: true });
  if (plan.way !== 'helper') throw new Error(plan.way);
  return plan;
};

/** A cable with names at B in an order that nobody knows, and what beeps there in each round. */
function reading(
  plan: HelperPlan,
  order: readonly string[],
  joinedIn: (n: number, round: number) => boolean,
): string[][] {
  return helperRoundsOf(plan).map(({ join }, round) =>
    join.filter((n) => joinedIn(n, round)).map((n) => order[n - 1] as string),
  );
}
const cable = fc
  .record({ count: fc.integer({ min: 2, max: 60 }), hasReturn: fc.boolean() })
  .filter(({ count, hasReturn }) => hasReturn || count > 2)
  .chain(({ count, hasReturn }) =>
    fc
      .shuffledSubarray(
        Array.from({ length: count }, (_, i) => `w${i}`),
        { minLength: count },
      )
      .map((order) => ({ plan: planOf(count, hasReturn), order })),
  );

describe('unmarked conductors with somebody at the other end', () => {
  it('are all named after as many rounds as a number has digits, two more without a return', () => {
    fc.assert(
      fc.property(cable, ({ plan, order }) => {
        const found = reading(plan, order, () => true);
        expect(found.length).toBe(Math.max(1, Math.ceil(Math.log2(plan.count))) + (plan.withReturn ? 0 : 2));
        const named = namesByRounds(plan, [...order].sort(), found);
        expect(Object.entries(named).map(([n, name]) => [Number(n), name])).toEqual(
          order.map((name, i) => [i + 1, name]),
        );
      }),
    );
  });

  it('never come out wrong for a join that was missed: it is noticed', () => {
    fc.assert(
      fc.property(cable, fc.nat(), ({ plan, order }, pick) => {
        const all = helperRoundsOf(plan).flatMap(({ join }, round) => join.map((n) => ({ n, round })));
        const missed = all[pick % all.length] as { n: number; round: number };
        const found = reading(plan, order, (n, round) => n !== missed.n || round !== missed.round);
        expect(() => namesByRounds(plan, [...order].sort(), found)).toThrowError(JoiningMistake);
      }),
    );
  });

  it('never come out wrong for one that is open all along', () => {
    const plan = planOf(25, true);
    const order = Array.from({ length: 25 }, (_, i) => `w${i}`);
    const found = reading(plan, order, (n) => n !== 9);
    expect(() => namesByRounds(plan, order, found)).toThrowError(/w0 and w8 beep in the same rounds/);
  });

  const told = (doing: Told['doing']): Told => ({ end: 'near', who: 'x', doing });

  it('go round by round: joined, then read, each once', () => {
    const begun = [told({ does: 'named', names: ['a', 'b', 'c'] }), told({ does: 'joined', round: 0 })];
    const early = told({ does: 'joined', round: 1 });
    const read = told({ does: 'found', round: 0, names: ['b'] });
    expect(wiresByTwo([...begun, early, read, read])).toEqual({
      names: ['a', 'b', 'c'],
      joined: 1,
      found: [['b']],
    });
    // A name that nobody gave is none of the conductors.
    expect(wiresByTwo([...begun, told({ does: 'found', round: 0, names: ['z'] })]).found).toEqual([]);
    // Taken back, the round is joined again before it is read.
    const back = [...begun, read, told({ does: 'took-back', touch: 0 })];
    expect(wiresByTwo(back)).toEqual({ names: ['a', 'b', 'c'], joined: 0, found: [] });
    // Both ends said so at once: the second finds it done.
    const twice = [...back, told({ does: 'took-back', touch: 0 })];
    expect(wiresByTwo(twice)).toEqual(wiresByTwo(back));
  });
});
