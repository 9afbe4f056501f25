import { PAIR_OHM_PER_M, SCREEN_OHM_PER_M } from '../cabling/conductor-ohms.js';
import { SCREEN, type ConductorId } from '../cabling/conductors.js';
import type { ContactId } from '../cabling/schemes.js';
import { contactPairsAt } from './expectation.js';
import type { LinkEnd, TrueLink } from './true-link.js';

/** Two contacts of one end that belong together, by their places in the frame. */
export interface FramePair {
  name: string;
  a: number;
  b: number;
}

/**
 * A link's contacts and conductors as numbers, so that thousands of ways it could be are compared
 * in milliseconds. Contacts and conductors are numbered in the order the intended link names them.
 */
export interface Frame {
  readonly contacts: Readonly<Record<LinkEnd, readonly ContactId[]>>;
  readonly conductors: readonly ConductorId[];
  /** Conductor -> its pair's number, -1 for none. */
  readonly pairOf: Int16Array;
  /** Contacts that belong together, as the intended link has them. */
  readonly pairs: Readonly<Record<LinkEnd, readonly FramePair[]>>;
  /** Contact -> the contact it belongs with at the same end, -1 for none. */
  readonly mate: Readonly<Record<LinkEnd, Int16Array>>;
  /**
   * Contact -> the group of contacts it can be told with: those whose intended conductors share a
   * pair, at both ends. What happens in one group does not show in the rows of another.
   */
  readonly group: Readonly<Record<LinkEnd, Int16Array>>;
  readonly groups: number;
  /** Whether conductors come in pairs. */
  readonly paired: boolean;
  /** Contact -> the conductor meant for it, -1 for none. */
  readonly intended: Readonly<Record<LinkEnd, Int16Array>>;
  readonly lengthM: number;
  /** Conductor -> its resistance, ohms per metre one way. */
  readonly ohmPerM: Float64Array;
  /** Capacitance of a pair, farads per metre. */
  readonly faradPerM: number;
  /** Where each part of a link's state begins in `LinkState.cells`. */
  readonly at: Readonly<{
    near: number;
    far: number;
    nearSeat: number;
    farSeat: number;
    core: number;
    splice: number;
    equipment: number;
    absent: number;
    size: number;
  }>;
  contactIndex(end: LinkEnd, contact: ContactId): number;
  conductorIndex(conductor: ConductorId): number;
}

const frames = new WeakMap<object, Frame>();

/** The frame of what a link is meant to be; made once for each expectation. */
export function frameFor<E extends object>(
  expected: E,
  intended: (expected: E) => Parameters<typeof frameOf>[0],
): Frame {
  const known = frames.get(expected) ?? frameOf(intended(expected));
  frames.set(expected, known);
  return known;
}

/** Of a twisted pair of 100 ohm (typical). */
const TYPICAL_FARAD_PER_M = 50e-12;

/** Groups are told by bits of one number; more than these share a bit. */
export const MOST_GROUPS = 30;

/** The frame of an intended link; every state of that link is told in it. */
export function frameOf(
  intended: Pick<TrueLink, 'near' | 'far' | 'conductors' | 'lengthM' | 'ohmPerM' | 'faradPerM'>,
): Frame {
  const contacts = { near: Object.keys(intended.near), far: Object.keys(intended.far) };
  const conductors = intended.conductors.map((w) => w.id);
  const index = {
    near: new Map(contacts.near.map((c, i) => [c, i])),
    far: new Map(contacts.far.map((c, i) => [c, i])),
  };
  const conductorIndex = new Map(conductors.map((c, i) => [c, i]));
  const pairsAt = (end: LinkEnd): FramePair[] =>
    contactPairsAt(intended, intended[end]).map(([a, b]) => ({
      name: `${a}-${b}`,
      a: index[end].get(a) ?? -1,
      b: index[end].get(b) ?? -1,
    }));
  const pairs = { near: pairsAt('near'), far: pairsAt('far') };
  const mateAt = (end: LinkEnd): Int16Array => {
    const mate = new Int16Array(contacts[end].length).fill(-1);
    for (const { a, b } of pairs[end]) [mate[a], mate[b]] = [b, a];
    return mate;
  };
  const groups = new Map<string, number>();
  const groupOf = (end: LinkEnd, contact: ContactId): number => {
    const conductor = intended[end][contact] ?? null;
    const pair = intended.conductors.find((w) => w.id === conductor)?.pair ?? null;
    const name = pair === null ? `wire ${conductor ?? contact}` : `pair ${pair}`;
    if (!groups.has(name)) groups.set(name, groups.size % MOST_GROUPS);
    return groups.get(name) as number;
  };
  const mates = { near: mateAt('near'), far: mateAt('far') };
  const group = {
    near: Int16Array.from(contacts.near, (contact) => groupOf('near', contact)),
    far: Int16Array.from(contacts.far, (contact) => groupOf('far', contact)),
  };
  const wiringAt = (end: LinkEnd): Int16Array =>
    Int16Array.from(contacts[end], (contact) => conductorIndex.get(intended[end][contact] ?? '') ?? -1);
  const [n, f, w] = [contacts.near.length, contacts.far.length, conductors.length];
  const core = 2 * (n + f);
  return {
    contacts,
    conductors,
    pairOf: Int16Array.from(intended.conductors, (c) => c.pair ?? -1),
    pairs,
    mate: mates,
    group,
    groups: Math.min(groups.size, MOST_GROUPS),
    paired: intended.conductors.some((w) => w.pair !== null),
    intended: { near: wiringAt('near'), far: wiringAt('far') },
    lengthM: intended.lengthM,
    ohmPerM: Float64Array.from(
      intended.conductors,
      ({ id }) => intended.ohmPerM?.[id] ?? (id === SCREEN ? SCREEN_OHM_PER_M : PAIR_OHM_PER_M),
    ),
    faradPerM: intended.faradPerM ?? TYPICAL_FARAD_PER_M,
    at: {
      near: 0,
      far: n,
      nearSeat: n + f,
      farSeat: 2 * n + f,
      core,
      splice: core + w,
      equipment: core + 2 * w,
      absent: core + 2 * w + 1,
      size: core + 2 * w + 2,
    },
    contactIndex: (end, contact) => index[end].get(contact) ?? -1,
    conductorIndex: (conductor) => conductorIndex.get(conductor) ?? -1,
  };
}
