import { SCREEN } from '../../cabling/conductors.js';
import { CORE, TIP } from '../assembly.js';
import { bodyOn, isFoil, len, says, type CardFigures, type RecipeStep } from './recipe.js';
import { foldScreen, stripJacket, trimCore } from './opening.js';

const bare = (f: CardFigures): number => f.cable.bareMm ?? 0.5;
const wire = (f: CardFigures): number => f.cable.conductorMm ?? f.cable.jacketMm;

export const stripWire: RecipeStep = {
  id: 'bare',
  verb: 'strip',
  title: (f) => `Bare ${len(f, f.connector.strip.insulationMm)} of each conductor`,
  how: says('Wire stripper at the right gauge, drawn off straight; twist the strands as they lie.'),
  reason: 'A missing strand is a thinner wire; a nick breaks.',
  accept: 'All strands there, insulation cut square.',
  reject: 'Strands cut off: cut back and strip again.',
  picture: 'strip',
  minutes: 1,
  tool: 'wire stripper',
  girths: (f) => [{ zone: TIP, mm: bare(f) }],
};

export const partWires: RecipeStep = {
  id: 'part',
  verb: 'straighten',
  title: says('Part the conductors'),
  how: says('Bend them apart in the order in which they are joined.'),
  reason: 'Each needs its own sleeve before it is soldered.',
  accept: 'Conductors apart, none crossing another.',
  reject: 'Crossed wires strain their joints when all is closed: sort them now.',
  picture: 'strip',
  minutes: 0.5,
  girths: (f) => [
    { zone: TIP, mm: wire(f) },
    { zone: CORE, mm: wire(f) },
  ],
};

/** Where a screen's tail goes: to a contact that the order gives it, otherwise to the shell. */
const screenTo = (f: CardFigures): string => {
  const contact = f.order.find(({ conductor }) => conductor === SCREEN)?.contact;
  return contact === undefined ? 'where the shell takes it' : `contact ${contact}`;
};
const hasHood = (f: CardFigures): boolean => f.connector.parts.some((p) => p.kind === 'hood');
const opensHood = (f: CardFigures): boolean => f.connector.parts.some((p) => p.kind === 'hood' && p.split);

export const solderCup: readonly RecipeStep[] = [
  stripJacket,
  {
    ...foldScreen,
    title: says('Gather the screen into one tail'),
    how: (f) =>
      isFoil(f)
        ? `Fold the foil back and bring the drain, sleeved, to ${screenTo(f)}.`
        : `Part the braid, twist it into one tail and bring it, sleeved, to ${screenTo(f)}.`,
    accept: 'One tail, no strand beside it, sleeved to its end.',
    reject: 'A strand left standing finds a contact: twist it in, or cut it off.',
  },
  trimCore,
  partWires,
  stripWire,
  {
    id: 'tin',
    verb: 'solder',
    title: says('Tin the conductors and the cups'),
    how: says('A little rosin-cored solder on each conductor, each cup half filled.'),
    reason: 'Tinned parts join in a second; untinned ones cook the insulation.',
    accept: 'Bright, strands visible under the solder.',
    reject: 'Dull or bulging: too cold or too much. Reheat and shake off.',
    caution:
      'Hot iron and fumes: stand it down between joints, air the place. Rosin flux only: acid keeps corroding.',
    picture: 'face',
    minutes: 4,
    tool: 'soldering iron',
  },
  {
    id: 'solder',
    verb: 'solder',
    title: says('Solder each into its cup, by number'),
    how: says(
      'Read the number moulded beside the cup. Solder side, not mating side: this face is the mirror of the other. Hold still until it sets.',
    ),
    reason: 'The rear face mirrors the front: the commonest mistake with these connectors.',
    accept: 'Smooth joints, insulation just short of the cup, no bridge.',
    reject: 'A bridge or a cold joint: reheat with fresh flux, draw the excess off.',
    caution: 'Hot iron, fumes.',
    wrongTurns: [
      'Two cups exchanged: unsolder one at a time, the sleeves are still back.',
      'A sleeve was forgotten: unsolder that conductor now, it cannot go on later.',
    ],
    noWayBack: false,
    readBack: true,
    picture: 'face',
    minutes: 8,
    tool: 'soldering iron',
    girths: bodyOn,
  },
  {
    id: 'meter',
    verb: 'inspect',
    title: says('Meter each wire through and against its neighbours'),
    how: says('From each contact to the cable’s other end, and to the contacts beside it and the shell.'),
    reason: 'Under a sleeve a bridge is not seen, and costs the sleeve to mend.',
    accept: 'Closed along each wire, open to every neighbour and to the shell.',
    reject: 'A path to a neighbour: a bridge or a strand; draw it off while it is open to the eye.',
    picture: 'face',
    minutes: 2,
  },
  {
    id: 'shrink',
    verb: 'shrink',
    works: 'heat-shrink',
    title: says('Bring the sleeves up and shrink them'),
    how: says('Each sleeve over its cup, then heat from all sides.'),
    reason: 'Neighbouring cups are a millimetre apart.',
    accept: 'Every joint covered, sleeve tight.',
    reject: 'A joint showing metal touches its neighbour when the hood closes: slide and shrink again.',
    caution: 'Hot air burns hands and moulded parts.',
    noWayBack: true,
    picture: 'finished',
    minutes: 2,
    tool: 'heat gun',
  },
  {
    id: 'finish',
    verb: 'close',
    title: (f) =>
      opensHood(f) ? 'Close both halves of the hood on the jacket' : 'Bring the shell forward and close it',
    how: (f) =>
      f.order.some(({ conductor }) => conductor === SCREEN) || !f.cable.screened
        ? 'Clamp the jacket, not the conductors.'
        : 'Clamp the jacket, not the conductors. Screen tail to the shell where the design bonds it.',
    reason: 'The clamp carries the pull.',
    accept: 'Jacket clamped, no conductor pinched, shell closed.',
    reject: 'A pinched conductor shorts to the shell: open, lay it free.',
    when: hasHood,
    wrongTurns: [
      'The shell is not on the cable: it cannot pass the connector. Say so under "something was left out".',
    ],
    picture: 'finished',
    minutes: 1.5,
    tool: 'screwdriver',
  },
];

