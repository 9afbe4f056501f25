import { believe, type Belief, type Hypothesis } from './belief.js';
import { blindTo, heldAs } from './blindness.js';
import { list, type Finding } from './compare-map.js';
import { agreementOf, faultsIn, provenBy } from './contradiction.js';
import { decide } from './decide.js';
import type { LinkExpectation } from './expectation.js';
import { toExplanations } from './explanations.js';
import type { FaultId, PhysicalFault } from './faults.js';
import { distinctFindings, findIn, hangsElsewhere } from './findings.js';
import {
  blindnessInWords,
  INSTRUMENTS,
  takenWith,
  type FaultKind,
  type InstrumentClass,
} from './instruments.js';
import { leftUnread } from './left-unread.js';
import { lengthAstray } from './length-astray.js';
import { ableAgain, lookAt, lookFurther } from './look-again.js';
import type { Look } from './next-look.js';
import type { Practice } from './practice.js';
import { isMapReading, type Reading } from './readings.js';
import { repairFor, type Repair } from './repair.js';
import { erasOf, readingsThatHold, reasonThatHolds, type Evidence } from './timeline.js';
import {
  capitalise,
  shownInWords,
  disagreeDetail,
  exceptionWords,
  failDetail,
  lengthAstrayInWords,
  percent,
} from './verdict-words.js';

/** A way the evidence could have come about, with its share of belief and the work it asks for. */
export interface Explanation {
  /** Names the hypothesis it tells (`Hypothesis.key`). */
  key: string;
  probability: number;
  words: string;
  faults: readonly (Pick<PhysicalFault, 'kind' | 'end' | 'contacts' | 'pairs' | 'distanceM'> & {
    id: FaultId;
  })[];
  repair: Repair;
}

/** What kind of verdict it is: what code compares, where people read the headline. */
export type VerdictCode =
  | 'map-right'
  | 'loops-only'
  | 'nothing-proved'
  | 'fault'
  | 'unexplained'
  | 'doubtful'
  | 'readings-disagree'
  | 'remote-elsewhere';

/** A pass in spite of a reading that showed a fault: why, in the words of whoever took it again. */
export interface Exception {
  reason: string;
  /** What the readings showed that are taken for misread. */
  shown: string;
  cleanReadings: number;
}

/** What is known of a link, what that rests on, and what to do. */
export interface Diagnosis {
  result: 'pass' | 'fail' | 'cannot-tell';
  code: VerdictCode;
  /** The most that has been proved. */
  proves: 'map' | 'loops' | 'nothing';
  headline: string;
  detail: string;
  findings: readonly Finding[];
  restsOn: readonly string[];
  /** Some of that by a simulated instrument: it says nothing of a real link. */
  simulated: boolean;
  blindTo: readonly FaultKind[];
  explanations: readonly Explanation[];
  /** Belief in explanations that were not worked through, at most. */
  discarded: number;
  /** The work to do when it is decided; null while a look would save more than it costs. */
  repair: Repair | null;
  nextLook: Look | null;
  otherLooks: readonly Look[];
  /** Where the pass is an exception. */
  exception: Exception | null;
  /** Enough clean readings stand against the failed one: a person's reason for it is all that is missing. */
  wantsReason: boolean;
}

/** What a crew has and does, where it is not what is usual. */
export interface Crew {
  practice?: Practice | undefined;
  /** Instrument classes at hand; those of its practice, if left out. */
  owned?: readonly InstrumentClass[] | undefined;
}

/** With more belief than this that nothing is wrong, odd readings do not make a fault. */
const MISREAD_POSSIBLE = 0.25;
/** From this belief on that nothing of ours fits, that is the verdict. */
const UNEXPLAINED = 0.5;
/** With less belief than this that all is right, what was seen before the last work is still there. */
const STILL_THERE = 0.5;
/** From this belief on a joint that opens and closes is what is wrong, not a reading. */
const LOOSE_SURE = 0.9;

type Verdict = Omit<Diagnosis, 'restsOn' | 'simulated' | 'blindTo'>;

