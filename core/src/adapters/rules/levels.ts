import { familyOf, placeWords, type AdapterNet, type Coupling, type PlacedPin } from '../design.js';
import { matchLevels, proposeLevelChange, type LevelFamily } from '../levels.js';
import { canDrive, isOutput, listens, named, places, type RuleFinding, type RuleId } from './finding.js';

/** The lower end of a supply's tolerance, as a share of nominal. */
const SAGS = 0.9;

/** How far each end's supply falls, as a share; an end that is not in it has a usual tolerance. */
type Supplied = ReadonlyMap<string, number>;

export function levelRules({ pins }: AdapterNet, supplied: Supplied): RuleFinding[] {
  const drivers = pins.filter(canDrive);
  const listeners = pins.filter(listens);
  return drivers.flatMap((driver) =>
    listeners
      .filter((listener) => listener.pin !== driver.pin)
      .flatMap((listener) => levelsBetween(driver, listener, supplied)),
  );
}

/** `share` is what is left of the driver's levels behind a divider; 1 where there is none. */
function levelsBetween(driver: PlacedPin, listener: PlacedPin, supplied: Supplied, share = 1): RuleFinding[] {
  const [gives, takes] = [divided(familyOf(driver.pin), share), familyOf(listener.pin)];
  const contacts = places([driver, listener]);
  const between = `${named([driver])} to ${named([listener])}`;
  if (!gives || !takes)
    return driver.pin.kind === 'open-collector'
      ? []
      : [
          {
            rule: 'levels-unknown',
            severity: 'unsure',
            contacts,
            words: `${between}: the levels of ${!gives ? placeWords(driver) : placeWords(listener)} are not known.`,
            remedy: 'Look them up, or measure them with an oscilloscope.',
          },
        ];
  const match = matchLevels(gives, takes);
  const { words: remedy } = proposeLevelChange(gives, takes, {
    bothWays: driver.pin.kind === 'both' && listener.pin.kind === 'both',
  });
  const finding = (rule: RuleId, severity: RuleFinding['severity'], words: string): RuleFinding[] => [
    { rule, severity, contacts, words: `${between}: ${words}`, remedy },
  ];
  const margins = `${match.highMarginV.toFixed(2)} V over its high threshold, ${match.lowMarginV.toFixed(2)} V under its low one`;
  switch (match.verdict) {
    case 'damages':
      return finding(
        'levels-damage',
        'wrong',
        `${gives.name} goes ${(-match.bearsV).toFixed(1)} V beyond what a ${takes.name} input bears.`,
      );
    case 'does not read':
      // An open collector's high is its pull-up's, and of no family of its own.
      return driver.pin.kind === 'open-collector' && match.lowMarginV >= 0
        ? []
        : finding('levels-unread', 'wrong', `${takes.name} does not read ${gives.name}: ${margins}.`);
    case 'inverted':
      return finding('levels-inverted', 'wrong', `${gives.name} and ${takes.name} are of opposite polarity.`);
    case 'tight':
      return finding('levels-tight', 'unsure', `little is left: ${margins}.`);
    case 'fits': {
      const least = Math.min(SAGS, supplied.get(driver.end) ?? SAGS);
      const sagging = matchLevels(gives, takes, { driver: least });
      return sagging.highMarginV < 0
        ? finding(
            'levels-tight',
            'unsure',
            `it reads at nominal, not where the sender’s supply has fallen to ${Math.round(100 * least)} %: ${sagging.highMarginV.toFixed(2)} V.`,
          )
        : [];
    }
  }
}

/** A family's levels behind a divider. */
const divided = (family: LevelFamily | null, share: number): LevelFamily | null =>
  family === null || share === 1
    ? family
    : {
        ...family,
        name: `${family.name} divided to ${Math.round(100 * share)} %`,
        supplyV: family.supplyV * share,
        outLowV: family.outLowV * share,
        outHighV: family.outHighV * share,
      };

/**
 * Levels of what resistors and diodes couple: a resistor in the way with one from there to ground
 * divides, alone it lowers nothing. A level stage answers for its own.
 */
export function coupledLevels(
  { from, to, parts }: Coupling,
  nets: readonly AdapterNet[],
  couplings: readonly Coupling[],
  supplied: Supplied,
): RuleFinding[] {
  if (!parts.every(({ kind }) => kind === 'resistor' || kind === 'diode')) return [];
  return [
    [from, to],
    [to, from],
  ].flatMap(([driver, listener]) => {
    if (!driver || !listener || !isOutput(driver) || !listens(listener)) return [];
    const ground = toGroundOhm(listener, nets, couplings);
    const series = parts.reduce((sum, { ohm = 0 }) => sum + ohm, 0);
    return levelsBetween(driver, listener, supplied, ground === null ? 1 : ground / (ground + series));
  });
}

/** Ohm of a resistor from a contact's net to a ground; null where there is none. */
function toGroundOhm(
  placed: PlacedPin,
  nets: readonly AdapterNet[],
  couplings: readonly Coupling[],
): number | null {
  const on = nets.find(({ pins }) => pins.some(({ pin }) => pin === placed.pin));
  const inNet = ({ pin }: PlacedPin): boolean => on?.pins.some((other) => other.pin === pin) ?? false;
  const grounds = ({ pin }: PlacedPin): boolean => pin.kind === 'ground';
  const down = couplings.find(
    ({ from, to, parts }) =>
      parts.length === 1 &&
      parts[0]?.kind === 'resistor' &&
      ((inNet(from) && grounds(to)) || (inNet(to) && grounds(from))),
  );
  return down?.parts[0]?.ohm ?? null;
}

/** What is left between an output and an input that hears it: at nominal, and where the sender's supply has fallen. */
export interface LevelMargin {
  from: PlacedPin;
  to: PlacedPin;
  nominal: { highV: number; lowV: number };
  /** The share of its supply that the sender is left with, and what is left then. */
  sagged: { share: number; highV: number; lowV: number };
}

/** Margins of every straight join whose levels are known at both ends. */
export function levelMargins(nets: readonly AdapterNet[], supplied: Supplied): LevelMargin[] {
  return nets.flatMap(({ pins }) =>
    pins.filter(canDrive).flatMap((from) =>
      pins.filter(listens).flatMap((to): LevelMargin[] => {
        const [gives, takes] = [familyOf(from.pin), familyOf(to.pin)];
        if (!gives || !takes || from.pin === to.pin) return [];
        const share = Math.min(SAGS, supplied.get(from.end) ?? SAGS);
        const [there, low] = [matchLevels(gives, takes), matchLevels(gives, takes, { driver: share })];
        return [
          {
            from,
            to,
            nominal: { highV: there.highMarginV, lowV: there.lowMarginV },
            sagged: { share, highV: low.highMarginV, lowV: low.lowMarginV },
          },
        ];
      }),
    ),
  );
}
