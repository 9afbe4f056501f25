import { insulationName } from '../../cabling/colours.js';
import { SCREEN } from '../../cabling/conductors.js';
import { TIP } from '../assembly.js';
import {
  bodyOn,
  len,
  numbersAsMoulded,
  onContacts,
  says,
  type CardFigures,
  type RecipeStep,
} from './recipe.js';
import { foldScreen, stripJacket, trimCore } from './opening.js';
import { partWires } from './signal.js';

const hasShell = (f: CardFigures): boolean => f.connector.parts.some(({ kind }) => kind === 'hood');
/** Strands want a sleeve under the screw; a solid wire is clamped as it is. */
const wantsFerrule = (f: CardFigures): boolean => f.cable.stranded !== false;
const sprung = (f: CardFigures): boolean => f.connector.hold === 'spring';
const onBus = (f: CardFigures): boolean => f.connector.assignment === 'bus';
/** One pair, or two wires, of which one is the return of the other. */
const poled = (f: CardFigures): boolean => f.connector.contacts.length === 2;

/** The metal of a screen that is tied to earth at one end of a run only. */
const screenTail: RecipeStep = {
  ...foldScreen,
  id: 'screen',
  verb: 'trim',
  when: (f) => f.cable.screened,
  title: (f) => (f.cable.drain ? 'Sleeve the drain, decide where it goes' : 'Sleeve the screen’s tail'),
  how: (f) =>
    onBus(f)
      ? `Bring the ${f.cable.drain ? 'drain' : 'twisted braid'}, sleeved, to the common or earth terminal the controller’s sheet names; joined through at every device, to earth at one place.`
      : `Bring the ${f.cable.drain ? 'drain' : 'twisted braid'}, sleeved, to the panel’s earth terminal at this end, or cut it back and tape it at the other: one end only.`,
  reason: 'Earthed at both ends it carries what flows between two earths, and every loop hums.',
  accept: 'No bare metal beside a terminal; the record says which end is earthed.',
  reject: 'A bare tail finds the next terminal when the cover closes: sleeve it now.',
  wrongTurns: [],
  picture: 'strip',
  minutes: 0.8,
  girths: undefined,
};

const bare: RecipeStep = {
  id: 'bare',
  verb: 'strip',
  title: (f) => `Bare ${len(f, f.connector.strip.insulationMm)} of each wire`,
  how: (f) =>
    wantsFerrule(f)
      ? 'Wire stripper at the right gauge, drawn off straight. Leave the strands as they lie: do not tin them.'
      : 'Wire stripper at the right gauge, drawn off straight; the wire stays round and unmarked.',
  reason: (f) =>
    wantsFerrule(f)
      ? 'Tin creeps under a screw: a tinned end is loose in a year.'
      : 'A nicked solid wire breaks at the screw.',
  accept: 'Metal as long as the clamp is deep, insulation cut square.',
  reject: 'Strands cut off, or a nick: cut back and strip again.',
  picture: 'strip',
  minutes: 1,
  tool: 'wire stripper',
  girths: (f) => [{ zone: TIP, mm: f.cable.bareMm ?? 0.5 }],
};

const ferrules: RecipeStep = {
  id: 'ferrule',
  verb: 'crimp',
  when: wantsFerrule,
  title: says('Ferrule on each wire, crimp, tug'),
  how: says(
    'Push the ferrule on until its collar meets the insulation, all strands inside. Crimp once over the metal sleeve, then pull each with two fingers.',
  ),
  reason: 'A screw on bare strands spreads them: some break, some touch the neighbour.',
  accept: 'Strands level with the sleeve’s end, no strand outside, nothing slides.',
  reject: 'A strand outside the sleeve, or one that slides: cut off, strip and crimp a new ferrule.',
  caution: 'Clipped ends fly: eyes away.',
  wrongTurns: ['The ferrule is loose before the crimp: it is a size too big for this wire.'],
  picture: 'strip',
  minutes: 1.5,
  tool: 'ferrule crimp tool',
  girths: (f) => [{ zone: TIP, mm: (f.cable.conductorMm ?? 1.5) + 0.8 }],
};

