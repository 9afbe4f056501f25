import type { Belief, Hypothesis } from './belief.js';
import type { LinkExpectation } from './expectation.js';
import { faultsInWords } from './fault-words.js';
import type { InstrumentClass } from './instruments.js';
import { INSTRUMENTS } from './instruments.js';
import { OBSERVERS } from './observers.js';
import type { Observer } from './observers/observer.js';
import { isMapReading, mapKey, type Reading } from './readings.js';
import { mendingOf, minutesOfClasses, repairClasses, repairFor } from './repair.js';
import type { LinkEnd } from './true-link.js';

/** What a look may show, and what that would mean. */
export interface Outcome {
  /** The work that would follow. */
  words: string;
  /** The likeliest explanation in that case. */
  because: string;
  probability: number;
}

/** One look that could be taken next, and what it is worth. */
export interface Look {
  instrument: InstrumentClass;
  end: LinkEnd;
  /** What it is led over, where that is not the whole link. */
  plan?: Reading | undefined;
  words: string;
  minutes: number;
  /** Minutes of repair this look is expected to save, its own cost taken off. */
  savesMinutes: number;
  outcomes: readonly Outcome[];
}

/** A look as it could be taken: with what, from where, led over what. */
type Way = Pick<Look, 'instrument' | 'end' | 'plan'>;

/** Mappers, the one that sees most first. */
const MAPPERS: readonly InstrumentClass[] = ['coded-mapper-crosstalk', 'coded-mapper', 'stepping-lamps'];
/** Where a short lies an ohmmeter tells for so many couples of contacts at once. */
const COUPLES = 2;
const EVERY_CLASS = Object.keys(INSTRUMENTS) as InstrumentClass[];

const FARADS: readonly Way[] = [
  { instrument: 'capacitance-meter', end: 'near' },
  { instrument: 'capacitance-meter', end: 'far' },
];

/** Looks that this link, this belief and the instruments at hand allow. */
function waysToLook(belief: Belief, expected: LinkExpectation, owned: readonly InstrumentClass[]): Way[] {
  const { family } = expected;
  const mapper = MAPPERS.find((one) => owned.includes(one));
  const ways: Way[] = [
    { instrument: 'eye', end: 'far' },
    { instrument: 'eye', end: 'near' },
    ...(mapper ? [{ instrument: mapper, end: 'near' as const }] : []),
    { instrument: 'pair-reflectometer', end: 'near' },
    { instrument: 'pair-reflectometer', end: 'far' },
    // What a meter tells of where pairs end a reflectometer tells better.
    ...(owned.includes('pair-reflectometer') ? [] : FARADS),
    ...ohmsOfShorts(belief),
    { instrument: 'wiggle', end: 'far' },
    { instrument: 'wiggle', end: 'near' },
  ];
  return ways.filter(
    ({ instrument }) =>
      owned.includes(instrument) &&
      !(instrument === 'wiggle' && family === 'lead') &&
      // No reflectometer resolves a lead of a metre or two.
      !(instrument === 'pair-reflectometer' && expected.lengthM < SHORTEST_SEEN_M),
  );
}

const SHORTEST_SEEN_M = 4;

/** Ohms between contacts that may be joined: next to none at this end, the whole loop at the other. */
function ohmsOfShorts({ hypotheses, frame }: Belief): Way[] {
  const couples = new Map<string, readonly [string, string]>();
  for (const { faults } of hypotheses.slice(0, WEIGHED)) {
    for (const { kind, contacts, conductors, end } of faults) {
      if (kind !== 'short') continue;
      const near = (end === 'cable' ? contacts : nearContactsOf(frame, conductors)).slice(0, 2);
      const [a, b] = near;
      if (a !== undefined && b !== undefined) couples.set(`${a}-${b}`, [a, b]);
    }
  }
  const touches = [...couples.values()].slice(0, COUPLES).map(([a, b]) => ({
    from: { end: 'near' as const, contacts: [a] },
    to: { end: 'near' as const, contacts: [b] },
    closed: false,
  }));
  if (touches.length === 0) return [];
  return [{ instrument: 'ohmmeter', end: 'near', plan: { instrument: 'ohmmeter', touches } }];
}

const nearContactsOf = (frame: Belief['frame'], conductors: readonly (string | null)[]): string[] =>
  conductors.flatMap((id) => {
    const at = id === null ? -1 : frame.intended.near.indexOf(frame.conductorIndex(id));
    return at < 0 ? [] : [frame.contacts.near[at] as string];
  });

/** A jack has to be taken out of its plate before its slots can be read. */
const OPEN_JACK_MINUTES = 2;
/** Two contacts touched and read, not a whole round of touches. */
const FEW_TOUCHES_MINUTES = 3;
/** The hypotheses a look is weighed by: the heaviest, up to this many. */
const WEIGHED = 90;
const OUTCOMES_SHOWN = 5;
/** What comes of it more seldom than this is not told. */
const WORTH_TELLING = 0.005;

function lookMinutes({ instrument, end, plan }: Way, expected: LinkExpectation): number {
  const { minutes } = INSTRUMENTS[instrument];
  if (instrument === 'ohmmeter' && plan) return FEW_TOUCHES_MINUTES;
  return instrument === 'eye' && expected[end].connector === 'jack' ? minutes + OPEN_JACK_MINUTES : minutes;
}

