import type { LossPoint } from '../cabling/cable-types.js';

/** A velocity factor that was measured, and on what cable. */
export interface VelocityFigure {
  cableTypeId: string;
  /** The maker's lot; empty where it is not known. */
  lot: string;
  /** The drum or box it was measured on; null for a loose piece. */
  reelId: string | null;
  velocityFactor: number;
  /** Half width of its 95 % interval. */
  u95: number;
  /** What the same pieces lost, where that was measured. */
  loss?: readonly LossPoint[] | null | undefined;
  /** Time of the measurement, ISO 8601. */
  at: string;
}

/** The velocity to reckon with, how sure it is, and where it comes from. */
export interface KnownVelocity<T extends VelocityFigure = VelocityFigure> {
  velocityFactor: number;
  u95: number;
  from: 'reel' | 'lot' | 'type' | 'catalogue';
  figure: T | null;
}

/** The loss to reckon with, and where it comes from. */
export interface KnownLoss<T extends VelocityFigure = VelocityFigure> {
  loss: readonly LossPoint[] | null;
  from: KnownVelocity['from'];
  figure: T | null;
}

/** A catalogue's figure is good to about this, 95 % (typical). */
export const CATALOGUE_U95 = 0.024;
/** How much reels of one lot, and lots of one type, differ in velocity: shares, 95 % (typical). */
const BETWEEN = { reel: 0, lot: 0.004, type: 0.012 } as const;

/**
 * The velocity factor of a cable from what has been measured: on its own reel, else on its lot, else
 * on any of its type, the newest of each; else the catalogue's. The further off, the wider: figures
 * of another reel or lot carry the spread between reels or lots.
 */
export function velocityFor<T extends VelocityFigure>(
  figures: readonly T[],
  cable: { id: string; velocityFactor: number },
  of: { lot?: string; reelId?: string | null } = {},
): KnownVelocity<T> {
  const { from, figure } = nearest(figures, cable.id, of);
  if (!figure)
    return {
      velocityFactor: cable.velocityFactor,
      u95: CATALOGUE_U95,
      from: 'catalogue',
      figure: null,
    };
  const { velocityFactor, u95 } = figure;
  return { velocityFactor, u95: Math.hypot(u95, BETWEEN[from] * velocityFactor), from, figure };
}

/** The loss of a cable from what has been measured, as its velocity is; else what its sheet says, which may be nothing. */
export function lossFor<T extends VelocityFigure>(
  figures: readonly T[],
  cable: { id: string; loss?: readonly LossPoint[] | undefined },
  of: { lot?: string; reelId?: string | null } = {},
): KnownLoss<T> {
  const measured = figures.filter(({ loss }) => loss && loss.length > 0);
  const { from, figure } = nearest(measured, cable.id, of);
  return figure
    ? { loss: figure.loss ?? null, from, figure }
    : { loss: cable.loss ?? null, from: 'catalogue', figure: null };
}

/** The newest figure of the reel, else of the lot, else of the type. */
function nearest<T extends VelocityFigure>(
  figures: readonly T[],
  cableTypeId: string,
  { lot = '', reelId = null }: { lot?: string; reelId?: string | null },
): { from: 'reel' | 'lot' | 'type'; figure: T | null } {
  const ofType = figures.filter((figure) => figure.cableTypeId === cableTypeId);
  const newest = (some: readonly T[]): T | null =>
    some.reduce<T | null>((last, figure) => (last && last.at >= figure.at ? last : figure), null);
  const onReel = reelId === null ? null : newest(ofType.filter((figure) => figure.reelId === reelId));
  if (onReel) return { from: 'reel', figure: onReel };
  const onLot = lot === '' ? null : newest(ofType.filter((figure) => figure.lot === lot));
  return onLot ? { from: 'lot', figure: onLot } : { from: 'type', figure: newest(ofType) };
}
