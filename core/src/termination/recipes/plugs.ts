import { EDGE } from '../assembly.js';
import {
  bodyOn,
  colours,
  isScreened,
  len,
  numbersAsMoulded,
  onContacts,
  says,
  type CardFigures,
  type RecipeStep,
} from './recipe.js';
import { cutScreen, foldScreen, pairFoils, stripJacket, trimCore } from './opening.js';

/** Numbered by its sheet, with its latch at the side. */
const isBritish = (f: CardFigures): boolean => f.connector.sheetDecides === true;
const isFlat = (f: CardFigures): boolean => f.cable.family === 'multicore';
/** Wires that keep the order of their cord, or of a sheet. */
const asItLies = (f: CardFigures): boolean => isFlat(f) || isBritish(f);
const isSixPlace = (f: CardFigures): boolean => f.connector.assignment === 'modular-6';
const hasBoot = (f: CardFigures): boolean => f.connector.parts.some((p) => p.kind === 'boot');
const hasLoadBar = (f: CardFigures): boolean => f.connector.parts.some((p) => p.kind === 'load-bar');
const hasSleeve = (f: CardFigures): boolean => f.connector.parts.some((p) => p.kind === 'sleeve');

const arrange: RecipeStep = {
  id: 'arrange',
  verb: 'arrange',
  when: (f) => !asItLies(f) && !isSixPlace(f),
  title: (f) => `Lay the ${f.order.length === 8 ? 'eight' : f.order.length} in order, read them back`,
  how: (f) =>
    `${f.cable.outdoor ? 'Draw each wire over a round shaft until it stays straight. ' : ''}Untwist, straighten and lay flat, contact ${f.order[0]?.contact} first: ${colours(f)}. Hold the plug latch down, contacts up, cable towards you.`,
  reason: 'Order slips while nobody looks. Say the colours aloud from the first contact.',
  accept:
    'White-based and solid alternate in both common schemes; two solids side by side are wrong there. Then compare each with the card.',
  reject: 'Two out of place make a swap or a split pair that a lamp tester passes: lay them again.',
  wrongTurns: ['Two have changed places: draw them back to the jacket and lay them again.'],
  readBack: true,
  picture: 'face',
  minutes: 1,
};

const arrangeSix: RecipeStep = {
  ...arrange,
  when: (f) => !asItLies(f) && isSixPlace(f),
  accept:
    'The first pair on the middle two, the second around it, the third outermost. Then compare each with the card.',
  reject:
    'A pair laid side by side instead of around the middle puts two lines on one telephone: lay them again.',
};

const arrangeFlat: RecipeStep = {
  ...arrange,
  when: asItLies,
  title: (f) =>
    isFlat(f) ? 'Keep the flat cord’s order, read it back' : 'Lay them by the sheet, read them back',
  how: (f) =>
    isBritish(f)
      ? `${onContacts(f)}: the line is on 2 and 5, the outer two. Hold the plug contacts up, cable towards you.${numbersAsMoulded(f)}`
      : `The wires lie as they must: ${colours(f)}, contact ${f.order[0]?.contact} first. Hold the plug latch down, contacts up, cable towards you.`,
  reason: (f) =>
    f.choices.flatEnd === 'rolled'
      ? 'A telephone cord is rolled: both latches on the same face of the cord, so this end reads backwards to the other.'
      : 'A flat cord turned over reverses the line: look which way the other end was made.',
  accept: 'Wires side by side, none crossing, the first colour on the first contact.',
  reject: 'The cord lies the other way up: turn it now, after the crimp it is a new plug.',
  wrongTurns: ['Colours of moulded cords follow no rule: go by the place, not by the colour.'],
};

const loadBar: RecipeStep = {
  id: 'bar',
  verb: 'insert',
  when: hasLoadBar,
  title: says('Slant cut, load bar on, read the ends'),
  how: says(
    'Cut the ends on a slant, longest first, and slide the load bar on, one wire to a hole, down to the jacket. Read the ends out of the front of it.',
  ),
  reason: 'It holds eight thick wires in order and keeps the twist close: without it they do not go in.',
  accept: 'Every hole filled, order as the card, bar against the jacket.',
  reject: 'Two in each other’s hole: draw it off and lay again, nothing is spent.',
  wrongTurns: ['The bar is turned over: its wide side faces the contacts; draw it off and turn it.'],
  readBack: true,
  picture: 'face',
  minutes: 1,
};

