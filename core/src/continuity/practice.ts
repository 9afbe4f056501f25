import type { EndExpectation } from './expectation.js';

/**
 * What goes wrong at one end of a link, or along its cable, and how often: expected number per end
 * or per cable. Typical; a crew's own record moves the figures (`practiceFrom`).
 */
export const TYPICAL_RATES = {
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
  'touching-neighbours': 0.003,
  'poor-joint': 0.004,
  'loose-joint': 0.004,
  'screen-not-bonded': 0.012,
  /** A strand of screen at a contact, or at a coax centre. */
  'screen-strand': 0.003,
  'equipment-left': 0.001,
  /** From here on per cable. */
  'broken-conductor': 0.003,
  'broken-screen': 0.0005,
  'cut-through': 0.001,
  'pierced-pair': 0.0015,
  'pierced-others': 0.0005,
  'wet-or-crushed': 0.004,
  'poor-conductor': 0.001,
  'loose-conductor': 0.0005,
  'wrong-splice': 0.002,
  'other-outlet': 0.004,
} as const;

export type SlipKind = keyof typeof TYPICAL_RATES;

/** How often a crew meets each slip, and how slips come together. */
export interface Practice {
  rates: Readonly<Record<SlipKind, number>>;
  /** Of links with something wrong, the share with two and with three things wrong. */
  second: number;
  third: number;
  /** Chance that anything is wrong at all; left out, it follows from the rates. */
  wrongShare?: number | undefined;
}

export const TYPICAL_PRACTICE: Practice = { rates: TYPICAL_RATES, second: 0.12, third: 0.03 };

/** A plug's wires can slip going in; a jack's lie under a label; a pass-through plug shows its order before it is crimped. */
export function handFactor(end: Pick<EndExpectation, 'connector' | 'passThrough'>, kind: SlipKind): number {
  if (end.connector !== 'plug') return 1;
  const order: readonly SlipKind[] = [
    'reversed-pair',
    'neighbour-swap',
    'distant-swap',
    'transposed-pairs',
    'missed-slot',
    'wild-order',
  ];
  return end.passThrough && order.includes(kind) ? 0.5 : 1.3;
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
};

/** Ends a crew's own count must reach to weigh as much as what is typical. */
const TYPICAL_WEIGHT = 300;

/**
 * Practice after a crew's own record: each rate is a Gamma belief that begins at the typical figure,
 * worth `TYPICAL_WEIGHT` ends, and is moved by what was found.
 * @param found how often each slip was confirmed
 * @param ends ends (or cables) proved or mended in the same time
 */
export function practiceFrom(found: Partial<Record<SlipKind, number>>, ends: number): Practice {
  const rates = Object.fromEntries(
    (Object.keys(TYPICAL_RATES) as SlipKind[]).map((kind) => [
      kind,
      (TYPICAL_RATES[kind] * TYPICAL_WEIGHT + (found[kind] ?? 0)) / (TYPICAL_WEIGHT + Math.max(0, ends)),
    ]),
  ) as Record<SlipKind, number>;
  return { ...TYPICAL_PRACTICE, rates };
}
