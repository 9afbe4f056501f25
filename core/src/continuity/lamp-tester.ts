import { preferredValues } from '../quantities/preferred.js';
import { blindTo } from './blindness.js';
import { intendedLink, type LinkExpectation } from './expectation.js';
import type { FaultKind } from './instruments.js';
import { observe } from './observers.js';
import type { LampReading } from './readings.js';
import type { TrueLink } from './true-link.js';

/** Each lamp's way back is its own pair's, or one for all: the solid wires joined at the tester. */
export type LampReturn = 'pair by pair' | 'one for all';
/** A resistor for each lamp, or one in the supply that all share. */
export type LampResistor = 'each lamp' | 'one in the supply';

/** What a person has for a tester of their own. */
export interface LampTesterParts {
  supplyV: number;
  lampDropV: number;
  lampMa: number;
  pairs: number;
  /** Resistance of the longest loop to be tested. */
  loopOhm: number;
  returns?: LampReturn;
  resistor?: LampResistor;
}

/** A cord with two contacts of its far plug exchanged, and what the tester shows of it. */
export interface WrongCord {
  exchanged: readonly [string, string];
  /** Pairs whose lamps stay dark. */
  dark: readonly string[];
}

/** A home-made tester worked out: a lamp per pair, the far end bridged pair by pair. */
export interface LampTester {
  resistorOhm: number;
  /** Through a lamp that is lit alone, with no cable, and through the longest loop. */
  fullMa: number;
  longestMa: number;
  /** Through each lamp while one, two, ... of them are lit. */
  litMa: readonly number[];
  resistorMw: number;
  /** Loop resistance at which the lamp has a third of its current left: it may look lit or dark. */
  doubtfulOhm: number;
  /** Hours of light from a battery of 500 mAh with every lamp lit. */
  hours: number;
  wiring: readonly string[];
  /** The order of making it. */
  making: readonly string[];
  /** A cord made wrong on purpose that it shows, and one that it passes: null where there is none. */
  shows: WrongCord | null;
  passes: WrongCord | null;
  blindTo: readonly FaultKind[];
}

const BATTERY_MAH = 500;

/**
 * Works out a home-made lamp tester: a series resistor of the E12 series, never letting more than a lamp's own current
 * flow. What it cannot see, and the cords to prove it with, are computed for a link of the kind it is to test.
 * @throws RangeError when the supply cannot light the lamp, or a figure makes no sense
 */
export function designLampTester(parts: LampTesterParts, tested: LinkExpectation): LampTester {
  const { supplyV, lampDropV, lampMa, pairs, loopOhm } = parts;
  const { returns = 'pair by pair', resistor = 'each lamp' } = parts;
  for (const [name, value] of Object.entries({ supplyV, lampDropV, lampMa })) {
    if (!(value > 0)) throw new RangeError(`${name} is ${value}: give more than nothing.`);
  }
  if (!(loopOhm >= 0)) throw new RangeError(`loopOhm is ${loopOhm}: a loop has no less than 0 ohm.`);
  if (!Number.isInteger(pairs) || pairs < 1 || pairs > 25)
    throw new RangeError(`${pairs} pairs: give 1 to 25.`);
  if (supplyV > 30) throw new RangeError(`${supplyV} V is too much to touch safely: stay below 30 V.`);
  if (supplyV < lampDropV + 0.5)
    throw new RangeError(
      `A supply of ${supplyV} V does not light a lamp that drops ${lampDropV} V: take half a volt more at least.`,
    );
  const over = supplyV - lampDropV;
  const leastOhm = over / (lampMa / 1000);
  const resistorOhm = preferredValues('E12', leastOhm, leastOhm * 2)[0] ?? leastOhm;
  const current = (ohm: number): number => (over / (resistorOhm + ohm)) * 1000;
  const fullMa = current(0);
  // What one resistor lets through is shared by all lamps that are lit.
  const shared = resistor === 'one in the supply';
  const litMa = Array.from({ length: pairs }, (_, n) => (shared ? fullMa / (n + 1) : fullMa));
  const instrument = returns === 'one for all' ? 'lamps-one-return' : 'lamp-pairs';
  return {
    resistorOhm,
    fullMa,
    longestMa: current(loopOhm),
    litMa,
    resistorMw: (fullMa / 1000) ** 2 * resistorOhm * 1000,
    doubtfulOhm: 2 * resistorOhm,
    hours: BATTERY_MAH / (shared ? fullMa : fullMa * pairs),
    wiring: wiringOf(pairs, resistorOhm, returns, resistor),
    making: makingOf(returns, resistor),
    ...wrongCords(tested, instrument),
    blindTo: blindTo(tested, [{ instrument }]),
  };
}

function wiringOf(pairs: number, resistorOhm: number, returns: LampReturn, resistor: LampResistor): string[] {
  const lamps = pairs === 1 ? 'the lamp' : `all ${pairs} lamps`;
  const feed = returns === 'one for all' ? 'the white-based wire of its pair' : 'one contact of a pair';
  return [
    resistor === 'each lamp'
      ? `Supply plus to ${lamps}, each through its own ${resistorOhm} ohm to ${feed}.`
      : `Supply plus through one ${resistorOhm} ohm to ${lamps}, each on to ${feed}. Lamps of one kind and colour, or one takes it all.`,
    returns === 'one for all'
      ? 'The solid wires of all pairs joined, and that to supply minus.'
      : 'The other contact of each pair to supply minus, pair by pair through its own wire.',
    'Far end: a plug with the two contacts of each pair joined, pair by pair, and nothing else.',
  ];
}

/** What goes on first, and what cannot be mended later. */
const makingOf = (returns: LampReturn, resistor: LampResistor): string[] => [
  'Holes and the cable’s way into the box first, its strain relief on the cable before a wire is soldered.',
  'Lamps into their holes, all with the long leg, the plus, to one side: a light-emitting diode turned round stays dark for ever.',
  resistor === 'each lamp'
    ? 'A resistor on each plus leg, the other ends on one bar, the bar to the switch.'
    : 'All plus legs on one bar, the bar through the resistor to the switch.',
  'A sleeve on each wire, then wire by wire from its lamp to its contact, read by the scheme.',
  returns === 'one for all'
    ? 'The solid wires together on a second bar, the bar to the battery’s minus.'
    : 'Each pair’s other wire to the battery’s minus; they meet only there.',
  'Battery last, with the switch off.',
];

/** Two cords, each with two contacts of the far plug exchanged: the first in order that is shown, and that is passed. */
function wrongCords(
  tested: LinkExpectation,
  instrument: LampReading['instrument'],
): { shows: WrongCord | null; passes: WrongCord | null } {
  const right = intendedLink(tested);
  const contacts = Object.keys(right.far).filter((contact) => right.near[contact] != null);
  let shows: WrongCord | null = null;
  let passes: WrongCord | null = null;
  for (const [i, one] of contacts.entries())
    for (const other of contacts.slice(i + 1)) {
      const cord: TrueLink = {
        ...right,
        far: { ...right.far, [one]: right.far[other] ?? null, [other]: right.far[one] ?? null },
      };
      const { lamps } = observe(cord, instrument) as LampReading;
      const dark = Object.keys(lamps).filter((pair) => !lamps[pair]);
      const wrong: WrongCord = { exchanged: [one, other], dark };
      if (dark.length > 0) shows ??= wrong;
      else passes ??= wrong;
    }
  return { shows, passes };
}
