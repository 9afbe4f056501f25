import type { Belief, Hypothesis } from './belief.js';
import type { LinkExpectation } from './expectation.js';
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
  words: string;
  minutes: number;
  /** Minutes of repair this look is expected to save, its own cost taken off. */
  savesMinutes: number;
  outcomes: readonly Outcome[];
}

const LOOKS: readonly { instrument: InstrumentClass; end: LinkEnd }[] = [
  { instrument: 'eye', end: 'far' },
  { instrument: 'eye', end: 'near' },
  { instrument: 'coded-mapper-crosstalk', end: 'near' },
  { instrument: 'pair-reflectometer', end: 'near' },
  { instrument: 'wiggle', end: 'far' },
  { instrument: 'wiggle', end: 'near' },
];

/** A jack has to be taken out of its plate before its slots can be read. */
const OPEN_JACK_MINUTES = 2;
/** The hypotheses a look is weighed by: the heaviest, up to this many. */
const WEIGHED = 90;
const OUTCOMES_SHOWN = 5;

function lookMinutes(look: { instrument: InstrumentClass; end: LinkEnd }, expected: LinkExpectation): number {
  const { minutes } = INSTRUMENTS[look.instrument];
  return look.instrument === 'eye' && expected[look.end].connector === 'jack'
    ? minutes + OPEN_JACK_MINUTES
    : minutes;
}

function lookWords(look: { instrument: InstrumentClass; end: LinkEnd }, expected: LinkExpectation): string {
  const { connector } = expected[look.end];
  const where = `${look.end} ${connector === 'other' ? 'end' : connector}`;
  switch (look.instrument) {
    case 'eye':
      return expected.family === 'coax'
        ? `Look into the ${look.end} connector`
        : `Read the ${where}'s colours`;
    case 'pair-reflectometer':
      return 'Measure with a reflectometer';
    case 'wiggle':
      return `Wiggle the cable at the ${where} and watch the mapper`;
    default:
      return 'Test with a mapper that measures crosstalk';
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
  return JSON.stringify(reading);
}

/**
 * Looks worth taking, best first: by how many minutes of repair each answer would save on average
 * (expected value of information), less the minutes the look itself takes. Empty when the work is
 * already decided.
 */
export function rankLooks(belief: Belief, expected: LinkExpectation): Look[] {
  const weighed = belief.hypotheses.slice(0, WEIGHED);
  const total = weighed.reduce((sum, h) => sum + h.weight, 0);
  if (total === 0) return [];
  const classes = repairClasses(weighed);
  if ((classes[0]?.share ?? 0) > 0.9999) return [];
  const now = minutesOfClasses(classes, expected);
  return LOOKS.flatMap((look): Look[] => {
    if (look.instrument === 'wiggle' && expected.family === 'lead') return [];
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
          .slice(0, OUTCOMES_SHOWN)
          .map(({ group, share }) => {
            const top = group[0] as Hypothesis;
            return {
              words: repairFor(mendingOf(top), expected).words,
              because: top.faults.map((fault) => fault.words).join('; ') || 'nothing wrong',
              probability: share,
            };
          }),
      },
    ];
  }).sort((a, b) => b.savesMinutes - a.savesMinutes);
}

/** Hypotheses by what they would show to a look. */
function outcomesOf(
  look: { instrument: InstrumentClass; end: LinkEnd },
  belief: Belief,
  hypotheses: readonly Hypothesis[],
): Hypothesis[][] {
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
    const key = outcomeKey(observer.read(here, { end: look.end }, null));
    const group = groups.get(key);
    if (group) group.push(hypothesis);
    else groups.set(key, [hypothesis]);
  }
  return [...groups.values()];
}
