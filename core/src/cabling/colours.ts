import { insulationOf } from './conductors.js';

/**
 * Insulation colours by their IEC 60757 letter codes; two-colour insulation names the base
 * first (`WH-OG` is white with an orange band). The paint values are for drawing only.
 */
export interface Colour {
  code: string;
  name: string;
  paint: string;
}

export const COLOURS = {
  BK: { code: 'BK', name: 'black', paint: '#23272a' },
  BN: { code: 'BN', name: 'brown', paint: '#7a4a2a' },
  RD: { code: 'RD', name: 'red', paint: '#c4342d' },
  OG: { code: 'OG', name: 'orange', paint: '#e07b1a' },
  YE: { code: 'YE', name: 'yellow', paint: '#e8c72c' },
  GN: { code: 'GN', name: 'green', paint: '#2f9050' },
  BU: { code: 'BU', name: 'blue', paint: '#2f6fc9' },
  VT: { code: 'VT', name: 'violet', paint: '#7c4fb0' },
  GY: { code: 'GY', name: 'grey', paint: '#8b9196' },
  WH: { code: 'WH', name: 'white', paint: '#f6f3ea' },
  PK: { code: 'PK', name: 'pink', paint: '#e79ab4' },
  TQ: { code: 'TQ', name: 'turquoise', paint: '#3db5b0' },
} as const satisfies Record<string, Colour>;

export type ColourCode = keyof typeof COLOURS;

/** Insulation of one conductor: a base and, for banded insulation, the band. */
export interface Insulation {
  code: string;
  base: Colour;
  band: Colour | null;
}

/**
 * Reads an insulation code (`BU`, `WH-BU`), or a conductor's id that is one with its number (`BN.2`).
 * @throws RangeError when a letter pair is not an IEC 60757 colour.
 */
export function insulation(code: string): Insulation {
  const [base, band, ...rest] = insulationOf(code).split('-');
  const baseColour = COLOURS[base as ColourCode];
  const bandColour = band === undefined ? null : COLOURS[band as ColourCode];
  if (!baseColour || bandColour === undefined || rest.length > 0) {
    throw new RangeError(
      `"${code}" is not a colour code: write BU for blue or WH-BU for white with a blue band.`,
    );
  }
  return { code, base: baseColour, band: bandColour };
}

/** Whether a code names an insulation. */
export function isColour(code: string): boolean {
  const parts = insulationOf(code).split('-');
  return parts.length <= 2 && parts.every((part) => Object.hasOwn(COLOURS, part));
}

/** The insulation in words: `blue`, `white-blue`. */
export function insulationName(code: string): string {
  const { base, band } = insulation(code);
  return band ? `${base.name}-${band.name}` : base.name;
}
