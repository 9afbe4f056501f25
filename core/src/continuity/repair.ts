import { placesToMend, type Hypothesis } from './belief.js';
import { list } from './compare-map.js';
import type { LinkExpectation } from './expectation.js';
import type { PhysicalFault } from './faults.js';
import { INSTRUMENTS } from './instruments.js';
import type { SlipKind } from './practice.js';
import type { LinkEnd } from './true-link.js';

/**
 * Where something is put right: an end redone, the cable mended, equipment unplugged, the right outlet
 * found, the plan corrected; `unknown` where no explanation fits.
 */
export type MendPlace = LinkEnd | 'cable' | 'unplug' | 'outlet' | 'plan' | 'unknown';

/** Work that mends a link, with what it costs. */
export interface Repair {
  places: readonly MendPlace[];
  words: string;
  /** The retest included. */
  minutes: number;
  connectors: number;
}

export const MEND_PLACES: readonly MendPlace[] = [
  'unplug',
  'outlet',
  'plan',
  'near',
  'far',
  'cable',
  'unknown',
];
/** Replacing or splicing a cable, typical. */
const CABLE_MINUTES = 45;
/** Going to an end with the tools, opening it and closing it again: typical, beside making the connector. */
const END_MINUTES = 5;
const UNPLUG_MINUTES = 1;
const OUTLET_MINUTES = 3;
const PLAN_MINUTES = 1;
/** Looking at both ends and along the cable for what nobody thought of. */
const UNKNOWN_MINUTES = 25;
/** Lifting wires off a jack's slots and punching them again. */
const REPUNCH_MINUTES = 3;
/** What a connector is worth in minutes, when work with equal minutes is compared. */
const CONNECTOR_MINUTES = 1;

const WORDS: Readonly<Record<MendPlace, string>> = {
  unplug: 'unplug the equipment and read again',
  outlet: 'find the right outlet and put the remote there',
  near: 'redo the near end',
  far: 'redo the far end',
  cable: 'mend or replace the cable',
  plan: 'correct the planned length',
  unknown: 'look at both ends and along the cable',
};

/** Minutes of work at a place, without the retest. */
export function mendMinutes(place: MendPlace, expected: LinkExpectation): number {
  if (place === 'unplug') return UNPLUG_MINUTES;
  if (place === 'outlet') return OUTLET_MINUTES;
  if (place === 'plan') return PLAN_MINUTES;
  if (place === 'unknown') return UNKNOWN_MINUTES;
  return place === 'cable' ? CABLE_MINUTES : expected[place].redoMinutes + END_MINUTES;
}

/** Everything that must be done if a hypothesis is true, what costs least first. */
export function mendingOf(hypothesis: Pick<Hypothesis, 'faults'>): MendPlace[] {
  const work = placesToMend(hypothesis);
  return MEND_PLACES.filter((place) => {
    if (place === 'unplug') return hypothesis.faults.some((fault) => fault.kind === 'equipment');
    if (place === 'outlet') return hypothesis.faults.some((fault) => fault.kind === 'not-connected');
    // A plan that is off is put right in passing where there is work to do.
    if (place === 'plan')
      return hypothesis.faults.every((fault) => fault.kind === 'length') && hypothesis.faults.length > 0;
    if (place === 'unknown') return hypothesis.faults.some((fault) => fault.kind === 'unexplained');
    return work.includes(place);
  });
}

/** Slips at a jack that are put right on its slots, without a new connector. */
const ON_THE_SLOTS: readonly SlipKind[] = [
  'reversed-pair',
  'neighbour-swap',
  'distant-swap',
  'transposed-pairs',
  'missed-slot',
  'poor-joint',
  'loose-joint',
];

/** Contacts to punch again where that mends all that is wrong at a jack; null where it does not. */
function onTheSlots(
  faults: readonly PhysicalFault[],
  place: MendPlace,
  expected: LinkExpectation,
): string[] | null {
  if ((place !== 'near' && place !== 'far') || expected[place].connector !== 'jack') return null;
  if (expected.family !== 'balanced') return null;
  const here = faults.filter((fault) => fault.end === place);
  if (here.length === 0 || !here.every(({ slip }) => ON_THE_SLOTS.includes(slip))) return null;
  return [...new Set(here.flatMap(({ contacts }) => contacts))].sort();
}

