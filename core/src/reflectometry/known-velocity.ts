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
  { lot = '', reelId = null }: { lot?: string; reelId?: string | null } = {},
): KnownVelocity<T> {
  const ofType = figures.filter(({ cableTypeId }) => cableTypeId === cable.id);
  const newest = (some: readonly T[]): T | null =>
    some.reduce<T | null>((last, figure) => (last && last.at >= figure.at ? last : figure), null);
  const onReel = reelId === null ? null : newest(ofType.filter((figure) => figure.reelId === reelId));
  const onLot = lot === '' ? null : newest(ofType.filter((figure) => figure.lot === lot));
  const [from, figure] = onReel
    ? (['reel', onReel] as const)
    : onLot
      ? (['lot', onLot] as const)
      : (['type', newest(ofType)] as const);
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