/**
 * Judges a link by all evidence, oldest first: the verdict in words, what it rests on, what nobody has
 * been able to see, what would explain it, and the look or the work that comes next. The verdict
 * rests on the readings that still hold (`readingsThatHold`); belief also on what was read and done
 * before. No reading outvotes another of its kind: where they disagree nothing is proved.
 */
export function diagnose(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  practice?: Practice,
  owned?: readonly InstrumentClass[],
): Diagnosis {
  return judge(expected, evidence, { practice, owned }).diagnosis;
}

/**
 * A verdict with the belief it was drawn from; without one where no reading that holds shows a fault, and what was seen
 * before the last work is likelier mended than not.
 */
export interface Judgement {
  diagnosis: Diagnosis;
  belief: Belief | null;
}

/** `diagnose`, with the belief beside it, so that nobody works it out twice. */
export function judge(expected: LinkExpectation, evidence: readonly Evidence[], crew: Crew = {}): Judgement {
  const readings = readingsThatHold(evidence);
  const shared = {
    restsOn: readings.map(takenWith),
    simulated: readings.some((reading) => reading.taken?.simulated === true),
    blindTo: blindTo(expected, readings.map(heldAs)),
  };
  const shown = readings.map((reading) => ({ reading, findings: faultsIn(expected, reading) }));
  if (shown.every(({ findings }) => findings.length === 0)) {
    const verdict =
      otherLength(expected, evidence, readings) ??
      notAllRead(expected, readings) ??
      soundVerdict(expected, readings, shared.blindTo);
    const belief =
      verdict.result === 'pass' && wasFaulty(expected, evidence)
        ? believe(expected, evidence, crew.practice)
        : null;
    if (belief && belief.sound < STILL_THERE)
      return { diagnosis: { ...stillThere(expected, belief, atHand(crew)), ...shared }, belief };
    return { diagnosis: { ...verdict, ...shared }, belief: null };
  }
  const belief = believe(expected, evidence, crew.practice);
  const verdict = faultVerdict(
    expected,
    belief,
    evidence,
    readings,
    distinctFindings(shown),
    shared.blindTo,
    atHand(crew),
  );
  return { diagnosis: { ...verdict, ...shared }, belief };
}

/** What a crew can look with: its instruments and its eyes, and its hands where a mapper watches them. */
function atHand({ owned, practice }: Crew): readonly InstrumentClass[] | undefined {
  const own = owned ?? practice?.owned;
  if (own === undefined) return undefined;
  const mapper = own.some((one) => INSTRUMENTS[one].reading === 'map');
  return [...new Set<InstrumentClass>([...own, 'eye', ...(mapper ? (['wiggle'] as const) : [])])];
}

const NOTHING_MORE = {
  findings: [],
  explanations: [],
  discarded: 0,
  repair: null,
  nextLook: null,
  otherLooks: [],
  exception: null,
  wantsReason: false,
} as const;

