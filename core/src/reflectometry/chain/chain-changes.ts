import type { Reflected } from '../events.js';
import { behind, isPossible, reflectionOf, type Chain, type Part } from './chain.js';

/** What a chain is grown and changed by. */
export interface Surroundings {
  echoes: readonly Reflected[];
  /** Nearer than this two places are one, samples. */
  near: number;
}

/** A start for a small thing. */
const SMALL = 0.08;
/** Echoes that a new thing is tried at. */
const PLACES = 3;

export const strengthOf = ({ share }: Reflected): number => Math.abs(share);

/** The chain with one thing more, at each of a few echoes it may not tell yet. */
export function grow(chain: Chain, { echoes, near }: Surroundings): Chain[] {
  const { parts, end, lead } = chain;
  const limit = end.kind === 'beyond' ? Infinity : end.at;
  const taken = [lead?.at ?? 0, ...parts.flatMap((part) => [part.at, behind(part)])];
  const free = echoes.filter(
    ({ delay, soft }) =>
      !soft &&
      delay > (lead?.at ?? 0) &&
      delay < limit - near / 2 &&
      taken.every((at) => Math.abs(at - delay) > near / 2),
  );
  // The earliest echo is nothing's ghost; of the rest the strongest.
  const [first] = [...free].sort((a, b) => a.delay - b.delay);
  const strong = [...free].sort((a, b) => strengthOf(b) - strengthOf(a)).slice(0, PLACES);
  const places = first ? [...new Set([first, ...strong])].slice(0, PLACES) : strong;
  return places.flatMap((echo) => {
    const gaps = free
      .filter(({ delay, share }) => delay > echo.delay && share * echo.share < 0)
      .slice(0, GAPS)
      .map(({ delay }) => delay - echo.delay);
    return partsAt(echo, gaps, near).flatMap((part) => insert(chain, part));
  });
}

/** Echoes behind a thing that are tried as its other edge. */
const GAPS = 3;

function partsAt({ delay, share }: Reflected, gaps: readonly number[], near: number): Part[] {
  const height = Math.max(0.02, Math.min(0.9, Math.abs(share)));
  const value = (2 * height) / (1 - Math.min(0.95, height));
  const lengths = gaps.length > 0 ? gaps : [near];
  const sections = lengths.map((length): Part => ({
    kind: 'section',
    at: delay,
    value: 2 * Math.atanh(Math.sign(share) * Math.min(0.7, height)),
    length,
  }));
  if (share > 0) return [{ kind: 'series', at: delay, value }, ...sections];
  const stubs = height > 0.12 ? lengths.map((length): Part => ({ kind: 'stub', at: delay, length })) : [];
  return [{ kind: 'shunt', at: delay, value }, ...sections, ...stubs];
}

function insert(chain: Chain, part: Part): Chain[] {
  const parts = [...chain.parts, part].sort((a, b) => a.at - b.at);
  const next = { ...chain, parts };
  return isPossible(next, Infinity) ? [next] : [];
}

/** Chains that differ in one thing: taken out, changed for another, or the end changed for what hides it. */
export function changesOf(chain: Chain, { near, echoes }: Surroundings): Chain[] {
  const { parts, end } = chain;
  const last = parts[parts.length - 1];
  const without = parts.map((_, n) => ({ ...chain, parts: parts.filter((_part, m) => m !== n) }));
  const changed = parts.flatMap((part, n) =>
    othersOf(part, near).map((other) => ({
      ...chain,
      parts: parts.map((each, m) => (m === n ? other : each)),
    })),
  );
  const hides: Chain[] =
    end.kind === 'open' || end.kind === 'short'
      ? [
          {
            ...chain,
            parts: [
              ...parts,
              { kind: end.kind === 'open' ? ('series' as const) : ('shunt' as const), at: end.at, value: 8 },
            ],
            end: { kind: 'beyond', at: 0 },
          },
        ]
      : [];
  // A thing that hides all behind it may be the end.
  const cut = parts.flatMap((part, n): Chain[] => {
    const size = reflectionOf(part);
    if ((part.kind !== 'series' && part.kind !== 'shunt') || Math.abs(size) < 0.4) return [];
    return [{ ...chain, parts: parts.slice(0, n), end: { kind: size > 0 ? 'open' : 'short', at: part.at } }];
  });
  // Another end behind the last thing.
  const ends = echoes
    .filter(
      ({ delay, soft }) =>
        !soft && delay > (last ? behind(last) : 0) + near && Math.abs(delay - end.at) > near,
    )
    .sort((a, b) => strengthOf(b) - strengthOf(a))
    .slice(0, 2)
    .map(({ delay, share }): Chain => ({ ...chain, end: { kind: share > 0 ? 'open' : 'short', at: delay } }));
  // Two things that send back opposite parts may be the two edges of a stretch.
  const edges = parts.slice(1).flatMap((part, n): Chain[] => {
    const first = parts[n];
    if (!first || first.kind === 'section' || part.kind === 'section') return [];
    const [rho, other] = [reflectionOf(first), reflectionOf(part)];
    if (rho * other >= 0 || Math.abs(rho) > 0.6) return [];
    const section: Part = {
      kind: 'section',
      at: first.at,
      value: 2 * Math.atanh(rho),
      length: part.at - first.at,
    };
    return [{ ...chain, parts: [...parts.slice(0, n), section, ...parts.slice(n + 2)] }];
  });
  return [
    ...without,
    ...changed,
    ...hides,
    ...cut,
    ...ends,
    ...edges,
    ...branches(chain),
    ...leaksOf(chain),
  ].filter((each) => isPossible(each, Infinity));
}

