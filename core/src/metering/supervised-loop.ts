import { BadMetering } from './meter.js';
import { wireOhmPerM } from './resistance.js';

/** How resistors and contacts lie in a loop that a panel watches. */
export const LOOP_LAYOUTS = [
  'contact alone',
  'one resistor',
  'resistor across',
  'two resistors',
  'three resistors',
] as const;
export type LoopLayout = (typeof LOOP_LAYOUTS)[number];

/** What a loop can be in. */
export type LoopState = 'at rest' | 'alarm' | 'tamper' | 'fault' | 'cut' | 'shorted';

/** A loop as it was built. Resistances in ohms. */
export interface SupervisedLoop {
  layout: LoopLayout;
  /** Whether the detector's contact is closed at rest (NC) or open (NO). */
  contact: 'closed at rest' | 'open at rest';
  /** Ends the loop. */
  endOhm: number;
  /** Lies across the alarm contact, in layouts that have one. */
  alarmOhm: number;
  /** Lies across the detector's fault contact, where there are three. */
  faultOhm: number;
  lengthM: number;
  awg: number;
  /** Of the resistors, as a share: 0.05 for gold, 0.01 for brown. */
  tolerance: number;
  /** Where the end's resistor lies: it watches the cable only from the far end. */
  endAt: 'the detector' | 'the panel';
}

/** What a meter reads, panel disconnected, in one state. Infinity is no reading. */
export interface LoopReading {
  state: LoopState;
  leastOhm: number;
  mostOhm: number;
}

/** What a loop reads in each state, and which states nobody can tell apart. */
export interface LoopReadings {
  readings: readonly LoopReading[];
  alike: readonly (readonly LoopState[])[];
  /** What is wrong with it as it is built; empty where nothing is. */
  warnings: readonly string[];
}

/** A meter of three and a half digits, with its leads: what it adds to what it reads. */
const METER = { share: 0.01, ohm: 0.5 };
/** A closed contact, typical, and a joint. */
const CONTACT_OHM = 0.3;

/** Wire of a gauge, its length and its temperature differ by about this much. */
const WIRE_SHARE = 0.05;

type Ohm = readonly [least: number, most: number];
const OPEN: Ohm = [Infinity, Infinity];
const CLOSED: Ohm = [0, CONTACT_OHM];
const inSeries = (...some: readonly Ohm[]): Ohm => [
  some.reduce((sum, [least]) => sum + least, 0),
  some.reduce((sum, [, most]) => sum + most, 0),
];
const beside = (a: number, b: number): number =>
  a === 0 || b === 0 ? 0 : a === Infinity ? b : b === Infinity ? a : (a * b) / (a + b);
const parallel = ([a, b]: Ohm, [c, d]: Ohm): Ohm => [beside(a, c), beside(b, d)];

/** The network at the detector with its contacts as they are. */
function detector(loop: SupervisedLoop, at: { alarm: boolean; tamper: boolean; fault: boolean }): Ohm {
  const part = (ohm: number): Ohm => [ohm * (1 - loop.tolerance), ohm * (1 + loop.tolerance)];
  const normallyClosed = loop.contact === 'closed at rest';
  const contact = normallyClosed !== at.alarm ? CLOSED : OPEN;
  const lid = at.tamper ? OPEN : CLOSED;
  const end = part(loop.endOhm);
  switch (loop.layout) {
    case 'contact alone':
      return inSeries(contact, lid);
    case 'one resistor':
      return inSeries(contact, lid, end);
    case 'resistor across':
      return inSeries(parallel(contact, end), lid);
    case 'two resistors':
      return inSeries(end, parallel(contact, part(loop.alarmOhm)), lid);
    case 'three resistors':
      return inSeries(
        end,
        parallel(contact, part(loop.alarmOhm)),
        parallel(at.fault ? OPEN : CLOSED, part(loop.faultOhm)),
        lid,
      );
  }
}

/**
 * What a meter reads at the panel's end of a supervised loop, its two wires off the panel, in each state of detector and
 * cable: network and cable with the resistors' tolerance, the wire's, and the meter's own error. Which states read alike
 * follows from that: a loop tells only what its layout lets it.
 *
 * @throws BadMetering for resistances, lengths or tolerances that are none
 */
export function loopReadings(loop: SupervisedLoop): LoopReadings {
  check(loop);
  const wireOhm = 2 * loop.lengthM * wireOhmPerM(loop.awg);
  const wire: Ohm = [wireOhm * (1 - WIRE_SHARE), wireOhm * (1 + WIRE_SHARE)];
  const end: Ohm = [loop.endOhm * (1 - loop.tolerance), loop.endOhm * (1 + loop.tolerance)];
  const watched = loop.endAt === 'the detector' || loop.layout === 'contact alone';
  // A resistor in the panel's own terminals sees nothing of the cable.
  const atDetector: SupervisedLoop = watched ? loop : { ...loop, endOhm: 0 };
  const seen = (network: Ohm): Ohm =>
    watched ? network : loop.layout === 'resistor across' ? parallel(network, end) : inSeries(network, end);
  const rest = { alarm: false, tamper: false, fault: false };
  const network = (at: typeof rest): Ohm =>
    watched || loop.layout !== 'resistor across'
      ? detector(atDetector, at)
      : detector({ ...loop, layout: 'contact alone' }, at);
  const through = (at: typeof rest): Ohm => seen(inSeries(network(at), wire));
  const states: readonly (readonly [LoopState, Ohm])[] = [
    ['at rest', through(rest)],
    ['alarm', through({ ...rest, alarm: true })],
    ['tamper', through({ ...rest, tamper: true })],
    ...(loop.layout === 'three resistors' ? ([['fault', through({ ...rest, fault: true })]] as const) : []),
    ['cut', seen(OPEN)],
    // Anywhere between the panel's terminals and the detector's.
    ['shorted', seen([0, wire[1]])],
  ];
  const readings = states.map(([state, [least, most]]) => ({
    state,
    leastOhm: Math.max(0, least * (1 - METER.share) - METER.ohm),
    mostOhm: most * (1 + METER.share) + METER.ohm,
  }));
  return { readings, alike: alikeOf(readings), warnings: warningsOf(loop, readings) };
}

