import type { LinkExpectation } from '../continuity/expectation.js';
import { probeMap, type AskedTouch, type ProbeWay } from '../continuity/probing.js';
import type { ContactGroup } from '../continuity/readings.js';
import { handSeconds, probeMoves, USUAL_HANDS, type Hands } from './hands.js';
import type { ProbePoint, ProofTouch } from './proof-list.js';

/** What leading a beeper over a sound link costs: touches, and seconds of hands. */
export interface LinkProofCost {
  touches: number;
  seconds: number;
}

/** What proving a link costs with two probes or with clips, if nothing is wrong with it. */
export function linkProofCost(
  expected: LinkExpectation,
  way: ProbeWay,
  hands: Hands = USUAL_HANDS,
): LinkProofCost {
  const asked: AskedTouch[] = [];
  for (;;) {
    const state = probeMap(
      expected,
      asked.map(({ should }) => should),
      way,
    );
    if (state.step !== 'touch') break;
    asked.push(state.touch);
  }
  const move = probeMoves([], hands);
  return { touches: asked.length, seconds: handSeconds(asked.map(asProof), move, hands) };
}

const pointsOf = ({ end, contacts }: ContactGroup): ProbePoint[] =>
  contacts.map((contact) => ({ end, contact }));

/** A touch as hands make it: what is swept comes second. */
function asProof({ from, to, should, why, sweep }: AskedTouch): ProofTouch {
  const [one, other] =
    sweep && from.contacts.length > 1 ? [pointsOf(to), pointsOf(from)] : [pointsOf(from), pointsOf(to)];
  return {
    one,
    other,
    should: should ? 'beep' : 'stay silent',
    why: why === 'path' ? 'path' : 'isolation',
    nets: [],
    ...(sweep ? { sweep } : {}),
  };
}