function faultVerdict(
  expected: LinkExpectation,
  belief: Belief,
  evidence: readonly Evidence[],
  readings: readonly Reading[],
  findings: readonly Finding[],
  blind: readonly FaultKind[],
  owned: Crew['owned'],
): Verdict {
  const agreement = agreementOf(expected, belief, readings);
  const shown = capitalise(shownInWords(findings));
  const reason = reasonThatHolds(evidence);
  if (agreement.cleanEnough && reason !== null)
    return byException(expected, readings, blind, agreement.failing, {
      reason,
      shown: shown.charAt(0).toLowerCase() + shown.slice(1),
    });
  const decision = decide(belief, expected, owned);
  const told = {
    findings,
    explanations: toExplanations(belief.hypotheses, expected),
    discarded: belief.discarded,
    exception: null,
    wantsReason: agreement.cleanEnough,
    proves: 'nothing' as const,
  };
  const doNext = {
    repair: decision.repair,
    nextLook: decision.looks[0] ?? (decision.act === 'read-again' ? lookFurther(readings, owned) : null),
    otherLooks: decision.looks.slice(1),
  };
  const elsewhere = agreement.failing.every((i) => hangsElsewhere(expected, readings[i] as Reading));
  if (elsewhere) return { ...told, ...remoteElsewhere(expected, readings, shown) };
  const loose = shareOf(belief, ({ state }) => state.loose > 0);
  const flickered = readings.some((r) => r.instrument === 'wiggle' && r.flickers.length > 0);
  if (agreement.disagree && !(flickered && loose > LOOSE_SURE))
    return {
      ...told,
      result: 'cannot-tell',
      code: 'readings-disagree',
      headline: `Readings disagree: ${shown}`,
      detail: disagreeDetail(loose, agreement.cleanEnough),
      ...(decision.looks.length > 0 ? doNext : { ...doNext, repair: null, nextLook: ableAgain(readings) }),
    };
  if (belief.unexplained > UNEXPLAINED)
    return {
      ...told,
      result: 'fail',
      code: 'unexplained',
      headline: shown,
      detail:
        'No explanation of ours fits this. Look at both ends and along the cable before cutting anything.',
      repair: null,
      nextLook: decision.looks[0] ?? lookFurther(readings, owned),
      otherLooks: decision.looks.slice(1),
    };
  if (belief.sound > MISREAD_POSSIBLE)
    return {
      ...told,
      result: 'cannot-tell',
      code: 'doubtful',
      headline: shown,
      detail: `By ${percent(belief.sound)} this is a reading astray: ${astrayBy(readings)}. Read again before mending anything.`,
      repair: null,
      nextLook: decision.looks[0] ?? ableAgain(readings),
      otherLooks: decision.looks.slice(1),
    };
  return { ...told, ...doNext, result: 'fail', code: 'fault', headline: shown, detail: failDetail(decision) };
}

/** What leads a reading astray, by what was read last. */
const astrayBy = (readings: readonly Reading[]): string =>
  readings.at(-1)?.instrument === 'power-tester'
    ? 'the supply off or feeding other pairs than was said, another port, a loose cord'
    : 'a wrong port or remote, a loose cord, a slip of the key';

const shareOf = (belief: Belief, is: (h: Hypothesis) => boolean): number =>
  belief.hypotheses.reduce((sum, h) => sum + (is(h) ? h.weight : 0), 0);

function byException(
  expected: LinkExpectation,
  readings: readonly Reading[],
  blind: readonly FaultKind[],
  failing: readonly number[],
  { reason, shown }: { reason: string; shown: string },
): Verdict {
  const clean = readings.filter((_, i) => !failing.includes(i));
  const verdict = soundVerdict(expected, clean, blind);
  const cleanReadings = clean.filter((reading) => provenBy(expected, reading) === 'map').length;
  return {
    ...verdict,
    headline: `${verdict.headline}, by exception`,
    detail: `${exceptionWords({ reason, shown, cleanReadings })} ${verdict.detail}`,
    exception: { reason, shown, cleanReadings },
  };
}

function remoteElsewhere(
  expected: LinkExpectation,
  readings: readonly Reading[],
  shown: string,
): Omit<Verdict, 'findings' | 'explanations' | 'discarded' | 'exception' | 'wantsReason' | 'proves'> {
  const remote = readings.find((reading) => hangsElsewhere(expected, reading));
  const where = remote && isMapReading(remote) ? remote.remote : '';
  return {
    result: 'cannot-tell',
    code: 'remote-elsewhere',
    headline: shown,
    detail: `The remote that answered is ${where}'s, not ${expected.label}'s: this says nothing of ${expected.label} yet. Compare port and outlet with their labels, hang the remote at ${expected.label} and read again.`,
    repair: repairFor(['outlet'], expected),
    nextLook: null,
    otherLooks: [],
  };
}

/** Everything that readings show and was not intended, other lengths too. */
const foundIn = (expected: LinkExpectation, readings: readonly Reading[]): Finding[] =>
  distinctFindings(readings.map((reading) => ({ reading, findings: findIn(expected, reading) })));

