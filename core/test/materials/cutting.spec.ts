import * as fc from 'fast-check';
import loadHighs from 'highs';
import {
  allowanceOf,
  BadCutting,
  highsSolver,
  pieceLengthM,
  planCutting,
  pullsOf,
  type BoxSize,
  type CuttingPlan,
  type HeldStock,
  type LoadedHighs,
  type Piece,
} from '../../src/index.js';

const BOX: BoxSize = { name: 'box of 305 m', lengthM: 305, price: 100 };
const DRUM: BoxSize = { name: 'drum of 500 m', lengthM: 500, price: 155 };
const pieces = (...lengths: number[]): Piece[] =>
  lengths.map((lengthM, i) => ({ label: `L${i + 1}`, lengthM }));
const solve = highsSolver((await loadHighs()) as LoadedHighs);

/** The least number of boxes, by trying every piece in every box. */
function fewestBoxes(lengths: readonly number[], boxM: number): number {
  const sorted = [...lengths].sort((a, b) => b - a);
  let best = sorted.length;
  const place = (at: number, rooms: number[]): void => {
    if (rooms.length >= best) return;
    if (at === sorted.length) {
      best = rooms.length;
      return;
    }
    const length = sorted[at] as number;
    rooms.forEach((room, i) => {
      if (room >= length - 1e-9)
        place(
          at + 1,
          rooms.map((one, j) => (j === i ? one - length : one)),
        );
    });
    place(at + 1, [...rooms, boxM - length]);
  };
  place(0, []);
  return best;
}

/** What must hold of every plan: each piece once and whole, no source over its length, lengths conserved to the millimetre. */
function holds(plan: CuttingPlan, wanted: readonly Piece[]): void {
  const cut = plan.sources.flatMap((source) => source.pieces);
  expect(cut.map(({ label }) => label).sort()).toEqual(wanted.map(({ label }) => label).sort());
  for (const { lengthM, pieces: own, leftM } of plan.sources) {
    const usedMm = own.reduce((sum, piece) => sum + Math.round(piece.lengthM * 1000), 0);
    expect(Math.round(lengthM * 1000) - usedMm).toBe(Math.round(leftM * 1000));
    expect(leftM).toBeGreaterThanOrEqual(0);
  }
  expect(plan.boundPrice).toBeLessThanOrEqual(plan.price + 1e-9);
}

