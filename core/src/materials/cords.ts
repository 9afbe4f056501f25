import type { CableType } from '../cabling/cable-types.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import { triesOf } from './offer.js';
import { takeOff, type TakeOffLine } from './take-off.js';

/** Cords of one kind that are made together. */
export interface CordBatch {
  count: number;
  /** Finished, from face to face, in metres. */
  lengthM: number;
  cable: Pick<CableType, 'id' | 'name'>;
  /** What goes on either end. */
  ends: readonly [CordEnd, CordEnd];
}
export type CordEnd = Pick<ConnectorType, 'id' | 'name' | 'parts' | 'minutes'>;

/** What they take and what they could be bought for, in any one currency; null where that is not known. */
export interface CordPrices {
  cablePerM: number | null;
  /** A connector of either end, with its parts. */
  connectors: readonly [number | null, number | null];
  hour: number | null;
  /** What is bought once for these: a die, a tester. */
  once: number;
  /** One cord that is bought ready made. */
  boughtEach: number | null;
}

/** Minutes that each kind of work takes for all of them. */
export interface CordMinutes {
  cut: number;
  terminate: number;
  test: number;
  label: number;
}

export interface CordPlan {
  /** Each piece as it is cut, in metres. */
  pieceM: number;
  layOut: TakeOffLine[];
  /** Connectors that will be used up, of either end, on average. */
  used: readonly [number, number];
  minutes: CordMinutes;
  /** Without what is bought once; null where a price is not known. */
  costEach: number | null;
  costAll: number | null;
  /** The least number from which making is the cheaper; null where it never is, or a price is not known. */
  turnsAt: number | null;
}

/** Cut away at an end until its tip is square (typical). */
const TRIM_M = 0.02;
/** Cut away by an end that is made again: so much a piece is longer, for one at either end (typical). */
const REDO_M = 0.05;
/** Minutes for a piece to be measured, cut and put by, a cord to be tested both ways, and an end to be labelled (typical). */
const MINUTES = { cut: 0.7, test: 1, label: 0.5 };
const MOST_CORDS = 10_000;

/** A batch that cannot be made, in words. */
export class BadBatch extends Error {}

/**
 * What a batch of cords takes and costs, and from which number on making them is cheaper than buying: connectors by the crew's own spoil
 * rates, of which the belief is carried through (the mean of tries for a good end is (a + b - 1) / (b - 1) for Beta(a, b)).
 *
 * @param spoilt the crew's count of a connector
 * @throws BadBatch for what is no count, length or price
 */
export function planCords(
  { count, lengthM, cable, ends }: CordBatch,
  prices: CordPrices,
  {
    spoilt,
    confidence,
  }: { spoilt: (connectorId: string) => { spoiled: number; good: number }; confidence: number },
): CordPlan {
  if (!Number.isInteger(count) || count < 1 || count > MOST_CORDS)
    throw new BadBatch(`${count} is no number of cords: 1 to ${MOST_CORDS}.`);
  if (!(lengthM > 0)) throw new BadBatch(`${lengthM} m is no length of a cord.`);
  const priced = [prices.cablePerM, ...prices.connectors, prices.hour, prices.boughtEach];
  if (priced.some((price) => price !== null && !(price > 0)))
    throw new BadBatch('A price of 0 or less says nothing: leave out what is not known.');
  if (!(prices.once >= 0)) throw new BadBatch('What is bought once costs nothing or more.');
  const pieceM = lengthM + 2 * (TRIM_M + REDO_M);
  const [near, far] = ends;
  const layOut = takeOff(
    Array.from({ length: count }, (_, n) => ({
      label: String(n + 1),
      cableTypeId: cable.id,
      pieceM,
      pulled: false,
      nearConnectorId: near.id,
      farConnectorId: far.id,
      nearDone: false,
      farDone: false,
    })),
    { connectors: [near, far], cableName: () => cable.name, spoilt, confidence },
  );
  const tries = (id: string): number => triesOf(spoilt(id));
  const used = [count * tries(near.id), count * tries(far.id)] as const;
  const minutes: CordMinutes = {
    cut: count * MINUTES.cut,
    terminate: used[0] * near.minutes + used[1] * far.minutes,
    test: count * MINUTES.test,
    label: 2 * count * MINUTES.label,
  };
  const costEach = costOf(pieceM, used, minutes, prices, count);
  return {
    pieceM,
    layOut,
    used,
    minutes,
    costEach,
    costAll: costEach === null ? null : costEach * count + prices.once,
    turnsAt: turnOf(costEach, prices),
  };
}

/** What one cord costs; null where something of it has no price. */
function costOf(
  pieceM: number,
  used: readonly [number, number],
  minutes: CordMinutes,
  { cablePerM, connectors: [near, far], hour }: CordPrices,
  count: number,
): number | null {
  if (cablePerM === null || near === null || far === null || hour === null) return null;
  const hours = (minutes.cut + minutes.terminate + minutes.test + minutes.label) / 60;
  return pieceM * cablePerM + (used[0] * near + used[1] * far + hours * hour) / count;
}

function turnOf(costEach: number | null, { boughtEach, once }: CordPrices): number | null {
  if (costEach === null || boughtEach === null || boughtEach <= costEach) return null;
  // Just as dear is not yet cheaper, whatever the last digit of a difference says.
  return Math.floor(once / (boughtEach - costEach) + 1e-9) + 1;
}
