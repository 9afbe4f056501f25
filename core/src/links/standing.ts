import { diagnose, type Diagnosis } from '../continuity/diagnose.js';
import { evidenceOf, type LinkEvent } from '../continuity/evidence.js';
import type { LinkExpectation } from '../continuity/expectation.js';
import type { Practice } from '../continuity/practice.js';
import { isMapReading, type Reading } from '../continuity/readings.js';
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

/** Where a record stands among all that is recorded of its link; clocks may differ, turns do not. */
export interface Turn {
  turn: number;
}

/**
 * What has been recorded of a link, each list oldest first. What came before what follows from `turn` alone;
 * `at` (ISO 8601 in UTC) is the time that was written down.
 */
export interface LinkHistory {
  terminations: readonly (Turn & {
    id: string;
    at: string;
    side: 'near' | 'far';
    outcome: 'good' | 'spoiled';
    corrects: string | null;
  })[];
  cableWork: readonly (Turn & { at: string; kind: CableWorkKind })[];
  tests: readonly (Turn & {
    id: string;
    at: string;
    by?: string | undefined;
    reading: Reading;
    corrects: string | null;
    /** Why an earlier reading was no good, in words. */
    misread?: string | undefined;
    simulated?: boolean | undefined;
  })[];
  handovers: readonly (Turn & { at: string })[];
  /** Taken back by a person, with a reason: what was proved still is, but it is not handed over. */
  reopenings: readonly (Turn & { at: string })[];
}

interface Ordered extends Turn {
  event: LinkEvent;
}

/** Records that no later one of their kind takes back. */
export function notCorrected<R extends { id: string; corrects: string | null }>(records: readonly R[]): R[] {
  const corrected = new Set(records.map(({ corrects }) => corrects));
  return records.filter(({ id }) => !corrected.has(id));
}

/** Work and readings in the order they were recorded. */
export function linkEvents(record: LinkHistory): LinkEvent[] {
  const ordered: Ordered[] = [
    ...record.tests.map((t) => ({
      turn: t.turn,
      event: {
        type: 'reading' as const,
        id: t.id,
        reading: { ...t.reading, taken: { at: t.at, by: t.by, simulated: t.simulated } },
        corrects: t.corrects,
        misread: t.misread ?? '',
      },
    })),
    ...notCorrected(record.terminations).map((t) => ({
      turn: t.turn,
      event: { type: 'work' as const, place: t.side },
    })),
    ...record.cableWork.map((w) => ({
      turn: w.turn,
      event: {
        type: 'work' as const,
        place: w.kind === 'mended' ? ('cable' as const) : w.kind,
      },
    })),
  ];
  return ordered.sort((a, b) => a.turn - b.turn).map(({ event }) => event);
}

/** Whether an end holds a good connector now: its last try was good, and the cable not replaced since. */
export function endDone(record: LinkHistory, side: 'near' | 'far'): boolean {
  const last = notCorrected(record.terminations)
    .filter((t) => t.side === side)
    .at(-1);
  const replaced = record.cableWork.filter((w) => w.kind === 'replaced').at(-1);
  return last?.outcome === 'good' && (!replaced || replaced.turn < last.turn);
}

/** The last turn of work on a link; 0 where nothing was worked on. */
const lastWorkOf = (record: LinkHistory): number =>
  Math.max(
    0,
    ...notCorrected(record.terminations).map((t) => t.turn),
    ...record.cableWork.map((w) => w.turn),
  );

/**
 * The reading that a proved map rests on: the newest since the last work that can show a map, and that no
 * later reading corrects; of colours seen, lamps and lengths there may be newer ones. Null where there is none.
 */
export function proofOf<T extends LinkHistory['tests'][number]>(
  record: Omit<LinkHistory, 'tests'> & { tests: readonly T[] },
): T | null {
  const since = lastWorkOf(record);
  return (
    notCorrected(record.tests)
      .filter(({ turn, reading }) => turn > since && (isMapReading(reading) || 'touches' in reading))
      .at(-1) ?? null
  );
}

/** The first map that was read of a link, corrected ones left out; null where there is none. */
export function firstTestOf<T extends LinkHistory['tests'][number]>(tests: readonly T[]): T | null {
  return notCorrected(tests).find(({ reading }) => isMapReading(reading)) ?? null;
}

export interface Standing {
  stage: LinkStage;
  words: string;
  nextStep: string;
  diagnosis: Diagnosis | null;
  nearDone: boolean;
  farDone: boolean;
}

/** The verdict of all that is recorded of a link; null before any reading. The dear part of a standing. */
export function verdictOf(
  expected: LinkExpectation,
  record: LinkHistory,
  practice?: Practice,
): Diagnosis | null {
  const evidence = evidenceOf(linkEvents(record));
  return readingsThatHold(evidence).length > 0 ? diagnose(expected, evidence, practice) : null;
}

/** Where a link stands by its record and the verdict of it. */
export function standingWith(record: LinkHistory, diagnosis: Diagnosis | null): Standing {
  const nearDone = endDone(record, 'near');
  const farDone = endDone(record, 'far');
  const lastHandover = record.handovers.at(-1);
  const lastDone = Math.max(
    0,
    ...[...record.terminations, ...record.cableWork, ...record.tests, ...record.reopenings].map(
      (r) => r.turn,
    ),
  );
  const handedOver = lastHandover !== undefined && lastHandover.turn > lastDone;
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

/** Where a link stands by all that is recorded of it. */
export const standingOf = (expected: LinkExpectation, record: LinkHistory, practice?: Practice): Standing =>
  standingWith(record, verdictOf(expected, record, practice));

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
      return `map proved${diagnosis?.exception ? ' by exception' : ''}, not certified${simulated(diagnosis)}`;
    case 'handed-over':
      return `handed over${simulated(diagnosis)}`;
  }
}

/** What a simulated instrument says is marked wherever it is said. */
const simulated = (diagnosis: Diagnosis | null): string => (diagnosis?.simulated ? ', simulated' : '');

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
