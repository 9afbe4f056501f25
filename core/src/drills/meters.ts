import { CABLE_TYPES } from '../cabling/cable-library.js';
import { EIGHT_CONTACTS, conductorAt } from '../cabling/schemes.js';
import { openByBothEnds } from '../metering/capacitance.js';
import type { Random } from '../quantities/random.js';
import { brokenLine, LINE_FAULTS, type LineFaultKind } from '../reflectometry/broken-line.js';
import { lineOf } from '../reflectometry/cable-loss.js';
import { echoDistanceM, LIGHT_M_PER_S, roundTripS } from '../reflectometry/line.js';
import { NO_SCOPE } from '../reflectometry/network.js';
import { simulate } from '../reflectometry/simulate.js';
import { among, pick, shuffled, type Drill } from './drill.js';

type Map8 = Record<string, string | null>;
const straight = (): Map8 => Object.fromEntries(EIGHT_CONTACTS.map((contact) => [contact, contact]));
const swapped = (map: Map8, ...pairs: (readonly [string, string])[]): Map8 => {
  const out = { ...map };
  for (const [a, b] of pairs) [out[a], out[b]] = [out[b] ?? null, out[a] ?? null];
  return out;
};

/** The end to redo where a map shows green and orange exchanged and colours were seen, or were not. */
export function whichEnd(random: Random): Drill {
  const job = pick(random, ['T568A', 'T568B'] as const);
  const other = job === 'T568A' ? 'T568B' : 'T568A';
  const wrongEnd = pick(random, ['near', 'far'] as const);
  const looked = random() < 0.7;
  const seen = (end: 'near' | 'far'): string =>
    `${conductorAt(end === wrongEnd ? other : job, '1')} on contact 1`;
  const right = looked ? `the ${wrongEnd} end` : 'neither yet: look at the colours of one end';
  return {
    kind: 'which-end',
    asks: looked
      ? `The job is ${job}. The map shows green and orange exchanged. Near end: ${seen('near')}. Far end: ${seen('far')}. Which end is redone?`
      : `The job is ${job}. The map shows green and orange exchanged. Nobody has looked at the colours. Which end is redone?`,
    picture: { shows: 'map', map: swapped(straight(), ['1', '3'], ['2', '6']) },
    ...among(random, right, [
      'the near end',
      'the far end',
      'neither yet: look at the colours of one end',
      'both ends',
    ]),
    reason: looked
      ? `${job} has ${conductorAt(job, '1')} on contact 1; the ${wrongEnd} end is done as ${other}.`
      : 'A map tells that the two ends differ, not which of them is wrong. A look at one of them does.',
  };
}

const MAPS: readonly { words: string; map: (random: Random) => Map8; why: string }[] = [
  {
    words: 'one wire is open',
    map: (random) => ({ ...straight(), [pick(random, EIGHT_CONTACTS)]: null }),
    why: 'One contact reaches nothing; all others are straight.',
  },
  {
    words: 'the two wires of a pair are exchanged',
    map: (random) =>
      swapped(
        straight(),
        pick(random, [
          ['1', '2'],
          ['3', '6'],
          ['4', '5'],
          ['7', '8'],
        ] as const),
      ),
    why: 'Both exchanged contacts are of one pair.',
  },
  {
    words: 'two whole pairs are exchanged',
    map: (random) =>
      swapped(
        straight(),
        ...pick(random, [
          [
            ['1', '3'],
            ['2', '6'],
          ],
          [
            ['4', '7'],
            ['5', '8'],
          ],
          [
            ['1', '4'],
            ['2', '5'],
          ],
        ] as const),
      ),
    why: 'Four contacts cross, two and two: each pair keeps together, on the other’s place.',
  },
  {
    words: 'two wires of different pairs are exchanged',
    map: (random) =>
      swapped(
        straight(),
        pick(random, [
          ['2', '3'],
          ['5', '6'],
          ['3', '4'],
          ['6', '7'],
        ] as const),
      ),
    why: 'Two contacts cross that belong to different pairs: both pairs are broken up.',
  },
  {
    words: 'one end is put on back to front',
    map: () =>
      Object.fromEntries(EIGHT_CONTACTS.map((contact, n) => [contact, EIGHT_CONTACTS[7 - n] ?? null])),
    why: 'Contact 1 reaches 8, 2 reaches 7 and so on: the eight were laid from the wrong side.',
  },
];

