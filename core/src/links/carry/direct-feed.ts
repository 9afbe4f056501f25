import type { CableType } from '../../cabling/cable-types.js';
import { wireOhmOf } from '../../cabling/conductor-ohms.js';
import { TWIST_LAY } from '../../metering/resistance.js';
import { COPPER_PER_DEGREE } from '../../quantities/copper.js';
import { solveFeed } from './remote-power.js';
import { MILD_C, type RunPiece } from './run.js';

/** A load on wires of its own: a camera, a lock, a lamp, a control. */
export interface DirectLoad {
  sourceV: number;
  /** It takes a fixed power (a converter inside) or a fixed current (a coil, a lamp): one of the two. */
  loadW?: number | undefined;
  loadA?: number | undefined;
  /** The least it works from, V. */
  leastV: number;
  /** Wires side by side each way. */
  wires: number;
}

/** What arrives at such a load. */
export interface DirectResult {
  /** Out and back, ohm. */
  ohm: number;
  /** Null where the wire cannot carry it at all. */
  currentA: number | null;
  loadV: number | null;
  /** The most resistance that would do, ohm. */
  mostOhm: number;
}

/**
 * Voltage at a load on its own wires.
 *
 * @throws RangeError where neither power nor current is given, or the source lies below what the load needs
 */
export function feedDirectly(load: DirectLoad, cable: CableType, run: readonly RunPiece[]): DirectResult {
  const { sourceV, loadW, loadA, leastV, wires } = load;
  if ((loadW === undefined) === (loadA === undefined))
    throw new RangeError('Give the power of the load, or its current: one of the two.');
  const perM = (2 * wireOhmOf(cable) * (1 + TWIST_LAY)) / wires;
  const ohm = run.reduce(
    (sum, { lengthM, temperatureC }) =>
      sum + perM * lengthM * (1 + COPPER_PER_DEGREE * (temperatureC - MILD_C)),
    0,
  );
  const atLeastA = loadA ?? (loadW as number) / leastV;
  const mostOhm = Math.max(0, (sourceV - leastV) / atLeastA);
  if (loadA !== undefined) return { ohm, currentA: loadA, loadV: sourceV - loadA * ohm, mostOhm };
  const point = solveFeed(sourceV, loadW as number, ohm);
  return { ohm, currentA: point?.currentA ?? null, loadV: point?.deviceV ?? null, mostOhm };
}
