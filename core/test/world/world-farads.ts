import { islandsOf, netlistOf, ohmsBetween, type End, type Netlist, type WorldLink } from './world-link.js';

/** Capacitances of a cable of the world per metre, picofarad: of the wires of a pair, and of any two of different pairs. */
export interface WorldCable {
  withinPf: number;
  acrossPf: number;
}

/** Through less than this a capacitance meter's slow signal passes as through metal. */
const THROUGH_OHM = 1e5;

/**
 * What a capacitance meter shows across each contact pair of one end, nanofarad; null for a loop. Every two pieces of
 * metal have capacitance where wires of both run side by side, metre by metre, and the network of all of them is solved:
 * pieces that hang on nothing float.
 */
export function faradsAt(link: WorldLink, end: End, cable: WorldCable): Record<string, number | null> {
  const metal = netlistOf(link, () => false);
  const island = islandsOf(metal, THROUGH_OHM);
  const cutsOf = (wire: string): number[] =>
    [...link.breaks, ...link.touching, ...link.splices]
      .filter(({ wires }) => (wires as string[]).includes(wire))
      .map(({ atM }) => atM)
      .filter((atM) => atM > 0 && atM < link.lengthM);
  const all = [...new Set([0, link.lengthM, ...link.wires.flatMap(cutsOf)])].sort((a, b) => a - b);
  const pieceAt = (wire: string, fromM: number): string => {
    const before = cutsOf(wire).filter((atM) => atM <= fromM);
    const node = before.length === 0 ? `${wire}@start` : `${wire}@${Math.max(...before)}>`;
    return `island ${island.get(node)}`;
  };
  const pf = new Map<string, number>();
  all.slice(1).forEach((untilM, n) => {
    const fromM = all[n] as number;
    link.wires.forEach((one, i) =>
      link.wires.slice(i + 1).forEach((other) => {
        const [a, b] = [pieceAt(one, fromM), pieceAt(other, fromM)].sort() as [string, string];
        if (a === b) return;
        const paired = link.twisted.some((pair) => pair.includes(one) && pair.includes(other));
        const key = `${a}|${b}`;
        const more = (untilM - fromM) * (paired ? cable.withinPf : cable.acrossPf);
        pf.set(key, (pf.get(key) ?? 0) + more);
      }),
    );
  });
  // A capacitance is to a slow signal what a conductance is to a steady one.
  const net: Netlist = {
    nodes: [...new Set([...island.values()].map((n) => `island ${n}`))],
    resistors: [...pf].map(([key, value]) => {
      const [a, b] = key.split('|') as [string, string];
      return { a, b, ohm: 1 / value };
    }),
  };
  return Object.fromEntries(
    link.contactPairs.map(([a, b]) => {
      const [x, y] = [a, b].map((contact) => `island ${island.get(`${end}:${contact}`)}`) as [string, string];
      return [`${a}-${b}`, x === y ? null : 1e-3 / ohmsBetween(net, [x], [y])];
    }),
  );
}

/** The cable of a picofarad figure that a pair of it would be sold with. */
export function cableOf(mutualPf: number, acrossByWithin: number, pairs: number): WorldCable {
  // A pair's own, with what two wires of every other pair add in series.
  const withinPf = mutualPf / (1 + (pairs - 1) * acrossByWithin);
  return { withinPf, acrossPf: acrossByWithin * withinPf };
}