const trimEight: RecipeStep = {
  id: 'trim',
  verb: 'cut',
  title: (f) =>
    `Cut ${f.order.length === 8 ? 'the eight' : 'all'} square at ${len(f, f.connector.strip.trimMm)}`,
  how: says('Hold them flat between finger and thumb and cut once, straight across.'),
  reason: 'Uneven ends miss the contacts; too long leaves the jacket outside the bar.',
  accept: 'All ends in one line.',
  reject: 'A short one does not reach its contact: cut all of them again, or strip back.',
  caution: 'Clipped ends fly: eyes away.',
  wrongTurns: ['Cut too short: strip back and lay them again.'],
  picture: 'face',
  minutes: 0.3,
  tool: 'side cutters',
};

const insert: RecipeStep = {
  id: 'insert',
  verb: 'insert',
  title: says('Push home, read the colours through the front'),
  how: (f) =>
    `Push until every conductor touches the front wall and the jacket lies under the bar${f.cable.outdoor ? '; press a stiff jacket oval between the fingers first' : ''}. ${f.connector.screened ? 'Read the colours at the nose and through the window over the contacts' : 'Read the colours through the clear body'}, ${isBritish(f) ? 'contacts up' : 'latch down'}, from the left.`,
  reason: 'This is the last look before the crimp.',
  accept: 'Copper ends visible at the front of every contact; jacket under the bar; order as on the card.',
  reject: 'Anything else costs nothing now and a connector after the crimp: draw it out.',
  wrongTurns: (f) => [
    'A pair flipped going in: draw everything out, lay again.',
    'Jacket not under the bar: trim the conductors a little shorter.',
    `The order reads backwards: the plug is ${isBritish(f) ? 'turned over' : 'latch up'}; turn it and lay again.`,
  ],
  readBack: true,
  picture: 'face',
  minutes: 0.6,
  girths: bodyOn,
};

const slideThrough: RecipeStep = {
  id: 'slide',
  verb: 'insert',
  title: says('Cut on a slant, slide through, read the ends'),
  how: says(
    'Cut them on a slant, the longest first, so that they enter one after another. Slide the plug down until the jacket is under the bar. Read the ends standing out of the front, latch down, from the left.',
  ),
  reason: 'The order can be checked outside the plug, before anything is spent.',
  accept: 'All ends out of the front, in the card’s order; jacket under the bar.',
  reject: 'Two in each other’s place: pull the plug off and lay again, nothing is lost yet.',
  wrongTurns: [
    'Two slipped: pull the plug off, lay again. Nothing is lost yet.',
    'The order reads backwards: the plug is latch up; pull it off and turn it over.',
  ],
  readBack: true,
  picture: 'face',
  minutes: 0.6,
  girths: bodyOn,
};

const metal = (f: CardFigures): string => (f.cable.drain ? 'foil and drain' : 'the folded braid');
const tail = (f: CardFigures): string => (f.cable.drain ? 'drain' : 'braid');

const bond: RecipeStep = {
  id: 'bond',
  verb: 'close',
  when: isScreened,
  title: (f) => `Jacket under the bar, ${tail(f)} in the clip`,
  how: (f) =>
    hasSleeve(f)
      ? `Bring the screen sleeve over ${metal(f)}, and close the plug’s clip on it.`
      : `Lay ${metal(f)} into the plug’s clip and close the clip on ${f.cable.drain ? 'them' : 'it'}.`,
  reason: (f) => `A ${tail(f)} beside the clip leaves the screen open and the map otherwise perfect.`,
  accept: (f) => `The ${tail(f)} under the clip, no strand near the contacts.`,
  reject: (f) =>
    `The ${tail(f)} outside the clip: the screen is open. Strand at a contact: a short to the screen.`,
  wrongTurns: (f) => [`The ${tail(f)} will not reach: strip the jacket back and start the fold again.`],
  picture: 'finished',
  minutes: 0.6,
};
const bondWithSleeve: RecipeStep = {
  ...bond,
  when: (f) => isScreened(f) && hasSleeve(f),
  brings: { part: 'sleeve', to: EDGE },
};
const bondInClip: RecipeStep = { ...bond, when: (f) => isScreened(f) && !hasSleeve(f) };

