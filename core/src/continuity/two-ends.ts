import type { LinkExpectation } from './expectation.js';
import { probeMap, type AskedTouch, type ProbeWay } from './probing.js';
import type { Touch } from './readings.js';
import type { LinkEnd } from './true-link.js';

/** What somebody at one end of a cable tells the other while both prove it: touches count from 0. */
export type Doing =
  /** Has come to this end. */
  | { does: 'came' }
  /** The probe is on for a touch. */
  | { does: 'on'; touch: number }
  | { does: 'answered'; touch: number; closed: boolean }
  /** Takes back the answer to a touch, which is the last one. */
  | { does: 'took-back'; touch: number }
  /** Wants the other end to look up. */
  | { does: 'called' }
  /** Of unmarked conductors: what they are called at B, a round joined at A, and what beeps in it at B. */
  | { does: 'named'; names: readonly string[] }
  | { does: 'joined'; round: number }
  | { does: 'found'; round: number; names: readonly string[] };

/** One thing told, in the order in which it counted. */
export interface Told {
  end: LinkEnd;
  who: string;
  doing: Doing;
}

/** How far two people have come with one cable. */
export interface TwoEnds {
  /** Answers to the touches so far, oldest first; true where it beeped. */
  answers: readonly boolean[];
  /** Whether the probe of each end is on for the touch that is next. */
  on: Readonly<Record<LinkEnd, boolean>>;
  /** Who has come to each end. */
  people: Readonly<Record<LinkEnd, readonly string[]>>;
  /** The end that calls the other, until the touch is answered; null where neither does. */
  calls: LinkEnd | null;
}

const BEGUN: TwoEnds = {
  answers: [],
  on: { near: false, far: false },
  people: { near: [], far: [] },
  calls: null,
};
const OFF = { near: false, far: false };

/**
 * Whether something can be told now. What was meant for another touch than the one that is next comes too late: the other
 * end was first, and it counts once.
 */
export function isTimely({ answers }: TwoEnds, doing: Doing): boolean {
  if (doing.does === 'named' || doing.does === 'joined' || doing.does === 'found') return false;
  if (doing.does === 'took-back') return doing.touch === answers.length - 1;
  return !('touch' in doing) || doing.touch === answers.length;
}

/** How far two people have come, after all that was told, oldest first. What came too late counts for nothing. */
export function twoEnds(told: readonly Told[]): TwoEnds {
  return told.reduce((state, { end, who, doing }): TwoEnds => {
    if (!isTimely(state, doing)) return state;
    const { answers, on, people } = state;
    switch (doing.does) {
      case 'came': {
        // Nobody is at both ends.
        const others = (of: LinkEnd): string[] => people[of].filter((one) => one !== who);
        return {
          ...state,
          people: { near: others('near'), far: others('far'), [end]: [...others(end), who] },
        };
      }
      case 'on':
        return { ...state, on: { ...on, [end]: true }, calls: state.calls === end ? state.calls : null };
      case 'answered':
        return { ...state, answers: [...answers, doing.closed], on: OFF, calls: null };
      case 'took-back':
        return { ...state, answers: answers.slice(0, -1), on: OFF, calls: null };
      case 'called':
        return { ...state, calls: end };
      default:
        return state;
    }
  }, BEGUN);
}

/** The touches that answers belong to, as a reading has them, and whether one of them was not as it should be. */
export function touchesOf(
  expected: LinkExpectation,
  answers: readonly boolean[],
  way?: ProbeWay,
): { touches: readonly Touch[]; surprised: boolean } {
  const touches: Touch[] = [];
  let surprised = false;
  answers.forEach((closed, i) => {
    const asked = probeMap(expected, answers.slice(0, i), way);
    if (asked.step !== 'touch') return;
    const { from, to } = asked.touch;
    touches.push({ from, to, closed });
    surprised ||= isSurprise(asked.touch, closed);
  });
  return { touches, surprised };
}

/** Whether an answer is not what it should be; while something is looked for, either may come. */
export const isSurprise = ({ should, why }: Pick<AskedTouch, 'should' | 'why'>, closed: boolean): boolean =>
  why !== 'search' && closed !== should;