export function whatTheMapShows(random: Random): Drill {
  const shown = pick(random, MAPS);
  return {
    kind: 'what-the-map-shows',
    asks: 'What does this map show?',
    picture: { shows: 'map', map: shown.map(random) },
    ...among(
      random,
      shown.words,
      shuffled(
        random,
        MAPS.map(({ words }) => words),
      ),
    ),
    reason: shown.why,
  };
}

const TOLD: readonly LineFaultKind[] = ['open', 'short', 'poor', 'leak'];

/** What a trace shows: a bare line of one of the kit's coaxes with one thing wrong at half of it and more. */
export function readATrace(random: Random): Drill {
  const cable = pick(
    random,
    CABLE_TYPES.filter(({ family }) => family === 'coax'),
  );
  const kind = pick(random, TOLD);
  const lengthM = 20 + Math.round(30 * random());
  const atM = lengthM * (0.4 + 0.3 * random());
  const line = lineOf(cable);
  const samples = 360;
  const intervalS = (1.5 * roundTripS(lengthM, cable.velocityFactor)) / samples;
  const { volts } = simulate(
    {
      source: {
        shape: 'pulse',
        volts: 2,
        widthS: 12e-9,
        riseS: 4e-9,
        edge: 'smooth',
        impedanceOhm: cable.impedanceOhm,
      },
      scope: NO_SCOPE,
      ...brokenLine(line, lengthM, [{ kind, atM, severity: 0.7 }]),
    },
    { intervalS, samples, launchS: 30 * intervalS },
  );
  const words = (each: LineFaultKind): string => LINE_FAULTS[each].words;
  const REASONS: Partial<Record<LineFaultKind, string>> = {
    open: 'The echo stands upright and whole, and nothing follows but its repeats: the line ends open there.',
    short:
      'The echo is upside down and whole, and nothing follows but its repeats: the line ends shorted there.',
    poor: 'A smaller upright echo, and the open end still behind it: resistance in the way.',
    leak: 'A smaller echo upside down, and the open end still behind it: something lies across the line.',
  };
  return {
    kind: 'read-a-trace',
    asks: `${cable.name}, its far end open. What is the first echo?`,
    picture: { shows: 'trace', volts: [...volts], intervalS },
    ...among(random, words(kind), shuffled(random, TOLD.map(words))),
    reason: REASONS[kind] ?? '',
  };
}

const metres = (lengthM: number): string => `${lengthM.toFixed(1)} m`;

/** The distance of an echo; forgetting the way back or the velocity is what goes wrong. */
export function howFar(random: Random): Drill {
  const velocityFactor = pick(random, [0.66, 0.69, 0.78, 0.83, 0.85]);
  const timeNs = Math.round(10 * (40 + 600 * random())) / 10;
  const timeS = timeNs * 1e-9;
  const right = echoDistanceM(timeS, velocityFactor);
  return {
    kind: 'how-far',
    asks: `The echo comes ${timeNs} ns after the launch; the velocity factor is ${velocityFactor}. How far is it?`,
    picture: null,
    ...among(random, metres(right), [
      metres(2 * right),
      metres((LIGHT_M_PER_S * timeS) / 2),
      metres(right * velocityFactor),
    ]),
    reason: `${velocityFactor} × 0.2998 m/ns × ${timeNs} ns / 2 = ${metres(right)}: the wave goes there and back.`,
  };
}

/** The place of an open by the capacitance that each end shows. */
export function openByCapacitance(random: Random): Drill {
  const lengthM = 20 + Math.round(60 * random());
  const share = 0.15 + 0.7 * random();
  const perM = 45 + 12 * random();
  const near = Math.max(0.1, Math.round((share * lengthM * perM) / 100) / 10);
  const far = Math.max(0.1, Math.round(((1 - share) * lengthM * perM) / 100) / 10);
  const { value } = openByBothEnds(near * 1e-9, far * 1e-9, { lengthM, deviationM: 0 });
  return {
    kind: 'open-by-capacitance',
    asks: `A pair of ${lengthM} m is open. From the near end it shows ${near} nF, from the far end ${far} nF. How far from the near end is the break?`,
    picture: null,
    ...among(random, metres(value), [
      metres(lengthM - value),
      metres(Math.min(lengthM, (lengthM * Math.min(near, far)) / Math.max(near, far))),
      metres(lengthM / 2),
      metres(value / 2),
      metres((value + lengthM) / 2),
    ]),
    reason: `${lengthM} m × ${near} / (${near} + ${far}) = ${metres(value)}: each end sees as much as hangs on it.`,
  };
}
