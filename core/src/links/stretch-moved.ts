import type { RouteStretch } from '../cabling/route-stretch.js';

/**
 * A link whose stretch turns out longer, or shorter, by so much: its way and its length go with it.
 *
 * @param byM metres, below nought for shorter
 * @returns null where the link does not run in the stretch, or nothing of it would be left
 */
export function stretchMoved(
  { lengthM, route }: { lengthM: number; route: readonly RouteStretch[] },
  name: string,
  byM: number,
): { lengthM: number; route: RouteStretch[] } | null {
  const found = route.find((stretch) => stretch.name === name);
  if (!found || found.lengthM + byM <= 0 || lengthM + byM <= 0) return null;
  const millimetres = (m: number): number => Math.round(m * 1000) / 1000;
  return {
    lengthM: millimetres(lengthM + byM),
    // Where a way runs twice through a stretch of one name, its first piece is meant.
    route: route.map((stretch) =>
      stretch === found ? { name, lengthM: millimetres(stretch.lengthM + byM) } : stretch,
    ),
  };
}
