import { jointMm, sleeveOver, type ShrinkChoice } from '../termination/heat-shrink.js';

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
  /** Snuggest sleeve that passes both insulations and the joint with room to slide, and grips the thinner; null where none does. */
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
      sleeve: sleeveOver([joint.oldOverMm, joint.newOverMm], overJointMm(joint), sleeveMm),
      remarks: remarksOn(joint),
    };
  });
  const outer = sleeveOver(
    [jackets.oldMm, jackets.newMm],
    bundleMm(order, placed),
    openMm + 2 * ON_JACKET_MM,
  );
  const highest = Math.max(0, ...joints.map(({ volts }) => volts));
  return {
    joints: placed,
    openMm,
    outer,
    steps: stepsOf(placed, outer),
    cautions: cautionsFor(highest),
    wrong: placed
      .flatMap(({ joint, sleeve, remarks }) => [
        ...(isThinner(joint) ? remarks.map((words) => `${joint.name}: ${words}`) : []),
        ...(sleeve
          ? []
          : [
              `${joint.name}: no sleeve passes its joint of ${overJointMm(joint).toFixed(1)} mm with room to slide and still grips ${Math.min(joint.oldOverMm, joint.newOverMm).toFixed(1)} mm. Use a larger one over a short inner one, or wires of nearer size.`,
            ]),
      ])
      .concat(
        outer
          ? []
          : [
              'No one sleeve passes the bundle and grips both jackets: shrink a collar on the thinner jacket first, or use two that overlap.',
            ],
      ),
  };
}

/** Over a joint of two conductors. */
const overJointMm = ({ oldAreaMm2, newAreaMm2 }: SpliceJoint): number =>
  jointMm(coreMm(oldAreaMm2), coreMm(newAreaMm2));

const coreMm = (areaMm2: number): number => 2 * Math.sqrt(areaMm2 / Math.PI);

/** Over the thickest place of the staggered joints: one sleeved joint beside all other wires, packed round. */
function bundleMm(joints: readonly SpliceJoint[], placed: readonly PlacedJoint[]): number {
  const thicker = ({ oldOverMm, newOverMm }: SpliceJoint): number => Math.max(oldOverMm, newOverMm);
  const places = placed.map(({ joint, sleeve }) => {
    const own = Math.max(overJointMm(joint), thicker(joint)) + (sleeve ? 2 * WALL_MM : 0);
    const others = joints.filter((other) => other !== joint).map(thicker);
    const area = [own, ...others].reduce((sum, mm) => sum + mm ** 2, 0);
    return Math.max(own, Math.sqrt(area / PACKED));
  });
  return Math.max(...places);
}

/** Wall of a shrunk sleeve, and how full round wires fill a bundle. */
const WALL_MM = 0.6;
const PACKED = 0.7;

const isThinner = ({ oldAreaMm2, newAreaMm2 }: SpliceJoint): boolean =>
  newAreaMm2 < oldAreaMm2 * (1 - AREA_TOLERANCE);

function remarksOn(joint: SpliceJoint): string[] {
  const { oldAreaMm2, newAreaMm2 } = joint;
  if (isThinner(joint))
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
      : ['No one outer sleeve fits: choose another way to cover the whole before joining.']),
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
    ...joints.map(({ joint, sleeve }) =>
      sleeve
        ? `Shrink ${joint.name}’s sleeve, middle first.`
        : `Cover ${joint.name} by the way you chose in place of a sleeve.`,
    ),
    outer
      ? 'Shrink the outer sleeve over both jackets, middle first.'
      : 'Cover the whole from jacket to jacket by what you chose in place of one outer sleeve.',
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
