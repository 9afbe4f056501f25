import { SCREEN } from '../../cabling/conductors.js';
import { EDGE, TIP } from '../assembly.js';
import {
  bodyOn,
  isScreened,
  len,
  named,
  numbersAsMoulded,
  onContacts,
  says,
  type CardFigures,
  type RecipeStep,
} from './recipe.js';
import { cutScreen, foldScreen, pairFoils, stripJacket, trimCore } from './opening.js';

const binders = (f: CardFigures): boolean => f.cable.pairs > PAIRS_IN_A_BINDER;
/** Twenty-five pairs share one binder. */
const PAIRS_IN_A_BINDER = 25;

/** What is being made, in one word. */
const body = (f: CardFigures): string => (f.connector.kind === 'plug' ? 'plug' : 'jack');

const bond: RecipeStep = {
  id: 'bond',
  verb: 'tie',
  when: isScreened,
  title: says('Bond the screen'),
  how: (f) =>
    f.cable.drain
      ? 'Drain round its post, foil folded under the hood, hood closed on both; pull the tie tight.'
      : 'Braid folded under the hood, hood closed on it all round; pull the tie tight.',
  reason: 'A loose hood reads closed today and open next month.',
  accept: (f) =>
    f.cable.drain
      ? 'Hood tight on the foil all round, drain under it.'
      : 'Metal tight on the braid all round.',
  reject: 'If the hood turns on the cable, the screen is not bonded: open it and lay the screen again.',
  picture: 'finished',
  minutes: 1,
  brings: { part: 'tie', to: EDGE },
};
const bondByCap: RecipeStep = {
  ...bond,
  verb: 'close',
  how: (f) =>
    `Fold ${f.cable.drain ? 'foil and drain' : 'the braid'} under the metal cap’s spring${f.connector.kind === 'plug' ? ', so that the housing presses it all round' : ' and pull the tie tight'}.`,
  brings: undefined,
};

const layByLabel: RecipeStep = {
  id: 'lay',
  verb: 'arrange',
  title: (f) => `Lay each conductor by the ${f.scheme.name} label`,
  how: (f) =>
    `Bring the jacket to the body. Lay each conductor over its own slot by the ${body(f)}’s ${f.scheme.name} label. Slots are not in contact order.`,
  reason: 'Every body has its own order; the label on this one wins over any card.',
  accept: 'Twist kept to within 13 mm of the slot, jacket close to the body.',
  reject: 'More untwist costs crosstalk that no continuity tester sees: bring the jacket closer.',
  wrongTurns: ['Label and card differ: follow the label and tell the lead.'],
  readBack: true,
  picture: 'slots',
  minutes: 1.5,
};

const punch: RecipeStep = {
  id: 'punch',
  verb: 'punch',
  title: says('Punch, blade to the waste side'),
  how: says('Square to the jack, blade outward, one push per slot.'),
  reason: 'A screwdriver opens the slot for good; a blade inward cuts the live side.',
  accept: 'Conductor at the bottom of every slot, waste cut off clean.',
  reject: 'A conductor high in its slot makes contact today only: punch it once more.',
  caution: 'Keep the other hand out from under the tool; cut ends fly: waste side away from the eyes.',
  wrongTurns: [
    'Punched in the wrong slot: pull it out straight, cut back, lay fresh wire. A slot takes a few, not many.',
    'Slot opened by a screwdriver: a new jack.',
  ],
  picture: 'slots',
  minutes: 1,
  tool: 'insertion tool',
  girths: bodyOn,
};

const finish: RecipeStep = {
  id: 'finish',
  verb: 'close',
  title: says('Cap on, read the slots back, label'),
  how: says('Push the dust cap on, read the colours against the label once more and label the cable.'),
  reason: 'An unlabelled cable is found twice.',
  accept: 'Cap closed, colours as the label, cable labelled.',
  reject: 'A colour in the wrong slot now is the last one that costs no walk: re-punch it.',
  picture: 'finished',
  minutes: 0.5,
};

export const punchedJack: readonly RecipeStep[] = [
  stripJacket,
  foldScreen,
  cutScreen,
  trimCore,
  pairFoils,
  layByLabel,
  punch,
  bond,
  finish,
];

