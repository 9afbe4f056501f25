import type { CableType, LossPoint } from '../cabling/cable-types.js';
import { categoryOf, strandedLoss, type CableCategory } from '../cabling/category.js';
import { screenOhmOf, wireOhmOf } from '../cabling/conductor-ohms.js';
import { awgAreaMm2 } from '../quantities/gauge.js';
import type { LineFigures } from './line.js';

type Loss = Pick<LineFigures, 'skinDb' | 'dielectricDb' | 'loopOhmPerM'>;

/**
 * Loss of balanced pairs by the limits for solid cable (square root, linear; dB per 100 m at 1 MHz):
 * Cat 5e 1.967 and 0.023, Cat 6 1.808 and 0.017, Cat 6A 1.82 and 0.0091.
 */
const PAIRS: Readonly<Record<CableCategory, readonly [number, number]>> = {
  '5e': [1.967, 0.023],
  '6': [1.808, 0.017],
  '6A': [1.82, 0.0091],
};
/** A line as long as a link of unknown cable: between a thick coax and a thin pair. */
export const UNKNOWN_LOSS: Loss = { skinDb: 1.4, dielectricDb: 0.015, loopOhmPerM: 0.12 };

/**
 * Loss as square root and linear part that goes through what a sheet gives, dB per 100 m at 1 MHz: least squares of the
 * relative misfit, neither part below nought; from one figure the parts keep the proportion of `like`.
 */
export function lossThrough(
  points: readonly LossPoint[],
  like: Pick<Loss, 'skinDb' | 'dielectricDb'>,
): Pick<Loss, 'skinDb' | 'dielectricDb'> {
  const rows = points.map(({ mhz, dbPer100m }) => [Math.sqrt(mhz) / dbPer100m, mhz / dbPer100m] as const);
  const dot = (a: 0 | 1, b: 0 | 1): number => rows.reduce((sum, row) => sum + row[a] * row[b], 0);
  const ones = (a: 0 | 1): number => rows.reduce((sum, row) => sum + row[a], 0);
  const determinant = dot(0, 0) * dot(1, 1) - dot(0, 1) ** 2;
  if (points.length > 1 && determinant > 1e-9 * dot(0, 0) * dot(1, 1)) {
    const skinDb = (ones(0) * dot(1, 1) - ones(1) * dot(0, 1)) / determinant;
    const dielectricDb = (ones(1) * dot(0, 0) - ones(0) * dot(0, 1)) / determinant;
    if (skinDb >= 0 && dielectricDb >= 0) return { skinDb, dielectricDb };
    return skinDb < 0
      ? { skinDb: 0, dielectricDb: ones(1) / dot(1, 1) }
      : { skinDb: ones(0) / dot(0, 0), dielectricDb: 0 };
  }
  const [{ mhz, dbPer100m }] = points as [LossPoint];
  const share = dbPer100m / (like.skinDb * Math.sqrt(mhz) + like.dielectricDb * mhz);
  return { skinDb: like.skinDb * share, dielectricDb: like.dielectricDb * share };
}

/** Loss of a line at a frequency, dB per 100 m. */
export const lossAt = (
  { skinDb, dielectricDb }: Pick<Loss, 'skinDb' | 'dielectricDb'>,
  mhz: number,
): number => skinDb * Math.sqrt(mhz) + dielectricDb * mhz;

/** What a cable loses: by its sheet's figures where it has any, otherwise by what is typical of its make. */
export function typicalLoss(cable: CableType): Loss {
  const made = lossByMake(cable);
  return cable.loss?.length ? { ...made, ...lossThrough(cable.loss, made) } : made;
}

/**
 * Typical loss of a cable, from its standard's limits where it has one, otherwise from its metal:
 * skin loss of a coax of impedance Z with a centre conductor d and a dielectric D is
 * R / (2 Z), R = sqrt(f mu0 / (pi sigma)) (1/d + 1/D); of a pair likewise with two conductors.
 * Real cables differ from it; a trace's own loss is fitted.
 */
function lossByMake(cable: CableType): Loss {
  const area = areaMm2(cable);
  // At the frequencies of a trace the current keeps to the copper, whatever is under it.
  const wire = wireOhmOf({ ...cable, centre: undefined });
  const loop = cable.family === 'coax' ? wire + screenOhmOf(cable) : 2 * wire;
  const category = categoryOf(cable);
  if (category) {
    const [skin, dielectric] = PAIRS[category];
    const more = cable.stranded ? strandedLoss(cable.awg) : 1;
    return { skinDb: skin * more, dielectricDb: dielectric * more, loopOhmPerM: loop };
  }
  // Surface resistance of copper at 1 MHz, ohm.
  const surface = 2.61e-4;
  const bare = cable.bareMm ?? 2 * Math.sqrt(area / Math.PI);
  const perimeter =
    cable.family === 'coax'
      ? 1 / (Math.PI * bare * 1e-3) + 1 / (Math.PI * (cable.dielectricMm ?? 4 * bare) * 1e-3)
      : 2 / (Math.PI * bare * 1e-3);
  // The two wires of a pair crowd each other's current.
  const crowding = cable.family === 'coax' ? 1.1 : 1.3;
  const neperPerM = (surface * perimeter * crowding) / (2 * cable.impedanceOhm);
  // Solid dielectric, which a low velocity shows, loses more than foam.
  const tangent = cable.velocityFactor > 0.75 ? 2e-4 : cable.family === 'coax' ? 4e-4 : 2e-3;
  const dielectric = (Math.PI * 1e6 * tangent) / (cable.velocityFactor * 299_792_458);
  const dbPer100 = (neper: number): number => neper * 100 * 20 * Math.LOG10E;
  return { skinDb: dbPer100(neperPerM), dielectricDb: dbPer100(dielectric), loopOhmPerM: loop };
}

function areaMm2({ awg, bareMm }: CableType): number {
  if (bareMm) return (Math.PI * bareMm ** 2) / 4;
  return awgAreaMm2(awg);
}

/** A cable as a line: its own impedance and velocity with its typical loss. */
export const lineOf = (
  cable: CableType,
  {
    impedanceOhm,
    velocityFactor,
    loss,
  }: {
    impedanceOhm?: number;
    velocityFactor?: number;
    loss?: readonly LossPoint[] | null | undefined;
  } = {},
): LineFigures => ({
  impedanceOhm: impedanceOhm ?? cable.impedanceOhm,
  velocityFactor: velocityFactor ?? cable.velocityFactor,
  ...typicalLoss(loss?.length ? { ...cable, loss } : cable),
});
