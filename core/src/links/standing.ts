import { diagnose, type Diagnosis } from '../continuity/diagnose.js';
import { evidenceOf, type LinkEvent } from '../continuity/evidence.js';
import type { LinkExpectation } from '../continuity/expectation.js';
import type { Practice } from '../continuity/practice.js';
import type { Reading } from '../continuity/readings.js';
import { readingsThatHold } from '../continuity/timeline.js';
import { stageOf, type LinkStage } from './stage.js';

/** Work that is no termination: on the cable, or making sure of the outlet or of both ends being free. */
export type CableWorkKind = 'mended' | 'replaced' | 'outlet' | 'unplug';

/** What was done, as a record of it reads. */
export const CABLE_WORK_WORDS: Readonly<Record<CableWorkKind, string>> = {
  mended: 'cable mended',
  replaced: 'cable replaced',
  outlet: 'outlet made sure of',
  unplug: 'both ends unplugged',
};

/** What has been recorded of a link, each list oldest first; times are ISO 8601 in UTC. */
export interface LinkHistory {
  terminations: readonly {
    id: string;
    at: string;
    side: 'near' | 'far';
    outcome: 'good' | 'spoiled';
    corrects: string | null;
  }[];
  cableWork: readonly { at: string; kind: CableWorkKind }[];
  tests: readonly { id: string; at: string; reading: Reading; corrects: string | null }[];
  handovers: readonly { at: string }[];
}

interface Timed {
  at: string;
  event: LinkEvent;
}

/** Work and readings in the order they happened. */
export function linkEvents(record: LinkHistory): LinkEvent[] {
  const corrected = new Set(record.terminations.map((t) => t.corrects));
  const timed: Timed[] = [
    ...record.tests.map((t) => ({
      at: t.at,
      event: { type: 'reading' as const, id: t.id, reading: t.reading, corrects: t.corrects },
    })),
    ...record.terminations
      .filter((t) => !corrected.has(t.id))
      .map((t) => ({ at: t.at, event: { type: 'work' as const, place: t.side } })),
    ...record.cableWork.map((w) => ({
      at: w.at,
      event: {
        type: 'work' as const,
        place: w.kind === 'mended' ? ('cable' as const) : w.kind,
      },
    })),
  ];
  return timed.sort((a, b) => a.at.localeCompare(b.at)).map(({ event }) => event);
}

/** Whether an end holds a good connector now: its last try was good, and the cable not replaced since. */
export function endDone(record: LinkHistory, side: 'near' | 'far'): boolean {
  const corrected = new Set(record.terminations.map((t) => t.corrects));
  const last = record.terminations.filter((t) => t.side === side && !corrected.has(t.id)).at(-1);
  const replaced = record.cableWork.filter((w) => w.kind === 'replaced').at(-1);
  return last?.outcome === 'good' && (!replaced || replaced.at < last.at);
}

export interface Standing {
  stage: LinkStage;
  words: string;
  nextStep: string;
  diagnosis: Diagnosis | null;
  nearDone: boolean;
  farDone: boolean;
}

/** Where a link stands by all that is recorded of it. */
export function standingOf(expected: LinkExpectation, record: LinkHistory, practice?: Practice): Standing {
  const evidence = evidenceOf(linkEvents(record));
  const diagnosis = readingsThatHold(evidence).length > 0 ? diagnose(expected, evidence, practice) : null;
  const nearDone = endDone(record, 'near');
  const farDone = endDone(record, 'far');
  const lastHandover = record.handovers.at(-1);
  const lastWork = [...record.terminations, ...record.cableWork, ...record.tests]
    .map((r) => r.at)
    .sort()
    .at(-1);
  const handedOver = lastHandover !== undefined && (!lastWork || lastHandover.at >= lastWork);
  const stage = stageOf({ nearDone, farDone, diagnosis, handedOver });
  const ends = { nearDone, farDone };
  return {
    stage,
    words: standingWords(stage, diagnosis, ends),
    nextStep: nextStep(stage, diagnosis, ends),
    diagnosis,
    ...ends,
  };
}

function standingWords(
  stage: LinkStage,
  diagnosis: Diagnosis | null,
  ends: { nearDone: boolean; farDone: boolean },
): string {
  switch (stage) {
    case 'planned':
      return 'not begun';
    case 'one-end':
      return ends.nearDone ? 'far end waits' : 'near end waits';
    case 'both-ends':
      return diagnosis?.proves === 'loops' ? 'loops only, map not proved' : 'to be tested';
    case 'failed':
      return diagnosis?.headline ?? 'wrong';
    case 'proved':
      return 'map proved, not certified';
    case 'handed-over':
      return 'handed over';
  }
}

function nextStep(
  stage: LinkStage,
  diagnosis: Diagnosis | null,
  ends: { nearDone: boolean; farDone: boolean },
): string {
  switch (stage) {
    case 'planned':
      return 'Terminate the near end';
    case 'one-end':
      return ends.nearDone ? 'Terminate the far end' : 'Terminate the near end';
    case 'both-ends':
      return 'Prove the map';
    case 'failed': {
      const repair = diagnosis?.repair?.words ?? 'look at both ends';
      return diagnosis?.nextLook?.words ?? repair.charAt(0).toUpperCase() + repair.slice(1);
    }
    case 'proved':
      return 'Hand it over';
    case 'handed-over':
      return '';
  }
}
