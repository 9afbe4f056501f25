import type { ContactId } from '../cabling/schemes.js';
import { intendedLink, intendedMap, type LinkExpectation } from './expectation.js';
import { sameSlipBothEnds, scrambledEnd, singleFaults, type PhysicalFault } from './faults.js';
import { galvanic, splitContactPairs } from './galvanic.js';
import { contactPairsOf, observeEchoes, observeLamps, observeMap } from './observers.js';
import {
  closeMap,
  isMapReading,
  mapKey,
  readingPartition,
  type EchoEvent,
  type MapReading,
  type Reading,
} from './readings.js';
import type { LinkEnd, TrueLink } from './true-link.js';

/** One way a link could be: its faults, and the link they make. */
export interface Hypothesis {
  faults: readonly PhysicalFault[];
  link: TrueLink;
  weight: number;
}

/** Weight of a second, unrelated slip on the same link. */
const SECOND_SLIP = 0.02;

/** Velocity and launch spread: readings agree with a place within 3 % and 0.5 m. */
export function distancesAgree(aM: number, bM: number): boolean {
  return Math.abs(aM - bM) <= 0.5 + 0.03 * Math.max(aM, bM);
}

/** A test that tells whether an error-free instrument would give a reading on a link. */
export function agreement(reading: Reading): (link: TrueLink) => boolean {
  if (isMapReading(reading)) return mapAgreement(reading);
  if (reading.instrument === 'lamp-pairs') {
    return (link) =>
      Object.entries(observeLamps(link).lamps).every(([pair, lit]) => (reading.lamps[pair] ?? lit) === lit);
  }
  if (reading.instrument === 'eye') {
    const seen = Object.entries(reading.colours);
    return (link) => seen.every(([contact, colour]) => (link[reading.end][contact] ?? null) === colour);
  }
  return (link) => {
    const predicted = observeEchoes(link, reading.from).pairs;
    return Object.entries(reading.pairs).every(([pair, events]) =>
      echoesAgree(predicted[pair] ?? [], events),
    );
  };
}

function mapAgreement(reading: MapReading): (link: TrueLink) => boolean {
  if (reading.instrument === 'stepping-lamps') {
    const key = mapKey(reading);
    return (link) => mapKey(observeMap(link, 'stepping-lamps')) === key;
  }
  const partition = readingPartition(reading);
  const splits = reading.splits === null ? null : [...reading.splits].sort().join();
  return (link) =>
    galvanic(link).partition === partition &&
    (splits === null || splitContactPairs(link, contactPairsOf(link)).sort().join() === splits);
}

/** Whether an error-free instrument would read this on that link. */
export const agrees = (link: TrueLink, reading: Reading): boolean => agreement(reading)(link);

function echoesAgree(predicted: readonly EchoEvent[], seen: readonly EchoEvent[]): boolean {
  return (
    predicted.length === seen.length &&
    predicted.every(
      (event, i) => event.kind === seen[i]?.kind && distancesAgree(event.distanceM, seen[i].distanceM),
    )
  );
}

/** Distances a reflectometer gave that are not the link's own ends, from the near end. */
function echoDistances(expected: LinkExpectation, evidence: readonly Reading[]): number[] {
  const distances: number[] = [];
  for (const reading of evidence) {
    if (reading.instrument !== 'pair-reflectometer') continue;
    for (const event of Object.values(reading.pairs).flat()) {
      const atM = reading.from === 'near' ? event.distanceM : expected.lengthM - event.distanceM;
      const atAnEnd = event.distanceM === 0 || distancesAgree(event.distanceM, expected.lengthM);
      if (!atAnEnd && !distances.some((d) => distancesAgree(d, atM))) distances.push(atM);
    }
  }
  return distances;
}

/**
 * The ways a link could be that agree with all the evidence, weighted by how often each is met.
 * Single faults and the same slip at both ends come first; pairs of unrelated faults are tried
 * only where none of those agrees, and with them any re-ordering of one whole end. The weights are priors: exact belief for error-free
 * instruments, over the faults enumerated here.
 */