const layInCap: RecipeStep = {
  ...layByLabel,
  // Spread into their grooves, they let no cap pass any more.
  girths: () => [{ zone: TIP, mm: Infinity }],
  title: (f) => `Lay both rows of the cap by the ${f.scheme.name} label`,
  how: (f) =>
    `Bring the jacket up to the cap, lead each pair to its corner, and lay each conductor in its groove by the ${f.scheme.name} label, both rows${f.connector.sheetDecides ? `: ${onContacts({ ...f, order: f.order.filter(({ conductor }) => conductor !== SCREEN) })}` : ''}.${numbersAsMoulded(f)}`,
  reason: 'Two rows are easily mirrored: the label is printed for one way of holding the cap.',
  accept: 'Every conductor in its own groove, twist to within 13 mm, jacket up to the cap.',
  reject: 'Rows exchanged or mirrored: turn the cap so that the label reads upright, lay again.',
  wrongTurns: ['Rows mirrored: turn the cap so that the label reads upright, lay again.'],
};

const trimCap: RecipeStep = {
  id: 'trim',
  verb: 'cut',
  title: says('Cut flush with the cap'),
  how: says('Cut all eight flush with the cap’s edge; the cut falls on the waste side.'),
  reason: 'Ends that stand out can touch inside the body.',
  accept: 'Nothing stands out.',
  reject: (f) => `A proud end touches its neighbour when the ${body(f)} closes: cut it again.`,
  caution: 'Clipped ends fly: eyes away.',
  picture: 'slots',
  minutes: 0.3,
  tool: 'flush cutters',
};

const closeCap: RecipeStep = {
  id: 'close',
  verb: 'close',
  title: (f) => `Read back, then close the ${body(f)}`,
  how: says(
    'Read the colours once more, set the cap straight on the body and close it with flat-jawed pliers or the lever.',
  ),
  reason: 'Closing pierces all eight at once.',
  accept: 'Cap level and latched on both sides.',
  reject: 'A cap that is higher on one side has not pierced that row: open, set straight, close again.',
  noWayBack: true,
  wrongTurns: ['Closes crooked: stop, open, set it straight. A forced cap bends contacts.'],
  picture: 'slots',
  minutes: 0.3,
  tool: 'flat-jawed pliers',
  girths: bodyOn,
};

const tugAndLabel: RecipeStep = {
  id: 'finish',
  verb: 'tug',
  title: says('Tug and label'),
  how: says('Tug gently and label the cable.'),
  reason: 'An unlabelled cable is found twice.',
  accept: 'Jacket held, cable labelled.',
  reject: 'If the jacket moves, the cap does not grip it: open and bring the jacket further in.',
  picture: 'finished',
  minutes: 0.3,
};

const hasHousing = (f: CardFigures): boolean => f.connector.parts.some(({ kind }) => kind === 'hood');

const gland: RecipeStep = {
  id: 'gland',
  verb: 'screw',
  when: (f) => f.connector.parts.some(({ kind }) => kind === 'nut'),
  title: (f) => (hasHousing(f) ? 'Housing forward, gland nut tight' : 'Strain relief nut tight'),
  how: (f) =>
    hasHousing(f)
      ? 'Bring the housing forward over the carrier and screw it home, then the gland nut, holding the cable still.'
      : 'Bring the nut forward and tighten it on the jacket, holding the cable still.',
  reason: 'The nut carries the pull and, outdoors, keeps the water out.',
  accept: 'Nut tight on the jacket, cable does not turn.',
  reject: 'A nut that turns on the jacket is a size too big for it: another insert.',
  wrongTurns: ['The nut is not on the cable: it cannot go on now. Say so under "something was left out".'],
  picture: 'finished',
  minutes: 0.6,
};

export const toollessJack: readonly RecipeStep[] = [
  stripJacket,
  foldScreen,
  cutScreen,
  trimCore,
  pairFoils,
  layInCap,
  trimCap,
  closeCap,
  bondByCap,
  gland,
  tugAndLabel,
];

const isMaster: RecipeStep['when'] = (f) => f.connector.id === 'phone-master';

