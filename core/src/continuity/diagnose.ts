import { compareMap, list, type Finding } from './compare-map.js';
import { intendedLink, intendedMap, type LinkExpectation } from './expectation.js';
import type { PhysicalFault } from './faults.js';
import { distancesAgree, explain, placesToMend, type Hypothesis } from './hypotheses.js';
import { blindnessInWords, INSTRUMENTS, type FaultKind } from './instruments.js';
import { rankLooks, repairFor, type Look, type Repair } from './next-look.js';
import { isMapReading, type EchoReading, type Reading } from './readings.js';

/** A way the evidence could have come about, with its share of belief and the work it asks for. */
export interface Explanation {
  probability: number;
  words: string;
  faults: readonly Omit<PhysicalFault, 'apply' | 'prior' | 'words'>[];
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
  /** The work to do when it is decided; null while a look would save more than it costs. */
  repair: Repair | null;
  nextLook: Look | null;
  otherLooks: readonly Look[];
}

const EXPLANATIONS_SHOWN = 5;
/** Below this share a rival explanation no longer holds up the work. */
const SETTLED = 0.05;

/**
 * Judges a link by all the evidence that still holds (see `currentEvidence`): the verdict in
 * words, what it rests on, what nobody has been able to see, what would explain it, and the look
 * or the work that comes next. Instruments are taken as error-free.
 */
export function diagnose(expected: LinkExpectation, evidence: readonly Reading[]): Diagnosis {
  const findings = evidence.flatMap((reading) => findIn(expected, reading));
  const shared = {
    restsOn: evidence.map((reading) => INSTRUMENTS[reading.instrument].name),
    blindTo: unseen(expected, evidence),
  };
  if (findings.length === 0) return { ...soundVerdict(evidence, shared.blindTo), ...shared };
  const hypotheses = explain(expected, evidence);
  const looks = rankLooks(hypotheses, expected);
  const explanations = toExplanations(hypotheses, expected);
  const best = explanations[0];
  const distinct = distinctFindings(findings);
  return {
    result: 'fail',
    proves: 'nothing',
    headline: capitalise(distinct.map((f) => f.words).join('; ')),
    detail: failDetail(explanations),
    findings: distinct,
    ...shared,
    explanations,
    repair: looks.length === 0 && best ? best.repair : null,
    nextLook: looks[0] ?? (best ? null : lookAtBothEnds(evidence)),
    otherLooks: looks.slice(1),
  };
}

/** Everything one reading shows that was not intended. */
function findIn(expected: LinkExpectation, reading: Reading): Finding[] {
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
  return findEchoes(expected, reading);
}

const ECHO_WORDS = { open: 'open', short: 'short', low: 'low impedance', high: 'high impedance' } as const;

function findEchoes(expected: LinkExpectation, reading: EchoReading): Finding[] {
  return Object.entries(reading.pairs).flatMap(([pair, events]) =>
    events
      .filter((event) => !(event.kind === 'open' && distancesAgree(event.distanceM, expected.lengthM)))
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
function distinctFindings(findings: readonly Finding[]): Finding[] {
  const unique = findings.filter((f, i) => findings.findIndex((g) => g.words === f.words) === i);
  const seenByMeter = unique.filter((f) => !f.words.includes('end not as the scheme'));
  return seenByMeter.length > 0 ? seenByMeter : unique;
}

function soundVerdict(
  evidence: readonly Reading[],
  blindTo: readonly FaultKind[],
): Omit<Diagnosis, 'restsOn' | 'blindTo'> {
  const proofs = evidence.map((reading) => INSTRUMENTS[reading.instrument].proves);
  const none = { findings: [], explanations: [], repair: null, nextLook: null, otherLooks: [] };
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

/** Faults that none of the instruments used could have shown on this link. */
function unseen(expected: LinkExpectation, evidence: readonly Reading[]): FaultKind[] {
  const [first, ...rest] = evidence.map((reading) => INSTRUMENTS[reading.instrument].blindTo);
  if (!first) return [];
  const kinds = first.filter((kind) => rest.every((blind) => blind.includes(kind)));
  const pairlessCannotHave: readonly FaultKind[] = [
    'split',
    'mixed-scheme',
    'transposed',
    'mirror',
    'shifted',
    'screen-open',
  ];
  if (expected.family !== 'balanced') return kinds.filter((kind) => !pairlessCannotHave.includes(kind));
  return kinds.filter((kind) => expected.screened || kind !== 'screen-open');
}

function toExplanations(hypotheses: readonly Hypothesis[], expected: LinkExpectation): Explanation[] {
  const total = hypotheses.reduce((sum, h) => sum + h.weight, 0);
  return hypotheses.slice(0, EXPLANATIONS_SHOWN).map((hypothesis) => ({
    probability: hypothesis.weight / total,
    words: faultsInWords(hypothesis.faults.map((f) => f.words)),
    faults: hypothesis.faults.map(({ kind, end, contacts, pairs, distanceM }) => ({
      kind,
      end,
      contacts,
      pairs,
      distanceM,
    })),
    repair: repairFor(placesToMend(hypothesis), expected),
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

function failDetail(explanations: readonly Explanation[]): string {
  const [best] = explanations;
  if (!best) return 'No single or double slip explains this. Look at both ends before cutting anything.';
  const places = new Set(
    explanations.filter((e) => e.probability >= SETTLED).map((e) => e.repair.places.join()),
  );
  if (places.size > 1) return 'The readings so far do not say where: do not cut anything yet.';
  const where = best.repair.places.map((p) => (p === 'cable' ? 'the cable' : `the ${p} end`));
  return `All the evidence points to ${list(where)}.`;
}

function lookAtBothEnds(evidence: readonly Reading[]): Look {
  const looked = evidence.some((r) => r.instrument === 'eye' && r.end === 'far');
  const end = looked ? 'near' : 'far';
  return {
    instrument: 'eye',
    end,
    words: `Read the ${end} end's colours`,
    minutes: INSTRUMENTS.eye.minutes,
    savesMinutes: 0,
    outcomes: [],
  };
}

function capitalise(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}
