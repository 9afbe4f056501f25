import type { SlipKind } from '../continuity/practice.js';
import { seededRandom, type Random } from '../quantities/random.js';
import { DRILL_KINDS, type Drill, type DrillKind } from './drill.js';
import { layTheEight, orderOfEight, pairByColour, plugTurned, whichFace } from './ends.js';
import { howFar, openByCapacitance, readATrace, whatTheMapShows, whichEnd } from './meters.js';
import { whatComesNext, whatGoesOnFirst, whereToTakeCare, whichDie } from './work.js';

interface Entry {
  name: string;
  make: (random: Random) => Drill;
  /** Mistakes at work that this practises against. */
  against: readonly SlipKind[];
}

/** Every drill there is. */
export const DRILLS: Readonly<Record<DrillKind, Entry>> = {
  'order-of-eight': {
    name: 'Order of eight',
    make: orderOfEight,
    against: [
      'reversed-pair',
      'neighbour-swap',
      'distant-swap',
      'other-scheme',
      'pair-by-pair',
      'wild-order',
    ],
  },
  'lay-the-eight': {
    name: 'Lay all eight',
    make: layTheEight,
    against: ['neighbour-swap', 'other-scheme', 'mirror', 'pair-by-pair', 'wild-order'],
  },
  'plug-turned': { name: 'Plug turned over', make: plugTurned, against: ['mirror', 'shift'] },
  'which-face': { name: 'Mating face or wiring side', make: whichFace, against: ['mirror'] },
  'which-end': {
    name: 'Which end is wrong',
    make: whichEnd,
    against: ['other-scheme', 'transposed-pairs'],
  },
  'what-the-map-shows': {
    name: 'What the map shows',
    make: whatTheMapShows,
    against: ['transposed-pairs', 'neighbour-swap', 'missed-slot'],
  },
  'read-a-trace': {
    name: 'Read this trace',
    make: readATrace,
    against: ['broken-conductor', 'wet-or-crushed', 'poor-conductor', 'cut-through'],
  },
  'how-far': { name: 'How far is it', make: howFar, against: ['broken-conductor', 'wrong-length'] },
  'open-by-capacitance': {
    name: 'An open by capacitance',
    make: openByCapacitance,
    against: ['broken-conductor', 'partly-cut'],
  },
  'which-die': { name: 'Which die', make: whichDie, against: ['poor-joint', 'loose-joint'] },
  'what-goes-on-first': {
    name: 'What goes on first',
    make: whatGoesOnFirst,
    against: ['screen-not-bonded'],
  },
  'what-comes-next': {
    name: 'What comes next',
    make: whatComesNext,
    against: ['missed-slot', 'several-unseated', 'screen-not-bonded'],
  },
  'where-to-take-care': {
    name: 'Where to take care',
    make: whereToTakeCare,
    against: ['touching-neighbours', 'screen-strand', 'pierced-pair'],
  },
  'pair-by-colour': {
    name: 'Pair by colour',
    make: pairByColour,
    against: ['other-pair', 'wrong-splice'],
  },
};

/** The drill of a kind and a seed: always the same. */
export const makeDrill = (kind: DrillKind, seed: number): Drill => DRILLS[kind].make(seededRandom(seed));

/** How often each drill is called for by what was found wrong at work. */
export function calledFor(found: readonly { slip: string; times: number }[]): Record<DrillKind, number> {
  const times = (kind: DrillKind): number =>
    found.reduce(
      (sum, { slip, times: n }) => sum + (DRILLS[kind].against.some((each) => each === slip) ? n : 0),
      0,
    );
  return Object.fromEntries(DRILL_KINDS.map((kind) => [kind, times(kind)])) as Record<DrillKind, number>;
}
