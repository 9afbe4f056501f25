/** The most of a duct's bore that one, two, or more cables may fill (NFPA 70 chapter 9, the usual rule elsewhere too). */
const MOST_FILL = [0.53, 0.31, 0.4] as const;

/** How full a duct is, and may be, as shares of its bore's area. */
export function ductFill(ductMm: number, jacketsMm: readonly number[]): { share: number; most: number } {
  const area = jacketsMm.reduce((sum, mm) => sum + mm ** 2, 0);
  return { share: area / ductMm ** 2, most: MOST_FILL[Math.min(jacketsMm.length, 3) - 1] ?? MOST_FILL[0] };
}
