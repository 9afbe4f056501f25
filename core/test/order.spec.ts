import fc from 'fast-check';
import {
  blockedBy,
  CORE,
  deadlineOf,
  EDGE,
  JACKET,
  operationsOf,
  solveOrder,
  TIP,
  waitsFor,
  without,
  type Assembly,
  type Operation,
} from '../src/index.js';

/** Checks an order step by step, apart from the solver. */
function isValid(assembly: Assembly, order: readonly string[]): boolean {
  const done = new Set<string>();
  for (const id of order) {
    const operation = assembly.operations.find((o) => o.id === id);
    if (!operation || done.has(id)) return false;
    if (waitsFor(assembly, operation).some((before) => !done.has(before))) return false;
    if (blockedBy(assembly, done, operation)) return false;
    done.add(id);
  }
  return done.size === assembly.operations.length;
}

function* permutations<T>(items: readonly T[]): Generator<T[]> {
  if (items.length === 0) yield [];
  for (const [i, item] of items.entries()) {
    for (const rest of permutations([...items.slice(0, i), ...items.slice(i + 1)])) yield [item, ...rest];
  }
}

const size = fc.integer({ min: 2, max: 20 });
const zone = fc.constantFrom(TIP, CORE, EDGE);

/** Random ends: a chain of work that makes the end thicker and thinner, and rings that must pass. */
function assemblies(most: { work: number; rings: number; chain?: boolean }): fc.Arbitrary<Assembly> {
  const work = fc.array(
    fc.record({
      girths: fc.array(fc.record({ zone, mm: size }), { maxLength: 2 }),
      /** How far back it waits for the work before it; 0 waits for nothing. */
      back: fc.integer({ min: 0, max: 2 }),
    }),
    { maxLength: most.work },
  );
  const rings = fc.array(
    fc.record({
      boreMm: size,
      wall: fc.integer({ min: 1, max: 6 }),
      over: fc.constantFrom(CORE, JACKET),
      slides: fc.boolean(),
    }),
    { maxLength: most.rings },
  );
  return fc.tuple(size, work, rings).map(([cableMm, steps, drawn]) => {
    // Parts are listed nearest the connector first; what is brought forward is in front of what stays.
    const parts = [...drawn.filter((ring) => ring.slides), ...drawn.filter((ring) => !ring.slides)];
    const threads: Operation[] = parts.map((ring, i) => ({
      id: `thread-${i}`,
      after: [],
      thread: {
        part: `ring-${i}`,
        boreMm: ring.boreMm,
        outsideMm: ring.boreMm + ring.wall,
        rest: ring.over + i / 10,
      },
    }));
    const slides: Operation[] = parts.flatMap((ring, i) =>
      ring.slides && ring.over === JACKET
        ? [{ id: `slide-${i}`, after: [], slide: { part: `ring-${i}`, to: EDGE } }]
        : [],
    );
    const work: Operation[] = steps.map(({ girths, back }, i) => ({
      id: `work-${i}`,
      after: back > 0 && i - back >= 0 ? [`work-${i - back}`] : [],
      girths,
    }));
    const rest = [...work, ...slides];
    threads.sort((a, b) => (b.thread?.rest ?? 0) - (a.thread?.rest ?? 0));
    return {
      cableMm,
      operations: [
        ...threads,
        // A real recipe is a chain: only the rings are free.
        ...(most.chain
          ? rest.map((o, i) => ({
              ...o,
              after: rest
                .slice(0, i)
                .map((b) => b.id)
                .slice(-1),
            }))
          : rest),
      ],
    };
  });
}

