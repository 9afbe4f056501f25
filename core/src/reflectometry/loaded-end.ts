import type { FarEnd } from './chain/explain-by-chain.js';
import type { EventKind, KindShare } from './events.js';

/** How long the line is by its plan or by a tape. */
export interface PlannedLength {
  lengthM: number;
  deviationM: number;
}

/** An event as far as its kind is weighed. */
interface Weighed {
  kind: EventKind;
  probability: number;
  or: readonly KindShare[];
  distanceM: number;
  u95M: number;
}

/** What a load at the end looks like from the near one: a thing in the way behind which nothing sends back. */
const ALIKE: ReadonlySet<EventKind> = new Set(['series-resistance', 'wet-or-shunt', 'joint']);
/**
 * Odds of a load at the end against a thing in the way with nothing to be seen behind it, by what was seen at the far
 * end. Where nobody looked both ends are mostly free, so that even a load is no commoner than a fault that lies before
 * what cannot be seen; a free or joined end sends all back, and is no load.
 */
const ODDS: Readonly<Record<FarEnd | 'not looked at', number>> = {
  'not looked at': 0.6,
  connected: 5,
  open: 0,
  joined: 0,
};
/** A plan is right about the order of size: elsewhere a load is this much less likely, and no less. */
const LEAST_BY_PLACE = 0.05;
const WORTH_NAMING = 0.02;

/**
 * The last thing on a line with nothing behind it may be what hangs at its end: a resistance R in front of a matched rest
 * and a load of Z0 + R draw the same trace, so does a conductance G across it and one of Y0 + G. No trace tells them apart;
 * what was seen at the far end does, and where the end should be. The belief in the first is shared out between
 * the two.
 *
 * @param events nearest first
 */
export function withLoadedEnd<E extends Weighed>(
  events: readonly E[],
  { farEnd, planned }: { farEnd?: FarEnd | undefined; planned?: PlannedLength | undefined },
): E[] {
  const last = events.findLastIndex(({ kind }) => kind !== 'ghost');
  const event = events[last];
  // What lies at the lead's far end is its joint with the line.
  if (!event || !ALIKE.has(event.kind) || event.distanceM < event.u95M) return [...events];
  const odds = ODDS[farEnd ?? 'not looked at'] * (planned ? byPlace(event, planned) : 1);
  const share = odds / (1 + odds);
  const kinds: KindShare[] = [{ kind: event.kind, probability: event.probability }, ...event.or];
  const alike = kinds.reduce((sum, { kind, probability }) => sum + (ALIKE.has(kind) ? probability : 0), 0);
  const [first, ...or] = [
    ...kinds.map(({ kind, probability }) => ({
      kind,
      probability: ALIKE.has(kind) ? (1 - share) * probability : probability,
    })),
    { kind: 'loaded-end' as const, probability: share * alike },
  ].sort((a, b) => b.probability - a.probability);
  if (!first) return [...events];
  const weighed = { ...event, ...first, or: or.filter(({ probability }) => probability > WORTH_NAMING) };
  return events.map((each, n) => (n === last ? weighed : each));
}

/** How much likelier an end is at a place than a thing that may be anywhere on the line. */
function byPlace({ distanceM, u95M }: Weighed, { lengthM, deviationM }: PlannedLength): number {
  const deviation = Math.hypot(deviationM, u95M / 2);
  const density =
    Math.exp(-0.5 * ((distanceM - lengthM) / deviation) ** 2) / (Math.sqrt(2 * Math.PI) * deviation);
  return Math.max(LEAST_BY_PLACE, density * lengthM);
}
