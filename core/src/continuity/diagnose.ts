import { believe, type Belief, type Hypothesis } from './belief.js';
import { list, type Finding } from './compare-map.js';
import type { LinkExpectation } from './expectation.js';
import type { PhysicalFault } from './faults.js';
import { distinctFindings, findIn } from './findings.js';
import { blindnessInWords, INSTRUMENTS, type FaultKind } from './instruments.js';
import { rankLooks, type Look } from './next-look.js';
import { provesMap } from './proof.js';
import type { Practice } from './practice.js';
import { isMapReading, type Reading } from './readings.js';
import { MEND_PLACES, mendingOf, repairFor, type MendPlace, type Repair } from './repair.js';
import { readingsThatHold, type Evidence } from './timeline.js';

/** A way the evidence could have come about, with its share of belief and the work it asks for. */
export interface Explanation {
  probability: number;
  words: string;
  faults: readonly Pick<PhysicalFault, 'kind' | 'end' | 'contacts' | 'pairs' | 'distanceM'>[];
  repair: Repair;
}

/** What is known of a link, what that rests on, and what to do. */
export interface Diagnosis {
  result: 'pass' | 'fail' | 'cannot-tell';
  /** The most that has been proved. */
  proves: 'map' | 'loops' | 'nothing';
  headline: string;
  detail: string;
  findings: readonly Finding[];
  restsOn: readonly string[];
  blindTo: readonly FaultKind[];
  explanations: readonly Explanation[];
  /** Belief in explanations that were not worked through, at most. */
  discarded: number;
  /** The work to do when it is decided; null while a look would save more than it costs. */
  repair: Repair | null;
  nextLook: Look | null;
  otherLooks: readonly Look[];
}

const EXPLANATIONS_SHOWN = 5;
/** A mere misreading is named as an explanation from this share on. */
const WORTH_SAYING = 0.01;
/** A place needs work, or needs none, once no more belief than this says otherwise. */
const SETTLED = 0.1;
/** With more belief than this that nothing is wrong, odd readings do not make a fault. */
const MISREAD_POSSIBLE = 0.25;
const MISREAD_SURE = 0.99;

/**
 * Judges a link by all evidence, oldest first: the verdict in words, what it rests on, what nobody has
 * been able to see, what would explain it, and the look or the work that comes next. The verdict
 * rests on the readings that still hold (`readingsThatHold`); belief also on what was read and done
 * before.
 */
export function diagnose(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  practice?: Practice,
): Diagnosis {
  const readings = readingsThatHold(evidence);
  const findings = readings.flatMap((reading) => findIn(expected, reading));
  const shared = {
    restsOn: readings.map((reading) => INSTRUMENTS[reading.instrument].name),
    blindTo: unseen(expected, readings),
  };
  if (findings.length === 0) return { ...soundVerdict(expected, readings, shared.blindTo), ...shared };
  return {
    ...faultVerdict(expected, believe(expected, evidence, practice), readings, distinctFindings(findings)),
    ...shared,
  };
}

function faultVerdict(
  expected: LinkExpectation,
  belief: Belief,
  readings: readonly Reading[],
  findings: readonly Finding[],
): Omit<Diagnosis, 'restsOn' | 'blindTo'> {
  const explanations = toExplanations(belief.hypotheses, expected);
  const looks = rankLooks(belief, expected);
  const best = explanations[0];
  const misread = belief.sound;
  const shown = capitalise(findings.map((f) => f.words).join('; '));
  // Only a clean map can outvote a reading that shows a fault.
  const outvoted = readings.some(
    (reading) => provenBy(expected, reading) === 'map' && findIn(expected, reading).length === 0,
  );
  if (misread >= MISREAD_SURE && outvoted) {
    const verdict = soundVerdict(expected, readings, unseen(expected, readings));
    return {
      ...verdict,
      detail: `One reading said otherwise (${shown.toLowerCase()}); the others together make that a misreading. ${verdict.detail}`,
      findings,
      discarded: belief.discarded,
    };
  }
  const undecided = misread > MISREAD_POSSIBLE;
  return {
    result: undecided ? 'cannot-tell' : 'fail',
    proves: 'nothing',
    headline: undecided ? `Readings disagree: ${shown}` : shown,
    detail: undecided
      ? `Either something opens and closes, or one reading was wrong (${Math.round(misread * 100)} %). Read again before mending anything.`
      : failDetail(belief, explanations),
    findings,
    explanations,
    discarded: belief.discarded,
    repair: looks.length === 0 && best && !undecided ? best.repair : null,
    nextLook: looks[0] ?? (undecided || !best ? readAgain(readings) : null),
    otherLooks: looks.slice(1),
  };
}

function soundVerdict(
  expected: LinkExpectation,
  evidence: readonly Reading[],
  blindTo: readonly FaultKind[],
): Omit<Diagnosis, 'restsOn' | 'blindTo'> {
  const proofs = evidence.map((reading) => provenBy(expected, reading));
  const none = {
    findings: [],
    explanations: [],
    discarded: 0,
    repair: null,
    nextLook: null,
    otherLooks: [],
  };
  const notSeen = blindTo.length > 0 ? `Not seen: ${blindnessInWords(blindTo)}.` : '';
  if (proofs.includes('map')) {
    const splitsSeen = evidence.some((r) => isMapReading(r) && r.splits !== null);
    return {
      ...none,
      result: 'pass',
      proves: 'map',
      headline: splitsSeen ? 'Map right, pairs right' : 'Map right',
      detail: `Every contact arrives where it was meant to, and nowhere else. ${notSeen} This is not a certification.`,
    };
  }
  if (proofs.includes('loops')) {
    return {
      ...none,
      result: 'pass',
      proves: 'loops',
      headline: 'Every lamp lit: each pair conducts as a loop',
      detail: `That is all it says. ${notSeen} A mapper has to prove the map.`,
    };
  }
  return {
    ...none,
    result: 'cannot-tell',
    proves: 'nothing',
    headline: evidence.length > 0 ? 'Nothing wrong seen, nothing proved' : 'Not tested yet',
    detail: 'Take a reading with a wire mapper to prove the map.',
  };
}

