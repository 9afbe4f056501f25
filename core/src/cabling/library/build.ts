import type { CableType } from '../cable-types.js';

/** What a row of the cable library says at the least. */
export type Given = Partial<CableType> & Pick<CableType, 'id' | 'name' | 'jacketMm' | 'awg'>;

/** Fills what most twisted-pair cables share. */
export const balanced = (given: Given): CableType => ({
  family: 'balanced',
  pairs: 4,
  conductors: (given.pairs ?? 4) * 2,
  screened: (given.screens ?? []).length > 0,
  screens: [],
  drain: false,
  fillers: ['pull cord'],
  outdoor: false,
  conductorMm: null,
  dielectricMm: null,
  bareMm: null,
  stranded: false,
  velocityFactor: 0.68,
  impedanceOhm: 100,
  source: 'typical',
  ...given,
});

/** Fills what most cables without pairs share. */
export const plain = (given: Given & Pick<CableType, 'family' | 'conductors'>): CableType => ({
  ...balanced(given),
  pairs: 0,
  fillers: [],
  stranded: true,
  velocityFactor: 0.65,
  impedanceOhm: 110,
  ...given,
});