export const telephoneSocket: readonly RecipeStep[] = [
  {
    id: 'dead',
    verb: 'inspect',
    title: says('Take the line off, prove it dead'),
    how: (f) =>
      isMaster?.(f)
        ? 'Unplug the removable front of the master socket: only the terminals on it are yours. Measure across the pair: no voltage.'
        : f.connector.assignment === 'british'
          ? 'Unplug the extension wiring at the master socket. Measure across the pair: no voltage.'
          : 'Unplug the house wiring at the demarcation box, on its customer side. Measure across the pair: no voltage.',
    reason:
      'A line carries about 48 V at rest and about 90 V while it rings; and a line in use may be somebody’s only way to call.',
    accept: 'Less than 1 V across the pair.',
    reject: 'Any voltage: it is still connected somewhere. Find where before you touch it.',
    caution:
      'Ringing is a shock hazard. An emergency or lift line only with its user’s permission. Nothing before the provider’s terminals.',
    picture: 'lay-out',
    minutes: 1,
  },
  stripJacket,
  trimCore,
  {
    id: 'lay',
    verb: 'arrange',
    title: (f) =>
      `Pick ${f.order.length === 2 ? 'the pair' : `the ${f.order.length} wires`}: ${onContacts(f)}`,
    how: (f) =>
      f.connector.assignment === 'british'
        ? `Lay ${onContacts(f)}: white-blue is the a leg, blue the b leg.${f.choices.ringingWire ? ' The ringing wire goes on 3.' : ' Nothing on 3: two wires are enough.'} Coil the spare pairs back, uncut.`
        : `Lay ${onContacts(f)}: the middle two contacts carry the line. Coil the spare pairs back, uncut.`,
    reason: 'The pair must stay one pair: mixed wires hum. Spare pairs are somebody’s second line.',
    accept: 'Each wire at the number or colour printed beside its slot, spares coiled behind the jacket.',
    reject:
      'The two legs exchanged: most telephones work, alarms and old equipment do not. Exchange them now.',
    wrongTurns: [
      'Colours follow another code: find the pair by tone or voltage, and write down what you found.',
    ],
    readBack: true,
    picture: 'face',
    minutes: 1,
  },
  {
    ...punch,
    title: says('Punch with the insertion tool, blade to the waste side'),
    how: says('Square to the socket, blade outward, one push per slot. Insulation stays on.'),
    picture: 'face',
  },
  {
    id: 'relief',
    verb: 'tie',
    title: says('Tie the jacket down'),
    how: says('Tie the jacket to the post in the box, with a little slack behind the slots.'),
    reason: 'A pull on the cable must not reach the slots.',
    accept: 'Jacket inside the box and tied; slots without pull.',
    reject: 'Wires stretched between jacket and slots lift out: give slack and tie again.',
    picture: 'finished',
    minutes: 0.5,
  },
  {
    id: 'finish',
    verb: 'close',
    title: says('Close up, plug the line in, listen'),
    how: (f) =>
      f.connector.assignment === 'british'
        ? 'Close the socket, plug the wiring back in and listen for the tone. Label the socket.'
        : 'Close the outlet, plug the wiring back in at the demarcation box and listen for the tone. Label the outlet.',
    reason: 'A quiet tone tells that the pair is one pair.',
    accept: 'Tone clear, no hum; label on.',
    reject: 'Hum means two wires of different pairs; no tone an open or a wrong pair.',
    picture: 'finished',
    minutes: 0.5,
  },
];

/** Each wire has its own clip across the block (66 style), or pairs lie side by side under a connecting block (110 style). */
const clipped = (f: CardFigures): boolean =>
  f.connector.tools.some(({ kind, size }) => kind === 'insertion tool' && size === '66');
const seated = (f: CardFigures): boolean =>
  f.connector.tools.some(({ kind, size }) => kind === 'insertion tool' && size === '110');
const pairsOf = (f: CardFigures): number => f.connector.contacts.length / 2;
const slates = (f: CardFigures): string =>
  named([5, 10, 15, 20, 25].filter((n) => n <= pairsOf(f)).map(String));

