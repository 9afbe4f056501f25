import fc from 'fast-check';
import { ResistorNetwork } from '../src/index.js';
import { ohmCases } from './world/ohm-cases.js';
import { ohmsBetween } from './world/world-link.js';

describe('a network of resistors', () => {
  it('adds in series, and in parallel by conductance', () => {
    const net = new ResistorNetwork();
    const [a, b, c] = [net.node(), net.node(), net.node()];
    net.join(a, b, 2);
    net.join(b, c, 3);
    net.join(a, c, 20);
    expect(net.between(a, c)).toBeCloseTo(4, 9);
  });

  it('balances a bridge: no current, so its middle does not matter', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 1e4, noNaN: true }), (middle) => {
        const net = new ResistorNetwork();
        const [a, b, c, d] = [net.node(), net.node(), net.node(), net.node()];
        for (const [p, q] of [
          [a, b],
          [a, c],
          [b, d],
          [c, d],
        ] as const)
          net.join(p, q, 10);
        net.join(b, c, middle);
        expect(net.between(a, d)).toBeCloseTo(10, 6);
      }),
    );
  });

  it('is open where nothing leads across', () => {
    const net = new ResistorNetwork();
    expect(net.between(net.node(), net.node())).toBe(Infinity);
  });
});

describe('several paths of one network', () => {
  const made = (edges: readonly (readonly [number, number, number])[]): [ResistorNetwork, number[]] => {
    const net = new ResistorNetwork();
    const nodes = Array.from({ length: 12 }, () => net.node());
    for (const [a, b, ohm] of edges) net.join(nodes[a] as number, nodes[b] as number, ohm);
    return [net, nodes];
  };
  const node = fc.integer({ min: 0, max: 11 });
  const edges = fc.array(fc.tuple(node, node, fc.double({ min: 0.01, max: 1e4, noNaN: true })), {
    maxLength: 24,
  });

  it('have together the ohms that each has alone, and those that nodal analysis by other code gives', () => {
    fc.assert(
      fc.property(edges, fc.array(fc.tuple(node, node), { minLength: 1, maxLength: 6 }), (some, couples) => {
        const [all, nodes] = made(some);
        const at = (i: number): number => nodes[i] as number;
        const together = all.betweenEach(couples.map(([a, b]) => [at(a), at(b)] as const));
        const resistors = some
          .filter(([a, b]) => a !== b)
          .map(([a, b, ohm]) => ({ a: `${a}`, b: `${b}`, ohm }));
        const net = { nodes: nodes.map((_, i) => `${i}`), resistors };
        couples.forEach(([a, b], i) => {
          const alone = made(some)[0].between(at(a), at(b));
          const theirs = a === b ? 0 : ohmsBetween(net, [`${a}`], [`${b}`]);
          // Theirs has a leak of a nanosiemens at every node.
          for (const [other, share] of [
            [alone, 1e-9],
            [theirs, 1e-4],
          ] as const)
            if (other === Infinity) expect(together[i]).toBe(Infinity);
            else expect(Math.abs((together[i] as number) - other)).toBeLessThan(share * other + 1e-9);
        });
      }),
      { numRuns: 300 },
    );
  });
});

describe('an ohmmeter on a link', () => {
  it('shows what nodal analysis of another telling of the link gives, within one per cent', () => {
    const cases = ohmCases(100);
    expect(cases.length).toBe(100);
    for (const { seed, net, from, to, ohm } of cases) {
      const theirs = ohmsBetween(net, [from], [to]);
      // The figure is shown to a hundredth of an ohm.
      expect(Math.abs(ohm - theirs))
        .withContext(`seed ${seed}: ${ohm} against ${theirs}`)
        .toBeLessThan(0.01 * theirs + 0.02);
    }
  });
});
