import type { CableCategory } from './category.js';
import {
  coaxConductors,
  multicoreConductors,
  orderedConductors,
  pairedConductors,
  ribbonConductors,
  screenConductor,
  type Conductor,
} from './conductors.js';

export type CableFamily = 'balanced' | 'coax' | 'ribbon' | 'multicore';
/** A metal layer, as it is met from outside inwards. */
export type ScreenLayer = 'foil' | 'braid';
/** What lies beside the conductors and has to go. */
export type Filler = 'separator' | 'pull cord' | 'tape' | 'gel' | 'strength yarn' | 'pair foil';

/** Loss at one frequency, dB per 100 m. */
export interface LossPoint {
  mhz: number;
  dbPer100m: number;
}

/**
 * A generic cable. Dimensions are `typical`: the reel's own sheet wins. Null is "not known", which
 * no check takes for a yes.
 */
export interface CableType {
  id: string;
  name: string;
  family: CableFamily;
  /** Twisted pairs; 0 where the conductors are not paired. */
  pairs: number;
  /** Conductors, screens not counted. */
  conductors: number;
  screened: boolean;
  /** Screens from outside inwards. */
  screens: readonly ScreenLayer[];
  drain: boolean;
  fillers: readonly Filler[];
  outdoor: boolean;
  /** Over everything; for a ribbon its thickness. */
  jacketMm: number;
  /** One conductor over its insulation; null for coax. */
  conductorMm: number | null;
  /** Coax: over the dielectric. */
  dielectricMm: number | null;
  /** Bare metal of one conductor; in coax the centre conductor. */
  bareMm: number | null;
  stranded: boolean | null;
  awg: number;
  /** Velocity factor, typical. */
  velocityFactor: number;
  impedanceOhm: number;
  source: 'typical' | 'sheet';
  /** Category of balanced cable, where it has one: it decides which limits hold. */
  category?: CableCategory | undefined;
  /** What it is made to carry, where that is not data; it decides which limits hold. */
  use?: 'telephone' | 'control' | 'bus' | 'audio' | undefined;
  /** A steel core under copper, usual in antenna cable: at radio frequencies copper, to an ohmmeter mostly steel. */
  centre?: 'copper-clad steel' | undefined;
  /** Loss as its sheet gives it: dB per 100 m at one or more frequencies, 20 degrees C. */
  loss?: readonly LossPoint[] | undefined;
  /** Insulation codes of unpaired conductors in their order, where the cable has an order of its own. */
  colours?: readonly string[] | undefined;
}

/** The conductors inside a cable type, in the order of its own colour code. */
export function conductorsOf(
  cable: Pick<CableType, 'family' | 'pairs' | 'conductors' | 'screened'> &
    Partial<Pick<CableType, 'colours'>>,
): readonly Conductor[] {
  const screen = cable.screened ? [screenConductor] : [];
  switch (cable.family) {
    case 'coax':
      return coaxConductors;
    case 'balanced':
      return [...pairedConductors(cable.pairs), ...screen];
    case 'ribbon':
      return [...ribbonConductors(cable.conductors), ...screen];
    case 'multicore':
      return [
        ...(cable.colours
          ? orderedConductors(cable.colours, cable.conductors)
          : multicoreConductors(cable.conductors)),
        ...screen,
      ];
  }
}

const MOST_PAIRS = 4;

/** Whether a link of a job may run in this cable: coax, or up to four balanced pairs. */
export const runsALink = (cable: Pick<CableType, 'family' | 'pairs'>): boolean =>
  cable.family === 'coax' || (cable.family === 'balanced' && cable.pairs <= MOST_PAIRS);
