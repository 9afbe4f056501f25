import fc from 'fast-check';
import {
  joinAtB,
  JoiningMistake,
  partPairs,
  planIdentification,
  preferredValues,
  readAtA,
  settledAtB,
  tableIsUnique,
  type IdentifyPlan,
} from '../src/index.js';

type WalkPlan = Extract<IdentifyPlan, { way: 'walk' }>;

const walkPlan = (count: number, hasReturn: boolean): WalkPlan => {
  const plan = planIdentification({ count, hasReturn });
  if (plan.way !== 'walk') throw new Error(`${count}: ${plan.way}`);
  return plan;
};

/** What continuity shows of joins made at the other end: the same groups, by this end's names, in no order. */
function seen<T>(groups: readonly (readonly number[])[], nameOf: (number: number) => T): T[][] {
  return groups.map((group) => group.map(nameOf));
}

/** Walks a whole plan on a cable whose conductor `i` at A is `names[i - 1]` at B. */
function walkThrough(plan: WalkPlan, names: readonly string[]): Readonly<Record<number, string>> {
  const nameOf = (number: number): string => names[number - 1] as string;
  const numberOf = (name: string): number => names.indexOf(name) + 1;
  const atB = seen(plan.groupsAtA, nameOf);
  // Groups of one size look alike: shuffle them by name so that nothing is given away by order.
  const [first, ...rest] = atB;
  const shuffled = plan.withReturn
    ? [first ?? [], ...rest.sort((a, b) => (a[0] ?? '').localeCompare(b[0] ?? ''))]
    : atB.sort((a, b) => (a[0] ?? '').localeCompare(b[0] ?? ''));
  const joins = joinAtB(
    plan,
    shuffled.map((group) => [...group].sort()),
  );
  const settled = settledAtB(plan, joins);
  if (settled) return settled;
  const back = readAtA(
    plan,
    joins,
    joins.groups.map((group) => group.map(numberOf).sort((a, b) => a - b)),
  );
  if (plan.walks === 2) return back.names;
  const joined = back.unsure.map(({ numbers }) => nameOf(numbers[0]));
  return partPairs(back, joined);
}

const letters = (count: number): string[] => Array.from({ length: count }, (_, i) => `w${i}`);

function* permutations<T>(items: readonly T[]): Generator<T[]> {
  if (items.length === 0) yield [];
  for (const [i, item] of items.entries()) {
    for (const rest of permutations([...items.slice(0, i), ...items.slice(i + 1)])) yield [item, ...rest];
  }
}

/** Every way to write n as group sizes. */
function partitions(n: number, largest = n): number[][] {
  if (n === 0) return [[]];
  return Array.from({ length: Math.min(n, largest) }, (_, i) => i + 1).flatMap((size) =>
    partitions(n - size, size).map((rest) => [size, ...rest]),
  );
}

/** Whether a 0-1 table with these sums exists (Gale and Ryser). */
function tableExists(rows: readonly number[], columns: readonly number[]): boolean {
  const sorted = [...rows].sort((a, b) => b - a);
  return sorted.every((_, k) => {
    const left = sorted.slice(0, k + 1).reduce((a, b) => a + b, 0);
    return left <= columns.reduce((sum, c) => sum + Math.min(c, k + 1), 0);
  });
}

/** Conductors by the size of their group: what one end can know of them. */
const bySize = (groups: readonly number[]): number[] => {
  const sums = new Map<number, number>();
  for (const size of groups) sums.set(size, (sums.get(size) ?? 0) + size);
  return [...sums.values()];
};

