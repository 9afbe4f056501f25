import {
  encodeReading,
  firstError,
  instrumentClass,
  linkEnd,
  MAX_LINE_BYTES,
  plannedLink,
  type ProtocolErrorCode,
} from '@near-spoke/contracts';
import {
  expectTold,
  frameOf,
  observe,
  seededRandom,
  type InstrumentClass,
  type Random,
  type Reading,
} from '@near-spoke/core';
import { reading as readingShape } from '@near-spoke/contracts';
import { breakForPractice } from './practice.js';
import { afterWork, trueLink, type Work, type World } from './world.js';

export const CLASSES: readonly InstrumentClass[] = [
  'coded-mapper-crosstalk',
  'coded-mapper',
  'stepping-lamps',
  'lamp-pairs',
  'lamps-one-return',
  'pair-reflectometer',
  'beeper',
  'ohmmeter',
  'tone-probe',
  'dc-voltage',
  'power-tester',
  'capacitance-meter',
  'wiggle',
  'eye',
];

/** What the stand-in keeps between requests. */
export interface Bench {
  readonly world: World;
  /** Keeps a changed world; called only when a change is complete. */
  keep(world: World): void;
  /** Practice links on which instruments err, each with its chance. */
  readonly noisy?: Map<string, Random>;
}

/** A refusal is one line that a screen has room for. */
const MOST_WORDS = 300;
const WORKS: readonly string[] = ['near', 'far', 'mended', 'replaced', 'outlet', 'unplug'];

/** Answers one request line of the protocol, as complete answer lines. */
export function answer(bench: Bench, line: string): string[] {
  try {
    return obey(bench, line);
  } catch (error) {
    // A cable or connector that is not there, a contact that a link does not have: told, not died of.
    if (error instanceof RangeError) return refuse('bad-argument', error.message);
    // A full disk, a closed folder: the world stays as it was, and the next line may fare better.
    const { code } = error as NodeJS.ErrnoException;
    if (typeof code === 'string') return refuse('not-kept', `The change could not be kept (${code}).`);
    throw error;
  }
}

function obey(bench: Bench, line: string): string[] {
  if (Buffer.byteLength(line) > MAX_LINE_BYTES)
    return refuse('line-too-long', `A line has at most ${MAX_LINE_BYTES} bytes.`);
  const [command, ...words] = line.trim().split(' ');
  switch (command) {
    case 'IDENTIFY':
      return done(['NAME Simulated bench set', 'SIMULATED yes', `CLASSES ${CLASSES.join(' ')}`]);
    case 'READ':
      return read(bench, words);
    case 'WORK':
      return work(bench, words);
    case 'BREAK':
      return breakLink(bench, words);
    case 'REVEAL':
      return reveal(bench, words);
    case 'DRAW':
      return draw(bench, words);
    default:
      return refuse('unknown-command', 'Say IDENTIFY, READ, WORK, BREAK, REVEAL or DRAW.');
  }
}

const done = (lines: string[]): string[] => [...lines, `DONE ${lines.length}`];
const refuse = (code: ProtocolErrorCode, words: string): string[] => [
  `ERROR ${code} ${words.replaceAll(/\s+/g, ' ').slice(0, MOST_WORDS)}`,
];

