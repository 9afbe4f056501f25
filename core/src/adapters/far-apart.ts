import type { AdapterEnd } from './design.js';
import { probesPlan, type HandPlan } from './hand-plan.js';
import { probeMoves, USUAL_HANDS, type Hands } from './hands.js';
import type { Net, ProbePoint, ProofTouch } from './proof-list.js';

/** What closes the path between ends that the meter's wires do not span. */
export type AcrossBy = 'joins' | 'return';

/** How a lead is proved whose ends are further apart than a meter's wires reach. */
export interface ApartPlan extends HandPlan {
  way: 'apart';
  by: AcrossBy;
  /** Ends at which the meter is; all others are at the other site. */
  here: readonly string[];
  /** Conductors that go across. */
  across: number;
}

/** Fewer conductors that go across do not tell by joins which is which: two exchanged make the same loop. */
export const FEWEST_FOR_JOINS = 3;

/** A net with its contacts on this side and on the other. */
interface Split {
  net: Net;
  here: readonly ProbePoint[];
  there: readonly ProbePoint[];
}

/**
 * The touches that prove a lead whose ends are out of reach of each other: the meter stays at one site, and somebody at the other
 * joins contacts there, or holds one to a conductor known to be good that lies beside the lead.
 *
 * With nothing joined all that has a contact here is held apart here; a short anywhere in the lead shows at this end. Then one
 * conductor goes with each other in turn: joined there, they beep here. An exchange breaks a loop, but that of two conductors
 * alone, so where fewer than {@link FEWEST_FOR_JOINS} go across, a known conductor has to serve. What has contacts at the
 * other site alone is metered there, at the end.
 *
 * @param by joins where that tells enough, if left out
 * @throws RangeError where joins are asked for and do not tell enough
 */
export function apartPlan(
  nets: readonly Net[],
  ends: readonly AdapterEnd[],
  here: readonly string[],
  { by, hands = USUAL_HANDS }: { by?: AcrossBy; hands?: Hands } = {},
): ApartPlan {
  const split = nets.map((net): Split => {
    const isHere = ({ end }: ProbePoint): boolean => here.includes(end);
    return { net, here: net.points.filter(isHere), there: net.points.filter((point) => !isHere(point)) };
  });
  const across = split.filter((each) => each.here.length > 0 && each.there.length > 0);
  const tells = across.length >= FEWEST_FOR_JOINS;
  if (by === 'joins' && !tells)
    throw new RangeError(
      `Joins do not tell ${across.length === 1 ? 'one conductor' : `${across.length} conductors`} apart: a conductor known to be good has to serve as return.`,
    );
  const way = by ?? (tells ? 'joins' : 'return');
  const local = meteredHere(split, ends, hands);
  const far = across.length === 0 ? [] : way === 'joins' ? byJoins(across) : byReturn(across);
  const oneSided = crosswise(split, way === 'joins' ? (across[0] ?? null) : null);
  const there = thereAlone(split);
  const move = probeMoves(ends, hands);
  const acrossS = [...far, ...oneSided].reduce(
    (sum, { one: [from], other }) =>
      sum +
      // A clip changes its place there while one probe does here; one waits for the other, and says so.
      Math.max(hands.clipS, from && other[0] ? move(from, other[0]) : 0) +
      other.length * hands.oneS +
      2 * hands.answerS,
    0,
  );
  const thereS = there.reduce(
    (sum, { other }) => sum + hands.bothS + other.length * hands.oneS + hands.answerS,
    0,
  );
  return {
    way: 'apart',
    by: way,
    here,
    across: across.length,
    touches: [...local.touches, ...far, ...oneSided, ...there],
    seconds: local.seconds + acrossS + thereS,
  };
}

/** What is told at this site alone, with nothing joined at the other. */
function meteredHere(split: readonly Split[], ends: readonly AdapterEnd[], hands: Hands): HandPlan {
  const nets = split.flatMap(({ net, here: points }) => (points.length > 0 ? [{ ...net, points }] : []));
  return probesPlan(nets, ends, hands);
}

/** One conductor with each other, joined there by two. */
function byJoins([first, ...others]: readonly Split[]): ProofTouch[] {
  if (!first) return [];
  const loop = (other: Split, joined: (ProbePoint | undefined)[]): ProofTouch => ({
    one: first.here.slice(0, 1),
    other: other.here.slice(0, 1),
    joined: joined.flatMap((point) => point ?? []),
    should: 'beep',
    why: 'path',
    nets: [first.net.name, other.net.name],
  });
  const [partner] = others;
  return [
    ...others.flatMap((other) => other.there.map((point) => loop(other, [first.there[0], point]))),
    ...(partner ? first.there.slice(1).map((point) => loop(partner, [point, partner.there[0]])) : []),
  ];
}

/** Each conductor by itself, over the known one. */
const byReturn = (across: readonly Split[]): ProofTouch[] =>
  across.flatMap(({ net, here, there }) =>
    there.map((point) => ({
      one: here.slice(0, 1),
      other: [point],
      should: 'beep' as const,
      why: 'path' as const,
      nets: [net.name],
    })),
  );

/**
 * What has contacts here alone against what has them there alone: over a conductor that goes across, or over the known one.
 */
function crosswise(split: readonly Split[], over: Split | null): ProofTouch[] {
  const hereAlone = split.filter(({ there }) => there.length === 0);
  const foreign = split.filter(({ here }) => here.length === 0);
  const firsts = hereAlone.flatMap(({ here }) => here.slice(0, 1));
  if (firsts.length === 0) return [];
  return foreign.map(({ net, there }) => ({
    one: over ? over.here.slice(0, 1) : there.slice(0, 1),
    other: firsts,
    ...(over ? { joined: [over.there[0], there[0]].flatMap((point) => point ?? []) } : {}),
    should: 'stay silent' as const,
    why: 'isolation' as const,
    nets: [net.name, ...hereAlone.map(({ net: { name } }) => name)],
    sweep: true as const,
  }));
}

/** What has contacts at the other site alone, against all that has some there. */
function thereAlone(split: readonly Split[]): ProofTouch[] {
  const there = split.filter((each) => each.there.length > 0);
  const alone = there.filter(({ here }) => here.length === 0);
  return alone.flatMap(({ net, there: [first, ...rest] }, n): ProofTouch[] => {
    if (!first) return [];
    // Each two once: against what goes across, and against those alone that have had no turn.
    const others = [...there.filter(({ here }) => here.length > 0), ...alone.slice(n + 1)];
    const path = rest.map((point): ProofTouch => ({
      one: [first],
      other: [point],
      should: 'beep',
      why: 'path',
      nets: [net.name],
    }));
    if (others.length === 0) return path;
    return [
      ...path,
      {
        one: [first],
        other: others.flatMap((each) => each.there.slice(0, 1)),
        should: 'stay silent',
        why: 'isolation',
        nets: [net.name, ...others.map((each) => each.net.name)],
        sweep: true,
      },
    ];
  });
}
