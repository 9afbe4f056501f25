import type { CableType } from '../cabling/cable-types.js';
import { followsScheme, stripToleranceMm, type ConnectorType } from '../connectors/connector-types.js';

/** One cut of a strip plan. */
export interface StripCut {
  layer: 'jacket' | 'screen' | 'dielectric' | 'insulation';
  /** Where the cut lies, measured from the cable's end. */
  fromEndMm: number;
  /** How much of the layer below it this cut bares: up to the next cut, or to the end. */
  baresMm: number;
}

/** Lengths for one cable end, measured from the cable's end, in the order of cutting. */
export interface StripPlan {
  cuts: readonly StripCut[];
  /** The longest of the lengths: how far the cable is opened. */
  jacketMm: number;
  /** Conductor left beyond the jacket's edge when trimmed; null where the connector trims it. */
  trimMm: number | null;
  /** What each of these lengths may be off and still do. */
  toleranceMm: number;
  /** Most untwist allowed at the contact (ANSI/TIA-568: 13 mm); null where pairs do not matter. */
  untwistMm: number | null;
  source: 'typical' | 'sheet';
}

/** Untwist at a termination, at most (ANSI/TIA-568). */
const MAX_UNTWIST_MM = 13;

/**
 * The strip plan of a connector for a cable: the jacket first, the innermost layer last. Layers
 * that end at the same place are one cut deeper each.
 */
export function stripPlan(cable: CableType, connector: ConnectorType): StripPlan {
  const { strip } = connector;
  const wanted: { layer: StripCut['layer']; fromEndMm: number | null }[] = [
    {
      layer: 'jacket',
      fromEndMm: connector.group === 'splice' && cable.conductors === 1 ? null : strip.jacketMm || null,
    },
    { layer: 'screen', fromEndMm: cable.screened ? strip.screenMm : null },
    { layer: cable.family === 'coax' ? 'dielectric' : 'insulation', fromEndMm: strip.insulationMm },
  ];
  const given = wanted.filter(
    (c): c is { layer: StripCut['layer']; fromEndMm: number } => c.fromEndMm !== null,
  );
  const cuts = given.map(({ layer, fromEndMm }, i) => ({
    layer,
    fromEndMm,
    baresMm: fromEndMm - (given[i + 1]?.fromEndMm ?? 0),
  }));
  return {
    cuts,
    jacketMm: Math.max(0, ...cuts.map((c) => c.fromEndMm)),
    trimMm: strip.trimMm,
    toleranceMm: stripToleranceMm(connector),
    untwistMm: followsScheme(connector) ? MAX_UNTWIST_MM : null,
    source: connector.source,
  };
}
