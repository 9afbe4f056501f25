import {
  encodeReading,
  instrumentClass,
  linkEnd,
  MAX_LINE_BYTES,
  plannedLink,
  type ProtocolErrorCode,
} from '@near-spoke/contracts';
import { observe, type InstrumentClass } from '@near-spoke/core';
import { afterWork, trueLink, type Work, type World } from './world.js';

export const CLASSES: readonly InstrumentClass[] = [
  'coded-mapper-crosstalk',
  'coded-mapper',
  'stepping-lamps',
  'lamp-pairs',
  'pair-reflectometer',
  'eye',
];

/** What the stand-in keeps between requests. */
export interface Bench {
  readonly world: World;
  /** Keeps a changed world; called only when a change is complete. */
  keep(world: World): void;
}

const WORKS: readonly string[] = ['near', 'far', 'mended', 'replaced'];

/** Answers one request line of the protocol, as complete answer lines. */
export function answer(bench: Bench, line: string): string[] {
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
    default:
      return refuse('unknown-command', 'Say IDENTIFY, READ or WORK.');
  }
}

const done = (lines: string[]): string[] => [...lines, `DONE ${lines.length}`];
const refuse = (code: ProtocolErrorCode, words: string): string[] => [`ERROR ${code} ${words}`];

function read(bench: Bench, [classWord, endWord, linkId]: string[]): string[] {
  const instrument = instrumentClass.safeParse(classWord);
  if (!instrument.success) return refuse('unknown-class', `This set has ${CLASSES.join(', ')}.`);
  const end = linkEnd.safeParse(endWord);
  if (!end.success) return refuse('bad-argument', 'An end is near or far.');
  const link = bench.world.links[linkId ?? ''];
  if (!link) return refuse('unknown-link', 'There is no cable on these ports: terminate an end first.');
  return done(encodeReading(observe(trueLink(link), instrument.data, end.data)));
}

function work(bench: Bench, [place, linkId, ...rest]: string[]): string[] {
  if (!place || !WORKS.includes(place) || !linkId)
    return refuse('bad-argument', `Work is done ${WORKS.join(', ')}.`);
  let plan: unknown;
  try {
    plan = JSON.parse(rest.join(' '));
  } catch {
    return refuse('bad-argument', 'The plan of the link is not JSON.');
  }
  const parsed = plannedLink.safeParse(plan);
  if (!parsed.success)
    return refuse('bad-argument', `The plan of the link: ${parsed.error.issues[0]?.message}`);
  bench.keep(afterWork(bench.world, linkId, place as Work, parsed.data));
  return done([]);
}
