import type { ConductorId } from '../cabling/conductors.js';
import type { ContactId } from '../cabling/schemes.js';
import { contactsOf, type LinkEnd, type TrueLink } from './true-link.js';

/** Answers which contacts of a link are metallically joined. */
export interface Galvanic {
  reaches(aEnd: LinkEnd, a: ContactId, bEnd: LinkEnd, b: ContactId): boolean;
  /** Equal for two links exactly when the same contacts are joined in both. */
  readonly partition: string;
}

/** Disjoint sets over small integers; finding halves paths. */
class Sets {
  readonly parent: number[] = [];

  add(): number {
    return this.parent.push(this.parent.length) - 1;
  }

  find(node: number): number {
    let n = node;
    while (this.parent[n] !== n) {
      this.parent[n] = this.parent[this.parent[n] as number] as number;
      n = this.parent[n] as number;
    }
    return n;
  }

  join(a: number, b: number): void {
    this.parent[this.find(b)] = this.find(a);
  }
}

/**
 * The metal of a link as joined sets. Each break splits its conductor into stretches; a join
 * lands on the stretch that passes its distance; a bridge joins two contacts at one end. A
 * conductor that lies on a contact without being seated does not reach it.
 */
export function galvanic(link: TrueLink): Galvanic {
  const contacts = contactsOf(link);
  const sets = new Sets();
  const nodes = { near: new Map<ContactId, number>(), far: new Map<ContactId, number>() };
  for (const end of ['near', 'far'] as const) {
    for (const contact of contacts) nodes[end].set(contact, sets.add());
  }
  const stretches = new Map<ConductorId, number[]>();
  for (const { id } of link.conductors) stretches.set(id, [sets.add()]);
  for (const { conductor } of link.breaks) stretches.get(conductor)?.push(sets.add());

  const seat = (end: LinkEnd): void => {
    for (const contact of contacts) {
      const conductor = link[end][contact];
      if (conductor == null) continue;
      if (link.unseated.some((u) => u.end === end && u.contact === contact)) continue;
      const stretch = end === 'near' ? stretches.get(conductor)?.[0] : stretches.get(conductor)?.at(-1);
      if (stretch !== undefined) sets.join(stretch, nodes[end].get(contact) as number);
    }
  };
  seat('near');
  seat('far');
  const stretchAt = (conductor: ConductorId, atM: number): number | undefined =>
    stretches.get(conductor)?.[link.breaks.filter((b) => b.conductor === conductor && b.atM <= atM).length];
  for (const { conductors, atM } of link.joins) {
    const [a, b] = [stretchAt(conductors[0], atM), stretchAt(conductors[1], atM)];
    if (a !== undefined && b !== undefined) sets.join(a, b);
  }
  for (const { end, contacts: bridged } of link.bridges) {
    const [a, b] = [nodes[end].get(bridged[0]), nodes[end].get(bridged[1])];
    if (a !== undefined && b !== undefined) sets.join(a, b);
  }
  const root = (end: LinkEnd, contact: ContactId): number => sets.find(nodes[end].get(contact) ?? -1);
  return {
    reaches: (aEnd, a, bEnd, b) => root(aEnd, a) === root(bEnd, b),
    get partition() {
      return canonical([...contacts.map((c) => root('near', c)), ...contacts.map((c) => root('far', c))]);
    },
  };
}

/** Renames labels by first appearance, so that equal groupings give equal texts. */
export function canonical(labels: readonly number[]): string {
  const names = new Map<number, number>();
  return labels
    .map((label) => {
      if (!names.has(label)) names.set(label, names.size);
      return names.get(label);
    })
    .join('.');
}

/**
 * Contact pairs that are split: the two contacts that should share one twisted pair are fed by
 * two, so the map can be right while the twists are wrong. Judged on the near contacts whose
 * conductors reach the far end.
 */
export function splitContactPairs(
  link: TrueLink,
  contactPairs: readonly (readonly [ContactId, ContactId])[],
): string[] {
  const pairOf = new Map(link.conductors.map((w) => [w.id, w.pair]));
  const suspects = contactPairs.filter(([a, b]) => {
    const [wireA, wireB] = [link.near[a], link.near[b]];
    return wireA != null && wireB != null && pairOf.get(wireA) !== pairOf.get(wireB);
  });
  if (suspects.length === 0) return [];
  const metal = galvanic(link);
  const conducts = (contact: ContactId): boolean =>
    contactsOf(link).some((far) => metal.reaches('near', contact, 'far', far));
  return suspects.filter(([a, b]) => conducts(a) && conducts(b)).map(([a, b]) => `${a}-${b}`);
}
