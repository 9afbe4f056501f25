import { LOOSE, OPEN, POOR } from '../link-state.js';
import type { SlipKind } from '../practice.js';
import type { EndBench } from './end.js';
import type { Way } from './way.js';

/** Grades of a poor joint, as `POOR` has them. */
export const POOR_VARIANTS = ['little', 'high', 'very-high'] as const;

/** What can be wrong with single joints at one end: any contact may miss, any two may touch. */
export function jointWays(bench: EndBench): Partial<Record<SlipKind, Way[]>> {
  const { wired, expected, screenAt, end } = bench;
  const { family } = expected;
  const few = family === 'coax' || family === 'line';
  const touching = (a: number, b: number): Way => ({
    kind: 'short',
    contacts: [a, b],
    effects: [bench.bridge(a, b)],
  });
  const neighbours = wired.slice(1).map((b, i) => touching(wired[i] as number, b));
  const others = wired.flatMap((a, i) =>
    wired.slice(i + 2, wired.length > 10 ? i + 4 : undefined).map((b) => touching(a, b)),
  );
  const screen = screenAt < 0 ? [] : wired.map((c) => touching(c, screenAt));
  const ways: Partial<Record<SlipKind, Way[]>> = {
    'missed-slot': wired.map((c) => ({ kind: 'open', contacts: [c], effects: [bench.seat(c, OPEN)] })),
    'several-unseated': few || wired.length < 3 ? [] : unseatedTogether(bench),
    [family === 'coax' ? 'screen-strand' : 'touching-neighbours']: neighbours,
    'touching-others': others,
    'poor-joint': wired.flatMap((c) =>
      POOR.map((condition, grade) => ({
        kind: 'high-resistance' as const,
        contacts: [c],
        variant: POOR_VARIANTS[grade] ?? '',
        effects: [bench.seat(c, condition)],
      })),
    ),
    'loose-joint': wired.map((c) => ({
      kind: 'intermittent',
      contacts: [c],
      effects: [bench.seat(c, LOOSE)],
    })),
  };
  if (screenAt >= 0) {
    ways['screen-not-bonded'] = [
      bench.reordered('screen-open', [screenAt], [-1]),
      {
        kind: 'intermittent',
        contacts: [screenAt],
        variant: 'loose',
        effects: [bench.seat(screenAt, LOOSE)],
        weight: 0.3,
      },
    ];
    ways['screen-strand'] = screen;
  }
  if (family === 'balanced')
    ways['equipment-left'] = [{ kind: 'equipment', contacts: wired, effects: [{ does: 'equipment', end }] }];
  return ways;
}

/** Wires that miss together: two side by side, a pair, or all of a plug that was not pressed home. */
function unseatedTogether(bench: EndBench): Way[] {
  const { wired, pairs } = bench;
  const together = (set: readonly number[], weight: number): Way => ({
    kind: 'open',
    contacts: set,
    effects: set.map((c) => bench.seat(c, OPEN)),
    weight,
  });
  const sets = new Map<string, Way>();
  const add = (set: readonly number[], weight: number): void => {
    const sorted = [...set].sort((a, b) => a - b);
    const known = sets.get(sorted.join());
    sets.set(sorted.join(), together(sorted, weight + (known?.weight ?? 0)));
  };
  wired.slice(1).forEach((b, i) => add([wired[i] as number, b], 1));
  for (const { a, b } of pairs) add([a, b], 1);
  if (wired.length <= 10) add(wired, 1.5);
  return [...sets.values()];
}
