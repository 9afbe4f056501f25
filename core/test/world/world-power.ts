import { netlistOf, ohmsBetween, type End, type Netlist, type WorldLink } from './world-link.js';

/** A supply of the world: the centre taps of four windings, some held at plus, some at minus. */
export interface WorldSupply {
  /** Volts of the first pair of each set against the second; 0 where a set is not fed. */
  a: number;
  b: number;
}

const PAIRS = { a: ['1-2', '3-6'], b: ['4-5', '7-8'] } as const;
const WINDING_OHM = 0.6;
/** A supply that sees less than this gives nothing. */
const SHUTS_AT_OHM = 2000;
/** What hangs on a rail through less than this is fed by it. */
const FED_AT_OHM = 500;

/** What a power tester shows at one end, worked out in ohms between centre taps: both ends have their windings. */
export function fedAt(
  link: WorldLink,
  end: End,
  supply: WorldSupply,
): Record<'a' | 'b', 'plus' | 'minus' | 'none'> {
  const there: End = end === 'near' ? 'far' : 'near';
  const net = netlistOf(link, () => false);
  const wound: Netlist = { nodes: [...net.nodes], resistors: [...net.resistors] };
  for (const side of ['near', 'far'] as const)
    for (const pair of [...PAIRS.a, ...PAIRS.b]) {
      const tap = `${side} tap ${pair}`;
      wound.nodes.push(tap);
      for (const contact of pair.split('-'))
        wound.resistors.push({ a: tap, b: `${side}:${contact}`, ohm: WINDING_OHM });
    }
  const taps = (sign: number): string[] =>
    (['a', 'b'] as const).flatMap((set) => {
      const [first, second] = PAIRS[set];
      const volts = supply[set];
      return volts === 0 ? [] : [`${there} tap ${volts * sign > 0 ? first : second}`];
    });
  const [plus, minus] = [taps(1), taps(-1)];
  if (plus.length === 0 || ohmsBetween(wound, plus, minus) < SHUTS_AT_OHM) return { a: 'none', b: 'none' };
  const railOf = (pair: string): number => {
    const tap = [`${end} tap ${pair}`];
    if (ohmsBetween(wound, tap, plus) < FED_AT_OHM) return 1;
    return ohmsBetween(wound, tap, minus) < FED_AT_OHM ? -1 : 0;
  };
  const showing = (set: 'a' | 'b'): 'plus' | 'minus' | 'none' => {
    const [first, second] = PAIRS[set].map(railOf) as [number, number];
    return first * second >= 0 ? 'none' : first > 0 ? 'plus' : 'minus';
  };
  return { a: showing('a'), b: showing('b') };
}
