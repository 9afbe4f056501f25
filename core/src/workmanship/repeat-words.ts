import type { SlipKind } from '../continuity/practice.js';
import type { GroupKind } from './groups.js';
import type { Repeat } from './repeats.js';

/** A slip as people call it, and what helps against it. */
interface SlipTold {
  words: string;
  drill: string;
}

const ORDER =
  'Read the order back aloud, both rows, before the tool closes; ten ends on scrap with somebody watching.';
const SEAT =
  'Cut all wires to one length and look at the nose of the plug, or down into each slot, before the tool closes.';
const SCREEN =
  'Fold the screen back over the jacket, drain under the clip, and meter shell to shell before the boot goes on.';
const SLIPS: Partial<Readonly<Record<SlipKind, SlipTold>>> = {
  'reversed-pair': { words: 'the two wires of a pair exchanged', drill: ORDER },
  'neighbour-swap': { words: 'neighbouring wires exchanged', drill: ORDER },
  'distant-swap': { words: 'two wires far apart exchanged', drill: ORDER },
  'other-scheme': {
    words: 'ends wired to the other scheme',
    drill:
      'Say the scheme of the job at each end; the coloured strip of the jack has both: cover the other one.',
  },
  'transposed-pairs': { words: 'whole pairs exchanged', drill: ORDER },
  mirror: {
    words: 'ends laid mirrored',
    drill:
      'Hold the latch away from you and contact 1 to the left, every time; turn the plug over on the bench and name the wires.',
  },
  shift: { words: 'wires one place over', drill: ORDER },
  'pair-by-pair': {
    words: 'split pairs: wires laid pair by pair',
    drill:
      'Contacts 3 and 6 are one pair: lay green (or orange) around the blue one, and say so while you do.',
  },
  'wild-order': { words: 'wires in no order', drill: ORDER },
  'missed-slot': { words: 'a wire that did not reach its contact', drill: SEAT },
  'several-unseated': { words: 'several wires that did not reach', drill: SEAT },
  'touching-neighbours': { words: 'neighbouring contacts touching', drill: SEAT },
  'touching-others': { words: 'contacts touching', drill: SEAT },
  'several-touching': { words: 'several contacts touching', drill: SEAT },
  'poor-joint': {
    words: 'poor joints',
    drill: 'Look at the die and its wear, and at the wire for the contact: solid or stranded.',
  },
  'loose-joint': {
    words: 'joints that come and go',
    drill: 'Tug each end lightly and wiggle it on the mapper before it goes in.',
  },
  'screen-not-bonded': { words: 'screens not bonded', drill: SCREEN },
  'screen-strand': { words: 'strands of screen at a contact', drill: SCREEN },
  'other-pair': { words: 'a telephone leg from another pair', drill: ORDER },
  'equipment-left': {
    words: 'equipment left connected',
    drill: 'Unplug both ends, and say so, before the first reading.',
  },
};
const OTHER: SlipTold = {
  words: 'the same fault',
  drill: 'Look at one of them together before the next end is made.',
};

const WHERE: Readonly<Record<GroupKind, (name: string) => string>> = {
  person: (name) => `${name}’s ends`,
  connector: (name) => `ends with ${name}`,
  tool: (name) => `ends made with ${name}`,
  lot: (name) => `connectors of lot ${name}`,
};

export const slipName = (slip: SlipKind): string => (SLIPS[slip] ?? OTHER).words;

/** A repeat as it is told to whoever leads the crew: kindly, with what it rests on and what helps. */
export function repeatWords({ kind, name, slip, count, of, elsewhere, or }: Repeat): {
  headline: string;
  rests: string;
  help: string;
} {
  const { words, drill } = SLIPS[slip] ?? OTHER;
  const others = or.map((one) => WHERE[one.kind](one.name)).join(', or of ');
  return {
    headline: `${words[0]?.toUpperCase()}${words.slice(1)}, ${count} times in ${WHERE[kind](name)}`,
    rests: `${count} of ${of} that were tested; elsewhere ${elsewhere.count} of ${elsewhere.of}.${
      others ? ` The same ends are those of ${others}: the record cannot tell which it is.` : ''
    }`,
    help:
      kind === 'person'
        ? drill
        : kind === 'lot'
          ? `Look at one connector of that lot beside another. ${drill}`
          : drill,
  };
}
