import type { ConductorId } from '../cabling/conductors.js';
import type { ContactId } from '../cabling/schemes.js';
import type { Frame } from './frame.js';
import type { FaultKind } from './instruments.js';
import { exchangeBehindSplice, fromState, toState, type LinkState } from './link-state.js';
import type { SlipKind } from './practice.js';
import type { LinkEnd, TrueLink } from './true-link.js';

export type FaultPlace = LinkEnd | 'cable';

/** What one thing that happened does to a link, in numbers of its frame. */
export type Effect =
  /** Contact i gets the conductor that lay on contact `order[i]`, or none for -1. */
  | { does: 'reorder'; end: LinkEnd; order: readonly number[] }
  /** Contact i gets conductor `wiring[i]`. */
  | { does: 'wire'; end: LinkEnd; wiring: readonly number[] }
  | { does: 'seat'; end: LinkEnd; contact: number; condition: number }
  | { does: 'bridge'; end: LinkEnd; a: number; b: number }
  | { does: 'core'; conductors: readonly number[]; condition: number; atM: number }
  | { does: 'join'; a: number; b: number; atM: number }
  | { does: 'splice'; a: number; b: number }
  | { does: 'wet'; atM: number }
  | { does: 'equipment'; end: LinkEnd }
  | { does: 'absent' };

/** Something a hand did at an end, or that happened along the cable. */
export interface PhysicalFault {
  kind: FaultKind;
  slip: SlipKind;
  end: FaultPlace;
  contacts: readonly ContactId[];
  pairs: readonly number[];
  /** From the near end; null when the place is not known. */
  distanceM: number | null;
  words: string;
  /** Expected number per link, before any reading. */
  rate: number;
  effects: readonly Effect[];
}

/** Does to a state what a fault does to a link. */
export function inflict(state: LinkState, fault: Pick<PhysicalFault, 'effects'>): void {
  for (const effect of fault.effects) inflictOne(state, effect);
}

function inflictOne(state: LinkState, effect: Effect): void {
  const { cells, frame } = state;
  const { at } = frame;
  switch (effect.does) {
    case 'reorder': {
      const base = at[effect.end];
      const before = cells.slice(base, base + effect.order.length);
      effect.order.forEach((from, i) => (cells[base + i] = from < 0 ? -1 : (before[from] as number)));
      return;
    }
    case 'wire': {
      const base = at[effect.end];
      for (let i = 0; i < effect.wiring.length; i++) cells[base + i] = effect.wiring[i] as number;
      return;
    }
    case 'seat':
      return state.setSeat(effect.end, effect.contact, effect.condition);
    case 'bridge': {
      const atM = effect.end === 'near' ? 0 : frame.lengthM;
      state.shorts.push({ where: effect.end, a: effect.a, b: effect.b, atM });
      return;
    }
    case 'core':
      for (const conductor of effect.conductors) state.setCore(conductor, effect.condition, effect.atM);
      return;
    case 'join':
      state.shorts.push({ where: 'cable', a: effect.a, b: effect.b, atM: effect.atM });
      return;
    case 'splice':
      return exchangeBehindSplice(state, effect.a, effect.b);
    case 'wet':
      state.wetAtM.push(effect.atM);
      return;
    case 'equipment':
      cells[at.equipment] = (cells[at.equipment] as number) | (effect.end === 'near' ? 1 : 2);
      return;
    case 'absent':
      cells[at.absent] = 1;
  }
}

/** A link with faults, in the order they are told. */
export function withFaults(
  frame: Frame,
  intended: TrueLink,
  faults: readonly Pick<PhysicalFault, 'effects'>[],
): TrueLink {
  const state = toState(frame, intended);
  for (const fault of faults) inflict(state, fault);
  return fromState(intended, state);
}

/** The pairs that some conductors belong to. */
export function pairsOfConductors(frame: Frame, conductors: readonly (ConductorId | null)[]): number[] {
  const pairs = conductors.flatMap((id) => {
    const pair = id === null ? -1 : (frame.pairOf[frame.conductorIndex(id)] ?? -1);
    return pair > 0 ? [pair] : [];
  });
  return [...new Set(pairs)];
}
