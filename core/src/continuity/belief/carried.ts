import { DisjointSets } from '../disjoint-sets.js';
import type { LinkState } from '../link-state.js';

/**
 * How far what happens at one group of contacts can show on a link in some state: groups of contacts, to the groups
 * whose rows hang on their contacts or conductors, a bit each. Whatever hangs together by metal, as it is or as it
 * would be if nothing were open, is read together, from either end.
 */
export function carriedBy({ frame, cells, shorts }: LinkState): number[] {
  const { at, contacts, group, groups, intended } = frame;
  const metal = new DisjointSets<string>();
  const near = (c: number): string => `n${c}`;
  const far = (f: number): string => `f${f}`;
  contacts.near.forEach((_, c) => {
    const w = cells[at.near + c] as number;
    if (w >= 0) metal.join(near(c), `w${w}`);
  });
  for (let w = 0; w < frame.conductors.length; w++) metal.join(`w${w}`, `v${cells[at.splice + w]}`);
  contacts.far.forEach((_, f) => {
    const v = cells[at.far + f] as number;
    if (v >= 0) metal.join(far(f), `v${v}`);
  });
  for (const { where, a, b } of shorts) {
    const of = where === 'cable' ? (w: number): string => `w${w}` : where === 'near' ? near : far;
    metal.join(of(a), of(b));
  }
  const equipment = cells[at.equipment] as number;
  if (equipment & 1) for (const { a, b } of frame.pairs.near) metal.join(near(a), near(b));
  if (equipment & 2) for (const { a, b } of frame.pairs.far) metal.join(far(a), far(b));
  const islands = new Map<string, number>();
  const belongs = (node: string, g: number | undefined): void => {
    if (g === undefined) return;
    const island = metal.find(node);
    islands.set(island, (islands.get(island) ?? 0) | (1 << g));
  };
  contacts.near.forEach((_, c) => {
    belongs(near(c), group.near[c]);
    // A conductor belongs to the group of the contact that it is meant for.
    const w = intended.near[c] as number;
    if (w >= 0) belongs(`w${w}`, group.near[c]);
  });
  contacts.far.forEach((_, f) => {
    belongs(far(f), group.far[f]);
    const v = intended.far[f] as number;
    if (v >= 0) belongs(`v${v}`, group.far[f]);
  });
  return Array.from({ length: groups }, (_, g) =>
    [...islands.values()].reduce((bits, island) => (island & (1 << g) ? bits | island : bits), 1 << g),
  );
}
