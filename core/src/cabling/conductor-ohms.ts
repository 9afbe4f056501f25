import { COPPER_OHM_MM2_PER_M } from '../quantities/copper.js';
import { awgAreaMm2 } from '../quantities/gauge.js';
import { conductorsOf, type CableType } from './cable-types.js';
import { SCREEN, type ConductorId } from './conductors.js';

/** 24 AWG solid copper at 20 °C, the usual pair (domain: section 3). */
export const PAIR_OHM_PER_M = COPPER_OHM_MM2_PER_M / awgAreaMm2(24);
/** A foil with its drain, or a braid: typical. */
export const SCREEN_OHM_PER_M = 0.02;
const SHELL_OHM_PER_M = 0.01;

type Cable = Pick<CableType, 'family' | 'pairs' | 'conductors' | 'screened'> &
  Partial<Pick<CableType, 'awg' | 'bareMm'>>;

/**
 * Resistance of each conductor of a cable, one way, in ohms per metre: copper at 20 °C by its gauge or,
 * where the sheet says how thick the metal is, by that; screens and shells by what is typical.
 */
export function ohmPerMOf(cable: Cable): Readonly<Record<ConductorId, number>> {
  const { awg, bareMm, family } = cable;
  const areaMm2 = family === 'coax' && bareMm != null ? (Math.PI / 4) * bareMm ** 2 : awgAreaMm2(awg ?? 24);
  const wire = COPPER_OHM_MM2_PER_M / areaMm2;
  return Object.fromEntries(
    conductorsOf(cable).map(({ id }) => [
      id,
      id === SCREEN ? SCREEN_OHM_PER_M : id === 'SHELL' ? SHELL_OHM_PER_M : wire,
    ]),
  );
}
