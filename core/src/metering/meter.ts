import { NORMAL_95 } from '../chance/normal.js';

/** A meter's stated error: a share of the reading and a fixed part, both as 95 %. */
export interface MeterErrors {
  share: number;
  fixed: number;
}

/** Typical: 3 % and 10 digits of 1 pF at 2 nF full scale. */
export const CAPACITANCE_ERRORS: MeterErrors = { share: 0.03, fixed: 10e-12 };
/** Typical: 1 % and 3 digits of 0.01 ohm on a meter that shows hundredths. */
export const RESISTANCE_ERRORS: MeterErrors = { share: 0.01, fixed: 0.03 };

/** A figure with half the width of its 95 % interval, the sum that gave it, and what to mind. */
export interface Metered {
  value: number;
  u95: number;
  /** One line that a person can check by hand. */
  arithmetic: string;
  cautions: readonly string[];
}

/** Figures of a meter that cannot be of this cable, in words: what is wrong and what to do. */
export class BadMetering extends Error {}

/** Deviation of the fixed part, which is each reading's own. */
export const fixedDeviation = ({ fixed }: MeterErrors): number => fixed / NORMAL_95;
/** Deviation of the share, which all readings of one meter have in common. */
export const shareDeviation = ({ share }: MeterErrors): number => share / NORMAL_95;

export const DEAD_AND_FREE =
  'Both ends unplugged and dead: a line’s voltage spoils the reading and can spoil the meter.';
export const LEADS_OFF =
  'The meter’s own leads are taken off first: read them open (capacitance) or joined (ohms).';

/** Takes the leads' own figure off a reading. */
export function withoutLeads(reading: number, leads: number, what: string): number {
  const left = reading - leads;
  if (!(left >= 0) || !Number.isFinite(left))
    throw new BadMetering(
      `${what} is less than the leads alone give: read the leads again, and write both in the same unit.`,
    );
  return left;
}