/** Nothing passes on readings of which one, by the length it shows, seems to be of another link. */
function otherLength(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  readings: readonly Reading[],
): Verdict | null {
  const told = lengthAstray(expected, evidence, readings);
  if (told === null) return null;
  return {
    ...NOTHING_MORE,
    findings: foundIn(expected, readings),
    result: 'cannot-tell',
    code: 'doubtful',
    proves: 'nothing',
    headline: lengthAstrayInWords(told),
    detail:
      'Likelier another link was read than a plan is so wrong: look at port and outlet and read again. If it is this link, correct its planned length; if a reading was of another, correct that reading.',
    nextLook: ableAgain(readings.filter(({ instrument }) => instrument === 'pair-reflectometer')),
  };
}

/** Whether something was wrong before the last work. */
const wasFaulty = (expected: LinkExpectation, evidence: readonly Evidence[]): boolean =>
  erasOf(evidence)
    .slice(0, -1)
    .some(({ readings }) => readings.some((reading) => faultsIn(expected, reading).length > 0));

/**
 * Nothing passes while what was seen before is likelier still there: it was not worked on, and what was read since cannot
 * see it, as lamps cannot see that a pair is shorted on the way.
 */
function stillThere(expected: LinkExpectation, belief: Belief, owned: Crew['owned']): Verdict {
  const decision = decide(belief, expected, owned);
  const explanations = toExplanations(belief.hypotheses, expected);
  return {
    ...NOTHING_MORE,
    explanations,
    discarded: belief.discarded,
    result: 'cannot-tell',
    code: 'doubtful',
    proves: 'nothing',
    headline: `Seen before the last work: ${explanations.find(({ faults }) => faults.length > 0)?.words ?? 'a fault'}`,
    detail:
      'What was read since is right, but would be so with that as well, and nobody has worked there. Mend it, or read once more with what showed it.',
    repair: decision.repair,
    nextLook: decision.looks[0] ?? null,
    otherLooks: decision.looks.slice(1),
  };
}

/** Loops pass on no link of which a look left a contact unread that no lamp stands for. */
function notAllRead(expected: LinkExpectation, readings: readonly Reading[]): Verdict | null {
  const proofs = readings.map((reading) => provenBy(expected, reading));
  const left = proofs.includes('loops') && !proofs.includes('map') ? leftUnread(expected, readings) : null;
  if (left === null) return null;
  return {
    ...NOTHING_MORE,
    result: 'cannot-tell',
    code: 'nothing-proved',
    proves: 'nothing',
    headline: `${capitalise(left.end)} end not read on ${list(left.contacts)}`,
    detail: `All else that was seen is right, but no lamp stands for ${list(left.contacts)}: look once more, or prove it with a wire mapper.`,
    nextLook: lookAt(left.end),
  };
}

function soundVerdict(
  expected: LinkExpectation,
  readings: readonly Reading[],
  blind: readonly FaultKind[],
): Verdict {
  const proofs = readings.map((reading) => provenBy(expected, reading));
  const lengths = foundIn(expected, readings);
  const length =
    lengths.length > 0
      ? ` ${capitalise(lengths.map((f) => f.words).join('; '))}: correct the plan's length, or make sure that this is the link.`
      : '';
  const notSeen = blind.length > 0 ? ` Not seen: ${blindnessInWords(blind)}.` : '';
  const none = { ...NOTHING_MORE, findings: lengths };
  if (proofs.includes('map')) {
    const splitsSeen =
      expected.family === 'balanced' && readings.some((r) => isMapReading(r) && r.splits !== null);
    return {
      ...none,
      result: 'pass',
      code: 'map-right',
      proves: 'map',
      headline: splitsSeen ? 'Map right, pairs right' : 'Map right',
      detail: `Every contact arrives where it was meant to, and nowhere else.${length}${notSeen} This is not a certification.`,
    };
  }
  if (proofs.includes('loops')) {
    return {
      ...none,
      result: 'pass',
      code: 'loops-only',
      proves: 'loops',
      headline: 'Every lamp lit: each pair conducts as a loop',
      detail: `That is all it says.${length}${notSeen} A mapper has to prove the map.`,
    };
  }
  return {
    ...none,
    result: 'cannot-tell',
    code: 'nothing-proved',
    proves: 'nothing',
    headline: readings.length > 0 ? 'Nothing wrong seen, nothing proved' : 'Not tested yet',
    detail: `Take a reading with a wire mapper to prove the map.${length}`,
  };
}
