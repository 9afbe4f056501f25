import { preferredValues } from '../quantities/preferred.js';
import { blindTo } from './blindness.js';
import type { LinkExpectation } from './expectation.js';
import type { FaultKind } from './instruments.js';

/** What a person has for a tester of their own. */
export interface LampTesterParts {
  supplyV: number;
  lampDropV: number;
  lampMa: number;
  pairs: number;
  /** Resistance of the longest loop to be tested. */
  loopOhm: number;
}

/** A home-made tester worked out: one lamp and resistor per pair, the far end bridged pair by pair. */
export interface LampTester {
  resistorOhm: number;
  /** Through the lamp with no cable, and through the longest loop. */
  fullMa: number;
  longestMa: number;
  resistorMw: number;
  /** Loop resistance at which the lamp has a third of its current left: it may look lit or dark. */
  doubtfulOhm: number;
  /** Hours of light from a battery of 500 mAh with every lamp lit. */
  hours: number;
  wiring: readonly string[];
  blindTo: readonly FaultKind[];
}

const BATTERY_MAH = 500;

/**
 * Works out a home-made lamp tester: a series resistor of the E12 series per lamp, never letting more
 * than the lamp's own current flow. What it cannot see is computed for a link of the kind it is to test.
 * @throws RangeError when the supply cannot light the lamp, or a figure makes no sense
 */
export function designLampTester(parts: LampTesterParts, tested: LinkExpectation): LampTester {
  const { supplyV, lampDropV, lampMa, pairs, loopOhm } = parts;
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
  return {
    resistorOhm,
    fullMa,
    longestMa: current(loopOhm),
    resistorMw: (fullMa / 1000) ** 2 * resistorOhm * 1000,
    doubtfulOhm: 2 * resistorOhm,
    hours: BATTERY_MAH / (fullMa * pairs),
    wiring: [
      `Supply plus to ${pairs === 1 ? 'the lamp' : `all ${pairs} lamps`}, each through its own ${resistorOhm} ohm to one contact of a pair.`,
      'The other contact of each pair to supply minus.',
      'Far end: a plug with the two contacts of each pair joined, pair by pair, and nothing else.',
    ],
    blindTo: blindTo(tested, [{ instrument: 'lamp-pairs' }]),
  };
}
