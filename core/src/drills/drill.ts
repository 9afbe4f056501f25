import type { ConductorId } from '../cabling/conductors.js';
import type { View } from '../connectors/faces.js';
import type { Random } from '../quantities/random.js';

/** What there is to practise. */
export const DRILL_KINDS = [
  'order-of-eight',
  'lay-the-eight',
  'plug-turned',
  'which-face',
  'which-end',
  'what-the-map-shows',
  'read-a-trace',
  'how-far',
  'open-by-capacitance',
  'which-die',
  'what-goes-on-first',
  'what-comes-next',
  'where-to-take-care',
  'pair-by-colour',
] as const;
export type DrillKind = (typeof DRILL_KINDS)[number];

/** What a drill shows beside its question. */
export type DrillPicture =
  /** A plug from above with its contacts unnumbered; one place is asked for. */
  | { shows: 'plug'; latch: View['latch']; place: number }
  /** A connector's face with its contacts unnumbered; one of them is asked for. */
  | { shows: 'face'; layout: string; view: View; contact: string }
  /** A wire map, near to far; an empty far is open. */
  | { shows: 'map'; map: Readonly<Record<string, string | null>> }
  /** A trace, volts sample by sample, and the time of a sample. */
  | { shows: 'trace'; volts: readonly number[]; intervalS: number };

interface Asked {
  kind: DrillKind;
  asks: string;
  picture: DrillPicture | null;
  /** Why it is right. */
  reason: string;
}

/** One right answer among a few. */
export interface ChoiceDrill extends Asked {
  by: 'choice';
  options: readonly DrillOption[];
  /** Index of the right one. */
  right: number;
}

/** Pieces that lie in no order, to be laid into places, one each. */
export interface LayingDrill extends Asked {
  by: 'laying';
  /** What the places are called, left to right. */
  places: readonly string[];
  pieces: readonly DrillOption[];
  /** The index of the piece that belongs to each place. */
  right: readonly number[];
}
export type Drill = ChoiceDrill | LayingDrill;

/** What a person answered: the option chosen, or the piece in each place. */
export interface DrillReply {
  chosen: number | null;
  laid: readonly number[] | null;
}

/**
 * Whether an answer is right.
 *
 * @throws RangeError where it is no answer to this drill
 */
export function isRightReply(drill: Drill, { chosen, laid }: DrillReply): boolean {
  if (drill.by === 'choice') {
    if (chosen === null || laid !== null || chosen < 0 || chosen >= drill.options.length)
      throw new RangeError(`This drill has ${drill.options.length} answers: choose one.`);
    return chosen === drill.right;
  }
  const { pieces, places, right } = drill;
  const whole = laid?.length === places.length && new Set(laid).size === laid.length;
  if (chosen !== null || !laid || !whole || laid.some((piece) => piece < 0 || piece >= pieces.length))
    throw new RangeError(`This drill has ${places.length} places: lay one piece into each.`);
  return laid.every((piece, n) => piece === right[n]);
}

/** An answer to choose; drawn in its colours where it is a conductor. */
export interface DrillOption {
  words: string;
  conductor: ConductorId | null;
}

/** One of some; the same for the same chance. */
export function pick<Each>(random: Random, some: readonly Each[]): Each {
  const one = some[Math.floor(random() * some.length)];
  if (one === undefined) throw new RangeError('There is nothing to pick from.');
  return one;
}

/** All of some, in an order of chance. */
export function shuffled<Each>(random: Random, some: readonly Each[]): Each[] {
  const out = [...some];
  for (let n = out.length - 1; n > 0; n--) {
    const other = Math.floor(random() * (n + 1));
    [out[n], out[other]] = [out[other] as Each, out[n] as Each];
  }
  return out;
}

const MOST_OPTIONS = 4;

/** The right answer among wrong ones, those first that are likeliest mistaken for it; all different. */
export function among(
  random: Random,
  right: string,
  wrong: readonly string[],
  conductors = false,
): Pick<ChoiceDrill, 'by' | 'options' | 'right'> {
  const others = [...new Set(wrong)].filter((each) => each !== right).slice(0, MOST_OPTIONS - 1);
  const options = shuffled(random, [right, ...others]);
  return {
    by: 'choice',
    options: options.map((words) => ({ words, conductor: conductors ? words : null })),
    right: options.indexOf(right),
  };
}
