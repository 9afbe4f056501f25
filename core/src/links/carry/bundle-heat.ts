/** A bundle of cables that warm each other. */
export interface HeatedBundle {
  /** Cables that carry power, alike. */
  fed: number;
  /** Outside of one cable, mm. */
  jacketMm: number;
  /** Warmth of one metre of one cable, W. */
  wattPerM: number;
  closed: boolean;
}

/** Round cables fill about so much of their bundle. */
const PACKED = 0.8;
/** Copper, plastic and air of a bundle together, W/(m K): typical. */
const BUNDLE_W_PER_M_K = 0.15;
/** What still air takes off a surface, W/(m² K), by convection and radiation: typical. */
const OPEN_AIR = 8;
/** In a duct, or under insulation. */
const CLOSED = 4;

/**
 * By how much the middle of a bundle is warmer than the air about it, degrees: warmth of N cables through a round
 * bundle and off its surface, N p / (4 pi k) + N p / (2 pi R h), R = (d / 2) sqrt(N / packing). Same form as the
 * rules for bundles (ISO/IEC TS 29125, TIA TSB-184: a part in N and a part in the root of N); its figures are typical.
 */
export function bundleRiseC({ fed, jacketMm, wattPerM, closed }: HeatedBundle): number {
  const wattOfAll = fed * wattPerM;
  const radiusM = (jacketMm / 2000) * Math.sqrt(fed / (fed > 1 ? PACKED : 1));
  const within = fed > 1 ? wattOfAll / (4 * Math.PI * BUNDLE_W_PER_M_K) : 0;
  return within + wattOfAll / (2 * Math.PI * radiusM * (closed ? CLOSED : OPEN_AIR));
}
