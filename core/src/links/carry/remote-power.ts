import type { CableType } from '../../cabling/cable-types.js';
import { wireOhmOf } from '../../cabling/conductor-ohms.js';
import { TWIST_LAY } from '../../metering/resistance.js';
import { COPPER_PER_DEGREE } from '../../quantities/copper.js';
import { bundleRiseC } from './bundle-heat.js';
import { MILD_C, runLengthM, scaled, type RunPiece } from './run.js';

/** A way of feeding a device over its data pairs. */
export interface PowerType {
  id: string;
  name: string;
  /** Least voltage of the source, V. */
  sourceV: number;
  /** What the source can give, W; null where its label decides. */
  sourceW: number | null;
  pairs: 2 | 4;
  /** What the standard promises at the device, W. */
  deviceW: number | null;
  /** Least voltage that the device needs, V. */
  deviceV: number;
  source: string;
}

const type = (n: number, rest: Omit<PowerType, 'id' | 'name' | 'source'>): PowerType => ({
  id: `type-${n}`,
  name: `type ${n}`,
  source: 'IEEE 802.3',
  ...rest,
});

/** Passive feeds: no handshake, and what the device needs at the least is typical. */
const passive = (sourceV: number, deviceV: number): PowerType => ({
  id: `passive-${sourceV}`,
  name: `passive ${sourceV} V`,
  sourceV,
  sourceW: null,
  pairs: 2,
  deviceW: null,
  deviceV,
  source: 'typical',
});

export const POWER_TYPES: readonly PowerType[] = [
  type(1, { sourceV: 44, sourceW: 15.4, pairs: 2, deviceW: 12.95, deviceV: 37 }),
  type(2, { sourceV: 50, sourceW: 30, pairs: 2, deviceW: 25.5, deviceV: 42.5 }),
  type(3, { sourceV: 50, sourceW: 60, pairs: 4, deviceW: 51, deviceV: 39.9 }),
  type(4, { sourceV: 52, sourceW: 90, pairs: 4, deviceW: 71.3, deviceV: 41.1 }),
  passive(12, 10),
  passive(24, 18),
  passive(48, 37),
];
export const POWER_TYPE_IDS = POWER_TYPES.map(({ id }) => id);
export const powerTypeOf = (id: string): PowerType | undefined => POWER_TYPES.find((one) => one.id === id);

/** A device that takes a fixed power off the end of two wires. */
export interface FedPoint {
  currentA: number;
  deviceV: number;
  sourceW: number;
  lostW: number;
}

/**
 * Current of a load of constant power behind a resistance: the low root of P = V I - R I². Null where the wire cannot
 * carry that much at all (V² < 4 P R).
 */
export function solveFeed(sourceV: number, loadW: number, ohm: number): FedPoint | null {
  const under = sourceV ** 2 - 4 * loadW * ohm;
  if (under < 0) return null;
  // Written so that it holds for no resistance as well.
  const currentA = (2 * loadW) / (sourceV + Math.sqrt(under));
  return {
    currentA,
    deviceV: sourceV - currentA * ohm,
    sourceW: sourceV * currentA,
    lostW: currentA ** 2 * ohm,
  };
}

/** The most that a device can have: what the source gives, the device's least voltage and the wire allow, W. */
export function mostPowerW(
  { sourceV, sourceW, deviceV }: { sourceV: number; sourceW: number | null; deviceV: number },
  ohm: number,
): number {
  if (deviceV > sourceV) return 0;
  // No more current than halves the voltage: beyond it the device gets less for more.
  const byVoltage = ohm > 0 ? (sourceV - Math.max(deviceV, sourceV / 2)) / ohm : Infinity;
  const most = Math.min(sourceW === null ? Infinity : sourceW / sourceV, byVoltage);
  return most === Infinity ? Infinity : most * (sourceV - most * ohm);
}

/** How a link is fed: what is asked for, and where the supply's own figures differ from the type's. */
export interface PowerFeed {
  type: string;
  deviceW: number;
  sourceV?: number | undefined;
  sourceW?: number | undefined;
  deviceV?: number | undefined;
}

/** What a feed comes to on a link. */
export interface FeedResult {
  /** Resistance between source and device, out and back, warm, ohm. */
  ohm: number;
  /** Null where nothing can be fed so far. */
  point: FedPoint | null;
  mostW: number;
  /** What is left of it beyond what is wanted, W. */
  spareW: number;
  /** Current in one wire, and so in one contact, A. */
  wireA: number;
  /** The middle of the warmest stretch, °C, and which it is. */
  hottestC: number;
  hottest: string;
}

