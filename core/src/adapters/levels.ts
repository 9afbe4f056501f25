import { preferredValues } from '../quantities/preferred.js';

/** What an output gives and an input takes, volts. Outputs at rated load, inputs at their thresholds. */
export interface LevelFamily {
  id: string;
  name: string;
  /** Nominal supply that the levels are of; 0 where they have none. */
  supplyV: number;
  outLowV: number;
  outHighV: number;
  inLowV: number;
  inHighV: number;
  /** Most that an input bears, both ways from ground. */
  mostV: number;
  leastV: number;
  /** The idle, logical one state is the lower voltage. */
  inverted: boolean;
  source: 'typical' | 'sheet';
}

const logic = (
  id: string,
  name: string,
  supplyV: number,
  [outLowV, outHighV, inLowV, inHighV, mostV]: readonly [number, number, number, number, number],
): LevelFamily => ({
  id,
  name,
  supplyV,
  outLowV,
  outHighV,
  inLowV,
  inHighV,
  mostV,
  leastV: -0.3,
  inverted: false,
  source: 'typical',
});

/** Level families that are met; typical figures, the device's own sheet wins. */
export const LEVEL_FAMILIES: readonly LevelFamily[] = [
  logic('ttl-5', '5 V TTL', 5, [0.4, 2.4, 0.8, 2.0, 5.5]),
  logic('cmos-5', '5 V CMOS', 5, [0.3, 4.4, 1.5, 3.5, 5.5]),
  logic('cmos-3v3', '3.3 V logic', 3.3, [0.4, 2.4, 0.8, 2.0, 3.6]),
  logic('cmos-3v3-5t', '3.3 V logic, 5 V tolerant', 3.3, [0.4, 2.4, 0.8, 2.0, 5.5]),
  logic('cmos-1v8', '1.8 V logic', 1.8, [0.45, 1.35, 0.63, 1.17, 2.1]),
  logic('cmos-1v5', '1.5 V logic', 1.5, [0.38, 1.13, 0.53, 0.98, 1.8]),
  {
    id: 'rs-232',
    name: 'RS-232',
    supplyV: 0,
    outLowV: -5,
    outHighV: 5,
    inLowV: -3,
    inHighV: 3,
    mostV: 25,
    leastV: -25,
    inverted: true,
    source: 'typical',
  },
];

/** An output's extremes: RS-232 swings from 5 to 15 V either way, others between their levels and up to their supply. */
const swingOf = ({ id, supplyV, outLowV, outHighV }: LevelFamily): { lowestV: number; highestV: number } =>
  id === 'rs-232'
    ? { lowestV: -15, highestV: 15 }
    : { lowestV: Math.min(0, outLowV), highestV: Math.max(supplyV, outHighV) };

/** How an output and an input go together. */
export interface LevelMatch {
  /** Volts by which the output's high is over, and its low under, the input's thresholds. */
  highMarginV: number;
  lowMarginV: number;
  /** Volts by which the output stays within what the input bears; under nought it does damage. */
  bearsV: number;
  polarityRight: boolean;
  verdict: 'fits' | 'tight' | 'does not read' | 'inverted' | 'damages';
}

/** Less margin than this is tight: noise and ground differences use it up. */
const TIGHT_V = 0.2;

/**
 * Whether an input reads an output, with the margins left. An output whose supply sags or varies by
 * a tolerance gives its high in proportion; thresholds that go with the input's own supply sag with
 * that.
 *
 * @param supplies the supplies as they are, as shares of nominal: 1 for nominal, 0.75 for a
 *   battery at its end, 0.95 for the lower end of a tolerance
 */
export function matchLevels(
  driver: LevelFamily,
  receiver: LevelFamily,
  supplies: { driver?: number; receiver?: number } = {},
): LevelMatch {
  const { driver: drive = 1, receiver: receive = 1 } = supplies;
  const sag = driver.supplyV > 0 ? drive : 1;
  const threshold = receiver.supplyV > 0 ? receive : 1;
  const { lowestV, highestV } = swingOf(driver);
  const highMarginV = driver.outHighV * sag - receiver.inHighV * threshold;
  const lowMarginV = receiver.inLowV * threshold - driver.outLowV;
  const bearsV = Math.min(receiver.mostV - highestV * sag, lowestV - receiver.leastV);
  const polarityRight = driver.inverted === receiver.inverted;
  const least = Math.min(highMarginV, lowMarginV);
  const verdict =
    bearsV < -1e-9
      ? 'damages'
      : least < 0
        ? 'does not read'
        : !polarityRight
          ? 'inverted'
          : least < TIGHT_V
            ? 'tight'
            : 'fits';
  return { highMarginV, lowMarginV, bearsV, polarityRight, verdict };
}

