import { END_KINDS, type EventKind } from './events.js';
import { FAR_ENDS, type FarEnd } from './chain/explain-by-chain.js';
import type { TraceReading, TraceSetting } from './read-trace.js';

/** One question that a trace alone leaves open; the answer narrows what it can be. */
export type TraceAsk =
  | { about: 'far end'; words: string; answers: readonly { farEnd: FarEnd; words: string }[] }
  | { about: 'loss'; words: string };

/** Kinds that a line ends in, or that may hide its end. */
const MAY_END: ReadonlySet<EventKind> = new Set([...END_KINDS, 'series-resistance', 'wet-or-shunt']);
/** Surer than this nothing is asked. */
const SURE = 0.95;
/** A source so far off the line's impedance, as a logarithm. */
const SOURCE_ODD = 0.6;
/** A loss so far off what is typical, as a logarithm, may be another cable, or a resistance that hides in it. */
const LOSS_ODD = Math.log(1.6);

const FAR_END_WORDS: Readonly<Record<FarEnd, string>> = {
  open: 'Nothing: its end is open',
  joined: 'Its two sides are joined',
  connected: 'Equipment, or a terminating resistor',
};

/**
 * What to ask of the person at the line, one thing at a time; null where the trace is sure enough, or where it was told
 * already. First the far end, which is quick to look at, then the loss.
 */
export function askAbout(
  { events, loss, source }: Pick<TraceReading, 'events' | 'loss' | 'source'>,
  { farEnd, lossKnown }: Pick<TraceSetting, 'farEnd' | 'lossKnown'>,
): TraceAsk | null {
  const ending = events.filter(({ kind, or }) =>
    [kind, ...or.map((other) => other.kind)].some((k) => END_KINDS.has(k)),
  );
  const last = ending.at(-1);
  // A source that takes up much of an echo makes a whole end and a faint load look alike, unless its own ghosts show.
  const hidden =
    Math.abs(Math.log(Math.max(0.01, source))) > SOURCE_ODD && !events.some(({ kind }) => kind === 'ghost');
  const unsure = last !== undefined && MAY_END.has(last.kind) && (last.probability < SURE || hidden);
  if (farEnd === undefined && (last === undefined || last.kind === 'matched-end' || unsure))
    return {
      about: 'far end',
      words: 'What is at the far end?',
      answers: FAR_ENDS.map((each) => ({ farEnd: each, words: FAR_END_WORDS[each] })),
    };
  const odd = loss !== null && Math.abs(Math.log(Math.max(0.01, loss.share))) > LOSS_ODD;
  if (lossKnown !== 'measured' && (odd || (!lossKnown && unsure)))
    return {
      about: 'loss',
      words: odd
        ? `By this trace the line loses ${loss.share.toFixed(1)} times what is typical. Do you know its loss, in dB per 100 m at a frequency?`
        : 'Do you know the loss of this cable, in dB per 100 m at a frequency?',
    };
  return null;
}
