import type { Hypothesis } from './belief.js';
import type { Explanation } from './diagnose.js';
import type { LinkExpectation } from './expectation.js';
import { faultsInWords } from './fault-words.js';
import { mendingOf, repairFor } from './repair.js';

const EXPLANATIONS_SHOWN = 5;
/** What would be told as none in a hundred is not told, but the likeliest always is. */
const WORTH_SHOWING = 0.005;
/** Readings astray are named as an explanation from this share on. */
const WORTH_SAYING = 0.01;

/** The likeliest hypotheses as they are told to people, each with the work that would mend it. */
export function toExplanations(hypotheses: readonly Hypothesis[], expected: LinkExpectation): Explanation[] {
  return hypotheses
    .filter((h, i) => i === 0 || h.weight > (h.faults.length > 0 ? WORTH_SHOWING : WORTH_SAYING))
    .slice(0, EXPLANATIONS_SHOWN)
    .map((hypothesis) => ({
      key: hypothesis.key,
      probability: hypothesis.weight,
      words: faultsInWords(hypothesis.faults) || 'Nothing wrong: a reading astray',
      faults: hypothesis.faults.map(({ id, kind, end, contacts, pairs, distanceM }) => ({
        id,
        kind,
        end,
        contacts,
        pairs,
        distanceM,
      })),
      repair: repairFor(mendingOf(hypothesis), expected, hypothesis.faults),
    }));
}
