import { TIP } from '../assembly.js';
import { stripJacket, trimCore } from './opening.js';
import { says, type RecipeStep } from './recipe.js';
import { partWires, stripWire } from './signal.js';

const dead: RecipeStep = {
  id: 'dead',
  verb: 'inspect',
  title: says('Switch off, unplug, prove it dead'),
  how: (f) =>
    `Both ends off and unplugged. Measure ${f.cable.conductors > 1 ? 'between the conductors' : 'from the wire to every other beside it'}${f.cable.screened ? ', to the screen' : ''} and to earth. The same before a lead that is stuck is cut.`,
  reason: 'Backlight leads carry hundreds of volts, and a charged capacitor bites with the power off.',
  accept: 'No voltage anywhere.',
  reject: 'Any voltage: find its source before you cut.',
  caution: 'De-energise, prove dead, then work.',
  picture: 'lay-out',
  minutes: 1,
};

/** In a cable of several, the jacket is opened first and each conductor joined for itself. */
const several: RecipeStep['when'] = (f) => f.cable.conductors > 1;
const openCable: readonly RecipeStep[] = [
  { ...stripJacket, when: several },
  { ...trimCore, when: (f) => f.cable.conductors > 1 && f.cable.fillers.length > 0 },
  { ...partWires, when: several },
];

const match: RecipeStep = {
  id: 'match',
  verb: 'inspect',
  title: (f) => `New wire at least ${f.cable.awg} AWG`,
  how: (f) =>
    `The added wire is no thinner than the old: no higher gauge number. Stagger neighbouring joints by the length of one.${f.cable.conductors > 1 ? ' Before anything is cut, beep each colour of both halves to its contact and write it down: two halves need not agree.' : ''}`,
  reason: 'A thinner wire is the warm spot; joints side by side make a lump that shorts.',
  accept: 'Gauge number not higher, joints staggered.',
  reject: 'Thinner wire: take another piece.',
  picture: 'lay-out',
  minutes: 0.3,
};

/** Screens are joined like to like, apart from the pair: a drain that is left open, or that touches a wire, is a fault. */
const joinScreen: RecipeStep = {
  id: 'screen-join',
  verb: 'tie',
  when: (f) => f.cable.screened,
  title: (f) => (f.cable.drain ? 'Join drain to drain, screen over screen' : 'Join screen to screen'),
  how: (f) =>
    `${f.cable.drain ? 'Join the drain of one side to that of the other, sleeved, and wrap foil over the joints from jacket to jacket, metal on the drain.' : 'Draw both braids over the joints until they overlap, and bind them with bare wire.'} Nothing of it touches a joint: every joint is covered before.`,
  reason: 'A screen with a gap hums, and one that touches a wire is a short that comes and goes.',
  accept: 'Closed from screen to screen by the meter, open from screen to every wire.',
  reject: 'A path from screen to a wire: a joint shows metal; open the wrap and cover it.',
  picture: 'finished',
  minutes: 1.5,
};

/** What the jacket was: one cover over all joints, onto both jackets. */
const coverAll: RecipeStep = {
  id: 'cover',
  verb: 'shrink',
  when: several,
  works: 'sleeve',
  title: says('Bring the outer sleeve over all and shrink it'),
  how: says(
    'Joints lie staggered, none beside another. The sleeve reaches 25 mm onto each jacket: from the middle outward, turning.',
  ),
  reason: 'It takes the jacket’s place: against damp, and so that a pull does not reach the joints.',
  accept: 'Tight on both jackets, no lump where two joints lie side by side.',
  reject:
    'A sleeve short of a jacket leaves the wires to carry the pull: bind self-amalgamating tape over that side.',
  caution: 'Hot air: finished joints and other wires out of its way.',
  picture: 'finished',
  minutes: 1,
  tool: 'heat gun',
};

/** Before anything shrinks over them, joints are looked at, pulled and metered. */
const meterThrough: RecipeStep = {
  id: 'meter',
  verb: 'inspect',
  title: says('Pull, then meter each wire through and against its neighbours'),
  how: says('Pull each joint. Meter each wire from end to end, and each joint against those beside it.'),
  reason: 'What is covered is not looked at again.',
  accept: 'Closed along each wire, open between wires, nothing moves.',
  reject: 'A joint that moves or reads open: make it again now, its sleeve is still back.',
  picture: 'finished',
  minutes: 0.7,
};

/** The way is closed for good once the other wire hangs on this one. */
const joined: RecipeStep['girths'] = () => [{ zone: TIP, mm: Infinity }];

export const spliceSolderSleeve: readonly RecipeStep[] = [
  dead,
  match,
  ...openCable,
  stripWire,
  {
    id: 'join',
    verb: 'insert',
    title: says('Overlap the conductors past the solder ring'),
    how: says(
      'Push both ends into the sleeve until they overlap under the ring; the sealing rings lie on insulation.',
    ),
    reason: 'Where the ring is, there the solder flows.',
    accept: 'Overlap centred under the ring, no strand outside.',
    reject: 'Ends that only meet make no joint: push them past each other.',
    picture: 'finished',
    minutes: 0.4,
    girths: joined,
  },
  {
    id: 'shrink',
    verb: 'shrink',
    works: 'solder-sleeve',
    title: says('Heat until the solder flows, then stop'),
    how: says(
      'From the middle outward, turning. Stop when the ring has flowed and the sealing rings have melted.',
    ),
    reason: 'Too little heat glues it and does not solder; too much burns it.',
    accept: 'Ring gone, solder in the strands, sealing at both ends.',
    reject: 'A ring still standing is no joint: heat on. Brown sleeve: cut out and start again.',
    caution: 'Hot air: hands away, nothing that burns behind it.',
    noWayBack: true,
    picture: 'finished',
    minutes: 0.8,
    tool: 'heat gun',
  },
  meterThrough,
  joinScreen,
  coverAll,
];

