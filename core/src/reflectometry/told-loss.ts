import type { LossPoint } from '../cabling/cable-types.js';
import { typedNumber } from '../quantities/typed-number.js';
import { lossAt } from './cable-loss.js';
import type { LineFigures } from './line.js';
import type { FittedLoss } from './read-trace.js';

const MOST = { mhz: 100_000, dbPer100m: 10_000 };

/**
 * Loss as a person writes it, dB per 100 m at a frequency in MHz: `6.6 at 100`, or `6.6@100`; several apart by semicolons.
 *
 * @returns the figures, nothing where nothing is written; or what to write instead
 */
export function typedLoss(text: string): { loss: LossPoint[] | undefined; trouble: string } {
  if (text.trim() === '') return { loss: undefined, trouble: '' };
  const loss = text.split(';').map((words) => {
    const [dbPer100m = NaN, mhz = NaN] = words.split(/\s+at\s+|@/i).map(typedNumber);
    return { mhz, dbPer100m };
  });
  const good = loss.every(
    ({ mhz, dbPer100m }) => mhz > 0 && mhz <= MOST.mhz && dbPer100m > 0 && dbPer100m <= MOST.dbPer100m,
  );
  return good
    ? { loss, trouble: '' }
    : { loss: undefined, trouble: 'Loss: write dB per 100 m at a frequency in MHz, such as 6.6 at 100.' };
}

/** The same written out, as it is read again. */
export const lossWords = (loss: readonly LossPoint[]): string =>
  loss.map(({ mhz, dbPer100m }) => `${dbPer100m} at ${mhz}`).join('; ');

/** What a trace says of loss as a figure of the cable, to three digits, at the frequency where its launch says most. */
export function lossPointOf({ share, aboutHz }: FittedLoss, line: LineFigures): LossPoint {
  const mhz = aboutHz / 1e6;
  return {
    mhz: Number(mhz.toPrecision(3)),
    dbPer100m: Number((share * lossAt(line, mhz)).toPrecision(3)),
  };
}
