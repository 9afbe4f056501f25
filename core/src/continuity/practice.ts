import type { EndExpectation } from './expectation.js';
import type { InstrumentClass } from './instruments.js';

/**
 * What goes wrong at one end of a link, or along its cable, and how often: number per end or per cable with a
 * crew in the middle of all crews. Judged from what the trade says of itself, not counted: the order of a
 * group's rows is surer than their figures.
 */
const MEDIAN_RATES = {
  /** The two wires of a pair exchanged, per end. */
  'reversed-pair': 0.01,
  /** Two wires of different pairs side by side exchanged. */
  'neighbour-swap': 0.006,
  'distant-swap': 0.001,
  'other-scheme': 0.008,
  'transposed-pairs': 0.003,
  mirror: 0.003,
  shift: 0.002,
  'pair-by-pair': 0.003,
  /** Any order at all: laid without looking. */
  'wild-order': 0.001,
  /** A wire that misses its slot, or is too short to reach its contact; per end. */
  'missed-slot': 0.012,
  /** More than one wire that does not reach: too short a cut, a plug not pressed home. */
  'several-unseated': 0.002,
  'touching-neighbours': 0.003,
  /** Any two other contacts: a bent contact, a clipped end, a wire laid across. */
  'touching-others': 0.001,
  /** More than two contacts at once: a blob, a plug not pressed, water. */
  'several-touching': 0.0006,
  'poor-joint': 0.004,
  'loose-joint': 0.004,
  'screen-not-bonded': 0.012,
  /** A strand of screen, or the drain, at any contact, or at a coax centre. */
  'screen-strand': 0.003,
  /** A telephone leg, or both, taken from another pair. */
  'other-pair': 0.003,
  'equipment-left': 0.001,
  /** From here on per cable. */
  'broken-conductor': 0.003,
  'broken-screen': 0.0005,
  'cut-through': 0.001,
  /** Some conductors broken at one place, not all. */
  'partly-cut': 0.0008,
  'pierced-pair': 0.0015,
  'pierced-others': 0.0005,
  /** Several conductors pressed together at one place: a door, a nail plate, a stool. */
  crushed: 0.001,
  'wet-or-crushed': 0.004,
  'poor-conductor': 0.001,
  'loose-conductor': 0.0005,
  'wrong-splice': 0.002,
  'other-outlet': 0.004,
  /** The cable is another length than the plan has it, by more than is usual. */
  'wrong-length': 0.03,
  /** Something that is in none of these rows. */
  unexplained: 0.0005,
} as const;

export type SlipKind = keyof typeof MEDIAN_RATES;

/** What happens along a cable or to a link as a whole. */
const ALONG: readonly SlipKind[] = [
  'broken-conductor',
  'broken-screen',
  'cut-through',
  'partly-cut',
  'pierced-pair',
  'pierced-others',
  'crushed',
  'wet-or-crushed',
  'poor-conductor',
  'loose-conductor',
  'wrong-splice',
];

/** What is met once per link. */
const OF_LINK: readonly SlipKind[] = ['other-outlet', 'wrong-length', 'unexplained'];

/**
 * How far crews and buildings differ, as a deviation of the logarithm. Hands are alike within a factor of two;
 * what befalls a cable hangs on the building and on who else works there, and is out of sight.
 */
const SPREAD = { hands: 0.7, building: 1 };

/**
 * How far the figures above may be off themselves, likewise: they are judged. What hands do everybody sees; of what befalls
 * a cable there is less to go by.
 */
const DOUBT = { hands: 0.5, building: 0.9 };

/**
 * The mean over all crews, of whom nothing is known yet, and over what the median may be: above it, as both are spread in
 * logarithms.
 */
const meanOf = (median: number, of: keyof typeof SPREAD): number =>
  median * Math.exp((SPREAD[of] ** 2 + DOUBT[of] ** 2) / 2);

