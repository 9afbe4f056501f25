import { layoutFor } from '../connectors/own-layout.js';
import type { AdapterEnd } from './design.js';
import { pointKey, type ProbePoint, type ProofTouch } from './proof-list.js';

/**
 * What touching costs a pair of hands, in seconds. Data that a crew can change: the usual figures are estimates for
 * needle probes on small connectors. Plans hang on their proportions, not on their size.
 */
export interface Hands {
  /** Both probes set down anew. */
  bothS: number;
  /** One probe lifted and set down on another contact of the same connector. */
  oneS: number;
  /** One probe slid to the contact beside. */
  besideS: number;
  /** More, where that probe goes to another connector. */
  turnS: number;
  /** An answer: heard, looked up, given. */
  answerS: number;
  /** One clip put on a contact and taken off again. */
  clipS: number;
  /** A walk to the other end of a cable. */
  walkS: number;
}

export const USUAL_HANDS: Hands = {
  bothS: 3,
  oneS: 1.8,
  besideS: 0.6,
  turnS: 1.2,
  answerS: 1,
  clipS: 7,
  walkS: 120,
};

/** Contacts nearer than this many times the least distance on a connector lie beside each other. */
const BESIDE = 1.6;

/** Seconds that one probe needs from contact to contact. */
export type ProbeMove = (from: ProbePoint, to: ProbePoint) => number;

/** What moving one probe costs, by where the contacts of each connector lie; in the order of the pins where nothing is drawn. */
export function probeMoves(ends: readonly AdapterEnd[], hands: Hands = USUAL_HANDS): ProbeMove {
  const beside = new Set<string>();
  for (const { id, pins, layout } of ends) {
    const places = layoutFor(layout ?? null)?.places ?? [];
    const drawn = pins.map(({ contact }) => places.find((place) => place.contact === contact));
    const far = (a: number, b: number): number => {
      const [one, other] = [drawn[a], drawn[b]];
      return drawn.includes(undefined) || !one || !other
        ? Math.abs(a - b)
        : Math.hypot(one.xMm - other.xMm, one.yMm - other.yMm);
    };
    const pairs = pins.flatMap((_pin, a) => pins.slice(a + 1).map((_other, b) => [a, a + 1 + b] as const));
    const least = Math.min(...pairs.map(([a, b]) => far(a, b)));
    for (const [a, b] of pairs)
      if (far(a, b) <= BESIDE * least)
        for (const [one, other] of [
          [a, b],
          [b, a],
        ] as const)
          beside.add(`${id} ${pins[one]?.contact}|${id} ${pins[other]?.contact}`);
  }
  return (from, to) => {
    if (from.end !== to.end) return hands.oneS + hands.turnS;
    if (from.contact === to.contact) return 0;
    return beside.has(`${pointKey(from)}|${pointKey(to)}`) ? hands.besideS : hands.oneS;
  };
}

/** Where the two probes stand; null before the first touch. */
export type Probes = readonly [ProbePoint, ProbePoint] | null;

/** Seconds from two contacts to two others; which probe goes where is free. */
export function stepSeconds(
  from: Probes,
  [one, other]: readonly [ProbePoint, ProbePoint],
  move: ProbeMove,
  { bothS }: Hands,
): number {
  if (!from) return bothS;
  const pair = (a: ProbePoint, b: ProbePoint): number => {
    const [first, second] = [move(a, one), move(b, other)];
    return first > 0 && second > 0 ? bothS : first + second;
  };
  return Math.min(pair(from[0], from[1]), pair(from[1], from[0]));
}

/**
 * Seconds that a list of touches costs: probes from place to place, a sweep's contacts one after the other, the
 * clips of a gang, and one answer for each.
 */
export function handSeconds(
  touches: readonly ProofTouch[],
  move: ProbeMove,
  hands: Hands = USUAL_HANDS,
): number {
  let seconds = 0;
  let probes: Probes = null;
  for (const { one, other, sweep } of touches) {
    seconds += hands.answerS;
    const [fixed] = one;
    const [first] = other;
    if (!fixed || !first) continue;
    if (sweep || (one.length === 1 && other.length === 1))
      for (const to of other) {
        seconds += stepSeconds(probes, [fixed, to], move, hands);
        probes = [fixed, to];
      }
    else {
      for (const side of [one, other]) seconds += side.length === 1 ? hands.oneS : side.length * hands.clipS;
      probes = null;
    }
  }
  return seconds;
}
