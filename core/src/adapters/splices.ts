import { chooseShrink, type ShrinkChoice } from '../termination/heat-shrink.js';

/** One conductor to be joined to one of another cable. */
export interface SpliceJoint {
  name: string;
  /** Conductors, square millimetres, and diameters over their insulation, millimetres. */
  oldAreaMm2: number;
  newAreaMm2: number;
  oldOverMm: number;
  newOverMm: number;
  /** Volts that may stand on it. */
  volts: number;
}

/** A joint in its place. */
export interface PlacedJoint {
  joint: SpliceJoint;
  /** From the old jacket's edge to the joint's middle; conductors of both sides are cut for it. */
  atMm: number;
  /** What is left of each side's conductor beyond its jacket. */
  oldStubMm: number;
  newStubMm: number;
  /** Snuggest sleeve that passes both insulations and grips the thinner; null where none does. */
  sleeve: ShrinkChoice | null;
  remarks: string[];
}

/** How a cable is spliced: joints staggered, everything ringed threaded first. */
export interface SplicePlan {
  joints: PlacedJoint[];
  /** Between the two jackets' edges once it is joined. */
  openMm: number;
  /** Over all joints and both jackets. */
  outer: ShrinkChoice | null;
  /** What to do, in order. */
  steps: string[];
  cautions: string[];
  /** Whether something must not be done so. */
  wrong: string[];
}

/** Conductors lie side by side for so long. */
const LAP_MM = 10;
/** A sleeve covers the joint and so much of each insulation. */
const OVER_INSULATION_MM = 6;
/** Free insulation between two neighbouring sleeves: joints beside each other would make a lump. */
const APART_MM = 5;
/** From a jacket's edge to the first sleeve. */
const FROM_JACKET_MM = 8;
/** The outer sleeve lies on each jacket for so long. */
const ON_JACKET_MM = 25;
/** A wire of the same gauge may measure so much less. */
const AREA_TOLERANCE = 0.03;
/** From here on a touch hurts. */
const HURTS_V = 50;

/**
 * Staggers joints along a splice so that no two sleeves lie beside each other, the thickest nearest
 * the old jacket; checks that no new conductor is thinner than what it takes the place of; chooses
 * sleeves; and gives the order of work, in which every ring goes on before its joint is made.
 *
 * @throws RangeError for a conductor or jacket without a size
 */
export function planSplice(
  joints: readonly SpliceJoint[],
  jackets: { oldMm: number; newMm: number },
): SplicePlan {
  for (const { name, ...sizes } of joints) {
    const bad = [sizes.oldAreaMm2, sizes.newAreaMm2, sizes.oldOverMm, sizes.newOverMm].some(
      (mm) => !(mm > 0),
    );
    if (bad) throw new RangeError(`${name}: give areas and diameters over 0.`);
  }
  if (!(jackets.oldMm > 0 && jackets.newMm > 0))
    throw new RangeError('Give both jackets’ diameters over 0 mm.');
  const sleeveMm = LAP_MM + 2 * OVER_INSULATION_MM;
  const pitchMm = sleeveMm + APART_MM;
  const order = joints.toSorted((a, b) => b.oldOverMm + b.newOverMm - a.oldOverMm - a.newOverMm);
  const openMm = 2 * FROM_JACKET_MM + order.length * pitchMm - APART_MM;
  const placed = order.map((joint, n): PlacedJoint => {
    const atMm = FROM_JACKET_MM + sleeveMm / 2 + n * pitchMm;
    return {
      joint,
      atMm,
      oldStubMm: atMm + LAP_MM / 2,
      newStubMm: openMm - atMm + LAP_MM / 2,
      sleeve: sleeveFor(joint.oldOverMm, joint.newOverMm, sleeveMm),
      remarks: remarksOn(joint),
    };
  });
  const outer = sleeveFor(jackets.oldMm, jackets.newMm, openMm + 2 * ON_JACKET_MM);
  const highest = Math.max(0, ...joints.map(({ volts }) => volts));
  return {
    joints: placed,
    openMm,
    outer,
    steps: stepsOf(placed, outer),
    cautions: cautionsFor(highest),
    wrong: placed.flatMap(({ joint, sleeve, remarks }) => [
      ...remarks.filter((words) => words.startsWith('Thinner')).map((words) => `${joint.name}: ${words}`),
      ...(sleeve ? [] : [`${joint.name}: no sleeve passes one insulation and grips the other.`]),
    ]),
  };
}

function sleeveFor(one: number, other: number, coverMm: number): ShrinkChoice | null {
  const [passOverMm, gripMm] = [Math.max(one, other), Math.min(one, other)];
  return chooseShrink({ passOverMm, gripMm, coverMm })[0] ?? null;
}

function remarksOn({ oldAreaMm2, newAreaMm2 }: SpliceJoint): string[] {
  if (newAreaMm2 < oldAreaMm2 * (1 - AREA_TOLERANCE))
    return [
      `Thinner than the old: ${newAreaMm2.toFixed(2)} mm2 for ${oldAreaMm2.toFixed(2)} mm2. Take one at least as thick.`,
    ];
  return newAreaMm2 > 2 * oldAreaMm2
    ? ['Much thicker than the old: fold the old back on itself to fill the joint.']
    : [];
}

function stepsOf(joints: readonly PlacedJoint[], outer: ShrinkChoice | null): string[] {
  const mm = (value: number): string => `${value.toFixed(0)} mm`;
  return [
    'Make dead, and prove it dead.',
    ...(outer
      ? [`Thread the outer sleeve over one cable: ${outer.tube.suppliedMm} mm tube, ${mm(outer.cutMm)} long.`]
      : []),
    ...joints.map(
      ({ joint, oldStubMm, newStubMm }) =>
        `Cut ${joint.name}: ${mm(oldStubMm)} beyond the old jacket, ${mm(newStubMm)} beyond the new; bare ${mm(LAP_MM)} of each.`,
    ),
    ...joints.map(({ joint, sleeve }) =>
      sleeve
        ? `Thread ${joint.name}’s sleeve: ${sleeve.tube.suppliedMm} mm tube, ${mm(sleeve.cutMm)} long, well away from the heat.`
        : `No sleeve fits ${joint.name}: take another way before joining.`,
    ),
    ...joints.map(
      ({ joint }) =>
        `Join ${joint.name}: lapped, wound once, soldered with rosin flux until it flows; let it cool.`,
    ),
    'Look at every joint, pull at it, and meter it: closed along, open across.',
    ...joints
      .filter(({ sleeve }) => sleeve)
      .map(({ joint }) => `Shrink ${joint.name}’s sleeve, middle first.`),
    ...(outer ? ['Shrink the outer sleeve over both jackets, middle first.'] : []),
  ];
}

function cautionsFor(highestV: number): string[] {
  return [
    'Rosin flux only: acid flux goes on eating an electrical joint.',
    'Metal tape conducts; paper and office tapes are no insulation.',
    'Hot iron and gun: eyes, fumes, and what lies behind the work.',
    ...(highestV > HURTS_V
      ? [
          `Up to ${highestV} V may stand here. De-energise, discharge capacitors, prove dead; such joints are for licensed practice and sleeves rated for it.`,
        ]
      : []),
  ];
}
