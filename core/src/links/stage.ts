import type { Diagnosis } from '../continuity/diagnose.js';

/** How far a link has come. */
export type LinkStage = 'planned' | 'one-end' | 'both-ends' | 'failed' | 'proved' | 'handed-over';

export const LINK_STAGES: readonly { id: LinkStage; name: string }[] = [
  { id: 'handed-over', name: 'handed over' },
  { id: 'proved', name: 'proved' },
  { id: 'failed', name: 'wrong' },
  { id: 'both-ends', name: 'to be tested' },
  { id: 'one-end', name: 'one end done' },
  { id: 'planned', name: 'planned' },
];

/**
 * The stage that follows from a link's record. A link is proved only by a wire map (a lamp's loop
 * is not one); a fault still in evidence keeps it wrong whatever a lesser instrument said since;
 * work after handover opens it again, and so does a person with a reason.
 */
export function stageOf(record: {
  nearDone: boolean;
  farDone: boolean;
  diagnosis: Pick<Diagnosis, 'result' | 'proves'> | null;
  /** Handed over, and nothing done to the link since. */
  handedOver: boolean;
}): LinkStage {
  const { diagnosis } = record;
  if (diagnosis?.result === 'fail') return 'failed';
  if (!record.nearDone && !record.farDone) return 'planned';
  if (!record.nearDone || !record.farDone) return 'one-end';
  if (diagnosis?.result === 'pass' && diagnosis.proves === 'map') {
    return record.handedOver ? 'handed-over' : 'proved';
  }
  return 'both-ends';
}
