import { believe } from '../continuity/belief.js';
import { diagnose } from '../continuity/diagnose.js';
import { evidenceOf } from '../continuity/evidence.js';
import type { LinkExpectation } from '../continuity/expectation.js';
import type { FaultId } from '../continuity/faults.js';
import type { FaultKind } from '../continuity/instruments.js';
import type { Practice, SlipKind } from '../continuity/practice.js';
import { isWork, type Evidence } from '../continuity/timeline.js';
import type { LinkEnd } from '../continuity/true-link.js';
import { linkEvents, type LinkHistory } from './standing.js';

/** A fault that work has put right, and a later reading has proved gone. */
export interface FoundFault {
  slip: SlipKind;
  kind: FaultKind;
  place: LinkEnd | 'cable';
  id: FaultId;
  words: string;
}

const SURE = 0.7;

/**
 * What was wrong with a link, now that it passes: the faults of earlier makes of its ends and cable
 * that all evidence, the last pass included, points to. Empty while it does not pass, or where
 * nothing was wrong, or where it stays unknown what was.
 */
export const faultsFound = (
  expected: LinkExpectation,
  record: LinkHistory,
  practice?: Practice,
): FoundFault[] => faultsMended(expected, evidenceOf(linkEvents(record)), practice);

/** The same from evidence: readings and the work between them, oldest first. */
export function faultsMended(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  practice?: Practice,
): FoundFault[] {
  if (!evidence.some(isWork) || diagnose(expected, evidence, practice).result !== 'pass') return [];
  return believe(expected, evidence, practice)
    .past.filter(({ weight }) => weight > SURE)
    .map(({ fault: { id, slip, kind, end, words } }) => ({ id, slip, kind, place: end, words }));
}
