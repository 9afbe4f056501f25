import { insulation, isColour } from './colours.js';
import { insulationOf, SCREEN } from './conductors.js';

/** How a conductor is painted: its base, and the band where it has one. */
export interface ConductorPaint {
  base: string;
  band: string | null;
}

/** Bare metal, and what has no colour of its own. */
export const BARE: ConductorPaint = { base: '#b9bec1', band: null };
const METAL: Readonly<Record<string, ConductorPaint>> = {
  [SCREEN]: { base: BARE.base, band: '#8b9196' },
  CENTRE: { base: '#c98a4b', band: null },
  SHELL: BARE,
};

/** The one paint of a conductor, on screen, on paper and in a file. */
export function conductorPaint(conductor: string): ConductorPaint {
  const metal = METAL[conductor];
  if (metal || !isColour(conductor)) return metal ?? BARE;
  const { base, band } = insulation(conductor);
  return { base: base.paint, band: band?.paint ?? null };
}

/** What is printed beside a conductor's colour: its letters, or what metal it is. */
export function conductorCode(conductor: string | null): string {
  if (conductor === null) return 'none';
  return { [SCREEN]: 'screen', CENTRE: 'centre', SHELL: 'shell' }[conductor] ?? insulationOf(conductor);
}
