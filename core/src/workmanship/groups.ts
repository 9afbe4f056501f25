import type { MadeEnd } from './made-ends.js';

/** What ends can have in common. */
export type GroupKind = 'person' | 'connector' | 'tool' | 'lot';

/** What it is called for an end; empty where nobody named it. */
export const GROUPS: Readonly<Record<GroupKind, (end: MadeEnd) => string>> = {
  person: ({ by }) => by,
  connector: ({ connector }) => connector,
  tool: ({ tool }) => tool,
  lot: ({ lot }) => lot,
};

export function grouped<T>(some: readonly T[], nameOf: (one: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of some) {
    const name = nameOf(one);
    const own = groups.get(name);
    if (own) own.push(one);
    else groups.set(name, [one]);
  }
  return groups;
}