export const ribbonPress: readonly RecipeStep[] = [
  {
    id: 'square',
    verb: 'cut',
    title: says('Cut the ribbon square'),
    how: says('One straight cut across, no frayed ends.'),
    reason: 'A crooked ribbon lies crooked over the contacts.',
    accept: 'Square to the edge, no strand standing out.',
    reject: 'Strands at the edge short neighbours: cut again.',
    picture: 'lay-out',
    minutes: 0.3,
    tool: 'flush cutters',
  },
  {
    id: 'lay',
    verb: 'arrange',
    title: says('Conductor 1 to contact 1: mark the edge'),
    how: (f) =>
      f.connector.face.startsWith('d-sub')
        ? 'Lay the edge of conductor 1 at contact 1. The wires meet the contacts in zigzag: 1, 6, 2, 7 and on.'
        : 'Lay the edge of conductor 1 at the triangle. The wires meet the contacts 1, 2, 3 across the two rows.',
    reason: 'Turned end for end, every contact is wrong, and nothing looks it.',
    accept: 'Edge of conductor 1 at the mark, each wire in its groove, ribbon end flush.',
    reject: 'One wire off: the whole row is shifted by one. Lift it and lay again.',
    wrongTurns: ['Ribbon comes out on the wrong side: turn the connector, not the ribbon.'],
    readBack: true,
    picture: 'face',
    minutes: 0.7,
  },
  {
    id: 'press',
    verb: 'press',
    title: says('Press, slowly and level'),
    how: says('Cover on, press in one even stroke until both ends latch.'),
    reason: 'All contacts pierce together or bend together.',
    accept: 'Cover level and latched at both ends.',
    reject: 'A cover higher at one side has contacts between wires: a new connector.',
    noWayBack: true,
    picture: 'finished',
    minutes: 0.5,
    tool: 'ribbon press',
    girths: bodyOn,
  },
  {
    id: 'finish',
    verb: 'close',
    title: says('Check for shorts, fold over, clip the strain relief'),
    how: says(
      'Meter each contact against its neighbour, then fold the ribbon back over the cover and clip the bar on.',
    ),
    reason: 'A ribbon tears at its first pull without the bar; neighbours short at the cut end.',
    accept: 'Bar latched; no neighbours joined.',
    reject: 'Neighbours joined: a strand at the cut end; trim it and meter again.',
    picture: 'finished',
    minutes: 1,
  },
];
