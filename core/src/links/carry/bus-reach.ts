/** Buses by their speed: how far a line reaches. */
export type BusLaw = 'rs-485' | 'can';

/** What a bus run is to carry. */
export interface BusUse {
  law: BusLaw;
  bitPerS: number;
}

/** Lengths of a CAN line by its speed (ISO 11898-2, usual table): every node hears a bit before it ends. */
const CAN: readonly [bitPerS: number, mostM: number][] = [
  [1_000_000, 40],
  [500_000, 100],
  [250_000, 250],
  [125_000, 500],
  [50_000, 1000],
];

/** Length times speed that an RS-485 line bears, and the most whatever the speed (ANSI/TIA/EIA-485-A's guideline). */
const RS485_METRE_BIT_PER_S = 1e8;
const RS485_MOST_M = 1200;

/** How far a bus reaches at its speed, metres; 0 where it is faster than the bus can be. */
export function busReachM({ law, bitPerS }: BusUse): number {
  if (law === 'rs-485') return Math.min(RS485_MOST_M, RS485_METRE_BIT_PER_S / bitPerS);
  // Between two rows of the table the faster one's length holds.
  return CAN.filter(([rate]) => rate >= bitPerS).at(-1)?.[1] ?? 0;
}
