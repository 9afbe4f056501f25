import type { LinkStage } from '@near-spoke/core';

/** The room in which a link of a stage has its next work. */
export const ROOM_OF_STAGE: Readonly<Record<LinkStage, string>> = {
  planned: 'terminate',
  'one-end': 'terminate',
  'both-ends': 'verify',
  failed: 'verify',
  proved: 'verify',
  'handed-over': 'hand-over',
};

/** Which links wait at each stop of a job's line. */
export const STOPS: readonly { id: string; name: string; stages: readonly LinkStage[] }[] = [
  { id: 'plan', name: 'Plan', stages: ['planned'] },
  { id: 'terminate', name: 'Terminate', stages: ['planned', 'one-end'] },
  { id: 'verify', name: 'Verify', stages: ['both-ends', 'failed'] },
  { id: 'hand-over', name: 'Hand over', stages: ['proved', 'handed-over'] },
];

/** What is most worth doing first: what is wrong, then what is nearly done. */
const URGENCY: readonly LinkStage[] = ['failed', 'both-ends', 'one-end', 'planned', 'proved'];

export function mostUrgent<L extends { stage: LinkStage }>(links: readonly L[]): L | undefined {
  for (const stage of URGENCY) {
    const found = links.find((link) => link.stage === stage);
    if (found) return found;
  }
  return undefined;
}
