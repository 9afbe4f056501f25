import { parentPort, workerData } from 'node:worker_threads';
import {
  believe,
  CABLE_TYPES,
  CONNECTOR_TYPES,
  diagnose,
  expectLink,
  FaultDice,
  findIn,
  frameOf,
  INSTRUMENTS,
  intendedLink,
  mendingOf,
  mendMinutes,
  observe,
  repairClasses,
  seededRandom,
  tellingFaults,
  TYPICAL_PRACTICE,
  type Evidence,
  type FaultKind,
  type InstrumentClass,
  type LinkExpectation,
  type MendPlace,
  type PhysicalFault,
  type Practice,
  type Random,
  type Reading,
  type TrueLink,
} from '../../core/src/index.js';

/**
 * One share of the diagnosis benchmark: seeded links broken by the model of practice, read by every
 * class, judged, and mended by the next look. Run in a worker thread.
 */
export interface TrialResult {
  links: number;
  byFaults: number[];
  passes: Record<string, { visible: number; falsePasses: number; missed: number }>;
  idealFalsePasses: number;
  determined: number;
  determinedRight: number;
  /** Ten bins of belief in the first explanation's work: cases, summed belief, right. */
  bins: { cases: number; belief: number; right: number }[];
  /** Minutes in all; `needed` is the work itself with one test before and one after. */
  policy: { cases: number; minutes: number; naiveMinutes: number; needed: number; unmended: number };
  diagnosisMs: number[];
}

/** Far more goes wrong here than with any crew, so that doubles and triples are met often. */
const PLAIN: Practice = { ...TYPICAL_PRACTICE, wrongShare: 1 };
const HARD: Practice = { ...TYPICAL_PRACTICE, wrongShare: 0.75, second: 0.2, third: 0.1 };
/** Readings that show a finding are judged in full on one link in so many. */
const JUDGED_EVERY = 6;
const PROVING: readonly InstrumentClass[] = [
  'lamp-pairs',
  'stepping-lamps',
  'coded-mapper',
  'coded-mapper-crosstalk',
];
const EVIDENCE: readonly (readonly (readonly [InstrumentClass, 'near' | 'far'])[])[] = [
  [['coded-mapper', 'near']],
  [['coded-mapper-crosstalk', 'near']],
  [['stepping-lamps', 'near']],
  [['lamp-pairs', 'near']],
  [['beeper', 'near']],
  [['ohmmeter', 'near']],
  [
    ['coded-mapper', 'near'],
    ['eye', 'far'],
  ],
  [
    ['coded-mapper', 'near'],
    ['eye', 'near'],
  ],
  [
    ['coded-mapper-crosstalk', 'near'],
    ['pair-reflectometer', 'near'],
  ],
  [
    ['coded-mapper', 'near'],
    ['pair-reflectometer', 'far'],
    ['eye', 'far'],
  ],
  [
    ['lamp-pairs', 'near'],
    ['coded-mapper-crosstalk', 'near'],
    ['wiggle', 'far'],
  ],
  [
    ['tone-probe', 'near'],
    ['eye', 'far'],
  ],
  [
    ['dc-voltage', 'far'],
    ['coded-mapper', 'near'],
  ],
];

function kinds(): LinkExpectation[] {
  const link = (cable: string, near: string, far: string, lengthM: number): LinkExpectation =>
    expectLink({
      cable: CABLE_TYPES.find((c) => c.id === cable) as (typeof CABLE_TYPES)[number],
      near: CONNECTOR_TYPES.find((c) => c.id === near) as (typeof CONNECTOR_TYPES)[number],
      far: CONNECTOR_TYPES.find((c) => c.id === far) as (typeof CONNECTOR_TYPES)[number],
      lengthM,
      scheme: 'T568B',
    });
  return [
    link('cat6-u', 'jack-punched', 'plug-closed', 31.4),
    link('cat6-u', 'jack-punched', 'jack-punched', 66.2),
    link('cat6-f-outdoor', 'jack-punched-screened', 'plug-outdoor', 81.5),
    link('cat5e-u', 'jack-toolless', 'plug-pass-through', 18),
    link('rg6', 'coax-f', 'coax-f', 30),
    link('cat5e-u', 'phone-socket', 'phone-socket', 38),
  ];
}

/** What is wrong with a link as it lies, whatever hands did: slips that undo each other are no fault. */
function electricalKinds(
  expected: LinkExpectation,
  link: TrueLink,
  faults: readonly PhysicalFault[],
): FaultKind[] {
  const frame = frameOf(intendedLink(expected));
  const map = observe(link, 'coded-mapper-crosstalk', { frame });
  return [
    ...findIn(expected, map).map((f) => f.kind),
    ...faults.map((f) => f.kind).filter((k) => k === 'intermittent' || k === 'disturbed'),
  ];
}