/** Two resistors that divide an output down to an input. */
export interface Divider {
  /** From the output to the input, and from there to ground, ohm. */
  seriesOhm: number;
  groundOhm: number;
  /** High and highest level at the input, with resistors at the unlucky ends of their tolerance. */
  highV: number;
  highestV: number;
  /** Current that the output gives at its high, amperes. */
  loadA: number;
  /** Bits a second that still get through into the input's capacitance. */
  mostBaud: number;
}

/** An input and a short lead. */
const INPUT_F = 25e-12;
/** A bit has to be so many time constants long. */
const BITS_TAU = 5;
const SERIES_TOLERANCE = 0.05;
/** A supply is seldom at nominal: from what it falls to, to what it rises to, as shares. */
const SUPPLY = { least: 0.9, most: 1.05 };

/**
 * A resistive divider of the E24 series that brings an output down to what an input bears and still
 * reads, wherever the two supplies stand within their tolerance, for one way down; null where no ratio does both. Of those that do, the one with the most
 * margin; resistance is chosen so that the output gives no more than `mostLoadA`.
 */
export function chooseDivider(
  driver: LevelFamily,
  receiver: LevelFamily,
  { mostLoadA = 1e-3 }: { mostLoadA?: number } = {},
): Divider | null {
  const { lowestV, highestV } = swingOf(driver);
  if (lowestV < receiver.leastV || driver.inverted !== receiver.inverted) return null;
  const values = preferredValues('E24', 1000, 100_000);
  let best: { divider: Divider; margin: number } | null = null;
  for (const groundOhm of values) {
    for (const seriesOhm of values) {
      const loadA = (SUPPLY.most * highestV) / (seriesOhm + groundOhm);
      if (loadA > mostLoadA) continue;
      const ratio = (spread: number): number => {
        const series = seriesOhm * (1 + spread * SERIES_TOLERANCE);
        const ground = groundOhm * (1 - spread * SERIES_TOLERANCE);
        return ground / (series + ground);
      };
      const highV = driver.outHighV * SUPPLY.least * ratio(1);
      const most = highestV * SUPPLY.most * ratio(-1);
      const margin = Math.min(highV - receiver.inHighV, receiver.mostV - most);
      if (margin < 0 || driver.outLowV * ratio(-1) > receiver.inLowV) continue;
      const parallel = (seriesOhm * groundOhm) / (seriesOhm + groundOhm);
      const mostBaud = 1 / (BITS_TAU * parallel * INPUT_F);
      const better =
        !best ||
        margin > best.margin + 0.02 ||
        // As good a ratio: the lower resistance is the faster.
        (margin > best.margin - 0.02 && mostBaud > best.divider.mostBaud);
      if (better)
        best = { margin, divider: { seriesOhm, groundOhm, highV, highestV: most, loadA, mostBaud } };
    }
  }
  return best?.divider ?? null;
}

/** A speed to two figures, which is all that a rule of thumb is good for. */
const bitsASecond = (baud: number): string =>
  baud >= 1e6
    ? `${Number((baud / 1e6).toPrecision(2))} Mbit/s`
    : `${Number((baud / 1e3).toPrecision(2))} kbit/s`;

/** What makes an output and an input go together. */
export interface LevelChange {
  by: 'nothing' | 'divider' | 'two-transistor stage' | 'FET with two pull-ups' | 'RS-232 driver chip';
  words: string;
  divider: Divider | null;
  mostBaud: number | null;
}

