import { conductorsOf, type CableType } from '../cabling/cable-types.js';
import { insulationOf } from '../cabling/conductors.js';
import { awgAreaMm2 } from '../quantities/gauge.js';
import type { Wire } from './conductor-choice.js';

/** A kit's cable as an adapter's conductors: areas from its gauge, pairs from its build, a ribbon's edges marked. */
export function cableWires(cable: CableType): Wire[] {
  const conductors = conductorsOf(cable);
  const areaMm2 = Math.round(awgAreaMm2(cable.awg) * 1000) / 1000;
  return conductors.map(({ id, pair }, n) => ({
    id,
    colour: insulationOf(id),
    areaMm2,
    pair: cable.family === 'coax' ? null : pair,
    ...(cable.family === 'ribbon' ? { edge: n === 0 || n === conductors.length - 1 } : {}),
  }));
}
