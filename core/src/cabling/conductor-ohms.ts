import { COPPER_OHM_MM2_PER_M } from '../quantities/copper.js';
import { awgAreaMm2 } from '../quantities/gauge.js';
import { conductorsOf, type CableType } from './cable-types.js';
import { SCREEN, type ConductorId } from './conductors.js';

/** Resistance of solid copper wire of a gauge, ohm per metre at 20 °C. */
export const copperOhmPerM = (awg: number): number => COPPER_OHM_MM2_PER_M / awgAreaMm2(awg);

/** 24 AWG, the usual pair. */
export const PAIR_OHM_PER_M = copperOhmPerM(24);
/** A foil with its drain, or a braid: typical. */
export const SCREEN_OHM_PER_M = 0.02;
const SHELL_OHM_PER_M = 0.01;
/** A foil with its drain. */
const FOIL_OHM_PER_M = 0.05;

/** Copper-clad steel conducts about a fifth of what copper does (21 % of the standard's copper, typical). */
export const CLAD_STEEL = 1 / 0.21;
/** A bundle of strands fills about so much of the circle round it. */
const STRANDS_FILL = 0.76;
/** Strands are laid round one another: each is longer than the wire. */
const STRANDS_LAY = 1.03;

type Cable = Pick<CableType, 'family' | 'pairs' | 'conductors' | 'screened'> &
  Partial<Pick<CableType, 'awg' | 'bareMm' | 'stranded' | 'centre' | 'screens' | 'drain'>>;

/** Resistance of one wire of a cable, or of a coax's centre, ohm per metre at 20 °C: by its metal, its gauge, its strands. */
export function wireOhmOf({ awg, bareMm, family, stranded, centre }: Cable): number {
  const solid = family === 'coax' && bareMm != null ? (Math.PI / 4) * bareMm ** 2 : awgAreaMm2(awg ?? 24);
  // A gauge counts the metal alone; a diameter over strands counts the air between them.
  const areaMm2 = stranded === true && family === 'coax' && bareMm != null ? solid * STRANDS_FILL : solid;
  const lay = stranded === true ? STRANDS_LAY : 1;
  return (COPPER_OHM_MM2_PER_M / areaMm2) * lay * (centre === 'copper-clad steel' ? CLAD_STEEL : 1);
}

/** Resistance of a screen, ohm per metre: a braid of copper, a foil by its drain, both side by side (typical). */
export function screenOhmOf({ screens, family }: Cable): number {
  if (family === 'coax' && !screens) return SHELL_OHM_PER_M;
  const braids = (screens ?? []).filter((layer) => layer === 'braid').length;
  const foils = (screens ?? []).length - braids;
  if (braids + foils === 0) return family === 'coax' ? SHELL_OHM_PER_M : SCREEN_OHM_PER_M;
  return 1 / (braids / SHELL_OHM_PER_M + foils / FOIL_OHM_PER_M);
}

/**
 * Resistance of each conductor of a cable, one way, in ohms per metre: copper at 20 °C by its gauge or,
 * where the sheet says how thick the metal is, by that; screens and shells by what is typical.
 */
export function ohmPerMOf(cable: Cable): Readonly<Record<ConductorId, number>> {
  const wire = wireOhmOf(cable);
  const screen = screenOhmOf(cable);
  return Object.fromEntries(
    conductorsOf(cable).map(({ id }) => [id, id === SCREEN || id === 'SHELL' ? screen : wire]),
  );
}
