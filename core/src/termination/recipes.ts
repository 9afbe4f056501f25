import type { CableType } from '../cabling/cable-types.js';
import type { Scheme } from '../cabling/schemes.js';
import { insulationName } from '../cabling/colours.js';
import type { ConnectorType, TerminationStyle } from '../connectors/connector-types.js';
import type { PartVerdict } from './thread-first.js';

/** What the card draws beside a step. */
export type StepPicture = 'lay-out' | 'thread' | 'strip' | 'face' | 'slots' | 'finished';

/** The figures a recipe's words may use. */
export interface CardFigures {
  cable: CableType;
  connector: ConnectorType;
  scheme: Scheme;
  threaded: readonly PartVerdict[];
}

interface RecipeStep {
  id: string;
  when?: (f: CardFigures) => boolean;
  title: (f: CardFigures) => string;
  how: (f: CardFigures) => string;
  reason: string;
  accept: string;
  caution?: string;
  wrongTurns?: readonly string[];
  noWayBack?: boolean;
  picture: StepPicture;
}

interface Recipe {
  tools: (f: CardFigures) => readonly string[];
  steps: readonly RecipeStep[];
}

const named = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
const goesFirst = (f: CardFigures): string[] =>
  f.threaded.filter((t) => t.when === 'first').map((t) => t.part.name);
const screened = (f: CardFigures): boolean => f.cable.screened && f.connector.screened;
const says = (words: string) => (): string => words;

const thread: RecipeStep = {
  id: 'thread',
  when: (f) => goesFirst(f).length > 0,
  title: (f) => `Thread the ${named(goesFirst(f))}`,
  how: (f) =>
    `Slide the ${named(goesFirst(f))} onto the jacket, the right way round, and push them well back.`,
  reason: 'A closed ring cannot pass the connector once that is on. Forgetting it costs the connector.',
  accept: 'On the cable, open side towards the end, out of the way.',
  wrongTurns: ['On backwards: take it off and turn it now, while it is free.'],
  picture: 'thread',
};

const strip: RecipeStep = {
  id: 'strip',
  title: (f) => `Strip ${f.connector.stripMm} mm of jacket`,
  how: () => 'Score the jacket once around, bend it until it parts, and pull it off. Do not cut through.',
  reason: 'A nicked conductor breaks later, behind the wall plate.',
  accept: 'No copper showing, no cut in any insulation.',
  caution: 'Draw the wire under a still blade; cut away from the hand.',
  wrongTurns: ['A conductor is nicked: cut the end off square and start again; threaded parts stay on.'],
  picture: 'strip',
};

const screen: RecipeStep = {
  id: 'screen',
  when: screened,
  title: says('Fold back the foil, keep the drain'),
  how: says('Fold the foil back over the jacket, conducting side out, and lay the drain wire over it.'),
  reason: 'The screen works only where it meets metal all the way round.',
  accept: 'Bright side outward, drain whole and lying flat.',
  wrongTurns: ['Drain broken off: strip further back and bring out fresh drain.'],
  picture: 'strip',
};

const trimCore: RecipeStep = {
  id: 'core',
  title: says('Trim tape, cord and filler'),
  how: says('Cut the separator, wrap and pull cord flush with the jacket.'),
  reason: 'Anything left pushes the jacket out of the connector.',
  accept: 'Only the four pairs stand out.',
  caution: 'Clipped ends fly: eyes away, point the cut down.',
  picture: 'strip',
};

const arrange: RecipeStep = {
  id: 'arrange',
  title: says('Lay the eight in order, read them back'),
  how: (f) =>
    `Untwist, straighten and lay flat, contact 1 first: ${f.scheme.order.map(insulationName).join(', ')}. Hold the plug latch down, contacts up, cable towards you.`,
  reason: 'Order slips while nobody looks. Say the colours aloud from contact 1.',
  accept:
    'White-based and solid alternate; two solids side by side are wrong. Then compare each with the card.',
  wrongTurns: ['Two have changed places: draw them back to the jacket and lay them again.'],
  picture: 'face',
};

