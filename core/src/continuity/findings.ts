import type { ContactId } from '../cabling/schemes.js';
import { compareMap, list, nearFace, type Finding } from './compare-map.js';
import { contactPairsAt, intendedLink, intendedMap, type LinkExpectation } from './expectation.js';
import { frameFor } from './frame.js';
import { observe } from './observers.js';
import { metresOf, wholeM } from './observers/capacitance.js';
import {
  FED_SETS,
  isMapReading,
  type CapacitanceReading,
  type ContactGroup,
  type EchoReading,
  type MapReading,
  type PowerReading,
  type Reading,
  type ToneReading,
  type TouchReading,
  type VoltageReading,
} from './readings.js';

/** Velocity and launch spread: readings agree with a place within 3 % and 0.5 m. */
export function distancesAgree(aM: number, bM: number): boolean {
  return Math.abs(aM - bM) <= 0.5 + 0.03 * Math.max(aM, bM);
}

/**
 * Everything one reading shows that was not intended.
 * @param meant what the same instrument, asked the same, reads on the link as intended, where that is known already
 */
export function findIn(expected: LinkExpectation, reading: Reading, meant?: Reading): Finding[] {
  if (isMapReading(reading)) {
    const map = compareMap(intendedMap(expected), reading, nearFace(expected));
    return hangsElsewhere(expected, reading) ? [remoteElsewhere(reading.remote), ...map] : map;
  }
  if ('lamps' in reading) {
    const dark = Object.keys(reading.lamps).filter((pair) => !reading.lamps[pair]);
    if (dark.length === 0) return [];
    return [{ kind: 'open', contacts: dark.flatMap((p) => p.split('-')), words: `no loop on ${list(dark)}` }];
  }
  if (reading.instrument === 'eye') {
    const intended = intendedLink(expected)[reading.end];
    // What could not be read says nothing.
    const read = Object.keys(reading.colours).filter((c) => reading.colours[c] !== null);
    const wrong = read.filter((c) => (intended[c] ?? null) !== reading.colours[c]);
    const empty = (reading.empty ?? []).filter((c) => (intended[c] ?? null) !== null);
    const not = (kind: 'scrambled' | 'open', contacts: ContactId[], words: string): Finding[] =>
      contacts.length === 0
        ? []
        : [{ kind, contacts, words: `${reading.end} end ${words} ${list(contacts)}` }];
    return [...not('scrambled', wrong, 'not as the scheme on'), ...not('open', empty, 'has nothing on')];
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
      return findTones(reading, (meant as ToneReading | undefined) ?? asIntended(expected, reading));
    case 'dc-voltage':
      return findVolts(reading, (meant as VoltageReading | undefined) ?? asIntended(expected, reading));
    case 'power-tester':
      return findFeeds(reading);
    case 'capacitance-meter':
      return findFarads(expected, reading);
    default:
      return findTouches(
        expected,
        reading,
        (meant as TouchReading | undefined) ?? asIntended(expected, reading),
      );
  }
}

/** Whether the remote that answered is called by another label than this link's. */
export const hangsElsewhere = (
  { label }: LinkExpectation,
  reading: Reading,
): reading is MapReading & { remote: string } =>
  isMapReading(reading) && label !== undefined && reading.remote !== undefined && reading.remote !== label;

const remoteElsewhere = (remote: string): Finding => ({
  kind: 'not-connected',
  contacts: [],
  words: `the remote hangs at ${remote}`,
});

/** What the same instrument, asked the same, would read on the link as intended. */
function asIntended<R extends Reading>(expected: LinkExpectation, reading: R): R {
  const intended = intendedLink(expected);
  const frame = frameFor(expected, intendedLink);
  const end = 'end' in reading && reading.end !== 'cable' ? reading.end : 'near';
  return observe(intended, reading.instrument, { end, plan: reading, frame }) as R;
}