describe('the order of work at an end', () => {
  it('never threads a ring over something bigger than its bore', () => {
    fc.assert(
      fc.property(assemblies({ work: 6, rings: 4 }), (assembly) => {
        const solved = solveOrder(assembly);
        if (solved.found) expect(isValid(assembly, solved.order)).toBeTrue();
      }),
      { numRuns: 400 },
    );
  });

  it('is found whenever one exists: all permutations agree', () => {
    fc.assert(
      fc.property(assemblies({ work: 3, rings: 2 }), (assembly) => {
        const exists = [...permutations(assembly.operations.map((o) => o.id))].some((order) =>
          isValid(assembly, order),
        );
        expect(solveOrder(assembly).found).toBe(exists);
      }),
      { numRuns: 150 },
    );
  });

  it('changes only at the part when a part threaded first is left out', () => {
    let tried = 0;
    fc.assert(
      fc.property(assemblies({ work: 6, rings: 4, chain: true }), (assembly) => {
        const solved = solveOrder(assembly);
        if (!solved.found) return;
        const first = solved.order.slice(
          0,
          solved.order.findIndex((id) => !id.startsWith('thread-')),
        );
        for (const id of first) {
          const gone = operationsOf(assembly, id.replace('thread', 'ring'));
          const fewer = solveOrder(without(assembly, gone));
          tried += 1;
          expect(fewer).toEqual({ found: true, order: solved.order.filter((o) => !gone.has(o)) });
        }
      }),
      { numRuns: 600 },
    );
    expect(tried).toBeGreaterThan(100);
  });

  it('names a set of parts that is to blame, of which none can be spared', () => {
    let proved = 0;
    fc.assert(
      fc.property(assemblies({ work: 5, rings: 3 }), (assembly) => {
        const solved = solveOrder(assembly);
        if (solved.found || solved.why.reason !== 'cannot pass') return;
        proved += 1;
        const { parts, blocked } = solved.why;
        expect(parts.length).toBeGreaterThan(0);
        expect(blocked.every((b) => parts.includes(b.part) && b.boreMm <= b.girthMm)).toBeTrue();
        const others = assembly.operations.flatMap((o) =>
          o.thread && !parts.includes(o.thread.part) ? [...operationsOf(assembly, o.thread.part)] : [],
        );
        const onlyThese = without(assembly, new Set(others));
        for (const part of parts) {
          expect(solveOrder(without(onlyThese, operationsOf(onlyThese, part))).found).toBeTrue();
        }
      }),
      { numRuns: 400 },
    );
    expect(proved).toBeGreaterThan(40);
  });

  const boot = (boreMm: number): Operation => ({
    id: 'thread-boot',
    after: [],
    thread: { part: 'boot', boreMm, outsideMm: boreMm + 4, rest: JACKET },
  });
  const plug: Operation[] = [
    {
      id: 'strip',
      after: [],
      girths: [
        { zone: TIP, mm: 4 },
        { zone: CORE, mm: 4 },
      ],
    },
    { id: 'insert', after: ['strip'], girths: [{ zone: TIP, mm: 11.7 }] },
  ];

  it('puts a boot first, and says until when it could go on', () => {
    const assembly = { cableMm: 6, operations: [boot(6.5), ...plug] };
    const solved = solveOrder(assembly);
    expect(solved).toEqual({ found: true, order: ['thread-boot', 'strip', 'insert'] });
    expect(deadlineOf(assembly, ['thread-boot', 'strip', 'insert'], 'boot')).toBe('insert');
  });

  it('proves that a boot narrower than the jacket never goes on', () => {
    const solved = solveOrder({ cableMm: 6, operations: [boot(5.5), ...plug] });
    expect(solved).toEqual({
      found: false,
      why: {
        reason: 'cannot pass',
        parts: ['boot'],
        blocked: [{ part: 'boot', zone: JACKET, boreMm: 5.5, girthMm: 6, by: null }],
      },
    });
  });

  it('proves that a boot cannot pass the connector once it is on, and names what stops it', () => {
    const solved = solveOrder({ cableMm: 6, operations: [boot(6.5), ...plug] }, new Set(['strip', 'insert']));
    expect(solved.found).toBeFalse();
    if (solved.found || solved.why.reason !== 'cannot pass') return;
    expect(solved.why.blocked[0]).toEqual({
      part: 'boot',
      zone: TIP,
      boreMm: 6.5,
      girthMm: 11.7,
      by: 'insert',
    });
  });

  it('threads a sleeve over a conductor after the strip and before the joint that closes the way', () => {
    const sleeve: Operation = {
      id: 'thread-sleeve',
      after: [],
      thread: { part: 'sleeve', boreMm: 3, outsideMm: 4, rest: CORE + 0.1 },
    };
    const operations: Operation[] = [
      sleeve,
      {
        id: 'strip',
        after: [],
        girths: [
          { zone: TIP, mm: 1 },
          { zone: CORE, mm: 2 },
        ],
      },
      { id: 'join', after: ['strip'], girths: [{ zone: TIP, mm: Infinity }] },
    ];
    expect(solveOrder({ cableMm: 6, operations })).toEqual({
      found: true,
      order: ['strip', 'thread-sleeve', 'join'],
    });
  });

  it('says when the work waits for itself', () => {
    const operations: Operation[] = [
      { id: 'a', after: ['b'] },
      { id: 'b', after: ['a'] },
    ];
    expect(solveOrder({ cableMm: 5, operations })).toEqual({
      found: false,
      why: { reason: 'waits in a ring' },
    });
  });
});
