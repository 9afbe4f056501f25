import { helperRoundsOf } from '../continuity/identify-helper.js';
import type { IdentifyPlan } from '../continuity/identify.js';
import { USUAL_HANDS, type Hands } from './hands.js';

/**
 * What telling unmarked conductors apart costs in seconds, everything sound: joins made and undone, conductors sorted by
 * continuity, answers, and walks. Infinity where no plan tells them.
 */
export function identifySeconds(plan: IdentifyPlan, hands: Hands = USUAL_HANDS): number {
  switch (plan.way) {
    case 'impossible':
      return Infinity;
    case 'walk':
      return (
        plan.walks * hands.walkS +
        sorting(plan.groupsAtA, plan.withReturn, hands) +
        (plan.walks > 1 ? sorting(groupsAtB(plan), false, hands) : 0) +
        (plan.walks > 2 ? parting(plan, hands) : 0)
      );
    case 'helper':
      return helperRoundsOf(plan).reduce(
        (sum, { join, to }) =>
          sum +
          // What they are joined to needs a clip of its own.
          (join.length + (to === 'each-other' ? 0 : 1)) * hands.clipS +
          plan.count * hands.oneS +
          // Called across before and after.
          (join.length + 2) * hands.answerS,
        0,
      );
    case 'resistors':
      return plan.walks * hands.walkS + plan.count * (hands.clipS + hands.oneS + hands.answerS);
  }
}

type WalkPlan = Extract<IdentifyPlan, { way: 'walk' }>;

/** Groups joined, and at the other end found: each by one probe on its first and the other over all that are left. */
function sorting(groups: readonly (readonly unknown[])[], withReturn: boolean, hands: Hands): number {
  let left = groups.reduce((sum, group) => sum + group.length, 0);
  let seconds = 0;
  groups.forEach((group, i) => {
    const onReturn = withReturn && i === 0;
    if (group.length > 1 || (onReturn && group.length > 0))
      seconds += (group.length + (onReturn ? 1 : 0)) * hands.clipS;
    // The last one is known by itself.
    const over = onReturn ? left : left - 1;
    if (over > 0) seconds += hands.bothS + (over - 1) * hands.oneS + group.length * hands.answerS;
    left -= group.length;
  });
  return seconds;
}

/** Groups joined at B, whichever conductors they turn out to be of. */
function groupsAtB({ table }: WalkPlan): unknown[][] {
  return table.columns.flatMap((size, j) => {
    const conductors = table.cells.reduce((sum, row) => sum + (row[j] ?? 0), 0);
    return Array.from({ length: conductors / size }, () => new Array<unknown>(size).fill(null));
  });
}

/** Of each two that look alike one is joined to a conductor that is known, and found at the other end. */
function parting({ table }: WalkPlan, hands: Hands): number {
  const pairs = table.cells.flat().filter((cell) => cell === 2).length;
  return (pairs + 1) * hands.clipS + pairs * (2 * hands.oneS + hands.answerS);
}