function findTouches(expected: LinkExpectation, reading: TouchReading, meant: TouchReading): Finding[] {
  const like = ohmsOfItsLike(reading, meant);
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
    if (!touch.closed || touch.ohm == null || should?.ohm == null) return [];
    const high = (words: string): Finding[] => [
      { kind: 'high-resistance', contacts, words: `${where}: ${words}` },
    ];
    if (touch.ohm > mostOhm(expected, should.ohm)) return high(`${touch.ohm} ohm`);
    const tooHigh = (usual: number | null): usual is number =>
      usual !== null && (touch.ohm ?? 0) > 1 + 1.25 * usual;
    const usual = like(i);
    if (tooHigh(usual)) return high(`${touch.ohm} ohm, where its like have ${usual}`);
    const partner = ohmOfItsPartner(expected, reading, meant, i);
    return tooHigh(partner) ? high(`${touch.ohm} ohm, where the other wire of its pair has ${partner}`) : [];
  });
}

/** What the other wire of a touch's pair has from end to end, where it should have the same; null where nobody read it. */
function ohmOfItsPartner(
  expected: LinkExpectation,
  { touches }: TouchReading,
  meant: TouchReading,
  at: number,
): number | null {
  const { mate, contacts, contactIndex } = frameFor(expected, intendedLink);
  const mateOf = ({ end, contacts: [only, ...more] }: ContactGroup): string | undefined =>
    only === undefined || more.length > 0
      ? undefined
      : contacts[end][mate[end][contactIndex(end, only)] ?? -1];
  const touch = touches[at] as TouchReading['touches'][number];
  const should = meant.touches[at]?.ohm;
  const [from, to] = [mateOf(touch.from), mateOf(touch.to)];
  if (should == null || from === undefined || to === undefined || touch.from.end === touch.to.end)
    return null;
  const other = touches.findIndex(
    (one) =>
      one.from.end === touch.from.end && one.from.contacts.join() === from && one.to.contacts.join() === to,
  );
  const meantOther = meant.touches[other]?.ohm;
  const alike = meantOther != null && Math.abs(meantOther - should) <= 0.1 * should;
  return alike ? (touches[other]?.ohm ?? null) : null;
}

/** So many paths that should have the same ohms say what those are, whatever metal and length the cable is. */
const ENOUGH_ALIKE = 4;

/** For a touch, the middle of the ohms of all that should read as it does; null for too few. */
function ohmsOfItsLike(reading: TouchReading, meant: TouchReading): (touch: number) => number | null {
  return (touch) => {
    const should = meant.touches[touch]?.ohm;
    if (should == null) return null;
    const alike = reading.touches
      .flatMap(({ closed, ohm }, i) => {
        const other = meant.touches[i]?.ohm;
        const same = other != null && Math.abs(other - should) <= 0.1 * should;
        return closed && ohm != null && same ? [ohm] : [];
      })
      .sort((a, b) => a - b);
    return alike.length < ENOUGH_ALIKE ? null : (alike[Math.floor((alike.length - 1) / 2)] as number);
  };
}

/**
 * More than a sound path can have: copper-clad aluminium has 1.55 times copper's resistance, a coax's steel
 * centre several times.
 */
const mostOhm = ({ family }: LinkExpectation, ohm: number): number =>
  family === 'coax' ? 3 + 6 * ohm : 1.5 + 1.8 * ohm;

