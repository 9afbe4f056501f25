import { strandedLoss, type CableCategory } from '../../cabling/category.js';
import type { CableType } from '../../cabling/cable-types.js';

interface ClassFigures {
  /** Solid cable, dB per 100 m at 20 °C: root * sqrt(f) + linear * f + inverse / sqrt(f), f in MHz. */
  root: number;
  linear: number;
  inverse: number;
  /** A mated connection: so much times sqrt(f), at least 0.1 dB. */
  connection: number;
  /** The figures hold from 1 MHz to here. */
  toMhz: number;
}

/** Limits of ANSI/TIA-568.2-D for cable and connections. */
const CLASS: Readonly<Record<CableCategory, ClassFigures>> = {
  '5e': { root: 1.967, linear: 0.023, inverse: 0.05, connection: 0.04, toMhz: 100 },
  '6': { root: 1.808, linear: 0.017, inverse: 0.2, connection: 0.02, toMhz: 250 },
  '6A': { root: 1.82, linear: 0.0091, inverse: 0.25, connection: 0.02, toMhz: 500 },
};

/** Frequencies a channel is held against, MHz. */
const GRID = [1, 4, 8, 10, 16, 20, 25, 31.25, 62.5, 100, 125, 200, 250, 300, 350, 400, 450, 500];

/** The model channel: so much solid cable, so much cord of 24 AWG, so many connections, at 20 °C. */
export const MODEL_CHANNEL = { cableM: 90, cordsM: 10, connections: 4 } as const;

/** Loss of 100 m of solid cable of a category at 20 °C, dB; f in MHz. */
export function solidDb(category: CableCategory, mhz: number): number {
  const { root, linear, inverse } = CLASS[category];
  return root * Math.sqrt(mhz) + linear * mhz + inverse / Math.sqrt(mhz);
}

/** Loss of one mated connection, dB. */
export const connectionDb = (category: CableCategory, mhz: number): number =>
  Math.max(0.1, CLASS[category].connection * Math.sqrt(mhz));

/** To which frequency a category is described, MHz. */
export const describedTo = (category: CableCategory): number => CLASS[category].toMhz;

/**
 * By how much more a cable loses when it is warm: unscreened 0.4 % a degree from 20 to 40 °C and 0.6 % from there,
 * screened 0.2 % (ANSI/TIA-568.2). Below 20 °C nothing is taken off.
 */
export function warmLossFactor(temperatureC: number, screened: boolean): number {
  if (screened) return 1 + 0.002 * Math.max(0, temperatureC - 20);
  const mild = Math.min(20, Math.max(0, temperatureC - 20));
  return 1 + 0.004 * mild + 0.006 * Math.max(0, temperatureC - 40);
}

/** Where the formula gives less, this is the limit (ISO/IEC 11801-1). */
const LEAST_LIMIT_DB = 4;

/** What the model channel of a category loses, dB: the limit at that frequency, at least 4 dB. */
export const channelLimitDb = (category: CableCategory, mhz: number): number =>
  Math.max(LEAST_LIMIT_DB, modelChannelDb(category, mhz));

const modelChannelDb = (category: CableCategory, mhz: number): number =>
  solidDb(category, mhz) * ((MODEL_CHANNEL.cableM + MODEL_CHANNEL.cordsM * strandedLoss(24)) / 100) +
  MODEL_CHANNEL.connections * connectionDb(category, mhz);

/** A channel as it will be: its cable piece by piece with their temperatures, its cords, its connections. */
export interface Channel {
  cable: Pick<CableType, 'screened' | 'stranded' | 'awg'>;
  category: CableCategory;
  pieces: readonly { lengthM: number; temperatureC: number }[];
  cordsM: number;
  connections: number;
}

/** Loss of a channel at one frequency, dB. */
export function channelDb(channel: Channel, mhz: number): number {
  const { cable, category, pieces, cordsM, connections } = channel;
  const strands = cable.stranded ? strandedLoss(cable.awg) : 1;
  const per100 = solidDb(category, mhz);
  const cableDb = pieces.reduce(
    (sum, { lengthM, temperatureC }) =>
      sum + (per100 * strands * warmLossFactor(temperatureC, cable.screened) * lengthM) / 100,
    0,
  );
  return cableDb + (per100 * strandedLoss(24) * cordsM) / 100 + connections * connectionDb(category, mhz);
}

/** A channel's loss held against what is wanted, at the frequency that leaves least. */
export interface LossAgainstLimit {
  mhz: number;
  isDb: number;
  limitDb: number;
}

/**
 * A channel's loss beside the limit of a category, over the frequencies up to one.
 *
 * @param wanted the category whose channel the application was made for
 */
export const lossCurve = (channel: Channel, wanted: CableCategory, toMhz: number): LossAgainstLimit[] =>
  GRID.filter((mhz) => mhz <= toMhz).map((mhz) => ({
    mhz,
    isDb: channelDb(channel, mhz),
    limitDb: channelLimitDb(wanted, mhz),
  }));

/** The point of the curve that leaves the smallest share of its limit. */
export function leastLossMargin(channel: Channel, wanted: CableCategory, toMhz: number): LossAgainstLimit {
  const share = ({ isDb, limitDb }: LossAgainstLimit): number => (limitDb - isDb) / limitDb;
  return lossCurve(channel, wanted, toMhz).reduce((least, point) =>
    share(point) < share(least) ? point : least,
  );
}

/**
 * The longest cable of a channel whose loss stays within the limit, its pieces kept in proportion, metres. Loss grows with length in
 * proportion, so that each frequency gives its own; 0 where cords and connections alone are too much.
 */
export function longestByLossM(channel: Channel, wanted: CableCategory, toMhz: number): number {
  const lengthM = channel.pieces.reduce((sum, piece) => sum + piece.lengthM, 0);
  const bare = { ...channel, pieces: [] };
  return Math.min(
    ...lossCurve(channel, wanted, toMhz).map(({ mhz, isDb, limitDb }) => {
      const fixed = channelDb(bare, mhz);
      return Math.max(0, (limitDb - fixed) / ((isDb - fixed) / lengthM));
    }),
  );
}
