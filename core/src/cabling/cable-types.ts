import { fourPairConductors, type Conductor } from './conductors.js';

/** A generic cable. Dimensions are `typical`: the reel's own sheet wins. */
export interface CableType {
  id: string;
  name: string;
  family: 'balanced' | 'coax';
  pairs: number;
  screened: boolean;
  outdoor: boolean;
  jacketMm: number;
  conductorMm: number;
  awg: number;
  /** Velocity factor, typical. */
  velocityFactor: number;
  impedanceOhm: number;
  source: 'typical' | 'sheet';
}

const typical = { source: 'typical' as const };

export const CABLE_TYPES: readonly CableType[] = [
  {
    id: 'cat6-u',
    name: 'Cat 6 unscreened',
    family: 'balanced',
    pairs: 4,
    screened: false,
    outdoor: false,
    jacketMm: 6.0,
    conductorMm: 1.0,
    awg: 23,
    velocityFactor: 0.69,
    impedanceOhm: 100,
    ...typical,
  },
  {
    id: 'cat6-f-outdoor',
    name: 'Cat 6 foil, outdoor',
    family: 'balanced',
    pairs: 4,
    screened: true,
    outdoor: true,
    jacketMm: 7.6,
    conductorMm: 1.05,
    awg: 23,
    velocityFactor: 0.7,
    impedanceOhm: 100,
    ...typical,
  },
  {
    id: 'cat5e-u',
    name: 'Cat 5e unscreened',
    family: 'balanced',
    pairs: 4,
    screened: false,
    outdoor: false,
    jacketMm: 5.2,
    conductorMm: 0.9,
    awg: 24,
    velocityFactor: 0.68,
    impedanceOhm: 100,
    ...typical,
  },
  {
    id: 'cat6a-f',
    name: 'Cat 6A foil',
    family: 'balanced',
    pairs: 4,
    screened: true,
    outdoor: false,
    jacketMm: 7.4,
    conductorMm: 1.1,
    awg: 23,
    velocityFactor: 0.71,
    impedanceOhm: 100,
    ...typical,
  },
  {
    id: 'rg6',
    name: 'RG-6, 75 ohm',
    family: 'coax',
    pairs: 0,
    screened: true,
    outdoor: false,
    jacketMm: 6.9,
    conductorMm: 1.02,
    awg: 18,
    velocityFactor: 0.82,
    impedanceOhm: 75,
    ...typical,
  },
  {
    id: 'rg213',
    name: 'RG-213, 50 ohm',
    family: 'coax',
    pairs: 0,
    screened: true,
    outdoor: true,
    jacketMm: 10.3,
    conductorMm: 2.25,
    awg: 13,
    velocityFactor: 0.66,
    impedanceOhm: 50,
    ...typical,
  },
];

/** Coax has a centre and a shell, both of them conductors to a continuity test. */
const COAX: readonly Conductor[] = [
  { id: 'CENTRE', pair: 1, leg: 'tip' },
  { id: 'SHELL', pair: 1, leg: 'ring' },
];

/** The conductors inside a cable type. */
export function conductorsOf(cable: Pick<CableType, 'family' | 'screened'>): readonly Conductor[] {
  return cable.family === 'coax' ? COAX : fourPairConductors(cable.screened);
}
