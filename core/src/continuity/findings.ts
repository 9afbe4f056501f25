import { compareMap, list, type Finding } from './compare-map.js';
import { intendedLink, intendedMap, type LinkExpectation } from './expectation.js';
import { frameOf } from './frame.js';
import { observe } from './observers.js';
import {
  isMapReading,
  type EchoReading,
  type Reading,
  type ToneReading,
  type TouchReading,
  type VoltageReading,
} from './readings.js';

/** Velocity and launch spread: readings agree with a place within 3 % and 0.5 m. */
export function distancesAgree(aM: number, bM: number): boolean {
  return Math.abs(aM - bM) <= 0.5 + 0.03 * Math.max(aM, bM);
}

/** Everything one reading shows that was not intended. */
export function findIn(expected: LinkExpectation, reading: Reading): Finding[] {
  if (isMapReading(reading)) return compareMap(intendedMap(expected), reading);
  if (reading.instrument === 'lamp-pairs') {
    const dark = Object.keys(reading.lamps).filter((pair) => !reading.lamps[pair]);
    if (dark.length === 0) return [];
    return [{ kind: 'open', contacts: dark.flatMap((p) => p.split('-')), words: `no loop on ${list(dark)}` }];
  }
  if (reading.instrument === 'eye') {
    const intended = intendedLink(expected)[reading.end];
    const wrong = Object.keys(reading.colours).filter((c) => (intended[c] ?? null) !== reading.colours[c]);
    if (wrong.length === 0) return [];
    return [
      { kind: 'scrambled', contacts: wrong, words: `${reading.end} end not as the scheme on ${list(wrong)}` },
    ];
  }
  switch (reading.instrument) {
    case 'pair-reflectometer':
      return findEchoes(expected, reading);
    case 'wiggle':
      return reading.flickers.length === 0
        ? []
        : [
            {
              kind: 'intermittent',
              contacts: [...reading.flickers],
              words: `${list(reading.flickers)} flickers when the ${reading.end === 'cable' ? 'cable' : `${reading.end} end`} is wiggled`,
            },
          ];
    case 'tone-probe':
      return findTones(expected, reading);
    case 'dc-voltage':
      return findVolts(expected, reading);
    default:
      return findTouches(expected, reading);
  }
}

/** What the same instrument, asked the same, would read on the link as intended. */
function asIntended<R extends Reading>(expected: LinkExpectation, reading: R): R {
  const intended = intendedLink(expected);
  const end = 'end' in reading && reading.end !== 'cable' ? reading.end : 'near';
  return observe(intended, reading.instrument, { end, plan: reading, frame: frameOf(intended) }) as R;
}

function findTouches(expected: LinkExpectation, reading: TouchReading): Finding[] {
  const meant = asIntended(expected, reading);
  return reading.touches.flatMap((touch, i): Finding[] => {
    const should = meant.touches[i];
    const where = `${touch.from.end} ${list(touch.from.contacts)} to ${touch.to.end} ${list(touch.to.contacts)}`;
    const contacts = [
      ...new Set([touch.from, touch.to].flatMap((g) => (g.end === 'near' ? g.contacts : []))),
    ];
    if (should && touch.closed !== should.closed)
      return [
        {
          kind: touch.closed ? 'short' : 'open',
          contacts,
          words: `${where} ${touch.closed ? 'beeps and should not' : 'does not beep'}`,
        },
      ];
    const tooMuch =
      touch.closed && touch.ohm != null && should?.ohm != null && touch.ohm > 3 + 1.6 * should.ohm;
    return tooMuch ? [{ kind: 'high-resistance', contacts, words: `${where}: ${touch.ohm} ohm` }] : [];
  });
}

function findTones(expected: LinkExpectation, reading: ToneReading): Finding[] {
  const meant = asIntended(expected, reading);
  return reading.tones.flatMap(({ on, heard }, i): Finding[] => {
    const should = meant.tones[i]?.heard ?? [];
    const missing = should.filter((contact) => !heard.includes(contact));
    if (missing.length === 0 || missing.length < should.length) return [];
    const words = heard.length > 0 ? `is heard on ${list(heard)}` : 'is heard nowhere';
    return [
      { kind: heard.length > 0 ? 'swap' : 'open', contacts: [...on], words: `tone on ${list(on)} ${words}` },
    ];
  });
}

function findVolts(expected: LinkExpectation, reading: VoltageReading): Finding[] {
  const meant = asIntended(expected, reading);
  return reading.across.flatMap(({ contacts, volts }, i): Finding[] => {
    const should = meant.across[i]?.volts ?? 0;
    const near = (a: number, b: number): boolean => Math.abs(a - b) <= 3 + 0.2 * Math.abs(b);
    if (near(volts, should)) return [];
    const where = `across ${contacts.join(' and ')}`;
    if (should !== 0 && near(volts, -should))
      return [{ kind: 'reversed', contacts: [...contacts], words: `polarity reversed ${where}` }];
    return [
      {
        kind: should === 0 ? 'swap' : 'open',
        contacts: [...contacts],
        words: `${volts} V ${where} instead of ${should} V`,
      },
    ];
  });
}

const ECHO_WORDS = { open: 'open', short: 'short', low: 'low impedance', high: 'high impedance' } as const;

/**
 * The length at which the pairs end: where most of them agree on one not far from the plan's, theirs,
 * for plan and velocity are both a little off; else the plan's.
 */
function endOfPairs(expected: LinkExpectation, reading: EchoReading): number {
  const pairs = Object.values(reading.pairs);
  const ends = pairs
    .flatMap((events) => events.filter((e) => e.kind === 'open').slice(-1))
    .map((e) => e.distanceM);
  const middle = [...ends].sort((a, b) => a - b)[Math.floor(ends.length / 2)];
  if (middle === undefined || Math.abs(middle - expected.lengthM) > 0.5 + 0.08 * expected.lengthM)
    return expected.lengthM;
  const agreeing = ends.filter((distanceM) => Math.abs(distanceM - middle) <= 0.5 + 0.02 * middle);
  return agreeing.length > pairs.length / 2 ? middle : expected.lengthM;
}

function findEchoes(expected: LinkExpectation, reading: EchoReading): Finding[] {
  const endM = endOfPairs(expected, reading);
  return Object.entries(reading.pairs).flatMap(([pair, events]) =>
    events
      .filter((event) => !(event.kind === 'open' && distancesAgree(event.distanceM, endM)))
      .map((event): Finding => {
        const kind = event.kind === 'open' || event.kind === 'short' ? event.kind : 'disturbed';
        const fromFar = reading.from === 'far' ? ' from the far end' : '';
        const on = expected.family !== 'balanced' ? '' : ` on ${pair}`;
        return {
          kind,
          contacts: pair.split('-'),
          words: `${ECHO_WORDS[event.kind]} at ${event.distanceM.toFixed(1)} m${fromFar}${on}`,
        };
      }),
  );
}

/** A colour reading explains a map; it does not add a second fault to the headline. */
export function distinctFindings(findings: readonly Finding[]): Finding[] {
  const unique = findings.filter((f, i) => findings.findIndex((g) => g.words === f.words) === i);
  const seenByMeter = unique.filter((f) => !f.words.includes('end not as the scheme'));
  return seenByMeter.length > 0 ? seenByMeter : unique;
}
