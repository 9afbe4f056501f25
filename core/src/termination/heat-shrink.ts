/** A size of heat-shrink tube. */
export interface ShrinkTube {
  suppliedMm: number;
  recoveredMm: number;
  ratio: '2:1' | '3:1';
}

/** The usual sizes, millimetres inside as supplied and fully recovered (typical). */
export const SHRINK_TUBES: readonly ShrinkTube[] = [
  ...[1.2, 1.6, 2.4, 3.2, 4.8, 6.4, 9.5, 12.7, 19.1, 25.4].map((suppliedMm) => ({
    suppliedMm,
    recoveredMm: suppliedMm / 2,
    ratio: '2:1' as const,
  })),
  ...[1.5, 3.0, 6.0, 9.0, 12.0, 18.0, 24.0, 39.0].map((suppliedMm) => ({
    suppliedMm,
    recoveredMm: suppliedMm / 3,
    ratio: '3:1' as const,
  })),
];

/** A tube that does, and how much of it to cut. */
export interface ShrinkChoice {
  tube: ShrinkTube;
  /** Room left when it passes the biggest thing. */
  passesByMm: number;
  /** How much tighter than the smallest thing it would go. */
  gripsByMm: number;
  cutMm: number;
}

/** Recovered bore must be under this share of the smallest thing it grips. */
const GRIP = 0.92;
/** Tube loses 5 to 10 % of its length; cut for the worse. */
const LENGTH_KEPT = 0.9;

/** Two cores side by side, wound once and wet with solder, by the sum of their diameters. */
const JOINT_BY = 1.15;
/** A sleeve slides with a tenth to spare, and no less than this for solder and for the hand. */
const SLACK = { share: 0.1, mm: 0.3 };

/** Over a soldered joint of two cores: thicker than their insulation wherever that is thin. */
export const jointMm = (oneMm: number, otherMm: number): number => JOINT_BY * (oneMm + otherMm);

/** Snuggest tube that slides over wires and over what they are joined into, and grips the thinner; null where none does. */
export function sleeveOver(
  overMm: readonly number[],
  thickestMm: number,
  coverMm: number,
): ShrinkChoice | null {
  const most = Math.max(...overMm, thickestMm);
  const passOverMm = most + Math.max(SLACK.share * most, SLACK.mm);
  return chooseShrink({ passOverMm, gripMm: Math.min(...overMm), coverMm })[0] ?? null;
}

/**
 * Tubes that pass over the biggest thing and still grip the smallest, snuggest first; 2:1 before
 * 3:1 where both do, since it is thinner and cheaper. Empty when none does: use two, or another way.
 *
 * @param passOverMm the biggest thing it must pass over
 * @param gripMm the smallest thing it must grip
 * @param coverMm length to be covered after shrinking
 * @throws RangeError when a figure is not a length, or the grip is bigger than what it must pass
 */
export function chooseShrink(given: { passOverMm: number; gripMm: number; coverMm: number }): ShrinkChoice[] {
  const { passOverMm, gripMm, coverMm } = given;
  for (const [name, mm] of Object.entries(given)) {
    if (!(mm > 0 && Number.isFinite(mm))) throw new RangeError(`${name} is ${mm}: give a length over 0 mm.`);
  }
  if (gripMm > passOverMm)
    throw new RangeError(
      `It cannot grip ${gripMm} mm and pass over only ${passOverMm} mm: exchange the two.`,
    );
  return SHRINK_TUBES.filter((t) => t.suppliedMm > passOverMm && t.recoveredMm < GRIP * gripMm)
    .map((tube) => ({
      tube,
      passesByMm: tube.suppliedMm - passOverMm,
      gripsByMm: gripMm - tube.recoveredMm,
      cutMm: Math.ceil(coverMm / LENGTH_KEPT),
    }))
    .sort((a, b) => a.tube.ratio.localeCompare(b.tube.ratio) || a.tube.suppliedMm - b.tube.suppliedMm);
}