/** Whether a class can see any of what is wrong: by its own words, lamps only where a loop is broken. */
const sees = (instrument: InstrumentClass, wrong: readonly FaultKind[]): boolean =>
  wrong.some((kind) => !INSTRUMENTS[instrument].blindTo.includes(kind));

const sameWork = (a: readonly MendPlace[], b: readonly MendPlace[]): boolean => a.join() === b.join();

function trial(from: number, to: number, policyEvery: number): TrialResult {
  const links = kinds().map((expected) => ({
    expected,
    frame: frameOf(intendedLink(expected)),
    dice: new FaultDice(expected, HARD),
    plainDice: new FaultDice(expected, PLAIN),
  }));
  const result: TrialResult = {
    links: 0,
    byFaults: [0, 0, 0, 0],
    passes: Object.fromEntries(PROVING.map((i) => [i, { visible: 0, falsePasses: 0, missed: 0 }])),
    idealFalsePasses: 0,
    determined: 0,
    determinedRight: 0,
    bins: Array.from({ length: 10 }, () => ({ cases: 0, belief: 0, right: 0 })),
    policy: { cases: 0, minutes: 0, naiveMinutes: 0, needed: 0, unmended: 0 },
    diagnosisMs: [],
  };
  for (let seed = from; seed < to; seed++) {
    const random = seededRandom(seed * 7919 + 1);
    // Four-pair links twice as often as the two small ones.
    const kind = links[[0, 0, 1, 1, 2, 2, 3, 3, 4, 5][seed % 10] as number] as (typeof links)[number];
    const { expected, frame, dice } = kind;
    const count = dice.drawCount(random);
    const { link, faults } = dice.draw(count, random);
    result.links++;
    result.byFaults[count] = (result.byFaults[count] ?? 0) + 1;
    tryPasses(result, expected, link, faults, random, seed % JUDGED_EVERY === 0);
    const set = EVIDENCE[seed % EVIDENCE.length] as (typeof EVIDENCE)[number];
    const readings = set
      .filter(([instrument]) => instrument !== 'tone-probe' || expected.family === 'balanced')
      .map(([instrument, end]) => observe(link, instrument, { end, frame, random }));
    judge(result, expected, readings, faults);
    if (seed % policyEvery === 0) {
      // Mending is tried on links as a crew meets them: most with one thing wrong.
      const met = kind.plainDice.draw(kind.plainDice.drawCount(random), random);
      if (sees('coded-mapper-crosstalk', electricalKinds(expected, met.link, met.faults)))
        mend(result, expected, met.link, met.faults, random);
    }
  }
  return result;
}

function tryPasses(
  result: TrialResult,
  expected: LinkExpectation,
  link: TrueLink,
  faults: readonly PhysicalFault[],
  random: Random,
  judgeAll: boolean,
): void {
  const frame = frameOf(intendedLink(expected));
  // A lone reading that shows a finding is never passed, by rule; that is tried on some, the others on all.
  const passed = (reading: Reading): boolean =>
    (judgeAll || findIn(expected, reading).length === 0) && diagnose(expected, [reading]).result === 'pass';
  const wrong = electricalKinds(expected, link, faults);
  for (const instrument of PROVING) {
    if (instrument === 'stepping-lamps' && expected.family === 'coax') continue;
    const ideal = observe(link, instrument, { frame });
    const visible = sees(instrument, wrong) && findIn(expected, ideal).length > 0;
    const passesIdeal = passed(ideal);
    if (passesIdeal && sees(instrument, wrong)) result.idealFalsePasses++;
    if (!visible) continue;
    const tally = result.passes[instrument] as TrialResult['passes'][string];
    tally.visible++;
    const noisy = observe(link, instrument, { frame, random });
    if (passed(noisy)) tally.falsePasses++;
    // The observer's own miss rate, from draws of its own.
    if (findIn(expected, observe(link, instrument, { frame, random })).length === 0) tally.missed++;
  }
}

function judge(
  result: TrialResult,
  expected: LinkExpectation,
  readings: readonly Reading[],
  faults: readonly PhysicalFault[],
): void {
  const begun = performance.now();
  const belief = believe(expected, readings, HARD);
  result.diagnosisMs.push(performance.now() - begun);
  const [top] = repairClasses(belief.hypotheses);
  if (!top) return;
  const right = sameWork(top.places, mendingOf({ faults: tellingFaults(expected, readings, faults) }));
  const share = top.share * (1 - belief.discarded);
  const bin = result.bins[Math.min(9, Math.floor(share * 10))] as TrialResult['bins'][number];
  bin.cases++;
  bin.belief += share;
  if (right) bin.right++;
  if (share >= 0.99) {
    result.determined++;
    if (right) result.determinedRight++;
  }
}

