import type { SlipKind } from '../continuity/practice.js';
import { betaCdf, betaQuantile } from '../termination/spoil-rate.js';
import { grouped, GROUPS, type GroupKind } from './groups.js';
import type { MadeEnd } from './made-ends.js';

/** A slip that is met more often in one hand, tool, lot or connector than elsewhere. */
export interface Repeat {
  /** Names it, whatever its count: what was told once is known by it. */
  key: string;
  kind: GroupKind;
  name: string;
  slip: SlipKind;
  /** How often, of so many ends that were tested. */
  count: number;
  of: number;
  elsewhere: { count: number; of: number };
  /** Belief that it is met more often here than elsewhere. */
  belief: number;
  /** What those same ends have in common besides: nobody can tell by the record which of them it is. */
  or: readonly { kind: GroupKind; name: string }[];
}

/** Fewer are chance, whatever their share. */
const LEAST = 3;
/** A crew of equal hands is told of one no more often than this, however many hands are held against however many slips. */
const FALSE_ALARM = 0.04;
/** Elsewhere has to be known as well. */
const LEAST_ELSEWHERE = 10;
/** Before there is a record one end in forty has a slip of one kind. */
const SELDOM = { yes: 1, no: 39 };
const STEPS = 64;

/** What repeats, the surest first; of ends that have several things in common it is told once, with what it may be besides. */
export function repeatsIn(ends: readonly MadeEnd[]): Repeat[] {
  const tested = ends.filter((end) => end.tested);
  const slips = new Set(tested.flatMap((end) => end.wrong ?? []));
  const named = (Object.keys(GROUPS) as GroupKind[]).flatMap((kind) =>
    [...grouped(tested, GROUPS[kind]).keys()].filter((name) => name !== ''),
  );
  const sure = 1 - FALSE_ALARM / Math.max(1, named.length * slips.size);
  const found: (Repeat & { ends: ReadonlySet<MadeEnd> })[] = [];
  for (const kind of Object.keys(GROUPS) as GroupKind[])
    for (const [name, own] of grouped(tested, GROUPS[kind])) {
      if (name === '' || tested.length - own.length < LEAST_ELSEWHERE) continue;
      for (const [slip, wrong] of grouped(own, (end) => end.wrong ?? '')) {
        if (slip === '' || wrong.length < LEAST) continue;
        const all = tested.filter((end) => end.wrong === slip).length;
        const here = { count: wrong.length, of: own.length };
        const elsewhere = { count: all - wrong.length, of: tested.length - own.length };
        if (here.count * elsewhere.of <= elsewhere.count * here.of) continue;
        const belief = moreOften(here, elsewhere);
        if (belief >= sure)
          found.push({
            key: `${kind}:${name}:${slip}`,
            kind,
            name,
            slip: slip as SlipKind,
            ...here,
            elsewhere,
            belief,
            or: [],
            ends: new Set(wrong),
          });
      }
    }
  found.sort((a, b) => b.belief - a.belief || b.count - a.count || a.of - b.of);
  const told: typeof found = [];
  for (const one of found) {
    const alike = told.findIndex((other) => other.slip === one.slip && shares(one.ends, other.ends));
    const other = told[alike];
    if (!other) told.push(one);
    else told[alike] = { ...other, or: [...other.or, { kind: one.kind, name: one.name }] };
  }
  return told.map(({ ends: _, ...repeat }) => repeat);
}

/** Whether most of what is wrong here is the same ends. */
const shares = (one: ReadonlySet<MadeEnd>, other: ReadonlySet<MadeEnd>): boolean =>
  [...one].filter((end) => other.has(end)).length > Math.min(one.size, other.size) / 2;

/** Belief that one share is the greater of two, each by its Beta posterior. */
function moreOften(here: { count: number; of: number }, elsewhere: { count: number; of: number }): number {
  const [a, b] = [SELDOM.yes + here.count, SELDOM.no + here.of - here.count];
  const [c, d] = [SELDOM.yes + elsewhere.count, SELDOM.no + elsewhere.of - elsewhere.count];
  let sum = 0;
  for (let n = 0; n < STEPS; n++) sum += 1 - betaCdf(betaQuantile((n + 0.5) / STEPS, c, d), a, b);
  return sum / STEPS;
}