/** Cable and equipment are made for this, typical: above it the sheet decides. */
export const JACKET_LIMIT_C = 60;
/** What one contact of an 8-contact plug carries warm, A (IEC 60603-7, typical). */
export const CONTACT_LIMIT_A = 0.75;
/** Both contacts of one mated connection, ohm: typical. */
const CONNECTION_OHM = 0.1;
/** Cord: stranded, 24 AWG. */
const CORD = {
  family: 'balanced',
  pairs: 4,
  conductors: 8,
  screened: false,
  awg: 24,
  stranded: true,
} as const;

const warm = (temperatureC: number): number => 1 + COPPER_PER_DEGREE * (temperatureC - MILD_C);
const ROUNDS = 12;

/**
 * A device fed over a link: its wires warm with their current and with their neighbours', and a warm wire has more
 * resistance, so that resistance, current and temperature are worked out together.
 *
 * @param cordsM cords at both ends together
 * @throws RangeError for a type that there is not
 */
export function feedLink(
  feed: PowerFeed,
  cable: CableType,
  run: readonly RunPiece[],
  { cordsM, connections }: { cordsM: number; connections: number },
): FeedResult {
  const kind = powerTypeOf(feed.type);
  if (!kind) throw new RangeError(`There is no way of feeding called ${feed.type}.`);
  const supply = {
    sourceV: feed.sourceV ?? kind.sourceV,
    sourceW: feed.sourceW ?? kind.sourceW,
    deviceV: feed.deviceV ?? kind.deviceV,
  };
  // Each way runs in this many wires side by side.
  const wires = kind.pairs;
  const perM = wireOhmOf(cable) * (1 + TWIST_LAY);
  const cordOhm = 2 * wireOhmOf(CORD) * (1 + TWIST_LAY) * cordsM + connections * CONNECTION_OHM;
  const temperatures = run.map((piece) => piece.temperatureC);
  let ohm = 0;
  let point: FedPoint | null = null;
  let wireA = 0;
  for (let round = 0; round < ROUNDS; round++) {
    ohm =
      (run.reduce((sum, piece, i) => sum + 2 * perM * piece.lengthM * warm(temperatures[i] as number), 0) +
        cordOhm) /
      wires;
    point = solveFeed(supply.sourceV, feed.deviceW, ohm);
    const currentA =
      point?.currentA ?? Math.min((supply.sourceW ?? Infinity) / supply.sourceV, supply.sourceV / (2 * ohm));
    wireA = currentA / wires;
    run.forEach((piece, i) => {
      const wattPerM = 2 * wires * wireA ** 2 * perM * warm(temperatures[i] as number);
      const rise = bundleRiseC({ fed: piece.fed, jacketMm: cable.jacketMm, wattPerM, closed: piece.closed });
      // A bundle that never settles is past any use; it is not followed further.
      temperatures[i] = Math.min(150, piece.temperatureC + rise);
    });
  }
  // A type promises so much at the device: one that wants more is no device of that type, however short the wire.
  const promisedW = kind.deviceW !== null && feed.deviceW > kind.deviceW ? kind.deviceW : Infinity;
  const mostW = Math.min(mostPowerW(supply, ohm), promisedW);
  const hottestC = Math.max(...temperatures);
  return {
    ohm,
    point,
    mostW,
    spareW: mostW - feed.deviceW,
    wireA,
    hottestC,
    hottest: run[temperatures.indexOf(hottestC)]?.name ?? '',
  };
}

/** The longest link that still feeds its device, its pieces kept in proportion, metres; 0 where none does. */
export function longestByPowerM(
  feed: PowerFeed,
  cable: CableType,
  run: readonly RunPiece[],
  ends: { cordsM: number; connections: number },
): number {
  const lengthM = runLengthM(run);
  const feeds = (m: number): boolean => feedLink(feed, cable, scaled(run, m / lengthM), ends).spareW >= 0;
  if (!feeds(0.1)) return 0;
  let [good, bad] = [0.1, 500];
  if (feeds(bad)) return bad;
  while (bad - good > 0.05) {
    const middle = (good + bad) / 2;
    if (feeds(middle)) good = middle;
    else bad = middle;
  }
  return good;
}