/** How often each slip is met by a crew of which nothing is known; its own record moves the figures (`practiceFrom`). */
export const TYPICAL_RATES: Readonly<Record<SlipKind, number>> = Object.fromEntries(
  (Object.keys(MEDIAN_RATES) as SlipKind[]).map((kind) => [
    kind,
    meanOf(MEDIAN_RATES[kind], ALONG.includes(kind) ? 'building' : 'hands'),
  ]),
) as Record<SlipKind, number>;

/** How often a crew meets each slip, and how slips come together. */
export interface Practice {
  rates: Readonly<Record<SlipKind, number>>;
  /** Of links with something wrong, the share with two and with three things wrong. */
  second: number;
  third: number;
  /** Chance that anything is wrong at all; left out, it follows from the rates. */
  wrongShare?: number | undefined;
  /** Classes of instruments that the crew has at hand, the eye beside them; all, if left out. */
  owned?: readonly InstrumentClass[] | undefined;
}

/** Where one thing is wrong another is likelier: the same hand, tool or building. Medians of crews, as rates are. */
const TOGETHER = { second: 0.15, third: 0.05 };

export const TYPICAL_PRACTICE: Practice = {
  rates: TYPICAL_RATES,
  second: meanOf(TOGETHER.second, 'hands'),
  third: meanOf(TOGETHER.third, 'hands'),
};

/**
 * A plug's wires can slip going in; a jack's lie under a label. Everybody says so and nobody has counted it, so it is
 * taken at half of what is said.
 */
const PLUG = 1.15;
/** A pass-through plug shows its order before it is crimped: said to halve slips of order, and taken likewise. */
const SHOWN_ORDER = 0.7;
/**
 * A jack's slots are in no order of contacts and say by colour what goes where: a hand that has the row the wrong way
 * round, or one off, or lays pair beside pair, is at a plug.
 */
const AT_JACK: Partial<Record<SlipKind, number>> = { mirror: 0.1, shift: 0.1, 'pair-by-pair': 0.3 };

/** How much oftener than at a jack a slip is met at this end. */
export function handFactor(end: Pick<EndExpectation, 'connector' | 'passThrough'>, kind: SlipKind): number {
  if (end.connector === 'jack') return AT_JACK[kind] ?? 1;
  if (end.connector !== 'plug') return 1;
  const order: readonly SlipKind[] = [
    'reversed-pair',
    'neighbour-swap',
    'distant-swap',
    'transposed-pairs',
    'missed-slot',
    'wild-order',
  ];
  return end.passThrough && order.includes(kind) ? SHOWN_ORDER : PLUG;
}

/**
 * How likely one hand repeats its slip at the other end: a wrong idea of the order is carried
 * along, a wire that misses its slot is not.
 */
export const CARRIED_ALONG: Partial<Record<SlipKind, number>> = {
  'pair-by-pair': 0.7,
  'other-scheme': 0.3,
  'transposed-pairs': 0.15,
  mirror: 0.1,
  'reversed-pair': 0.05,
  'neighbour-swap': 0.03,
  'other-pair': 0.3,
};

/** Ends a crew's own count must reach to weigh as much as what is typical. */
const TYPICAL_WEIGHT = 300;

/**
 * Practice after a crew's own record: each rate is a Gamma belief that begins at the typical figure,
 * worth `TYPICAL_WEIGHT` ends, and is moved by what was found.
 * @param found how often each slip was confirmed
 * @param ends ends proved or mended in the same time; of cables, and links as a whole, there are half as many
 */
export function practiceFrom(found: Partial<Record<SlipKind, number>>, ends: number): Practice {
  const rates = Object.fromEntries(
    (Object.keys(TYPICAL_RATES) as SlipKind[]).map((kind) => {
      const seen = Math.max(0, ends) / (ALONG.includes(kind) || OF_LINK.includes(kind) ? 2 : 1);
      return [kind, (TYPICAL_RATES[kind] * TYPICAL_WEIGHT + (found[kind] ?? 0)) / (TYPICAL_WEIGHT + seen)];
    }),
  ) as Record<SlipKind, number>;
  return { ...TYPICAL_PRACTICE, rates };
}
