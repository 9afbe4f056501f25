import { knownA, placeWords, type AdapterNet, type Coupling, type PlacedPin } from '../design.js';

export type RuleId =
  | 'two-sources'
  | 'supply-out-of-range'
  | 'supply-current'
  | 'load-unfed'
  | 'outputs-fight'
  | 'input-undriven'
  | 'no-pull-up'
  | 'ground-missing'
  | 'ground-to-supply'
  | 'signal-on-supply'
  | 'levels-damage'
  | 'levels-unread'
  | 'levels-inverted'
  | 'levels-tight'
  | 'levels-unknown'
  | 'contact-current'
  | 'voltage-drop'
  | 'shield'
  | 'pair-incomplete'
  | 'joined-not-connected'
  | 'face-unsaid'
  | 'not-metered'
  | 'contact-unknown'
  | 'numbers-unread'
  | 'no-room'
  | 'colour-twice'
  | 'as-found'
  | 'wire-current'
  | 'wire-voltage'
  | 'pair-split'
  | 'led'
  | 'current-unknown'
  | 'too-long'
  | 'stage-unfed'
  | 'push-in-dead'
  | 'unused';

/** What a rule found: where, how bad, and what mends it. */
export interface RuleFinding {
  rule: RuleId;
  severity: 'wrong' | 'unsure' | 'note';
  /** Contacts it is about, as "A 3". */
  contacts: string[];
  words: string;
  remedy: string;
}

/** What the loads among these contacts take together as far as it is known, amperes. */
export const takenA = (pins: readonly PlacedPin[]): number =>
  pins.reduce((sum, { pin }) => (pin.kind === 'supply-in' ? sum + (knownA(pin) ?? 0) : sum), 0);
export const isOutput = ({ pin }: PlacedPin): boolean => pin.kind === 'output';
export const canDrive = ({ pin: { kind } }: PlacedPin): boolean =>
  kind === 'output' || kind === 'open-collector' || kind === 'both';
export const listens = ({ pin: { kind } }: PlacedPin): boolean => kind === 'input' || kind === 'both';
export const places = (pins: readonly PlacedPin[]): string[] => pins.map(placeWords);
export const named = (pins: readonly PlacedPin[]): string =>
  pins.map((placed) => `${placeWords(placed)} ${placed.pin.signal}`).join(', ');

/** Pins that reach a net through parts. */
export const through = ({ pins }: AdapterNet, couplings: readonly Coupling[]): PlacedPin[] => {
  const on = new Set(places(pins));
  return couplings.flatMap(({ from, to }) => [
    ...(on.has(placeWords(from)) ? [to] : []),
    ...(on.has(placeWords(to)) ? [from] : []),
  ]);
};