function read(bench: Bench, [classWord, endWord, linkId, ...rest]: string[]): string[] {
  const instrument = instrumentClass.safeParse(classWord);
  if (!instrument.success) return refuse('unknown-class', `This set has ${CLASSES.join(', ')}.`);
  const end = linkEnd.safeParse(endWord);
  if (!end.success) return refuse('bad-argument', 'An end is near or far.');
  const link = linkId === CORD ? KNOWN_GOOD_CORD : bench.world.links[linkId ?? ''];
  if (!link) return refuse('unknown-link', 'There is no cable on these ports: terminate an end first.');
  let plan: Reading | undefined;
  if (rest.length > 0) {
    const asked = readingShape.safeParse(parseJson(rest.join(' ')));
    if (!asked.success)
      return refuse('bad-argument', 'What is to be touched or fed is told as a reading in JSON.');
    plan = asked.data;
  }
  const physical = trueLink(link);
  const random = bench.noisy?.get(linkId ?? '');
  const reading = observe(physical.link, instrument.data, {
    end: end.data,
    frame: frameOf(physical.intended),
    ...(plan ? { plan } : {}),
    ...(random ? { random } : {}),
  });
  return done(encodeReading(reading));
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** Breaks a practice link in one to three ways that hands or time would; the plan comes as JSON. */
function breakLink(bench: Bench, [linkId, howMany, seed, calm, ...rest]: string[]): string[] {
  const plan = plannedLink.safeParse(parseJson(rest.join(' ')));
  if (!linkId || !plan.success)
    return refuse('bad-argument', 'Say BREAK link-id count seed calm|noisy plan.');
  if (!linkId.startsWith(PRACTICE))
    return refuse('bad-argument', 'Only practice links are broken on purpose.');
  if (calm !== 'calm' && calm !== 'noisy') return refuse('bad-argument', 'Instruments are calm or noisy.');
  const [count, chance] = [Number(howMany), Number(seed)];
  if (!Number.isInteger(count) || count < 0 || count > 3)
    return refuse('bad-argument', 'A practice link has 0 to 3 things wrong.');
  if (!Number.isInteger(chance)) return refuse('bad-argument', 'The seed is a whole number.');
  const faults = breakForPractice(plan.data, count, seededRandom(chance));
  bench.noisy?.delete(linkId);
  if (calm === 'noisy') bench.noisy?.set(linkId, seededRandom(chance + 1));
  const others = Object.entries(bench.world.links);
  const old = others.filter(([id]) => id.startsWith(PRACTICE)).slice(0, -PRACTICE_KEPT + 1);
  const kept = Object.fromEntries(others.filter((entry) => !old.includes(entry)));
  bench.keep({ ...bench.world, links: { ...kept, [linkId]: { ...plan.data, faults, bare: [] } } });
  return done([]);
}

/** What a practice link really has: only for links that BREAK made, whose ids begin with "practice". */
function reveal(bench: Bench, [linkId = '']: string[]): string[] {
  const link = bench.world.links[linkId];
  if (!link || !linkId.startsWith(PRACTICE))
    return refuse('unknown-link', 'Only a practice link is laid open.');
  return done(link.faults.map((fault) => `FAULT ${JSON.stringify(fault)}`));
}

/** Tells a simulated reel that some of it was cut off; a reel it does not know has nothing to lose. */
function draw(bench: Bench, [reelId = '', metres]: string[]): string[] {
  const cut = Number(metres);
  if (!(cut >= 0)) return refuse('bad-argument', 'Say DRAW reel-id metres.');
  const { reels } = bench.world;
  const known = reels[reelId];
  if (!known) return done([]);
  const left = { ...known, lengthM: Math.max(0, known.lengthM - cut) };
  bench.keep({ ...bench.world, reels: { ...reels, [reelId]: left } });
  return done([]);
}

/** What the application calls a cord plugged straight from one port of the tester into the other. */
const CORD = 'cord';
const KNOWN_GOOD_CORD: World['links'][string] = {
  cable: 'cord-26',
  scheme: 'T568B',
  lengthM: 2,
  near: 'plug-closed',
  far: 'plug-closed',
  faults: [],
  bare: [],
};
const PRACTICE_KEPT = 20;
/** Ids of practice links begin so; they are no crew's. */
export const PRACTICE = '00000000-0000-4000-9000-';

function work(bench: Bench, [place, linkId, ...rest]: string[]): string[] {
  if (!place || !WORKS.includes(place) || !linkId)
    return refuse('bad-argument', `Work is done ${WORKS.join(', ')}.`);
  const plan = parseJson(rest.join(' '));
  if (plan === undefined) return refuse('bad-argument', 'The plan of the link is not JSON.');
  const parsed = plannedLink.safeParse(plan);
  if (!parsed.success) return refuse('bad-argument', `The plan of the link: ${firstError(parsed.error)}`);
  // A plan that names what is not there is refused before anything of it is kept.
  expectTold(parsed.data);
  bench.keep(afterWork(bench.world, linkId, place as Work, parsed.data));
  return done([]);
}