export function explain(expected: LinkExpectation, evidence: readonly Reading[]): Hypothesis[] {
  const intended = intendedLink(expected);
  const make = (faults: readonly PhysicalFault[], weight: number): Hypothesis => ({
    faults,
    weight,
    link: faults.reduce((link, fault) => fault.apply(link), intended),
  });
  const tests = evidence.map(agreement);
  const fits = (hypothesis: Hypothesis): boolean => tests.every((test) => test(hypothesis.link));
  const singles = singleFaults(expected, intended, echoDistances(expected, evidence));
  const both = sameSlipBothEnds(singles).map(({ faults, prior }) => make(faults, prior));
  const simple = [...singles.map((fault) => make([fault], fault.prior)), ...both].filter(fits);
  if (simple.length > 0) return byWeight(mergeAlike(simple));
  const suspects = suspectContacts(expected, evidence);
  const likely = singles.filter(({ contacts }) =>
    contacts.length > 2 ? contacts.some((c) => suspects.has(c)) : contacts.every((c) => suspects.has(c)),
  );
  const doubles: Hypothesis[] = [];
  likely.forEach((a, i) => {
    for (const b of likely.slice(i + 1)) {
      const hypothesis = make([a, b], a.prior * b.prior * SECOND_SLIP);
      if (fits(hypothesis)) doubles.push(hypothesis);
    }
  });
  const scrambled = evidence.filter(isMapReading).flatMap((reading) => {
    const { arrivals } = closeMap(reading);
    return (['near', 'far'] as const).map((end) => scrambledEnd(intended, arrivals, end));
  });
  const reordered = scrambled.map((fault) => make([fault], fault.prior * SECOND_SLIP)).filter(fits);
  return byWeight(mergeAlike([...doubles, ...reordered]));
}

/** Contacts on which any of the evidence shows something not intended. */
function suspectContacts(expected: LinkExpectation, evidence: readonly Reading[]): Set<ContactId> {
  const suspects = new Set<ContactId>();
  const add = (contacts: readonly ContactId[]): void => contacts.forEach((c) => suspects.add(c));
  const meant = intendedMap(expected);
  const wiring = intendedLink(expected);
  for (const reading of evidence) {
    if (isMapReading(reading)) {
      const { arrivals, joins, splits } = closeMap(reading);
      for (const [near, reached] of Object.entries(arrivals)) {
        if (reached.length !== 1 || reached[0] !== meant[near]) add([near, ...reached]);
      }
      add([...joins.flat(), ...(splits ?? []).flatMap((pair) => pair.split('-'))]);
    } else if (reading.instrument === 'eye') {
      add(
        Object.keys(reading.colours).filter((c) => (wiring[reading.end][c] ?? null) !== reading.colours[c]),
      );
    } else if (reading.instrument === 'lamp-pairs') {
      add(
        Object.keys(reading.lamps)
          .filter((pair) => !reading.lamps[pair])
          .flatMap((pair) => pair.split('-')),
      );
    } else {
      for (const [pair, events] of Object.entries(reading.pairs)) {
        const runsToEnd = events.every(
          (e) => e.kind === 'open' && distancesAgree(e.distanceM, expected.lengthM),
        );
        if (!runsToEnd) add(pair.split('-'));
      }
    }
  }
  return suspects;
}

/** Two descriptions of the same physical link are one explanation; the likelier wording stays. */
function mergeAlike(hypotheses: readonly Hypothesis[]): Hypothesis[] {
  const merged = new Map<string, Hypothesis>();
  for (const hypothesis of hypotheses) {
    const { near, far, breaks, unseated, joins, bridges, disturbances } = hypothesis.link;
    const key = JSON.stringify([near, far, breaks, unseated, joins, bridges, disturbances]);
    const known = merged.get(key);
    if (!known) merged.set(key, hypothesis);
    else {
      const [stays, goes] = known.weight >= hypothesis.weight ? [known, hypothesis] : [hypothesis, known];
      merged.set(key, { ...stays, weight: stays.weight + goes.weight });
    }
  }
  return [...merged.values()];
}

const byWeight = (hypotheses: Hypothesis[]): Hypothesis[] => hypotheses.sort((a, b) => b.weight - a.weight);

/** Where work would have to be done if a hypothesis is true. */
export function placesToMend(hypothesis: Pick<Hypothesis, 'faults'>): (LinkEnd | 'cable')[] {
  const order = ['near', 'far', 'cable'] as const;
  return order.filter((place) => hypothesis.faults.some((fault) => fault.end === place));
}