const lay: RecipeStep = {
  id: 'lay',
  verb: 'arrange',
  title: says('Lay the wires by the list'),
  how: (f) =>
    [
      `${onContacts(f)}.`,
      onBus(f)
        ? 'A and B are one twisted pair. Go by plus and minus where the device prints them: makers exchange the letters.'
        : poled(f)
          ? 'Mark which wire is plus at both ends before either is closed.'
          : 'Write colour against terminal on the lid’s label: there is no code for these cables.',
      spare(f),
    ]
      .filter(Boolean)
      .join(' ') + numbersAsMoulded(f),
  reason: 'Colours of control cables follow no standard: the list is the only map.',
  accept: 'Every wire at its own terminal, none crossing another, as the list.',
  reject: 'Two exchanged: draw them out now, nothing is spent.',
  readBack: true,
  picture: 'face',
  minutes: 1,
};

/** Wires that this connector has no place for, by their colours. */
function spare(f: CardFigures): string {
  const left = f.cable.conductors - f.order.filter(({ conductor }) => conductor !== SCREEN).length;
  if (left <= 0) return '';
  return left === 1
    ? 'The wire left over is insulated and coiled back, uncut.'
    : `The ${left} wires left over are insulated one by one and coiled back, uncut.`;
}

const clampDown: RecipeStep = {
  id: 'clamp',
  verb: 'screw',
  title: (f) => (sprung(f) ? 'Open each spring, wire to the stop' : 'Wire to the stop, screw down'),
  how: (f) =>
    sprung(f)
      ? 'Press the release with a flat blade, push the wire in to the stop, let go. Test probe side free.'
      : 'Open the clamp fully, push the wire in to the stop, screw down until it no longer gives, then a quarter turn.',
  reason: 'A wire beside the clamp, not in it, looks the same and carries nothing.',
  accept: (f) =>
    wantsFerrule(f)
      ? 'The ferrule is in the clamp to its collar, no insulation under the metal.'
      : 'No metal showing past the body, no insulation under the metal.',
  reject:
    'Insulation clamped instead of metal reads open, or open on a cold day: draw it out and push again.',
  wrongTurns: (f) => [
    sprung(f)
      ? 'It pulls out: the spring was not open. Press the release and push again.'
      : 'It turns for ever: the thread is gone. Another terminal, or a new strip.',
  ],
  noWayBack: false,
  readBack: true,
  picture: 'face',
  minutes: 2,
  tool: 'screwdriver',
  girths: bodyOn,
};

const tugEach: RecipeStep = {
  id: 'tug',
  verb: 'tug',
  title: says('Tug each wire'),
  how: says('One after another, as hard as two fingers pull.'),
  reason: 'The loose one is found now, or on a night call.',
  accept: 'Nothing moves.',
  reject: 'One that moves was never clamped: open it and push to the stop.',
  picture: 'face',
  minutes: 0.5,
};

const meter: RecipeStep = {
  id: 'meter',
  verb: 'inspect',
  title: (f) =>
    onBus(f) ? 'Meter the bus, supply off' : 'Meter each wire through and against its neighbours',
  how: (f) =>
    onBus(f)
      ? 'Between A and B with everything unpowered: both ends of the bus carry 120 ohm and no other place does.'
      : 'Both ends free: each wire to the same number at the other end, and to the terminals beside it.',
  reason: (f) =>
    onBus(f)
      ? 'A line without its ends reflects every bit; a third one pulls it under what a driver can lift.'
      : 'Under a cover a stray strand is not seen.',
  accept: (f) =>
    onBus(f)
      ? 'About 60 ohm and the wire’s own: both ends are there. Common to either: open, or the bias resistors’ kilohms.'
      : 'Closed along each wire, open to every neighbour.',
  reject: (f) =>
    onBus(f)
      ? '120 ohm: one end is missing, or the pair is open on the way. 40: one too many. Near nought: joined.'
      : 'A path to a neighbour: a strand. Draw the wire out and look.',
  picture: 'finished',
  minutes: 1.5,
};