describe('telling unmarked conductors apart, alone', () => {
  it('takes there and back for every count to 200 but 2, 5 and 9, and says so of those', () => {
    for (let count = 3; count <= 200; count++) {
      expect(walkPlan(count, false).walks)
        .withContext(`${count}`)
        .toBe(count === 5 || count === 9 ? 3 : 2);
    }
    const two = planIdentification({ count: 2, hasReturn: false });
    expect(two.way).toBe('impossible');
  });

  it('agrees with an exhaustive search of all groupings up to 12', () => {
    for (let count = 2; count <= 12; count++) {
      const all = partitions(count).map(bySize);
      const exists = all.some((rows) => all.some((columns) => tableExists(rows, columns)));
      expect(exists).withContext(`${count}`).toBe(![2, 5, 9].includes(count));
    }
  });

  it('proves itself unique: in every plan no two conductors share both sizes', () => {
    for (let count = 3; count <= 200; count++) {
      for (const hasReturn of [false, true]) {
        const plan = walkPlan(count, hasReturn);
        expect(tableIsUnique(plan.table, plan.walks)).toBeTrue();
        expect(plan.table.cells.flat().reduce((a, b) => a + b, 0)).toBe(count);
        expect(plan.groupsAtA.flat().sort((a, b) => a - b)).toEqual(
          Array.from({ length: count }, (_, i) => i + 1),
        );
      }
    }
  });

  it('finds every conductor of every cable up to 7, whatever way they lie', () => {
    for (let count = 3; count <= 7; count++) {
      for (const hasReturn of [false, true]) {
        const plan = walkPlan(count, hasReturn);
        for (const names of permutations(letters(count))) {
          const found = walkThrough(plan, names);
          for (let i = 1; i <= count; i++) {
            if (found[i] !== names[i - 1]) fail(`${count} ${String(hasReturn)} ${names.join()}`);
          }
        }
      }
    }
    expect(walkThrough(walkPlan(2, true), ['x', 'y'])).toEqual({ 1: 'x', 2: 'y' });
    expect(walkThrough(walkPlan(2, true), ['y', 'x'])).toEqual({ 1: 'y', 2: 'x' });
  });

  it('finds every conductor of random cables up to 200, 5 and 9 among them', () => {
    const counts = fc.oneof(fc.integer({ min: 3, max: 200 }), fc.constantFrom(5, 9));
    fc.assert(
      fc.property(counts, fc.boolean(), fc.integer(), (count, hasReturn, seed) => {
        const names = letters(count);
        // A shuffle of its own: fast-check's shrinks far too many names.
        let state = seed >>> 0 || 1;
        for (let i = names.length - 1; i > 0; i--) {
          state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
          const j = state % (i + 1);
          [names[i], names[j]] = [names[j] as string, names[i] as string];
        }
        const found = walkThrough(walkPlan(count, hasReturn), names);
        expect(names.every((name, i) => found[i + 1] === name)).toBeTrue();
      }),
      { numRuns: 60 },
    );
  });

  it('needs one walk for two conductors with a known return', () => {
    const plan = walkPlan(2, true);
    expect([plan.walks, plan.groupsAtA]).toEqual([1, [[1], [2]]]);
  });

  it('notices a missed join, a loose one, and a conductor in the wrong group', () => {
    const plan = walkPlan(6, false);
    const names = letters(6);
    const groups = plan.groupsAtA.map((g) => g.map((n) => names[n - 1] as string));
    const largest = groups.findIndex((g) => g.length > 1);
    const missed = groups.flatMap((g, i) => (i === largest ? g.map((name) => [name]) : [g]));
    expect(() => joinAtB(plan, missed)).toThrowError(JoiningMistake, /found here are/);
    const joins = joinAtB(plan, groups);
    const back = joins.groups.map((g) => g.map((name) => names.indexOf(name) + 1));
    const loose = back.flatMap((g) => (g.length > 1 ? [g.slice(1), g.slice(0, 1)] : [g]));
    expect(() => readAtA(plan, joins, loose)).toThrowError(JoiningMistake, /missed or loose/);
    // Two conductors of different groups changed places at A: what comes back is a pair the plan does not have.
    let noticed = 0;
    for (let a = 1; a <= 6; a++) {
      for (let b = a + 1; b <= 6; b++) {
        const swapped = names.map(
          (name, i) => (i === a - 1 ? names[b - 1] : i === b - 1 ? names[a - 1] : name) as string,
        );
        const made = joinAtB(
          plan,
          plan.groupsAtA.map((g) => g.map((n) => swapped[n - 1] as string)),
        );
        const read = made.groups.map((g) => g.map((name) => names.indexOf(name) + 1));
        try {
          readAtA(plan, made, read);
        } catch (error) {
          expect(error).toBeInstanceOf(JoiningMistake);
          noticed += 1;
        }
      }
    }
    expect(noticed).toBeGreaterThan(6);
  });

  it('refuses what is no count', () => {
    for (const count of [1, 201, 3.5, Number.NaN]) {
      expect(() => planIdentification({ count, hasReturn: false })).toThrowError(RangeError);
    }
  });
});

describe('with help at hand', () => {
  it('a second person needs as many rounds as the count has binary digits, and no two conductors answer alike', () => {
    for (const [count, rounds] of [
      [2, 1],
      [3, 2],
      [8, 3],
      [25, 5],
      [200, 8],
    ] as const) {
      const plan = planIdentification({ count, hasReturn: true, helper: true });
      if (plan.way !== 'helper') return fail(plan.way);
      expect(plan.rounds.length).withContext(`${count}`).toBe(rounds);
      const answers = Array.from({ length: count }, (_, i) =>
        plan.rounds.map((r) => r.includes(i + 1)).join(),
      );
      expect(new Set(answers).size).toBe(count);
    }
  });

  it('resistors do it in one walk, and no two readings can meet', () => {
    const tolerance = fc.double({ min: 0.005, max: 0.2, noNaN: true });
    const loop = fc.double({ min: 0, max: 60, noNaN: true });
    let made = 0;
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 60 }),
        fc.boolean(),
        tolerance,
        loop,
        (count, hasReturn, t, loopOhm) => {
          const plan = planIdentification({
            count,
            hasReturn,
            resistors: { ohms: preferredValues('E24', 47, 1e6), tolerance: t, loopOhm },
          });
          if (plan.way !== 'resistors') return;
          made += 1;
          expect(plan.reads.length).toBe(count);
          plan.reads
            .slice(1)
            .forEach((read, i) => expect(read.fromOhm).toBeGreaterThan(plan.reads[i]?.toOhm ?? 0));
        },
      ),
    );
    expect(made).toBeGreaterThan(20);
  });

  it('goes back to walking when too few values stay apart', () => {
    const plan = planIdentification({
      count: 12,
      hasReturn: true,
      resistors: { ohms: [100, 110, 120], tolerance: 0.05, loopOhm: 10 },
    });
    expect(plan.way).toBe('walk');
  });
});

describe('preferred values', () => {
  it('run through the decades', () => {
    expect(preferredValues('E6', 10, 220)).toEqual([10, 15, 22, 33, 47, 68, 100, 150, 220]);
    expect(preferredValues('E12', 8.2, 12)).toEqual([8.2, 10, 12]);
    expect(() => preferredValues('E6', 0, 5)).toThrowError(RangeError);
  });
});