function findTones(reading: ToneReading, meant: ToneReading): Finding[] {
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

function findVolts(reading: VoltageReading, meant: VoltageReading): Finding[] {
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

/** Polarity is no finding: devices take either. Where nobody knows what is fed, nothing can be missed. */
function findFeeds({ feeds, sets }: PowerReading): Finding[] {
  return (['a', 'b'] as const).flatMap((set): Finding[] => {
    const [first, second] = FED_SETS[set].map((pair) => pair.join('-'));
    const should = feeds === set || feeds === 'both';
    if (feeds === null || should === (sets[set] !== 'none')) return [];
    return [
      {
        kind: should ? 'open' : 'swap',
        contacts: [...FED_SETS[set].flat()],
        words: should
          ? `${first} and ${second} are not fed`
          : `${first} and ${second} are fed, which the supply does not feed`,
      },
    ];
  });
}

const ECHO_WORDS = { open: 'open', short: 'short', low: 'low impedance', high: 'high impedance' } as const;

/**
 * The length at which the pairs end, all as one: theirs where most of them agree, for plan and velocity
 * are both a little off; null where they do not, or where most were not read.
 * @param pairsInAll how many pairs the link has
 */
export function commonEnd(reading: EchoReading, pairsInAll: number): number | null {
  const pairs = Object.values(reading.pairs);
  const ends = pairs
    .flatMap((events) => events.filter((e) => e.kind === 'open').slice(-1))
    .map((e) => e.distanceM);
  const middle = [...ends].sort((a, b) => a - b)[Math.floor(ends.length / 2)];
  if (middle === undefined) return null;
  const agreeing = ends.filter((distanceM) => Math.abs(distanceM - middle) <= 0.5 + 0.02 * middle);
  return agreeing.length > pairsInAll / 2 ? middle : null;
}

/** Whether a measured length is what plan and velocity factor allow. */
export const isPlannedLength = (expected: LinkExpectation, lengthM: number): boolean =>
  Math.abs(lengthM - expected.lengthM) <= 0.5 + 0.08 * expected.lengthM;

function findEchoes(expected: LinkExpectation, reading: EchoReading): Finding[] {
  const inAll = contactPairsAt(expected, expected[reading.from].wiring).length;
  const common = commonEnd(reading, inAll);
  const planned = common === null || isPlannedLength(expected, common);
  const all = Object.keys(reading.pairs).length > 1 ? 'every pair ends' : 'it ends';
  const other: Finding[] =
    common === null || planned || common < 1
      ? []
      : [
          {
            kind: 'length',
            contacts: [],
            words: `${all} at ${common.toFixed(1)} m where the plan has ${expected.lengthM.toFixed(1)} m`,
          },
        ];
  const endM = common ?? expected.lengthM;
  const single = Object.entries(reading.pairs).flatMap(([pair, events]) =>
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
  return [...other, ...single];
}

/** A pair's figure is another's than the whole pairs' from this share on; where nobody knows theirs, than the plan's. */
const FARADS_KEEP = 0.08;
const FARADS_BY_PLAN = 0.25;

function findFarads(expected: LinkExpectation, reading: CapacitanceReading): Finding[] {
  const frame = frameFor(expected, intendedLink);
  const whole = wholeM(frame, reading);
  const shouldM = whole ?? expected.lengthM;
  const keeps = whole === null ? FARADS_BY_PLAN : FARADS_KEEP;
  const planned = Math.abs(shouldM - expected.lengthM) <= FARADS_BY_PLAN * expected.lengthM;
  const words = `whole pairs have that of about ${shouldM.toFixed(0)} m where the plan has ${expected.lengthM.toFixed(1)} m`;
  const length: Finding[] = planned ? [] : [{ kind: 'length', contacts: [], words }];
  const from = reading.end === 'far' ? ' from the far end' : '';
  const single = Object.entries(reading.nF).flatMap(([pair, nF]): Finding[] => {
    const contacts = pair.split('-');
    if (nF === null) return [{ kind: 'short', contacts, words: `${pair} is a loop, or has something on it` }];
    const share = metresOf(frame, nF) / shouldM;
    if (Math.abs(share - 1) <= keeps) return [];
    if (share > 1)
      return [
        {
          kind: 'equipment',
          contacts,
          words: `${pair} has ${nF} nF, more than a whole pair: something hangs on it`,
        },
      ];
    const atM = share * (planned ? expected.lengthM : shouldM);
    if (atM < 0.5) return [{ kind: 'open', contacts, words: `nothing is on ${pair} here (${nF} nF)` }];
    const words = `${pair} ends at about ${atM.toFixed(0)} m${from}, or is split (${nF} nF)`;
    return [{ kind: 'open', contacts, words }];
  });
  return [...length, ...single];
}

/** What one reading shows. */
export interface Shown {
  reading: Reading;
  findings: readonly Finding[];
}

/** What readings show, each thing once. A colour reading explains a map; it does not add a second fault to the headline. */
export function distinctFindings(shown: readonly Shown[]): Finding[] {
  const byMeter = shown.filter(({ reading }) => reading.instrument !== 'eye');
  const told = byMeter.some(({ findings }) => findings.length > 0) ? byMeter : shown;
  const findings = told.flatMap((one) => one.findings);
  return findings.filter((f, i) => findings.findIndex((g) => g.words === f.words) === i);
}