/** Minutes until a mapper with crosstalk passes, by the next look and by redoing far, near, cable in turn. */
function mend(
  result: TrialResult,
  expected: LinkExpectation,
  broken: TrueLink,
  faults: readonly PhysicalFault[],
  random: Random,
): void {
  const frame = frameOf(intendedLink(expected));
  const intended = intendedLink(expected);
  const test = INSTRUMENTS['coded-mapper-crosstalk'].minutes;
  const passes = (link: TrueLink): boolean =>
    findIn(expected, observe(link, 'coded-mapper-crosstalk', { frame })).length === 0;
  let naive = broken;
  let naiveMinutes = test;
  for (const place of ['far', 'near', 'cable'] as const) {
    if (passes(naive)) break;
    naive = worked(naive, intended, place);
    naiveMinutes += mendMinutes(place, expected) + test;
  }
  let link = broken;
  let minutes = test;
  const evidence: Evidence[] = [observe(link, 'coded-mapper-crosstalk', { frame, random })];
  for (let step = 0; step < 14; step++) {
    const verdict = diagnose(expected, evidence);
    const look = verdict.nextLook;
    const place = verdict.repair?.places[0];
    if (verdict.result === 'pass') break;
    if (look) {
      minutes += look.minutes;
      evidence.push(observe(link, look.instrument, { end: look.end, frame, random }));
      continue;
    }
    if (!place) {
      minutes += test;
      evidence.push(observe(link, 'coded-mapper-crosstalk', { frame, random }));
      continue;
    }
    // Several places that are all in need are mended before the next test.
    for (const one of verdict.repair?.places ?? []) {
      link = worked(link, intended, one);
      minutes += mendMinutes(one, expected);
      evidence.push({ work: one });
    }
    minutes += test;
    evidence.push(observe(link, 'coded-mapper-crosstalk', { frame, random }));
  }
  result.policy.cases++;
  result.policy.needed += neededMinutes(expected, broken, passes, test);
  result.policy.minutes += minutes;
  result.policy.naiveMinutes += naiveMinutes;
  if (!passes(link) && sees('coded-mapper-crosstalk', electricalKinds(expected, link, faults)))
    result.policy.unmended++;
}

/** The least work that mends a link, known beforehand, with a test before and one after. */
function neededMinutes(
  expected: LinkExpectation,
  broken: TrueLink,
  passes: (link: TrueLink) => boolean,
  test: number,
): number {
  const intended = intendedLink(expected);
  const places: readonly MendPlace[] = ['unplug', 'outlet', 'far', 'near', 'cable'];
  let least = Infinity;
  for (let bits = 0; bits < 1 << places.length; bits++) {
    const chosen = places.filter((_, i) => (bits >> i) & 1);
    const minutes = chosen.reduce((sum, place) => sum + mendMinutes(place, expected), 0);
    if (minutes < least && passes(chosen.reduce((link, place) => worked(link, intended, place), broken)))
      least = minutes;
  }
  return 2 * test + least;
}

/** A link after work properly done at a place. */
function worked(link: TrueLink, intended: TrueLink, place: MendPlace): TrueLink {
  if (place === 'unplug') return { ...link, equipment: [] };
  if (place === 'outlet') return { ...link, farPresent: true };
  const elsewhere = <T extends { place: TrueLink['poor'][number]['place'] }>(list: readonly T[]): T[] =>
    list.filter((joint) => ('end' in joint.place ? joint.place.end : 'cable') !== place);
  const joints = { poor: elsewhere(link.poor), loose: elsewhere(link.loose) };
  // Whoever mends the cable has found the outlet on the way.
  if (place === 'cable')
    return { ...link, ...joints, breaks: [], joins: [], splices: [], disturbances: [], farPresent: true };
  return {
    ...link,
    ...joints,
    [place]: intended[place],
    unseated: link.unseated.filter((u) => u.end !== place),
    bridges: link.bridges.filter((b) => b.end !== place),
    equipment: link.equipment.filter((end) => end !== place),
  };
}

if (parentPort) {
  const { from, to, policyEvery } = workerData as { from: number; to: number; policyEvery: number };
  parentPort.postMessage(trial(from, to, policyEvery));
}