const overlap = (one: LoopReading, other: LoopReading): boolean =>
  (one.leastOhm === Infinity && other.leastOhm === Infinity) ||
  (one.leastOhm <= other.mostOhm && other.leastOhm <= one.mostOhm);

/** States whose readings overlap, in groups, largest meaning first. */
function alikeOf(readings: readonly LoopReading[]): LoopState[][] {
  const groups: LoopReading[][] = [];
  for (const reading of readings) {
    const near = groups.filter((group) => group.some((other) => overlap(reading, other)));
    for (const group of near) groups.splice(groups.indexOf(group), 1);
    groups.push([...near.flat(), reading]);
  }
  const order = readings.map(({ state }) => state);
  const first = ([state]: readonly LoopState[]): number => order.indexOf(state ?? 'at rest');
  return groups
    .filter((group) => group.length > 1)
    .map((group) => group.map(({ state }) => state).sort((a, b) => order.indexOf(a) - order.indexOf(b)))
    .sort((a, b) => first(a) - first(b));
}

function warningsOf(loop: SupervisedLoop, readings: readonly LoopReading[]): string[] {
  const of = (state: LoopState): LoopReading | undefined => readings.find((each) => each.state === state);
  const alike = (one: LoopState, other: LoopState): boolean => {
    const [a, b] = [of(one), of(other)];
    return !!a && !!b && overlap(a, b);
  };
  const wireOhm = 2 * loop.lengthM * wireOhmPerM(loop.awg);
  const hidden = (['cut', 'shorted'] as const).filter((state) => alike(state, 'at rest'));
  return [
    ...(loop.endAt === 'the panel' && loop.layout !== 'contact alone'
      ? [
          'The resistor lies at the panel: it watches its own terminals and not the cable. It belongs behind the last detector.',
        ]
      : []),
    ...(hidden.length > 0
      ? [`As built, a loop that is ${hidden.join(' or ')} reads as at rest: nobody would know.`]
      : []),
    ...(alike('alarm', 'at rest') ? ['Alarm and rest read alike: the alarm contact is without effect.'] : []),
    ...(loop.layout !== 'contact alone' && wireOhm > 0.1 * loop.endOhm
      ? [
          `The wire alone adds ${wireOhm.toFixed(0)} ohm, over a tenth of the end's resistor: thicker wire, or the panel's limits are missed.`,
        ]
      : []),
  ];
}

/** What a reading means, in words: the states that it can be, and where a short lies. */
export function loopMeaning(loop: SupervisedLoop, ohm: number): string {
  const states = statesAt(loop, ohm);
  if (states.length === 0)
    return 'nothing this loop can be: another resistor, a joint of some kilohm, or another loop';
  const at = states.includes('shorted') ? shortedAtM(loop, ohm) : null;
  return `${states.join(' or ')}${at === null ? '' : `, about ${at.toFixed(0)} m from the panel`}`;
}

/** Where a short lies that reads so much, metres from the panel; null where that is further than the cable is long. */
export function shortedAtM(loop: SupervisedLoop, ohm: number): number | null {
  // Behind a resistor in the panel every short reads as that resistor.
  if (loop.endAt === 'the panel' && loop.layout !== 'contact alone') return null;
  const metres = ohm / (2 * wireOhmPerM(loop.awg));
  const [most] = loopReadings(loop).readings.filter(({ state }) => state === 'shorted');
  return most && ohm <= most.mostOhm ? Math.min(metres, loop.lengthM) : null;
}

/** States that a reading can be; none where the loop as built cannot read so. */
export function statesAt(loop: SupervisedLoop, ohm: number): LoopState[] {
  if (!(ohm >= 0)) throw new BadMetering('A resistance is nought or more; no reading at all is infinite.');
  return loopReadings(loop)
    .readings.filter(({ leastOhm, mostOhm }) =>
      ohm === Infinity ? mostOhm === Infinity : ohm >= leastOhm && ohm <= mostOhm,
    )
    .map(({ state }) => state);
}

function check({ endOhm, alarmOhm, faultOhm, lengthM, tolerance, layout }: SupervisedLoop): void {
  const used = [
    layout === 'contact alone' ? null : endOhm,
    layout === 'two resistors' || layout === 'three resistors' ? alarmOhm : null,
    layout === 'three resistors' ? faultOhm : null,
  ];
  if (used.some((ohm) => ohm !== null && !(ohm > 0 && ohm < 1e7)))
    throw new BadMetering(
      'A resistor of a loop is over 0 and under 10 megaohm: read its bands, or meter it loose.',
    );
  if (!(lengthM >= 0 && lengthM <= 5000))
    throw new BadMetering('Give the length of the cable from panel to detector, up to 5000 m.');
  if (!(tolerance >= 0 && tolerance <= 0.2))
    throw new BadMetering('A tolerance is a share, such as 0.05 for a gold band: up to 0.2.');
}
