import type { Reflected } from '../events.js';
import { bouncesOf } from './bounces.js';
import { isPossible, type Chain, type LineEnd, type Part } from './chain.js';

/** A chain that the echoes alone speak for, and how badly it misses them. */
export interface Proposal {
  chain: Chain;
  miss: number;
}

/** Echoes that places are taken from, the strongest. */
const PLACES = 8;
/** What the loss, an uneven line and echoes that lie over each other make of an echo's height. */
const HEIGHT = { fixed: 0.012, share: 0.15 };
/** An echo that nothing makes, or one that is missing, costs at most this. */
const MOST_MISS = 30;
/** Smaller than this an echo may well have been overlooked. */
const LEAST_SEEN = 0.02;
/** What each thing in the way has to gain. */
const COST = 4;
const MOST_REFLECTION = 0.9;
/** What lets less than this through hides what is behind it, and is rare. */
const HIDES = 0.16;
const COST_OF_HIDING = 8;

/**
 * Chains of at most two things and an end, with values that the echoes' heights give, ranked by the echoes they would
 * send (their own and all that go to and fro) against those that were seen. Thousands are weighed in the time of
 * a few fits: it is for finding where to begin.
 *
 * @param near places nearer than this are one, samples
 * @param until the record's end, samples after the launch
 */
export function proposeChains(
  lead: Chain['lead'],
  echoes: readonly Reflected[],
  { near, until }: { near: number; until: number },
): Proposal[] {
  const seen = echoes.filter(({ soft, delay }) => !soft && delay > (lead?.at ?? 0) + near / 2);
  const places = [...seen]
    .sort((a, b) => Math.abs(heightOf(b)) - Math.abs(heightOf(a)))
    .slice(0, PLACES)
    .sort((a, b) => a.delay - b.delay);
  const joint = lead ? { ...lead } : null;
  const bare: Chain = { lead: joint, parts: [], end: { kind: 'beyond', at: 0 } };
  const weigh = (chain: Chain): Proposal => ({ chain, miss: missOf(chain, seen, near, until) });
  const withEnds = (chain: Chain): Proposal[] =>
    endsBehind(chain, places, near)
      .map((end) => ({ ...chain, end }))
      .filter((each) => isPossible(each, until))
      .map(weigh);
  const singles = [bare, ...things(bare, places, near)];
  const first = singles.flatMap(withEnds);
  // A second thing is put behind those firsts that came out well with some end.
  const promising = [...first].sort((a, b) => a.miss - b.miss).slice(0, FIRSTS);
  const bases = unique(promising.map(({ chain }) => chain.parts)).filter((parts) => parts.length === 1);
  const second = bases.flatMap((parts) => things({ ...bare, parts }, places, near).flatMap(withEnds));
  // Of the same things with another end behind them the best few are enough.
  const taken = new Map<string, number>();
  return [...first, ...second]
    .sort((a, b) => a.miss - b.miss)
    .filter(({ chain }) => {
      const parts = JSON.stringify(chain.parts);
      const before = taken.get(parts) ?? 0;
      taken.set(parts, before + 1);
      return before < SAME_PARTS;
    });
}

const SAME_PARTS = 2;

const FIRSTS = 40;

const unique = (all: readonly (readonly Part[])[]): (readonly Part[])[] => [
  ...new Map(all.map((parts) => [JSON.stringify(parts), parts])).values(),
];

/** An echo's height with what the way took put back. */
const heightOf = ({ share, lostNeper = 0 }: Reflected): number => share * Math.exp(lostNeper);

/** A chain with one thing more behind what it has, at each place that could be its near edge. */
function things(chain: Chain, places: readonly Reflected[], near: number): Chain[] {
  const last = chain.parts[chain.parts.length - 1];
  const behind = last ? last.at + (last.kind === 'section' ? last.length : 0) + near / 2 : 0;
  const through = chain.parts.reduce((left, part) => left * passes(part), 1);
  return places.flatMap((place) => {
    if (place.delay <= behind) return [];
    const rho = Math.max(-MOST_REFLECTION, Math.min(MOST_REFLECTION, heightOf(place) / through));
    if (Math.abs(rho) < LEAST_SEEN / 2) return [];
    const at = place.delay;
    const size = Math.abs(rho);
    const value = (2 * size) / (1 - size);
    const lengths = places
      .filter(({ delay, share }) => delay > at + near / 2 && share * place.share < 0)
      .map(({ delay }) => delay - at);
    const parts: Part[] = [
      rho > 0 ? { kind: 'series', at, value } : { kind: 'shunt', at, value },
      ...lengths.map((length): Part => ({ kind: 'section', at, value: 2 * Math.atanh(rho), length })),
      ...(rho < -0.2 && rho > -0.5 ? lengths.map((length): Part => ({ kind: 'stub', at, length })) : []),
    ];
    return parts.map((part) => ({ ...chain, parts: [...chain.parts, part] }));
  });
}

/** What a thing lets through there and back, once. */
function passes(part: Part): number {
  if (part.kind === 'section') return 1 - Math.tanh(part.value / 2) ** 2;
  if (part.kind === 'stub') return 4 / 9;
  return (2 / (2 + part.value)) ** 2;
}

function endsBehind({ parts }: Chain, places: readonly Reflected[], near: number): LineEnd[] {
  const last = parts[parts.length - 1];
  const behind = last ? last.at + (last.kind === 'section' ? last.length : 0) + near / 2 : 0;
  return [
    { kind: 'beyond', at: 0 },
    ...places
      .filter(({ delay }) => delay > behind)
      .map(({ delay, share }): LineEnd => ({ kind: share > 0 ? 'open' : 'short', at: delay })),
  ];
}

/** How badly the echoes of a chain miss those that were seen: half squares of deviations, and what it costs. */
function missOf(chain: Chain, seen: readonly Reflected[], near: number, until: number): number {
  const bounces = bouncesOf(chain, { least: LEAST_SEEN / 4, until });
  const left = [...bounces];
  const hiding = chain.parts.filter((part) => passes(part) < HIDES).length;
  let miss = COST * chain.parts.length + COST_OF_HIDING * hiding + (chain.end.kind === 'beyond' ? 2 : 0);
  for (const echo of seen) {
    let made = 0;
    for (let n = left.length - 1; n >= 0; n--) {
      const bounce = left[n];
      if (!bounce || Math.abs(bounce.delay - echo.delay) > near) continue;
      made += bounce.share;
      left.splice(n, 1);
    }
    const height = heightOf(echo);
    const deviation = Math.hypot(
      HEIGHT.fixed * Math.exp(echo.lostNeper ?? 0),
      HEIGHT.share * Math.max(Math.abs(height), Math.abs(made)),
      echo.shareDeviation,
    );
    miss += Math.min(MOST_MISS, 0.5 * ((height - made) / deviation) ** 2);
  }
  // What should have been seen and was not; several that come together count together.
  left.sort((a, b) => a.delay - b.delay);
  for (let n = 0; n < left.length;) {
    const from = (left[n] as { delay: number }).delay;
    let made = 0;
    for (; n < left.length && (left[n] as { delay: number }).delay < from + near; n++)
      made += (left[n] as { share: number }).share;
    const size = Math.abs(made);
    if (size > LEAST_SEEN)
      miss += Math.min(MOST_MISS, 0.5 * (size / Math.hypot(2 * HEIGHT.fixed, HEIGHT.share * size)) ** 2);
  }
  return miss;
}
