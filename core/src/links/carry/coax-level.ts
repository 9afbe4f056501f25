import type { CableType } from '../../cabling/cable-types.js';
import { lossAt, typicalLoss } from '../../reflectometry/cable-loss.js';
import type { RunPiece } from './run.js';

/** A signal over a coax: what goes in, over which frequencies, and what must come out. Levels in one unit of dB throughout. */
export interface SignalUse {
  sourceDb: number;
  unit: 'dBmV' | 'dBuV' | 'dBm';
  fromMhz: number;
  toMhz: number;
  /** The window that the device takes. */
  leastDb: number;
  mostDb: number;
  /** Splitters, taps and attenuators on the way, dB together. */
  passiveDb: number;
}

/** One pair of connectors, dB: typical up to 1 GHz. */
const CONNECTOR_DB = 0.1;

/** A level at one frequency. */
export interface LevelPoint {
  mhz: number;
  levelDb: number;
}

/** What arrives at the end of a coax over the band that it is used for: at its edges, and at four places between. */
export function levelsAtEnd(
  signal: SignalUse,
  cable: CableType,
  run: readonly RunPiece[],
  connectors = 2,
): LevelPoint[] {
  const loss = typicalLoss(cable);
  // Copper loses with the root of its resistance: 0.2 % a degree.
  const warmM = run.reduce(
    (sum, { lengthM, temperatureC }) => sum + lengthM * (1 + 0.002 * (temperatureC - 20)),
    0,
  );
  const { fromMhz, toMhz } = signal;
  return [0, 0.2, 0.4, 0.6, 0.8, 1].map((share) => {
    const mhz = fromMhz + share * (toMhz - fromMhz);
    const lostDb = (lossAt(loss, mhz) * warmM) / 100 + signal.passiveDb + connectors * CONNECTOR_DB;
    return { mhz, levelDb: signal.sourceDb - lostDb };
  });
}

/** The place of the band that lies nearest to an edge of the window, or furthest outside; its room to that edge, dB. */
export function leastLevelMargin(
  points: readonly LevelPoint[],
  { leastDb, mostDb }: Pick<SignalUse, 'leastDb' | 'mostDb'>,
): LevelPoint & { marginDb: number; edge: 'least' | 'most' } {
  const all = points.flatMap((point) => [
    { ...point, marginDb: point.levelDb - leastDb, edge: 'least' as const },
    { ...point, marginDb: mostDb - point.levelDb, edge: 'most' as const },
  ]);
  return all.reduce((least, one) => (one.marginDb < least.marginDb ? one : least));
}