/** The work a set of places asks for; less than a new end where the faults there allow it. */
export function repairFor(
  places: readonly MendPlace[],
  expected: LinkExpectation,
  faults: readonly PhysicalFault[] = [],
): Repair {
  const works = places.map((place) => {
    const slots = onTheSlots(faults, place, expected);
    const minutes = slots ? END_MINUTES + REPUNCH_MINUTES : mendMinutes(place, expected);
    return slots && minutes < mendMinutes(place, expected)
      ? { words: `punch ${list(slots)} again at the ${place} jack`, minutes, connectors: 0 }
      : {
          words: WORDS[place],
          minutes: mendMinutes(place, expected),
          connectors: place === 'near' || place === 'far' ? 1 : 0,
        };
  });
  return {
    places,
    words: works.map((work) => work.words).join(', then ') || 'read it again',
    minutes: works.reduce((sum, work) => sum + work.minutes, 0) + INSTRUMENTS['coded-mapper'].minutes,
    connectors: works.reduce((sum, work) => sum + work.connectors, 0),
  };
}

/** Hypotheses that ask for the same work, as one: its places and its share of belief. */
export interface RepairClass {
  places: readonly MendPlace[];
  share: number;
}

/** Belief by the work it asks for, the likeliest first. */
export function repairClasses(hypotheses: readonly Pick<Hypothesis, 'faults' | 'weight'>[]): RepairClass[] {
  const classes = new Map<string, RepairClass>();
  let total = 0;
  for (const hypothesis of hypotheses) {
    const places = mendingOf(hypothesis);
    const key = places.join();
    total += hypothesis.weight;
    const known = classes.get(key);
    if (known) known.share += hypothesis.weight;
    else classes.set(key, { places, share: hypothesis.weight });
  }
  return [...classes.values()]
    .map(({ places, share }) => ({ places, share: total > 0 ? share / total : 0 }))
    .sort((a, b) => b.share - a.share);
}

/**
 * The order of places to work at when one goes by the belief alone: the most belief per minute first,
 * a retest after each.
 */
export function orderOfWork(classes: readonly RepairClass[], expected: LinkExpectation): MendPlace[] {
  return MEND_PLACES.map((place) => {
    const share = classes.reduce((sum, c) => sum + (c.places.includes(place) ? c.share : 0), 0);
    const connector = place === 'near' || place === 'far' ? CONNECTOR_MINUTES : 0;
    const minutes = mendMinutes(place, expected) + INSTRUMENTS['coded-mapper'].minutes + connector;
    return { place, value: share / minutes };
  })
    .filter(({ value }) => value > 0)
    .sort((a, b) => b.value - a.value)
    .map(({ place }) => place);
}

/**
 * Expected minutes until the link is right when one works in `orderOfWork`. A hypothesis costs every
 * place up to the last one it needs; a mere misreading costs the first.
 */
export function expectedRepairMinutes(
  hypotheses: readonly Pick<Hypothesis, 'faults' | 'weight'>[],
  expected: LinkExpectation,
): number {
  return minutesOfClasses(repairClasses(hypotheses), expected);
}

/** From this belief on that nothing is wrong nobody begins to work. */
const SOUND_SURELY = 0.98;

export function minutesOfClasses(classes: readonly RepairClass[], expected: LinkExpectation): number {
  const order = orderOfWork(classes, expected);
  const retest = INSTRUMENTS['coded-mapper'].minutes;
  const sound = classes.reduce((sum, { places, share }) => sum + (places.length === 0 ? share : 0), 0);
  return classes.reduce((sum, { places, share }) => {
    // Where nothing is wrong, the first place is worked at in vain before a retest says so, unless nobody would begin.
    const inVain = places.length === 0 && order.length > 0 && sound < SOUND_SURELY ? 0 : -1;
    const last = order.reduce((index, place, i) => (places.includes(place) ? i : index), inVain);
    const spent = order
      .slice(0, last + 1)
      .reduce((minutes, place) => minutes + mendMinutes(place, expected) + retest, 0);
    return sum + share * spent;
  }, 0);
}
