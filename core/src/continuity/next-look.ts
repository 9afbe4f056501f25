import type { LinkExpectation } from './expectation.js';
import { placesToMend, type Hypothesis } from './hypotheses.js';
import { INSTRUMENTS, type InstrumentClass } from './instruments.js';
import { observe } from './observers.js';
import { isMapReading, mapKey, type Reading } from './readings.js';
import type { LinkEnd } from './true-link.js';

export type MendPlace = LinkEnd | 'cable';

/** Work that mends a link, with what it costs. */
export interface Repair {
  places: readonly MendPlace[];
  words: string;
  minutes: number;
  connectors: number;
}

/** One look that could be taken next, and what it is worth. */
export interface Look {
  instrument: InstrumentClass;
  end: LinkEnd;
  words: string;
  minutes: number;
  /** Minutes of repair this look is expected to save, its own cost taken off. */
  savesMinutes: number;
  outcomes: readonly { words: string; probability: number }[];
}

/** Replacing or splicing a cable and proving it again, typical. */
const CABLE_MINUTES = 45;

function costOf(place: MendPlace, expected: LinkExpectation): number {
  return place === 'cable' ? CABLE_MINUTES : expected[place].redoMinutes;
}

/** The work a set of places asks for. */
export function repairFor(places: readonly MendPlace[], expected: LinkExpectation): Repair {
  const words = places.map((place) =>
    place === 'cable' ? 'mend or replace the cable' : `redo the ${place} end`,
  );
  return {
    places,
    words: words.join(', then '),
    minutes:
      places.reduce((sum, place) => sum + costOf(place, expected), 0) + INSTRUMENTS['coded-mapper'].minutes,
    connectors: places.filter((place) => place !== 'cable').length,
  };
}

const totalWeight = (hypotheses: readonly Hypothesis[]): number =>
  hypotheses.reduce((sum, h) => sum + h.weight, 0);

/**
 * Expected minutes until the link is right when one works by the belief alone: try the place with
 * the most belief per minute first, retest, go on to the next. A hypothesis costs every place up
 * to the last one it needs.
 */
export function expectedRepairMinutes(hypotheses: readonly Hypothesis[], expected: LinkExpectation): number {
  const total = totalWeight(hypotheses);
  if (total === 0) return 0;
  const retest = INSTRUMENTS['coded-mapper'].minutes;
  const places = (['near', 'far', 'cable'] as const)
    .map((place) => {
      const share = totalWeight(hypotheses.filter((h) => placesToMend(h).includes(place))) / total;
      return { place, share, minutes: costOf(place, expected) + retest };
    })
    .filter(({ share }) => share > 0)
    .sort((a, b) => b.share / b.minutes - a.share / a.minutes);
  return hypotheses.reduce((sum, hypothesis) => {
    const needed = placesToMend(hypothesis);
    const last = places.reduce((index, { place }, i) => (needed.includes(place) ? i : index), -1);
    const spent = places.slice(0, last + 1).reduce((minutes, p) => minutes + p.minutes, 0);
    return sum + (hypothesis.weight / total) * spent;
  }, 0);
}

/** What a reading would look like, coarse enough that equal texts mean the same answer. */
function outcomeKey(reading: Reading): string {
  if (isMapReading(reading)) return mapKey(reading);
  if (reading.instrument === 'eye') return JSON.stringify(reading.colours);
  if (reading.instrument === 'lamp-pairs') return JSON.stringify(reading.lamps);
  return JSON.stringify(reading.pairs);
}

const LOOKS: readonly { instrument: InstrumentClass; end: LinkEnd }[] = [
  { instrument: 'eye', end: 'far' },
  { instrument: 'eye', end: 'near' },
  { instrument: 'coded-mapper-crosstalk', end: 'near' },
  { instrument: 'pair-reflectometer', end: 'near' },
];

/** A jack has to be taken out of its plate before its slots can be read. */
const OPEN_JACK_MINUTES = 2;

function lookMinutes(look: { instrument: InstrumentClass; end: LinkEnd }, expected: LinkExpectation): number {
  const base = INSTRUMENTS[look.instrument].minutes;
  return look.instrument === 'eye' && expected[look.end].connector !== 'plug'
    ? base + OPEN_JACK_MINUTES
    : base;
}

function lookWords(look: { instrument: InstrumentClass; end: LinkEnd }, expected: LinkExpectation): string {
  if (look.instrument === 'eye') {
    const { connector } = expected[look.end];
    return expected.family === 'coax'
      ? `Look into the ${look.end} connector`
      : `Read the ${look.end} ${connector === 'other' ? 'end' : connector}'s colours`;
  }
  if (look.instrument === 'pair-reflectometer')
    return 'Measure the distance with a reflectometer, from the near end';
  return 'Test with a mapper that measures crosstalk';
}

/**
 * Looks worth taking, best first: by how many minutes of repair each answer would save on
 * average, less the minutes the look itself takes. Empty when the work is already decided.
 */
export function rankLooks(hypotheses: readonly Hypothesis[], expected: LinkExpectation): Look[] {
  const total = totalWeight(hypotheses);
  if (total === 0) return [];
  const now = expectedRepairMinutes(hypotheses, expected);
  return LOOKS.map((look): Look => {
    const groups = new Map<string, Hypothesis[]>();
    for (const hypothesis of hypotheses) {
      const key = outcomeKey(observe(hypothesis.link, look.instrument, look.end));
      groups.set(key, [...(groups.get(key) ?? []), hypothesis]);
    }
    const branches = [...groups.values()].map((group) => ({ group, share: totalWeight(group) / total }));
    const after = branches.reduce((sum, b) => sum + b.share * expectedRepairMinutes(b.group, expected), 0);
    const minutes = lookMinutes(look, expected);
    return {
      ...look,
      words: lookWords(look, expected),
      minutes,
      savesMinutes: now - after - minutes,
      outcomes: branches
        .sort((a, b) => b.share - a.share)
        .map(({ group, share }) => ({
          words: repairFor(placesToMend(group[0] as Hypothesis), expected).words,
          probability: share,
        })),
    };
  })
    .filter((look) => look.savesMinutes > 0)
    .sort((a, b) => b.savesMinutes - a.savesMinutes);
}
