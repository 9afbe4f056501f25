import fc from 'fast-check';
import { dSubOrder, headerOrder, layRibbon, NoRibbon, type RibbonJob } from '@near-spoke/core';

/** All orders of so many things. */
function* orders(count: number): Generator<number[]> {
  const go = function* (left: number[], done: number[]): Generator<number[]> {
    if (left.length === 0) yield done;
    for (const next of left)
      yield* go(
        left.filter((each) => each !== next),
        [...done, next],
      );
  };
  yield* go(
    Array.from({ length: count }, (_, n) => n),
    [],
  );
}
const inversions = (places: readonly number[]): number =>
  places.reduce((sum, place, n) => sum + places.slice(n + 1).filter((later) => later < place).length, 0);

/** Fewest crossings of any way to give the dead wires places, by trying them all. */
function fewest({ near, far, joins }: RibbonJob): number {
  const goal = near.map((contact) => {
    const join = joins.find(([from]) => from === contact);
    return join ? far.indexOf(join[1]) : null;
  });
  const free = far.map((_, n) => n).filter((n) => !goal.includes(n));
  const dead = goal.flatMap((place, n) => (place === null ? [n] : []));
  const kept = Math.min(free.length, dead.length);
  let best = Infinity;
  const go = (n: number, left: number[], placed: number): void => {
    if (n === dead.length) {
      if (placed === kept) best = Math.min(best, inversions(goal.filter((place) => place !== null)));
      return;
    }
    const conductor = dead[n] ?? 0;
    for (const place of left) {
      goal[conductor] = place;
      go(
        n + 1,
        left.filter((each) => each !== place),
        placed + 1,
      );
    }
    goal[conductor] = null;
    go(n + 1, left, placed);
  };
  go(0, free, 0);
  return best;
}

/** Whether doing the swaps in order brings the conductors to their places. */
function realises(job: RibbonJob, lay: ReturnType<typeof layRibbon>): boolean {
  const row = job.near.map((_, n) => n).filter((n) => !lay.peeled.includes(n));
  for (const round of lay.rounds) {
    const touched = new Set<number>();
    for (const [one, other] of round) {
      const at = row.indexOf(one);
      if (row[at + 1] !== other || touched.has(one) || touched.has(other)) return false;
      [row[at], row[at + 1]] = [other, one];
      touched.add(one).add(other);
    }
  }
  return JSON.stringify(row) === JSON.stringify(lay.order.filter((each) => each !== null));
}

const job = (size: number, extra: number): fc.Arbitrary<RibbonJob> =>
  fc
    .tuple(
      fc.shuffledSubarray(
        Array.from({ length: size }, (_, n) => n),
        { minLength: 1 },
      ),
      fc.shuffledSubarray(
        Array.from({ length: size + extra }, (_, n) => n),
        { minLength: size + extra },
      ),
    )
    .map(([from, to]) => ({
      near: headerOrder(size),
      far: headerOrder(size + extra).map((contact) => `f${contact}`),
      joins: from.map((n, k) => [String(n + 1), `f${(to[k] ?? 0) + 1}`] as const),
    }));

describe('a ribbon', () => {
  it('meets a D-sub across and back', () => {
    expect(dSubOrder(9).join(' ')).toBe('1 6 2 7 3 8 4 9 5');
    expect(dSubOrder(15).join(' ')).toBe('1 9 2 10 3 11 4 12 5 13 6 14 7 15 8');
  });

  it('is laid flat between like contacts of a D-sub, one to one', () => {
    const order = dSubOrder(9);
    const lay = layRibbon({ near: order, far: order, joins: order.map((contact) => [contact, contact]) });
    expect(lay.crossings).toBe(0);
    expect(lay.rounds).toEqual([]);
    expect(lay.dead).toEqual([]);
  });

  it('is flat from a two-row header to a D-sub where the header follows the D-sub’s order', () => {
    const far = dSubOrder(9);
    const joins = far.map((contact, n) => [String(n + 1), contact] as const);
    const lay = layRibbon({ near: headerOrder(10), far, joins });
    expect(lay.crossings).toBe(0);
    expect(lay.dead).toEqual([9]);
    expect(lay.peeled).toEqual([9]);
  });

  it('crosses from a header to a D-sub, like number to like number', () => {
    const joins = headerOrder(9).map((contact) => [contact, contact] as const);
    const lay = layRibbon({ near: headerOrder(10), far: dSubOrder(9), joins }, { mayTurn: false });
    // 1 2 3 ... 9 have to stand 1 6 2 7 3 8 4 9 5.
    expect(lay.order.map((conductor) => (conductor ?? -1) + 1)).toEqual([1, 6, 2, 7, 3, 8, 4, 9, 5]);
    expect(lay.crossings).toBe(10);
    expect(lay.rounds.length).toBeLessThanOrEqual(7);
  });

  it('is turned over where the far connector faces the other way', () => {
    const near = headerOrder(6);
    const joins = near.map((contact, n) => [contact, String(6 - n)] as const);
    const lay = layRibbon({ near, far: near, joins });
    expect([lay.turned, lay.crossings]).toEqual([true, 0]);
    expect(layRibbon({ near, far: near, joins }, { mayTurn: false }).crossings).toBe(15);
  });

  it('realises its joins with the fewest crossings there are, dead wires laid as they cost least', () => {
    const law = fc.property(
      fc
        .integer({ min: 1, max: 6 })
        .chain((size) => fc.integer({ min: 0, max: 2 }).chain((extra) => job(size, extra))),
      (given) => {
        const lay = layRibbon(given, { mayTurn: false });
        const right = given.joins.every(
          ([from, to]) => lay.order[given.far.indexOf(to)] === given.near.indexOf(from),
        );
        return right && realises(given, lay) && lay.crossings === fewest(given);
      },
    );
    expect(() => fc.assert(law, { numRuns: 300 })).not.toThrow();
  });

  it('takes exactly as many crossings as pairs stand the wrong way round, for every order of up to seven wires', () => {
    let tried = 0;
    for (let count = 1; count <= 7; count++) {
      const near = headerOrder(count);
      for (const order of orders(count)) {
        const joins = order.map((place, n) => [String(n + 1), String(place + 1)] as const);
        const lay = layRibbon({ near, far: near, joins }, { mayTurn: false });
        if (lay.crossings !== inversions(order) || !realises({ near, far: near, joins }, lay))
          fail(`${order.join(' ')}`);
        tried++;
      }
    }
    expect(tried).toBe(5913);
  });

  it('refuses what one wire cannot do', () => {
    const near = headerOrder(3);
    const lay = (joins: RibbonJob['joins']) => () => layRibbon({ near, far: near, joins });
    expect(lay([['1', '9']])).toThrowError(NoRibbon, /far connector has no contact 9/);
    expect(lay([['7', '1']])).toThrowError(NoRibbon, /near connector has no contact 7/);
    expect(
      lay([
        ['1', '2'],
        ['1', '3'],
      ]),
    ).toThrowError(NoRibbon, /joined twice/);
    expect(
      lay([
        ['1', '2'],
        ['3', '2'],
      ]),
    ).toThrowError(NoRibbon, /Far contact 2 is joined twice/);
  });
});