describe('cutting', () => {
  it('opens no more boxes than are needed, against every way there is', () => {
    const metres = fc.integer({ min: 50, max: 3000 }).map((n) => n / 10);
    fc.assert(
      fc.property(fc.array(metres, { minLength: 1, maxLength: 8 }), (lengths) => {
        const wanted = pieces(...lengths);
        const plan = planCutting(wanted, [], [BOX], { solve });
        holds(plan, wanted);
        expect(plan.price).toBe(100 * fewestBoxes(lengths, 305));
      }),
      { numRuns: 60 },
    );
  });

  it('needs patterns where filling one box after another goes astray', () => {
    const lengths = [155.9, 107.2, 80, 77.5, 107.8, 155.7, 108.7, 161.5, 100.6, 150.8];
    let asked = 0;
    const counted: typeof solve = (...given) => {
      asked++;
      return solve(...given);
    };
    const plan = planCutting(pieces(...lengths), [], [BOX], { solve: counted });
    expect(asked).toBeGreaterThan(1);
    expect(plan.price).toBe(100 * fewestBoxes(lengths, 305));
    expect(plan.gap).toBe(0);
    // Without a solver the plan stands with what is not proved of it.
    const filled = planCutting(pieces(...lengths), [], [BOX]);
    expect(filled.gap).toBeGreaterThan(0);
  });

  it('uses what is there first, and buys the sizes that cost least together', () => {
    const held: HeldStock[] = [
      { id: 'a', name: 'Box A', lengthM: 141 },
      { id: 'b', name: 'Box B', lengthM: 68.2 },
    ];
    const wanted = pieces(71, 70, 63.1, 66.2, 47.5, 44, 31);
    const plan = planCutting(wanted, held, [BOX, DRUM], { solve });
    holds(plan, wanted);
    expect(plan.buy).toEqual([{ size: BOX, count: 1 }]);
    expect(plan.sources.find(({ heldId }) => heldId === 'a')?.leftM).toBe(0);
    // Everything from what is there costs nothing.
    expect(planCutting(pieces(60, 70), held, [BOX]).price).toBe(0);
    const two = planCutting(pieces(...Array<number>(9).fill(90)), [], [BOX, DRUM], { solve });
    // A drum holds five and a box three: three boxes at 300, two drums at 310.
    expect(two.price).toBe(300);
  });

  it('conserves every millimetre, joins nothing, and never costs less than its bound', () => {
    const job = fc.record({
      lengths: fc.array(
        fc.integer({ min: 3000, max: 95_000 }).map((mm) => mm / 1000),
        { minLength: 0, maxLength: 40 },
      ),
      held: fc.array(
        fc.integer({ min: 0, max: 250_000 }).map((mm) => mm / 1000),
        { maxLength: 4 },
      ),
      sizes: fc.constantFrom([BOX], [BOX, DRUM]),
      pulls: fc.integer({ min: 1, max: 8 }),
    });
    fc.assert(
      fc.property(job, ({ lengths, held, sizes, pulls }) => {
        const wanted = pieces(...lengths).map((piece, i) => ({ ...piece, pull: `room ${i % pulls}` }));
        const stock = held.map((lengthM, i) => ({ id: `r${i}`, name: `Reel ${i}`, lengthM }));
        const plan = planCutting(wanted, stock, sizes, { solve });
        holds(plan, wanted);
        const ordered = pullsOf(plan.sources);
        holds({ ...plan, sources: ordered.sources }, wanted);
        for (const pull of ordered.pulls) {
          const from = pull.pieces.map(({ source }) => source);
          expect(new Set(from).size).withContext('one piece from a box at a time').toBe(from.length);
        }
        expect(ordered.pulls.flatMap((pull) => pull.pieces).length).toBe(wanted.length);
      }),
      { numRuns: 60 },
    );
  });

  it('lies the pieces of one pull in different boxes where that costs nothing', () => {
    // Two rooms of two, two boxes of two: filled by length alone both of a room come out of one box.
    const wanted: Piece[] = [
      { label: 'a1', lengthM: 150, pull: 'a' },
      { label: 'a2', lengthM: 150, pull: 'a' },
      { label: 'b1', lengthM: 149, pull: 'b' },
      { label: 'b2', lengthM: 149, pull: 'b' },
    ];
    const { sources } = planCutting(wanted, [], [BOX], { solve });
    const { pulls } = pullsOf(sources);
    expect(pulls.map(({ name, pieces: own }) => [name, own.length])).toEqual([
      ['a', 2],
      ['b', 2],
    ]);
    expect(pullsOf(sources, 1).pulls.length).toBe(4);
    // What is left after each pull is what the next one begins with.
    const after = pulls.flatMap((pull) => pull.pieces).filter(({ source }) => source === sources[0]?.name);
    expect(after.at(-1)?.leftAfterM).toBe(sources[0]?.leftM);
  });

  it('names what cannot be cut', () => {
    const wrong: [() => unknown, string][] = [
      [() => planCutting(pieces(306), [], [BOX]), 'L1 is 306.0 m, longer than anything'],
      [() => planCutting(pieces(30), [{ id: 'a', name: 'A', lengthM: 20 }], []), 'longer than anything'],
      [
        () => planCutting(pieces(15, 15), [{ id: 'a', name: 'A', lengthM: 20 }], []),
        'no size to buy is named',
      ],
      [() => planCutting(pieces(-2), [], [BOX]), 'no length to cut'],
      [() => planCutting([...pieces(2), ...pieces(3)], [], [BOX]), 'twice'],
      [() => planCutting(pieces(2), [], [{ ...BOX, price: 0 }]), 'a price is over 0'],
    ];
    for (const [plan, words] of wrong) expect(plan).toThrowError(BadCutting, new RegExp(words));
    expect(planCutting([], [], [BOX])).toEqual(jasmine.objectContaining({ sources: [], price: 0, gap: 0 }));
  });
});

describe('a job’s own allowance', () => {
  it('is the prior before anything was drawn, and the record after much was', () => {
    expect(allowanceOf([]).share).toBeCloseTo(0.04, 9);
    const many = allowanceOf(Array.from({ length: 200 }, () => ({ plannedM: 50, drawnM: 54 })));
    expect(many.share).toBeCloseTo(0.08, 2);
    expect(many.u95).toBeLessThan(allowanceOf([]).u95 / 2);
    // A piece twice as long as its plan is another link.
    expect(allowanceOf([{ plannedM: 20, drawnM: 60 }]).links).toBe(0);
    expect(pieceLengthM(50, { share: 0.04 }, 1.5)).toBe(53.5);
    expect(pieceLengthM(50, { share: -0.1 }, 0)).toBe(50);
  });
});