const tug: RecipeStep = {
  id: 'finish',
  title: says('Look, tug, close up'),
  how: (f) =>
    f.connector.parts.some((p) => p.name === 'boot')
      ? 'Tug the cable gently, then bring the boot up over the latch.'
      : 'Tug the cable gently.',
  reason: 'The jacket, not the conductors, must carry the pull.',
  accept: 'Jacket held, contacts level, latch springs back.',
  wrongTurns: ['It slides out: the bar missed the jacket. Cut off and make a new end.'],
  picture: 'finished',
};

const plugTools = (f: CardFigures): string[] => [
  'jacket stripper',
  'side cutters',
  f.connector.style === 'plug-pass-through'
    ? 'crimp tool for pass-through plugs, with its blade'
    : 'crimp tool, 8 contacts',
];

const closedPlug: readonly RecipeStep[] = [
  thread,
  strip,
  screen,
  trimCore,
  arrange,
  {
    id: 'trim',
    title: (f) => `Cut the eight square at ${f.connector.trimMm ?? 13} mm`,
    how: says('Hold them flat between finger and thumb and cut once, straight across.'),
    reason: 'Uneven ends miss the contacts; too long leaves the jacket outside the bar.',
    accept: 'Eight ends in one line.',
    caution: 'Clipped ends fly: eyes away.',
    wrongTurns: ['Cut too short: strip back and lay them again.'],
    picture: 'face',
  },
  {
    id: 'insert',
    title: says('Push home, read the colours through the front'),
    how: says(
      'Push until every conductor touches the front wall and the jacket lies under the bar. Read the colours through the clear body, latch down, from the left.',
    ),
    reason: 'This is the last look before the crimp.',
    accept: 'Copper ends visible at the front of all eight; jacket under the bar; order as on the card.',
    wrongTurns: [
      'A pair flipped going in: draw everything out, lay again.',
      'Jacket not under the bar: trim the conductors a little shorter.',
    ],
    picture: 'face',
  },
  {
    id: 'crimp',
    title: says('Crimp'),
    how: says('Seat the plug in the die and close the tool until it releases.'),
    reason: 'Half a crimp pierces some contacts and not others.',
    accept: 'All eight contacts pressed to one level, bar down on the jacket.',
    noWayBack: true,
    wrongTurns: ['A contact stands high: crimp once more; if it stays, make a new end.'],
    picture: 'finished',
  },
  tug,
];

const passThroughPlug: readonly RecipeStep[] = [
  thread,
  strip,
  screen,
  trimCore,
  arrange,
  {
    id: 'slide',
    title: says('Slide through, read the ends'),
    how: says(
      'Slide the plug down until the jacket is under the bar. Read the eight ends standing out of the front, latch down, from the left.',
    ),
    reason: 'The order can be checked outside the plug, before anything is spent.',
    accept: 'Eight ends out of the front, in the card’s order; jacket under the bar.',
    wrongTurns: ['Two slipped: pull the plug off, lay again. Nothing is lost yet.'],
    picture: 'face',
  },
  {
    id: 'bond',
    when: screened,
    title: says('Jacket under the bar, drain in the clip'),
    how: says('Bring the screen sleeve over foil and drain, and close the plug’s clip on it.'),
    reason: 'A drain beside the clip leaves the screen open and the map otherwise perfect.',
    accept: 'Drain under the clip, no strand near the contacts.',
    wrongTurns: ['Drain will not reach: strip the jacket back and start the fold again.'],
    picture: 'finished',
  },
  {
    id: 'crimp',
    title: says('Crimp, which also cuts'),
    how: says(
      'Seat the plug and close the tool in one stroke. With a plain tool, crimp first, then cut flush with a knife.',
    ),
    reason: 'A ragged cut can leave ends touching across the front.',
    accept: 'Ends flush, none bent over its neighbour; contacts level.',
    caution: 'Cut ends fly from the tool: hold it away from faces.',
    noWayBack: true,
    wrongTurns: ['An end stands proud: trim it flush with a sharp blade, drawn away from the hand.'],
    picture: 'finished',
  },
  tug,
];

