/** One wire of a cable. Its id is unique in the cable: the insulation code, numbered where a colour returns. */
export interface Conductor {
  id: ConductorId;
  /** Pair number, or null where there is none. */
  pair: number | null;
  /** Tip (a leg, white-based) or ring (b leg); null where there is none. */
  leg: 'tip' | 'ring' | null;
}

export type ConductorId = string;

/** The screen as a conductor: foil, braid and drain taken together. */
export const SCREEN: ConductorId = 'SCREEN';
export const screenConductor: Conductor = { id: SCREEN, pair: null, leg: null };

/** Coax has a centre and a shell, both of them conductors to a continuity test. */
export const coaxConductors: readonly Conductor[] = [
  { id: 'CENTRE', pair: 1, leg: 'tip' },
  { id: 'SHELL', pair: 1, leg: 'ring' },
];

/** The insulation code of a conductor: its id without the number that tells equal colours apart. */
export const insulationOf = (id: ConductorId): string => id.replace(/\.\d+$/, '');

const PAIR_RING_COLOURS = ['BU', 'OG', 'GN', 'BN'] as const;

/** Four-pair cable: pair 1 blue, 2 orange, 3 green, 4 brown, each with its white mate (ANSI/TIA-568). */
export const FOUR_PAIR: readonly Conductor[] = PAIR_RING_COLOURS.flatMap((ring, index) => [
  { id: `WH-${ring}`, pair: index + 1, leg: 'tip' as const },
  { id: ring, pair: index + 1, leg: 'ring' as const },
]);

const TIP_GROUPS = ['WH', 'RD', 'BK', 'YE', 'VT'] as const;
const RING_COLOURS = ['BU', 'OG', 'GN', 'BN', 'GY'] as const;
const PAIRS_PER_BINDER = 25;

/**
 * Pairs in counting order. Up to four pairs follow the four-pair code; more follow the 25-pair
 * code: tip group white, red, black, yellow, violet by ring blue, orange, green, brown, slate
 * (slate is grey), each wire banded with its mate's colour. Binder groups repeat it.
 * @throws RangeError for less than one pair
 */
export function pairedConductors(pairs: number): readonly Conductor[] {
  if (!Number.isInteger(pairs) || pairs < 1) throw new RangeError(`${pairs} is no number of pairs.`);
  if (pairs <= 4) return FOUR_PAIR.slice(0, pairs * 2);
  return Array.from({ length: pairs }, (_, index) => {
    const inBinder = index % PAIRS_PER_BINDER;
    const tip = TIP_GROUPS[Math.floor(inBinder / 5)] as string;
    const ring = RING_COLOURS[inBinder % 5] as string;
    const binder = Math.floor(index / PAIRS_PER_BINDER);
    const mark = binder === 0 ? '' : `.${binder + 1}`;
    return [
      { id: `${tip}-${ring}${mark}`, pair: index + 1, leg: 'tip' as const },
      { id: `${ring}-${tip}${mark}`, pair: index + 1, leg: 'ring' as const },
    ];
  }).flat();
}

const numbered = (colours: readonly string[], count: number): readonly Conductor[] =>
  Array.from({ length: count }, (_, i) => {
    const round = Math.floor(i / colours.length);
    const colour = colours[i % colours.length] as string;
    return { id: round === 0 ? colour : `${colour}.${round + 1}`, pair: null, leg: null };
  });

const RAINBOW = ['BN', 'RD', 'OG', 'YE', 'GN', 'BU', 'VT', 'GY', 'WH', 'BK'] as const;
/** Ribbon conductors from the edge of conductor 1: the rainbow, repeating. */
export const ribbonConductors = (count: number): readonly Conductor[] => numbered(RAINBOW, count);

const MULTICORE = ['WH', 'BN', 'GN', 'YE', 'GY', 'PK', 'BU', 'RD', 'BK', 'VT'] as const;
/** Multicore signal cable by the common ten colours, repeating; a moulded lead follows no rule at all. */
export const multicoreConductors = (count: number): readonly Conductor[] => numbered(MULTICORE, count);

/** Conductors of a cable with an order of its own, repeating where it has more. */
export const orderedConductors = (colours: readonly string[], count: number): readonly Conductor[] =>
  numbered(colours, count);

/** The colour that names a four-pair cable's pair: pair 2 is "orange". */
export const PAIR_COLOUR_NAMES: Readonly<Record<number, string>> = {
  1: 'blue',
  2: 'orange',
  3: 'green',
  4: 'brown',
};

/** The pair a four-pair conductor belongs to. */
export function pairOf(conductor: ConductorId): number {
  const found = FOUR_PAIR.find((w) => w.id === conductor);
  if (!found?.pair) throw new RangeError(`${conductor} is not a conductor of a four-pair cable.`);
  return found.pair;
}