/** The most one reading proves: a beeper only when its touches leave no contact out. */
function provenBy(expected: LinkExpectation, reading: Reading): 'map' | 'loops' | 'nothing' {
  if (reading.instrument !== 'beeper' && reading.instrument !== 'ohmmeter')
    return INSTRUMENTS[reading.instrument].proves;
  return provesMap(expected, reading) ? 'map' : 'nothing';
}

/** Faults that none of the instruments used could have shown on this link. */
function unseen(expected: LinkExpectation, evidence: readonly Reading[]): FaultKind[] {
  const [first, ...rest] = evidence.map((reading) => blindTo(reading));
  if (!first) return [];
  const kinds = first.filter((kind) => rest.every((blind) => blind.includes(kind)));
  const needsPairs: readonly FaultKind[] = [
    'split',
    'mixed-scheme',
    'transposed',
    'mirror',
    'shifted',
    'screen-open',
  ];
  const { family, screened } = expected;
  const few = family === 'coax' || family === 'line';
  return kinds.filter((kind) => {
    if (few && (needsPairs.includes(kind) || kind === 'splice' || kind === 'equipment')) return false;
    if (kind === 'mixed-scheme' || kind === 'split') return family === 'balanced';
    return screened || kind !== 'screen-open';
  });
}

function blindTo(reading: Reading): readonly FaultKind[] {
  const { blindTo: kinds } = INSTRUMENTS[reading.instrument];
  // Earthed at both ends, a screen reads closed through the building.
  const earthed = isMapReading(reading) && reading.screenEarthed === 'both-ends';
  return earthed && !kinds.includes('screen-open') ? [...kinds, 'screen-open'] : kinds;
}

function toExplanations(hypotheses: readonly Hypothesis[], expected: LinkExpectation): Explanation[] {
  return hypotheses
    .filter((h) => h.faults.length > 0 || h.weight > WORTH_SAYING)
    .slice(0, EXPLANATIONS_SHOWN)
    .map((hypothesis) => ({
      probability: hypothesis.weight,
      words:
        hypothesis.faults.length > 0
          ? faultsInWords(hypothesis.faults.map((f) => f.words))
          : 'Nothing wrong: a slip of the reading',
      faults: hypothesis.faults.map(({ kind, end, contacts, pairs, distanceM }) => ({
        kind,
        end,
        contacts,
        pairs,
        distanceM,
      })),
      repair: repairFor(mendingOf(hypothesis), expected),
    }));
}

/** The same slip at both ends is said once. */
function faultsInWords(words: readonly string[]): string {
  const [first, second] = words;
  const slip = first?.slice(first.indexOf(':')) ?? '';
  const alike =
    words.length === 2 && first?.startsWith('Near') && second?.startsWith('Far') && second.endsWith(slip);
  return alike ? `Both ends${slip}` : words.join('; ');
}

/** So bad a fit (logarithm) says that no explanation accounts for the readings. */
const NO_FIT = -25;

function failDetail(belief: Belief, explanations: readonly Explanation[]): string {
  const [best] = explanations;
  if (!best || (belief.hypotheses[0]?.fit ?? 0) < NO_FIT)
    return 'No single, double or triple slip explains this well. Look at both ends before cutting anything.';
  const sure: MendPlace[] = [];
  // If anything is wrong at all: a slip of the reading is told apart.
  const wrong = Math.max(1e-9, 1 - belief.sound);
  for (const place of MEND_PLACES) {
    const share =
      belief.hypotheses.reduce((sum, h) => sum + (mendingOf(h).includes(place) ? h.weight : 0), 0) / wrong;
    if (share > SETTLED && share < 1 - SETTLED)
      return 'The readings so far do not say where: do not cut anything yet.';
    if (share >= 1 - SETTLED) sure.push(place);
  }
  if (sure.includes('unplug'))
    return 'This looks like equipment still connected: its transformers read as shorts within pairs.';
  if (sure.includes('outlet')) return 'Most likely the remote hangs elsewhere, or nowhere.';
  const where = sure.map((p) => (p === 'cable' ? 'the cable' : `the ${p} end`));
  return where.length > 0
    ? `All the evidence points to ${list(where)}.`
    : 'The readings so far do not say where: do not cut anything yet.';
}

/** The same instrument once more: a second answer tells a slip of the reading from one of the link. */
function readAgain(readings: readonly Reading[]): Look | null {
  const meter = readings.findLast((reading) => reading.instrument !== 'eye') ?? readings[0];
  if (!meter) return null;
  const { minutes } = INSTRUMENTS[meter.instrument];
  return {
    instrument: meter.instrument,
    end: 'near',
    words: 'Read it again',
    minutes,
    savesMinutes: 0,
    outcomes: [],
  };
}

function capitalise(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}