/** What a look is called, on a link of its kind. */
export function lookWords({ instrument, end, plan }: Way, expected: LinkExpectation): string {
  const { connector } = expected[end];
  const where = `${end} ${connector === 'other' ? 'end' : connector}`;
  switch (instrument) {
    case 'eye':
      return expected.family === 'coax' ? `Look into the ${end} connector` : `Read the ${where}'s colours`;
    case 'pair-reflectometer':
      return end === 'near'
        ? 'Measure with a reflectometer'
        : 'Measure with a reflectometer from the far end';
    case 'capacitance-meter':
      return `Measure the capacitance of ${expected.family === 'balanced' || expected.family === 'multipair' ? 'each pair' : 'the line'} at the ${end} end, both ends unplugged`;
    case 'ohmmeter':
      return plan && 'touches' in plan
        ? `Measure the ohms ${plan.touches.map(({ from, to }) => `from ${from.contacts[0]} to ${to.contacts[0]}`).join(' and ')} at the ${end} end`
        : 'Measure with an ohmmeter';
    case 'wiggle':
      return `Wiggle the cable at the ${where} and watch the mapper`;
    case 'coded-mapper-crosstalk':
      return expected.family === 'balanced'
        ? 'Test with a mapper that measures crosstalk'
        : 'Test with a mapper';
    default:
      return `Test with ${INSTRUMENTS[instrument].name}`;
  }
}

/** What a reading would look like, coarse enough that equal texts mean the same answer. */
function outcomeKey(reading: Reading): string {
  if (isMapReading(reading)) return mapKey(reading);
  if (reading.instrument === 'pair-reflectometer')
    return JSON.stringify(
      Object.entries(reading.pairs).map(([pair, events]) => [
        pair,
        events.map((e) => `${e.kind}${Math.round(e.distanceM)}`),
      ]),
    );
  if (reading.instrument === 'capacitance-meter')
    // A place nobody knows shows a figure that nobody knows, and that is no loop.
    return Object.entries(reading.nF)
      .map(([pair, nF]) => `${pair} ${nF === null ? 'loop' : nFStep(nF)}`)
      .join();
  if (reading.instrument === 'ohmmeter')
    return JSON.stringify(
      reading.touches.map(({ closed, ohm }) => [closed, ohm == null ? null : ohmStep(ohm)]),
    );
  return JSON.stringify(reading);
}

/** Farads in steps that pairs of one cable can be told apart by. */
const nFStep = (nF: number): number => Math.round(8 * Math.log((nF + 0.05) / 0.05));

/** Ohms in steps that a meter on an unknown contact resistance can tell apart. */
const ohmStep = (ohm: number): number => Math.round(2.5 * Math.log((ohm + 0.4) / 0.4));

/**
 * Looks worth taking, best first: by how many minutes of repair each answer would save on average
 * (expected value of information), less the minutes the look itself takes. Empty when the work is
 * already decided.
 */
export function rankLooks(
  belief: Belief,
  expected: LinkExpectation,
  owned: readonly InstrumentClass[] = EVERY_CLASS,
): Look[] {
  const weighed = belief.hypotheses.slice(0, WEIGHED);
  const total = weighed.reduce((sum, h) => sum + h.weight, 0);
  if (total === 0) return [];
  const classes = repairClasses(weighed);
  if ((classes[0]?.share ?? 0) > 0.9999) return [];
  const now = minutesOfClasses(classes, expected);
  return waysToLook(belief, expected, owned)
    .flatMap((look): Look[] => {
      const groups = outcomesOf(look, belief, weighed);
      if (groups.length < 2) return [];
      const branches = groups.map((group) => ({
        group,
        share: group.reduce((sum, h) => sum + h.weight, 0) / total,
      }));
      const after = branches.reduce(
        (sum, { group, share }) => sum + share * minutesOfClasses(repairClasses(group), expected),
        0,
      );
      const minutes = lookMinutes(look, expected);
      if (now - after - minutes <= 0) return [];
      return [
        {
          ...look,
          words: lookWords(look, expected),
          minutes,
          savesMinutes: now - after - minutes,
          outcomes: branches
            .sort((a, b) => b.share - a.share)
            .filter(({ share }) => share >= WORTH_TELLING)
            .slice(0, OUTCOMES_SHOWN)
            .map(({ group, share }) => {
              const top = group[0] as Hypothesis;
              return {
                words: repairFor(mendingOf(top), expected, top.faults).words,
                because: faultsInWords(top.faults) || 'nothing wrong',
                probability: share,
              };
            }),
        },
      ];
    })
    .sort((a, b) => b.savesMinutes - a.savesMinutes);
}

/** Hypotheses by what they would show to a look. */
function outcomesOf(look: Way, belief: Belief, hypotheses: readonly Hypothesis[]): Hypothesis[][] {
  const observer = OBSERVERS[look.instrument] as unknown as Observer<Reading>;
  const groups = new Map<string, Hypothesis[]>();
  for (const hypothesis of hypotheses) {
    const { state } = hypothesis;
    const here = {
      frame: belief.frame,
      state,
      get link() {
        return hypothesis.link;
      },
    };
    const key = outcomeKey(observer.read(here, { end: look.end, plan: look.plan }, null));
    const group = groups.get(key);
    if (group) group.push(hypothesis);
    else groups.set(key, [hypothesis]);
  }
  return [...groups.values()];
}