const bondJack: RecipeStep = {
  id: 'bond',
  when: screened,
  title: says('Bond the screen'),
  how: says('Close the hood onto foil and drain and pull the tie tight.'),
  reason: 'A loose hood reads closed today and open next month.',
  accept: 'Hood tight on the foil all round, drain under it.',
  picture: 'finished',
};

const punchedJack: readonly RecipeStep[] = [
  thread,
  strip,
  screen,
  trimCore,
  {
    id: 'lay',
    title: (f) => `Lay each conductor by the ${f.scheme.name} label`,
    how: (f) =>
      `Bring the jacket to the body. Lay each conductor over its own slot by the jack’s ${f.scheme.name} label. Slots are not in contact order.`,
    reason: 'Every body has its own order; the label on this one wins over any card.',
    accept: 'Twist kept to within 13 mm of the slot, jacket close to the body.',
    wrongTurns: ['Label and card differ: follow the label and tell the lead.'],
    picture: 'slots',
  },
  {
    id: 'punch',
    title: says('Punch, blade to the waste side'),
    how: says('Square to the jack, blade outward, one push per slot.'),
    reason: 'A screwdriver opens the slot for good; a blade inward cuts the live side.',
    accept: 'Conductor at the bottom of every slot, waste cut off clean.',
    caution: 'Keep the other hand out from under the tool; cut ends fly.',
    noWayBack: true,
    wrongTurns: [
      'Punched in the wrong slot: pull it out straight, cut back, lay fresh wire. A slot takes a few, not many.',
      'Slot opened by a screwdriver: a new jack.',
    ],
    picture: 'slots',
  },
  bondJack,
  {
    id: 'finish',
    title: says('Cap on, read the slots back, label'),
    how: says('Push the dust cap on, read the colours against the label once more and label the cable.'),
    reason: 'An unlabelled cable is found twice.',
    accept: 'Cap closed, colours as the label, cable labelled.',
    picture: 'finished',
  },
];

const toollessJack: readonly RecipeStep[] = [
  {
    ...thread,
    reason: 'The cap lies behind the jacket’s edge; once the conductors are in the body it cannot follow.',
  },
  strip,
  screen,
  trimCore,
  {
    id: 'lay',
    title: (f) => `Lay both rows of the cap by the ${f.scheme.name} label`,
    how: (f) =>
      `Bring the jacket up to the cap and lay each conductor in its groove by the ${f.scheme.name} label, both rows.`,
    reason: 'Two rows are easily mirrored: the label is printed for one way of holding the cap.',
    accept: 'Every conductor in its own groove, twist to within 13 mm.',
    wrongTurns: ['Rows mirrored: turn the cap so that the label reads upright, lay again.'],
    picture: 'slots',
  },
  {
    id: 'trim',
    title: says('Cut flush with the cap'),
    how: says('Cut all eight flush with the cap’s edge.'),
    reason: 'Ends that stand out can touch inside the body.',
    accept: 'Nothing stands out.',
    caution: 'Clipped ends fly: eyes away.',
    picture: 'slots',
  },
  {
    id: 'close',
    title: says('Read back, then close the jack'),
    how: says(
      'Read the colours once more, set the cap straight on the body and close it with flat-jawed pliers or the lever.',
    ),
    reason: 'Closing pierces all eight at once.',
    accept: 'Cap level and latched on both sides.',
    noWayBack: true,
    wrongTurns: ['Closes crooked: stop, open, set it straight. A forced cap bends contacts.'],
    picture: 'finished',
  },
  bondJack,
  {
    id: 'finish',
    title: says('Tug and label'),
    how: says('Tug gently and label the cable.'),
    reason: 'An unlabelled cable is found twice.',
    accept: 'Jacket held, cable labelled.',
    picture: 'finished',
  },
];

export const RECIPES: Partial<Record<TerminationStyle, Recipe>> = {
  'plug-closed': { tools: plugTools, steps: closedPlug },
  'plug-pass-through': { tools: plugTools, steps: passThroughPlug },
  'jack-punched': {
    tools: () => ['jacket stripper', 'insertion tool with cutting blade', 'side cutters'],
    steps: punchedJack,
  },
  'jack-toolless': {
    tools: () => ['jacket stripper', 'flush cutters', 'flat-jawed pliers'],
    steps: toollessJack,
  },
};
