import { parentPort, workerData } from 'node:worker_threads';
import { count, history, isRight, newTally, type Tally } from '../../core/test/world/histories.js';

/** First readings that came so often say how well anybody could tell: what was wrong, reading by reading. */
export type FirstReadings = Record<
  string,
  { truths: Record<string, number>; right: number; belief: number; cases: number }
>;

export interface TrialShare {
  tally: Tally;
  first: FirstReadings;
}

/** One share of the judgement benchmark: histories of links of a world that the judge's model did not draw. */
function trial(from: number, to: number): TrialShare {
  const tally = newTally();
  const first: FirstReadings = {};
  for (let seed = from; seed < to; seed++) {
    const judged = history(seed);
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
    if (parentPort && seed % 100 === 0) parentPort.postMessage({ progress: seed });
  }
  return { tally, first };
}

if (parentPort) {
  const { from, to } = workerData as { from: number; to: number };
  parentPort.postMessage({ done: trial(from, to) });
}
