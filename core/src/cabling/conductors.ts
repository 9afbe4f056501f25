/** One wire of a cable. Its id is unique in the cable; for colour-coded pairs it is the insulation code. */
export interface Conductor {
  id: ConductorId;
  /** Pair number, or null for a screen or drain. */
  pair: number | null;
  /** Tip (a leg, white-based) or ring (b leg); null for a screen. */
  leg: 'tip' | 'ring' | null;
}

export type ConductorId = string;

/** The screen as a conductor: foil, braid and drain taken together. */
export const SCREEN: ConductorId = 'SCREEN';

const PAIR_RING_COLOURS = ['BU', 'OG', 'GN', 'BN'] as const;

/** Four-pair cable: pair 1 blue, 2 orange, 3 green, 4 brown, each with its white mate (ANSI/TIA-568). */
export const FOUR_PAIR: readonly Conductor[] = PAIR_RING_COLOURS.flatMap((ring, index) => [
  { id: `WH-${ring}`, pair: index + 1, leg: 'tip' as const },
  { id: ring, pair: index + 1, leg: 'ring' as const },
]);

const screenConductor: Conductor = { id: SCREEN, pair: null, leg: null };

/** The conductors of a four-pair cable, with its screen when it has one. */
export function fourPairConductors(screened: boolean): readonly Conductor[] {
  return screened ? [...FOUR_PAIR, screenConductor] : FOUR_PAIR;
}

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
