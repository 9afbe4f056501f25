import type { Job, LinkDetail, TestRecord } from '@near-spoke/contracts';
import {
  blindnessInWords,
  CABLE_WORK_WORDS,
  exceptionWords,
  formatCableLength,
  takenWith,
  LINK_STAGES,
  notCorrected,
  proofOf,
  type Diagnosis,
  type LinkStage,
} from '@near-spoke/core';

/** One link's line on a handover sheet. */
export interface SheetRow {
  label: string;
  from: string;
  to: string;
  cable: string;
  length: string;
  stage: string;
  verdict: string;
  restsOn: string;
  blindTo: string;
  testedWith: string;
  testedBy: string;
  testedAt: string;
  handedOverBy: string;
  handedOverAt: string;
  spoiled: number;
}

/** A failure that was found, and what mended it. */
export interface SheetRepair {
  label: string;
  found: string;
  foundAt: string;
  mended: string;
}

export interface Sheet {
  job: Job;
  counts: { stage: LinkStage; name: string; count: number }[];
  rows: SheetRow[];
  repairs: SheetRepair[];
}

export interface SheetSource {
  job: Job;
  details: readonly LinkDetail[];
  cableNames: ReadonlyMap<string, string>;
}

/** What a handover says, from the record: the same for PDF, CSV and JSON. */
export function makeSheet({ job, details, cableNames }: SheetSource): Sheet {
  return {
    job,
    counts: LINK_STAGES.map(({ id, name }) => ({ stage: id, name, count: job.stages[id] ?? 0 })),
    rows: details.map((detail) => toRow(detail, cableNames)),
    repairs: details.flatMap(toRepairs),
  };
}

/** One link's line. */
export function toRow(detail: LinkDetail, cableNames: ReadonlyMap<string, string>): SheetRow {
  const { link, tests, handovers, terminations, diagnosis } = detail;
  const proof: TestRecord | undefined = proofOf(detail) ?? notCorrected(tests).at(-1);
  const simulated = diagnosis?.simulated ? ', simulated' : '';
  const handed = link.stage === 'handed-over' ? handovers.at(-1) : undefined;
  return {
    label: link.label,
    from: `${link.near.hub} ${link.near.panel} port ${link.near.port}`,
    to: `${link.far.room}, ${link.far.outlet}`,
    cable: cableNames.get(link.cableTypeId) ?? link.cableTypeId,
    length: formatCableLength(link.lengthM, detail.units),
    stage: `${LINK_STAGES.find((s) => s.id === link.stage)?.name ?? link.stage}${simulated}`,
    verdict: diagnosis ? `${diagnosis.headline}${reasonOf(diagnosis)}` : 'not tested',
    restsOn: `${[...new Set(diagnosis?.restsOn ?? [])].join(', ')}${simulated}`,
    blindTo: diagnosis ? blindnessInWords(diagnosis.blindTo) : '',
    testedWith: proof
      ? `${takenWith(proof.reading)}${proof.source === 'keyed' ? ', keyed in' : proof.simulated ? ', simulated' : ''}`
      : '',
    testedBy: proof?.by ?? '',
    testedAt: proof?.at ?? '',
    handedOverBy: handed?.by ?? '',
    handedOverAt: handed?.at ?? '',
    spoiled: terminations.reduce((sum, attempt) => sum + attempt.connectorsSpoiled, 0),
  };
}

/** A pass by exception says why, wherever it is shown. */
const reasonOf = ({ exception }: Diagnosis): string => (exception ? `. ${exceptionWords(exception)}` : '');

/** Each failing verdict that was later followed by work: what was found and what was done. */
function toRepairs({ link, tests, terminations, cableWork }: LinkDetail): SheetRepair[] {
  const failed = notCorrected(tests).filter((test) => test.diagnosis.result === 'fail');
  const work = [
    ...notCorrected(terminations).map((t) => ({ turn: t.turn, words: `${t.side} end redone by ${t.by}` })),
    ...cableWork.map((w) => ({ turn: w.turn, words: `${CABLE_WORK_WORDS[w.kind]} by ${w.by}` })),
  ].sort((a, b) => a.turn - b.turn);
  return failed.flatMap((test, index) => {
    const until = failed[index + 1]?.turn ?? Infinity;
    const done = work.filter((w) => w.turn > test.turn && w.turn < until);
    const isLast = index === failed.length - 1;
    if (done.length === 0 && !isLast) return [];
    const mended = done.length > 0 ? done.map((w) => w.words).join('; ') : 'not mended yet';
    return [{ label: link.label, found: test.diagnosis.headline, foundAt: test.at, mended }];
  });
}
