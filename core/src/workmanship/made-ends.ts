import type { SlipKind } from '../continuity/practice.js';
import { notCorrected } from '../links/standing.js';

/** What is on record of the work on one link. */
export interface LinkWork {
  linkId: string;
  terminations: readonly {
    id: string;
    turn: number;
    at: string;
    by: string;
    side: 'near' | 'far';
    connector: string;
    outcome: 'good' | 'spoiled';
    connectorsSpoiled: number;
    lot: string;
    tool: string;
    corrects: string | null;
  }[];
  tests: readonly { id: string; turn: number; result: 'pass' | 'fail' | 'cannot-tell' }[];
  /** Faults that were found and are proved gone, with the reading that proved it. */
  found: readonly { testId: string; place: 'near' | 'far' | 'cable'; slip: SlipKind }[];
}

/** An end that somebody took for good. */
export interface MadeEnd {
  linkId: string;
  at: string;
  by: string;
  connector: string;
  /** Empty where nobody named it. */
  lot: string;
  tool: string;
  /** Connectors that were spoiled on the way to it. */
  spoiled: number;
  /** Whether it is known if it was right: a link passed with it, or what was wrong with it was found. Until then it is open. */
  tested: boolean;
  /** What turned out to be wrong with it. */
  wrong: SlipKind | null;
}

/**
 * The ends that were made on a link, each with what turned out to be wrong with it. A fault that was found belongs to the
 * end that was in place when a reading last showed it; which fault it was is known once a later reading proves it gone.
 */
export function madeEnds({ linkId, terminations, tests, found }: LinkWork): MadeEnd[] {
  const attempts = [...notCorrected(terminations)].sort((a, b) => a.turn - b.turn);
  const readings = [...tests].sort((a, b) => a.turn - b.turn);
  const made: MadeEnd[] = [];
  for (const side of ['near', 'far'] as const) {
    const own = attempts.filter((attempt) => attempt.side === side);
    const good = own.filter(({ outcome }) => outcome === 'good');
    const wrongOf = new Map<string, SlipKind>();
    for (const { testId, slip, place } of found) {
      const proof = readings.find(({ id }) => id === testId);
      if (place !== side || !proof) continue;
      const shown = readings.filter(({ turn, result }) => result === 'fail' && turn < proof.turn).at(-1);
      const culprit = shown && good.filter(({ turn }) => turn < shown.turn).at(-1);
      if (culprit && !wrongOf.has(culprit.id)) wrongOf.set(culprit.id, slip);
    }
    good.forEach(({ id, turn, at, by, connector, lot, tool }, n) => {
      const until = good[n + 1]?.turn ?? Infinity;
      const since = good[n - 1]?.turn ?? -1;
      made.push({
        linkId,
        at,
        by,
        connector,
        lot,
        tool,
        spoiled: own
          .filter((attempt) => attempt.turn > since && attempt.turn <= turn)
          .reduce((sum, { connectorsSpoiled }) => sum + connectorsSpoiled, 0),
        tested:
          wrongOf.has(id) ||
          readings.some((one) => one.result === 'pass' && one.turn > turn && one.turn < until),
        wrong: wrongOf.get(id) ?? null,
      });
    });
  }
  return made;
}