export const block: readonly RecipeStep[] = [
  {
    id: 'dead',
    verb: 'inspect',
    title: says('Open the line side, prove the pairs dead'),
    how: says(
      'Find out what runs on this count and have it taken off. Measure each pair, wire to wire and wire to earth: no voltage.',
    ),
    reason: 'A cable of many pairs has many owners: one pair left on is enough to be felt, or to cut a call.',
    accept: 'Less than 1 V on every pair.',
    reject: 'Any voltage: find where that pair is still fed before you touch it.',
    caution: 'Ringing is a shock hazard. Alarm, lift and emergency lines only with their users’ permission.',
    picture: 'lay-out',
    minutes: 4,
  },
  {
    ...stripJacket,
    how: (f) =>
      `Slit ${len(f, f.connector.strip.jacketMm)} of jacket ${f.cable.fillers.includes('pull cord') ? 'along the pull cord' : 'with the blade set to less than its wall'} and cut it off.${binders(f) ? ' Keep the binder groups tied.' : ''}`,
  },
  trimCore,
  {
    id: 'fan',
    verb: 'arrange',
    title: says('Fan the pairs in counting order'),
    how: (f) =>
      !seated(f)
        ? 'White group first, then red, black, yellow, violet; in each blue, orange, green, brown, slate. Through the fanning strip, one pair per slot, tip before ring.'
        : 'White group first, then red, black, yellow, violet; in each blue, orange, green, brown, slate. From the left along the row, each pair astride its tooth, tip left and ring right.',
    reason:
      'The count is the only map there is: a pair out of order is out of order for every pair after it.',
    accept: (f) =>
      `Every fifth pair is slate${f.connector.contacts.length === 50 ? '; the last is violet-slate' : ''}.`,
    reject: 'If the fifth is not slate, a pair was skipped or doubled: go back to the last good five.',
    wrongTurns: (f) =>
      binders(f)
        ? ['Two binder groups have come loose: sort them before going on, they share all colours.']
        : ['A pair has come apart: find its mate by the twist it still has near the jacket.'],
    readBack: true,
    picture: 'face',
    minutes: 8,
  },
  {
    ...punch,
    when: (f) => !seated(f),
    how: says('Tip above ring. Blade to the waste side, square to the block, one push per wire.'),
    title: says('Punch the count, tip then ring'),
    wrongTurns: (f) => [
      `Punched on the wrong ${clipped(f) ? 'clip' : 'contact'}: pull it out straight, cut back, punch the right one.`,
    ],
    picture: 'face',
    minutes: 10,
  },
  {
    ...punch,
    when: seated,
    how: says(
      'Press the wires into the row by hand, then seat and trim them with the blade to the waste side, square to the row.',
    ),
    title: says('Seat the wires in the row and trim them'),
    reason: 'A wire that lies high is not reached when the connecting block comes down on the row.',
    accept: 'Every wire at the bottom of its slot, waste cut off clean on the outer side.',
    reject: 'A wire high in its slot: seat it once more.',
    wrongTurns: ['Seated in the wrong slot: pull it out straight and lay it again, nothing is pierced yet.'],
    picture: 'face',
    minutes: 7,
  },
  {
    id: 'seat',
    verb: 'press',
    when: seated,
    title: says('Seat the connecting blocks'),
    how: says(
      'Set each connecting block of four or five pairs over its wires, its mark on the first pair, and press it home with the wide head of the tool. Along the row by fives, as the count goes.',
    ),
    reason:
      'The row only holds the wires: the connecting block pierces them, and without it nothing connects.',
    accept: 'Every connecting block level and latched, colours on it as the pairs under it.',
    reject: 'One that stands higher at an end has not pierced there: press it again, square.',
    caution: 'A hard blow: the other hand well clear, the block backed by the wall.',
    noWayBack: false,
    wrongTurns: ['Turned end for end: lift it off with the puller before anything is punched on its top.'],
    picture: 'face',
    minutes: 3,
    tool: 'insertion tool',
    girths: bodyOn,
  },
  {
    id: 'finish',
    verb: 'inspect',
    title: (f) =>
      clipped(f)
        ? 'Count by fives, bridge only what is ordered, label'
        : 'Count by fives, connect only what is ordered, label',
    how: (f) =>
      clipped(f)
        ? 'Read the count by fives against the designation strip. Bridging clips only where the order says. Label pair 1 and pair 25.'
        : !seated(f)
          ? 'Read the count by fives against the designation strip. Jumpers on the other side only where the order says; a disconnect plug parts a pair for test. Label the first and the last pair.'
          : 'Read the count by fives against the designation strip. Cross-connects on top of the connecting blocks only where the order says. Label pair 1 and pair 25.',
    reason: (f) => `${pairsOf(f)} pairs shifted by one look as tidy as ${pairsOf(f)} right.`,
    accept: (f) => `Slate at ${slates(f)}; strip labelled.`,
    reject: 'A slip of one row: everything after it is shifted. Re-punch from there.',
    picture: 'finished',
    minutes: 2,
  },
];
