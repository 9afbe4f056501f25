import { parentPort, workerData } from 'node:worker_threads';
import { judge, type Evidence, type LinkExpectation } from '../../core/src/index.js';
import { KINDS, soundLink } from '../../core/test/world/draw-world.js';
import {
  count,
  history,
  isFalsePass,
  isRight,
  newTally,
  type Tally,
} from '../../core/test/world/histories.js';
import { take } from '../../core/test/world/world-instruments.js';

/** First readings that came so often say how well anybody could tell: what was wrong, reading by reading. */
export type FirstReadings = Record<
  string,
  { truths: Record<string, number>; right: number; belief: number; cases: number }
>;

export interface TrialShare {
  tally: Tally;
  first: FirstReadings;
  /** Times of the reference belief, in ms, all through the run: what else the machine did shows in them. */
  reference: number[];
  /** Judgements that took long: their history and place in it, as it came and the quickest of three, in ms. */
  slow: { seed: number; step: number; came: number; ms: number }[];
  /** Passes that were not earned although a fault was shown: their history and place in it. */
  falsePasses: { seed: number; step: number }[];
}

/** From here on a judgement is made twice more, for the machine may have had other work, in ms. */
const LONG = 500;
const REFERENCE_EVERY = 20;

const timed = (expected: LinkExpectation, evidence: readonly Evidence[]): number => {
  const begun = performance.now();
  judge(expected, evidence);
  return performance.now() - begun;
};

/** The same belief every time: two wires of a four-pair link exchanged at one end, read by a mapper. */
function referenceBelief(): () => number {
  const { expected, link } = soundLink(KINDS[0] as (typeof KINDS)[number], 'T568B', 30, 30);
  const { 1: one = null, 2: two = null } = link.laid.far;
  link.laid.far = { ...link.laid.far, 1: two, 2: one };
  const reading = take(link, 'coded-mapper', { chance: null });
  return () => timed(expected, [reading]);
}

/** One share of the judgement benchmark: histories of links of a world that the judge's model did not draw. */
function trial(from: number, to: number): TrialShare {
  const tally = newTally();
  const first: FirstReadings = {};
  const slow: TrialShare['slow'] = [];
  const falsePasses: TrialShare['falsePasses'] = [];
  const reference: number[] = [];
  const again = referenceBelief();
  for (let seed = from; seed < to; seed++) {
    if (seed % REFERENCE_EVERY === 0) reference.push(again());
    const judged = history(seed);
    if (parentPort && seed % 1000 === 0) parentPort.postMessage({ progress: seed });
    judged.forEach((one, step) => {
      if (isFalsePass(one)) falsePasses.push({ seed, step });
      if (one.ms < LONG) return;
      const { expected } = one.drawn;
      const ms = Math.min(one.ms, timed(expected, one.evidence), timed(expected, one.evidence));
      slow.push({ seed, step, came: one.ms, ms });
      one.ms = ms;
    });
    count(tally, judged);
    const [one] = judged;
    if (!one || one.diagnosis.explanations.length === 0) continue;
    const key = JSON.stringify([one.drawn.kind.name, one.drawn.scheme, one.evidence], (_, value: unknown) =>
      typeof value === 'number' ? Math.round(value) : value,
    );
    const truth = one.truth
      .map((set) => [...set].sort().join('+'))
      .sort()
      .join(' or ');
    const seen = (first[key] ??= { truths: {}, right: 0, belief: 0, cases: 0 });
    seen.truths[truth] = (seen.truths[truth] ?? 0) + 1;
    seen.cases++;
    seen.belief += one.top.share;
    if (isRight(one)) seen.right++;
  }
  return { tally, first, reference, slow, falsePasses };
}

if (parentPort) {
  const { from, to } = workerData as { from: number; to: number };
  parentPort.postMessage({ done: trial(from, to) });
}