/** A FET's two pull-ups of 10 kilohm lift a line of this capacitance. */
const PULL_UP = { ohm: 10_000, farad: 50e-12 };
const STAGE_BAUD = 115_200;
/** A FET is surely on where its gate stands this much above its threshold. */
const SURELY_ON = 0.6;
/** A transistor is surely on where its base gets a tenth of what its collector draws. */
const FORCED_GAIN = 10;
const BASE_V = 0.7;

/** The most threshold of a FET whose gate stands on the lower supply and whose source an output pulls low, volts. */
const fetThresholdV = (one: LevelFamily, other: LevelFamily): number => {
  const low = one.supplyV <= other.supplyV ? one : other;
  return SURELY_ON * (SUPPLY.least * low.supplyV - low.outLowV);
};

/** The base resistor of a stage whose collector pulls a pull-up down: the largest usual one that surely drives it. */
function baseOhm(driver: LevelFamily, receiver: LevelFamily): number {
  const collectorA = (SUPPLY.most * receiver.supplyV) / PULL_UP.ohm;
  const most = (FORCED_GAIN * Math.max(0.1, SUPPLY.least * driver.outHighV - BASE_V)) / collectorA;
  return preferredValues('E6', 1000, 100_000).findLast((ohm) => ohm <= Math.min(most, 47_000)) ?? 1000;
}

/** Figures that a stage between these two is built with. */
export const levelChangeFigures = (
  driver: LevelFamily,
  receiver: LevelFamily,
): { baseOhm: number; pullUpOhm: number; thresholdV: number } => ({
  baseOhm: baseOhm(driver, receiver),
  pullUpOhm: PULL_UP.ohm,
  thresholdV: fetThresholdV(driver, receiver),
});

/**
 * How an output is brought to an input: nothing where it fits, resistors down, transistors up, a FET
 * for a line that goes both ways, a driver chip for RS-232 against logic.
 */
export function proposeLevelChange(
  driver: LevelFamily,
  receiver: LevelFamily,
  { bothWays = false }: { bothWays?: boolean } = {},
): LevelChange {
  const there = matchLevels(driver, receiver);
  const back = bothWays ? matchLevels(receiver, driver) : there;
  const fine = (match: LevelMatch): boolean => match.verdict === 'fits' || match.verdict === 'tight';
  if (fine(there) && fine(back))
    return { by: 'nothing', words: 'The levels go together as they are.', divider: null, mostBaud: null };
  if (driver.inverted !== receiver.inverted)
    return {
      by: 'RS-232 driver chip',
      words: `A line driver and receiver chip between ${driver.name} and ${receiver.name}: the one is inverted and swings both sides of ground, which resistors do not mend.`,
      divider: null,
      mostBaud: 250_000,
    };
  if (bothWays) {
    const mostBaud = 1 / (BITS_TAU * PULL_UP.ohm * PULL_UP.farad);
    return {
      by: 'FET with two pull-ups',
      words: `One N-channel FET, gate on the lower supply, with a threshold of at most ${fetThresholdV(driver, receiver).toFixed(1)} V, and a pull-up of ${PULL_UP.ohm / 1000} kilohm to each side’s supply: both ways, up to ${bitsASecond(mostBaud)}.`,
      divider: null,
      mostBaud,
    };
  }
  if (there.bearsV < 0) {
    const divider = chooseDivider(driver, receiver);
    if (divider)
      return {
        by: 'divider',
        words: `${divider.seriesOhm} ohm in the way and ${divider.groundOhm} ohm to ground: ${divider.highV.toFixed(2)} V at least, ${divider.highestV.toFixed(2)} V at most, one way only, up to ${bitsASecond(divider.mostBaud)}, taking ${(1000 * divider.loadA).toFixed(1)} mA.`,
        divider,
        mostBaud: divider.mostBaud,
      };
  }
  return {
    by: 'two-transistor stage',
    words: `Two NPN transistors, emitters to ground, each with a pull-up of ${PULL_UP.ohm / 1000} kilohm to the receiver’s ${receiver.supplyV} V; ${baseOhm(driver, receiver) / 1000} kilohm from the output to the first base, and the first collector’s pull-up feeding the second base through ${PULL_UP.ohm / 1000} kilohm: one way up, not inverted, up to ${bitsASecond(STAGE_BAUD)}.`,
    divider: null,
    mostBaud: STAGE_BAUD,
  };
}