const closeUp: RecipeStep = {
  id: 'finish',
  verb: 'close',
  title: (f) =>
    hasShell(f) ? 'Bring the shell forward, clamp the jacket' : 'Clamp the jacket, label, close',
  how: (f) =>
    hasShell(f)
      ? 'Shell over the body until it locks; its clamp on the jacket, not on the wires. Check plus and minus with a meter before anything is plugged in.'
      : 'A tie or the clamp on the jacket within a hand’s width, a little slack behind the terminals. Label cable and terminals, cover on.',
  reason: 'A pull on the cable must not reach the screws.',
  accept: (f) =>
    hasShell(f)
      ? 'Jacket held, shell locked; plus where the equipment’s mark has it.'
      : 'Jacket held, slack at the terminals, label on.',
  reject: 'Wires tight between jacket and terminal work loose: give slack and clamp again.',
  wrongTurns: (f) =>
    hasShell(f)
      ? ['The shell is not on the cable: it cannot pass the body. Say so under "something was left out".']
      : [],
  picture: 'finished',
  minutes: 1,
};

/** Wires under screws or springs, with a ferrule on each that is stranded. */
export const terminal: readonly RecipeStep[] = [
  stripJacket,
  screenTail,
  trimCore,
  { ...partWires, reason: 'Each goes to its own terminal without crossing another.' },
  bare,
  ferrules,
  lay,
  clampDown,
  tugEach,
  meter,
  closeUp,
];

const tipsAndRings = (f: CardFigures): string => {
  const of = (contact: string): string =>
    insulationName(f.order.find((line) => line.contact === contact)?.conductor ?? 'WH-BU');
  return `Pair 1: ${of('26')} (tip) on 26, ${of('1')} (ring) on 1; pair 25: ${of('50')} on 50, ${of('25')} on 25.`;
};

/** Twenty-five pairs pressed into the two rows of a 50-contact connector. */
export const pairsPressed: readonly RecipeStep[] = [
  {
    id: 'dead',
    verb: 'inspect',
    title: says('Unplug the other end, prove the pairs dead'),
    how: says('Find out what runs on this cable and have it taken off. Measure each pair: no voltage.'),
    reason: 'Twenty-five lines are in the hand at once.',
    accept: 'Less than 1 V on every pair.',
    reject: 'Any voltage: find where that pair is still fed before you touch it.',
    caution: 'Ringing is a shock hazard. Alarm, lift and emergency lines only with their users’ permission.',
    picture: 'lay-out',
    minutes: 3,
  },
  stripJacket,
  trimCore,
  {
    id: 'fan',
    verb: 'arrange',
    title: says('Fan by the count: tips to one row, rings to the other'),
    how: (f) =>
      `Lay the pairs in counting order from contact 1. ${tipsAndRings(f)} Which row is which is moulded on the body.`,
    reason: 'The rows turned over exchange tip and ring of all twenty-five at once.',
    accept: 'Every fifth pair is slate, white-based wires of the first five all in one row.',
    reject: 'A slate pair that is not fifth: one was skipped. Go back to the last good five.',
    wrongTurns: ['A pair has come apart: find its mate by the twist it still has near the jacket.'],
    readBack: true,
    picture: 'face',
    minutes: 8,
  },
  {
    id: 'press',
    verb: 'press',
    title: says('Press both rows, look along them'),
    how: says('Connector in the press, two wires a stroke, from contact 1 on; the press cuts the ends off.'),
    reason: 'A wire that lies high touches its contact today only.',
    accept: 'Every wire at the bottom of its slot, ends cut flush.',
    reject: 'One high in its slot: press it once more.',
    caution: 'Fingers clear of the jaws; cut ends fly: eyes away.',
    wrongTurns: ['In the wrong slot: lift it out with a hook, cut back, lay fresh wire.'],
    picture: 'face',
    minutes: 6,
    tool: 'two-row press',
    girths: bodyOn,
  },
  {
    id: 'finish',
    verb: 'close',
    title: says('Hood on, jacket clamped, count proved'),
    how: says(
      'Close the hood on the jacket, screw its clamp. Tone on pair 1, 5 and 25: each where the count says. Label.',
    ),
    reason: 'Twenty-five pairs shifted by one look as tidy as twenty-five right.',
    accept: 'Pairs 1, 5 and 25 at their places; jacket held.',
    reject: 'A shift: count from the last slate that is right.',
    picture: 'finished',
    minutes: 2,
    tool: 'screwdriver',
  },
];