/**
 * Of a line that parts in two, one end cannot say which way is the line: matched ahead with a branch open at its end
 * looks as a path across of the line's own impedance with the open end behind it.
 */
function branches({ lead, parts, end }: Chain): Chain[] {
  const last = parts[parts.length - 1];
  if (!last) return [];
  const before = parts.slice(0, -1);
  if (last.kind === 'shunt' && end.kind === 'open')
    return [
      {
        lead,
        parts: [...before, { kind: 'stub', at: last.at, length: end.at - last.at }],
        end: { kind: 'beyond', at: 0 },
      },
    ];
  if (last.kind === 'stub' && end.kind === 'open')
    return [
      {
        lead,
        parts: [...before, { ...last, length: end.at - last.at }],
        end: { kind: 'open', at: last.at + last.length },
      },
    ];
  if (last.kind === 'stub')
    return [
      {
        lead,
        parts: [...before, { kind: 'shunt', at: last.at, value: 1 }],
        end: { kind: 'open', at: last.at + last.length },
      },
    ];
  return [];
}

/** A start for what leaks where a line is crushed or wet. */
const LEAK = 0.15;

/** A stretch of lower impedance that also leaks, at either edge: one place that is wet or crushed does both. */
function leaksOf(chain: Chain): Chain[] {
  return chain.parts.flatMap((part, n): Chain[] => {
    if (part.kind !== 'section' || part.value >= 0 || leaks(chain, part)) return [];
    const leak = (at: number): Part => ({ kind: 'shunt', at, value: LEAK });
    const before = chain.parts.slice(0, n);
    const after = chain.parts.slice(n + 1);
    return [
      { ...chain, parts: [...before, part, leak(behind(part)), ...after] },
      { ...chain, parts: [...before, leak(part.at), part, ...after] },
    ];
  });
}

const leaks = ({ parts }: Chain, section: Part): boolean =>
  parts.some((part) => isLeakOf(part, section, LEAST_APART));

/** Nearer than this a leak is at a stretch's edge, samples. */
const LEAST_APART = 3;

/** Whether a part across the line is the leak of a stretch of lower impedance: at its edge, of one cause with it. */
export const isLeakOf = (part: Part, section: Part, near: number): boolean =>
  part.kind === 'shunt' &&
  section.kind === 'section' &&
  section.value < 0 &&
  part.at > section.at - near &&
  part.at < behind(section) + near;

function othersOf(part: Part, near: number): Part[] {
  const rho = Math.max(-0.7, Math.min(0.7, reflectionOf(part)));
  const size = Math.max(Math.abs(rho), SMALL / 4);
  const value = (2 * size) / (1 - size);
  const length = part.kind === 'section' || part.kind === 'stub' ? part.length : near;
  const options: Part[] = [
    rho > 0 ? { kind: 'series', at: part.at, value } : { kind: 'shunt', at: part.at, value },
    { kind: 'section', at: part.at, value: 2 * Math.atanh(rho), length },
    ...(rho < -0.12 ? [{ kind: 'stub' as const, at: part.at, length }] : []),
  ];
  return options.filter(({ kind }) => kind !== part.kind);
}
