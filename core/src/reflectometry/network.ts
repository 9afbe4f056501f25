import type { LineFigures } from './line.js';

/** The pulse generator, seen as an open-circuit voltage behind a resistance. */
export interface Source {
  shape: 'pulse' | 'step';
  /** Open-circuit height; a matched line shows half of it. */
  volts: number;
  /** Between the half-height points; of no account for a step. */
  widthS: number;
  /** From 10 to 90 % of an edge. */
  riseS: number;
  /** How an edge goes: the smooth one of a band limit, or a straight ramp. */
  edge: 'smooth' | 'ramp';
  impedanceOhm: number;
}

/** The oscilloscope's input, teed to the line at the source. */
export interface Scope {
  inputOhm: number;
  inputF: number;
}

/** Resistance, inductance and capacitance of a lumped part; nought or absent for what it has not. */
export interface Lumped {
  ohm?: number;
  henry?: number;
  farad?: number;
}

/** One thing after another along the line, from the source outwards. */
export type Element =
  | { kind: 'line'; lengthM: number; line: LineFigures }
  /** In the way: R and L in series, and C in series with them where given. */
  | ({ kind: 'series' } & Lumped)
  /** Across: R, L and C side by side, each only where given. */
  | ({ kind: 'shunt' } & Lumped)
  /** A branch joined across the line. */
  | { kind: 'stub'; chain: readonly Element[]; load: Load };

/** What closes the line: nothing, a short, or parts side by side. */
export type Load = 'open' | 'short' | Lumped;

/** A bench set-up: generator and oscilloscope at the near end, a chain, and what closes it. */
export interface Network {
  source: Source;
  scope: Scope;
  chain: readonly Element[];
  load: Load;
}

/** A good bench scope's input, out of the way. */
export const NO_SCOPE: Scope = { inputOhm: Infinity, inputF: 0 };

/** One-way delay of the lines in a chain, stubs left aside. Seconds. */
export function delayOf(chain: readonly Element[], lightMPerS: number): number {
  return chain.reduce(
    (sum, element) =>
      element.kind === 'line' ? sum + element.lengthM / (element.line.velocityFactor * lightMPerS) : sum,
    0,
  );
}
