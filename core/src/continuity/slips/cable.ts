import { SCREEN } from '../../cabling/conductors.js';
import type { LinkExpectation } from '../expectation.js';
import type { Effect } from '../faults.js';
import type { Frame } from '../frame.js';
import { LOOSE, OPEN, POOR } from '../link-state.js';
import type { SlipKind } from '../practice.js';
import { POOR_VARIANTS } from './joints.js';
import type { Way } from './way.js';

/** What happens along the cable, at a place or at one that nobody knows; contacts are conductors here. */
export function cableWays(
  expected: LinkExpectation,
  frame: Frame,
  place: number | null,
): Partial<Record<SlipKind, Way[]>> {
  const atM = place ?? NaN;
  const used = new Set([...Object.values(expected.near.wiring), ...Object.values(expected.far.wiring)]);
  // In the order of the contacts that they are meant for, so that colours decide nothing, not even what comes first.
  const position = (w: number): number => {
    const at = frame.intended.near.indexOf(w);
    return at < 0 ? frame.intended.near.length + frame.intended.far.indexOf(w) : at;
  };
  const all = frame.conductors
    .flatMap((id, w) => (used.has(id) ? [w] : []))
    .sort((a, b) => position(a) - position(b));
  const screen = frame.conductorIndex(SCREEN);
  const wires = all.filter((w) => w !== screen);
  const core = (conductors: readonly number[], condition: number): Effect[] => [
    { does: 'core', conductors, condition, atM },
  ];
  const many = wires.length > 10;
  const couples = all.flatMap((a, i) =>
    all.slice(i + 1, many ? i + 4 : undefined).map((b) => [a, b] as const),
  );
  const pairOf = (w: number): number => frame.pairOf[w] as number;
  const samePair = ([a, b]: readonly [number, number]): boolean => pairOf(a) === pairOf(b) && pairOf(a) > 0;
  const pressed = (set: readonly number[]): Effect[] =>
    set.slice(1).map((b, i) => ({ does: 'join', a: set[i] as number, b, atM }));
  const pierced = (couple: readonly [number, number]): Way => ({
    kind: 'short',
    contacts: couple,
    effects: pressed(couple),
  });
  const pairs = [...new Set(wires.map(pairOf))].filter((pair) => pair > 0);
  const ofPairs = (some: readonly number[]): number[] => wires.filter((w) => some.includes(pairOf(w)));
  const ways: Partial<Record<SlipKind, Way[]>> = {
    'broken-conductor': wires.map((w) => ({ kind: 'open', contacts: [w], effects: core([w], OPEN) })),
    'partly-cut':
      pairs.length < 2
        ? []
        : pairs.map((pair) => ({
            kind: 'open',
            contacts: ofPairs([pair]),
            effects: core(ofPairs([pair]), OPEN),
          })),
    'cut-through': [{ kind: 'open', contacts: all, effects: core(all, OPEN) }],
    'pierced-pair': couples.filter(samePair).map(pierced),
    'pierced-others': couples.filter((couple) => !samePair(couple)).map(pierced),
    crushed:
      pairs.length < 2 || many
        ? []
        : someOf(pairs).map((some) => ({
            kind: 'short',
            contacts: ofPairs(some),
            effects: pressed(ofPairs(some)),
          })),
    'wet-or-crushed': [{ kind: 'disturbed', contacts: [], effects: [{ does: 'wet', atM }] }],
    'poor-conductor': wires.flatMap((w) =>
      POOR.map((condition, grade) => ({
        kind: 'high-resistance' as const,
        contacts: [w],
        variant: POOR_VARIANTS[grade] ?? '',
        effects: core([w], condition),
      })),
    ),
    'loose-conductor': wires.map((w) => ({ kind: 'intermittent', contacts: [w], effects: core([w], LOOSE) })),
  };
  if (screen >= 0)
    ways['broken-screen'] = [{ kind: 'screen-open', contacts: [screen], effects: core([screen], OPEN) }];
  if (expected.family !== 'coax')
    ways['wrong-splice'] = couples
      .filter(([a, b]) => a !== screen && b !== screen && (!many || samePair([a, b])))
      .map(([a, b]) => ({
        kind: 'splice',
        contacts: [a, b],
        effects: [{ does: 'splice', a, b }],
        weight: samePair([a, b]) ? 3 : 1,
      }));
  ways['other-outlet'] = [{ kind: 'not-connected', contacts: all, effects: [{ does: 'absent' }] }];
  return ways;
}

/** Two of some things or more, every choice. */
function someOf(things: readonly number[]): number[][] {
  const all: number[][] = [];
  for (let bits = 1; bits < 1 << Math.min(6, things.length); bits++) {
    const some = things.filter((_, i) => (bits >> i) & 1);
    if (some.length > 1) all.push(some);
  }
  return all;
}
