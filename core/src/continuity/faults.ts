import type { ConductorId } from '../cabling/conductors.js';
import type { ContactId } from '../cabling/schemes.js';
import type { Frame } from './frame.js';
import { faultWords, slipWords } from './fault-words.js';
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
  | { does: 'absent' }
  | { does: 'length'; lengthM: number };

/** What happened, as data: code compares this, and words are made of it last. */
export interface FaultTold {
  kind: FaultKind;
  slip: SlipKind;
  /** Which of several ways, where contacts and place do not say it: a scheme, a direction, a grade. */
  variant: string;
  end: FaultPlace;
  contacts: readonly ContactId[];
  /** The conductors meant for those contacts at its end; along the cable the conductors concerned. */
  conductors: readonly (ConductorId | null)[];
  /** From the near end; null when the place is not known. */
  distanceM: number | null;
}

/** A text that is equal for two faults exactly when they are the same thing. */
export type FaultId = string;

/** Something a hand did at an end, or that happened along the cable. */
export interface PhysicalFault extends FaultTold {
  readonly id: FaultId;
  /** The same at either end. */
  readonly twin: string;
  pairs: readonly number[];
  /** Expected number per link, before any reading. */
  rate: number;
  effects: readonly Effect[];
  readonly words: string;
  /** The same without the place. */
  readonly slipWords: string;
}

type Given = FaultTold & Pick<PhysicalFault, 'pairs' | 'rate' | 'effects'>;

/** A fault with its id; its words are made when they are asked for. */
export function fault(given: Given, expected: Parameters<typeof faultWords>[1]): PhysicalFault {
  const { slip, variant, contacts, conductors, distanceM, end } = given;
  const what = `${slip}/${variant}/${(end === 'cable' ? conductors : contacts).join('+')}`;
  return {
    ...given,
    twin: what,
    id: `${what}/${end}${distanceM === null ? '' : `@${distanceM.toFixed(1)}`}`,
    get words() {
      return faultWords(given, expected);
    },
    get slipWords() {
      return slipWords(given, expected);
    },
  };
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
    case 'bridge':
      state.shorts.push({ where: effect.end, a: effect.a, b: effect.b, atM: NaN });
      return;
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
      return;
    case 'length':
      state.lengthM = effect.lengthM;
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