export const spliceSolder: readonly RecipeStep[] = [
  dead,
  match,
  ...openCable,
  stripWire,
  {
    id: 'join',
    verb: 'solder',
    title: says('Twist in line and solder'),
    how: says(
      'Lay the ends across each other, wrap each round the other, heat the wire and let the solder run in.',
    ),
    reason: 'The twist holds, the solder conducts. Rosin flux only.',
    accept: 'Strands visible under bright solder, no spike.',
    reject: 'A spike pierces the sleeve: reheat and draw it off.',
    caution: (f) =>
      `Hot iron and fumes. Acid flux keeps corroding the joint.${f.cable.conductors > 1 ? ' Finished joints covered while the next is heated; glue-lined sleeves soften under the iron.' : ''}`,
    wrongTurns: ['The heat-shrink is not on the wire: unsolder, thread it, join again.'],
    picture: 'finished',
    minutes: 2.5,
    tool: 'soldering iron',
    girths: joined,
  },
  meterThrough,
  {
    id: 'shrink',
    verb: 'shrink',
    works: 'heat-shrink',
    title: says('Bring the sleeve over the joint and shrink it'),
    how: says('Centre it on the joint, heat from the middle outward.'),
    reason: 'Paper and office tapes are no insulation.',
    accept: 'Covers the bare part and as much insulation at each side as the joint is thick.',
    reject: 'Metal showing, or a sleeve that slides: a smaller tube over it.',
    caution: 'Hot air.',
    noWayBack: true,
    picture: 'finished',
    minutes: 0.8,
    tool: 'heat gun',
  },
  joinScreen,
  coverAll,
];

export const spliceCrimp: readonly RecipeStep[] = [
  dead,
  match,
  ...openCable,
  stripWire,
  {
    id: 'join',
    verb: 'crimp',
    title: says('Crimp both ends of the barrel'),
    how: says('Wire to the stop, insulation into the flare, crimp; then the other side.'),
    reason: 'A wire short of the stop is held by its tip.',
    accept: 'Both wires hold a firm tug; strands seen at the window.',
    reject: 'A wire that pulls out: wrong barrel or die for this gauge.',
    noWayBack: true,
    picture: 'finished',
    minutes: 0.6,
    tool: 'splice crimp tool',
    girths: joined,
  },
  meterThrough,
  {
    id: 'shrink',
    verb: 'shrink',
    works: 'heat-shrink',
    when: (f) => f.connector.parts.length > 0,
    title: says('Sleeve over the joint, shrink'),
    how: says('Centre the sleeve and heat from the middle outward.'),
    reason: 'Damp creeps into a bare barrel.',
    accept: 'Tight over both flares.',
    reject: 'Loose at one side: heat on.',
    caution: 'Hot air.',
    picture: 'finished',
    minutes: 0.6,
    tool: 'heat gun',
  },
  joinScreen,
  coverAll,
];

export const spliceGel: readonly RecipeStep[] = [
  dead,
  {
    ...match,
    how: says(
      'Same gauge on both sides, solid wire, insulation ON. Pair stays with its pair; stagger neighbouring joints.',
    ),
  },
  ...openCable,
  {
    id: 'join',
    verb: 'insert',
    title: says('Push both wires to the bottom, insulation on'),
    how: says('Do not strip. Cut square, push until both are seen at the end of the clear body.'),
    reason: 'The blade pierces the insulation; a wire short of the end is not pierced.',
    accept: 'Both ends seen at the bottom.',
    reject: 'One short: push on before you press.',
    readBack: false,
    picture: 'finished',
    minutes: 0.3,
    girths: joined,
  },
  {
    id: 'press',
    verb: 'press',
    title: says('Press the button flush'),
    how: says('Flat-jawed pliers, until the button is level and gel shows.'),
    reason: 'Half pressed, it pierces one wire.',
    accept: 'Button flush, gel at the opening.',
    reject: 'Button proud: press again. It does not open: a mistake is cut out.',
    noWayBack: true,
    picture: 'finished',
    minutes: 0.2,
    tool: 'flat-jawed pliers',
  },
  meterThrough,
  joinScreen,
  {
    id: 'closure',
    verb: 'close',
    when: several,
    title: says('Lay the joints in a closure'),
    how: says('Joints side by side without pull, jackets clamped at both ends, closure shut and labelled.'),
    reason: 'Gel keeps the damp from the contacts, not a spade or a pull from the wires.',
    accept: 'Both jackets held, no wire stretched, label outside.',
    reject: 'A wire under strain lifts out of its joint: give it slack and close again.',
    picture: 'finished',
    minutes: 1,
  },
];