const crimp: RecipeStep = {
  id: 'crimp',
  verb: 'crimp',
  title: says('Crimp'),
  how: says('Seat the plug in the die and close the tool until it releases.'),
  reason: 'Half a crimp pierces some contacts and not others.',
  accept: 'All contacts pressed to one level, bar down on the jacket.',
  reject: 'A high contact is an open today or next month: crimp once more; if it stays, make a new end.',
  noWayBack: true,
  wrongTurns: ['A contact stands high: crimp once more; if it stays, make a new end.'],
  picture: 'finished',
  minutes: 0.3,
  tool: 'modular crimp tool',
};

const cutsItself = (f: CardFigures): boolean => !f.connector.tools.some((t) => t.kind === 'knife');

const crimpAndCut: RecipeStep = {
  ...crimp,
  when: cutsItself,
  title: says('Crimp, which also cuts'),
  how: says('Seat the plug and close the tool in one stroke: the blade takes the ends off flush.'),
  reason: 'A ragged cut can leave ends touching across the front.',
  accept: 'Ends flush, none bent over its neighbour; contacts level.',
  reject: 'Ends smeared across the front short their neighbours: trim them, and change a blunt blade.',
  caution: 'Cut ends fly from the tool: hold it away from faces.',
  wrongTurns: ['An end stands proud: trim it flush with a sharp blade, drawn away from the hand.'],
};

const crimpForKnife: RecipeStep = { ...crimp, when: (f) => !cutsItself(f) };
const cutByKnife: RecipeStep = {
  id: 'flush',
  verb: 'cut',
  when: (f) => !cutsItself(f),
  title: says('Cut the ends flush with a knife'),
  how: says(
    'Lay the plug on wood, blade flat on its front, and cut all ends in one stroke away from the latch.',
  ),
  reason: 'The plain tool does not cut; ends left standing touch in the jack.',
  accept: 'Front smooth to the finger, no copper bent over.',
  reject: 'A proud or bent end shorts its neighbour: cut again with a fresh blade.',
  caution: 'The blade goes away from the hand, the plug on a board, not in the palm.',
  picture: 'finished',
  minutes: 0.4,
  tool: 'knife',
};

const tug: RecipeStep = {
  id: 'finish',
  verb: 'tug',
  title: says('Look, tug, close up'),
  how: (f) =>
    hasBoot(f) ? 'Tug the cable gently, then bring the boot up over the latch.' : 'Tug the cable gently.',
  reason: 'The jacket, not the conductors, must carry the pull.',
  accept: 'Jacket held, contacts level, latch springs back.',
  reject: 'If it slides, the bar missed the jacket: cut off and make a new end.',
  wrongTurns: (f) => [
    'It slides out: the bar missed the jacket. Cut off and make a new end.',
    ...(hasBoot(f)
      ? ['The boot is not on the cable: it cannot go on now. Say so under "something was left out".']
      : []),
  ],
  picture: 'finished',
  minutes: 0.2,
};

export const closedPlug: readonly RecipeStep[] = [
  stripJacket,
  foldScreen,
  cutScreen,
  trimCore,
  pairFoils,
  arrange,
  arrangeSix,
  arrangeFlat,
  loadBar,
  trimEight,
  insert,
  bondWithSleeve,
  bondInClip,
  crimp,
  tug,
];

export const passThroughPlug: readonly RecipeStep[] = [
  stripJacket,
  foldScreen,
  cutScreen,
  trimCore,
  pairFoils,
  arrange,
  slideThrough,
  bondWithSleeve,
  bondInClip,
  crimpAndCut,
  crimpForKnife,
  cutByKnife,
  tug,
];
