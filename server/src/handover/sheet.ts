import type { Job, LinkDetail } from '@near-spoke/contracts';
import {
  blindnessInWords,
  CABLE_WORK_WORDS,
  formatCableLength,
  INSTRUMENTS,
  LINK_STAGES,
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

function toRow(detail: LinkDetail, cableNames: ReadonlyMap<string, string>): SheetRow {
  const { link, tests, handovers, terminations, diagnosis } = detail;
  const proof = tests.at(-1);
  const handed = link.stage === 'handed-over' ? handovers.at(-1) : undefined;
  return {
    label: link.label,
    from: `${link.near.hub} ${link.near.panel} port ${link.near.port}`,
    to: `${link.far.room}, ${link.far.outlet}`,
    cable: cableNames.get(link.cableTypeId) ?? link.cableTypeId,
    length: formatCableLength(link.lengthM, detail.units),
    stage: LINK_STAGES.find((s) => s.id === link.stage)?.name ?? link.stage,
    verdict: diagnosis?.headline ?? 'not tested',
    restsOn: [...new Set(diagnosis?.restsOn ?? [])].join(', '),
    blindTo: diagnosis ? blindnessInWords(diagnosis.blindTo) : '',
    testedWith: proof
      ? `${INSTRUMENTS[proof.reading.instrument].name}${proof.source === 'keyed' ? ', keyed in' : ''}`
      : '',
    testedBy: proof?.by ?? '',
    testedAt: proof?.at ?? '',
    handedOverBy: handed?.by ?? '',
    handedOverAt: handed?.at ?? '',
    spoiled: terminations.reduce((sum, attempt) => sum + attempt.connectorsSpoiled, 0),
  };
}

/** Each failing verdict that was later followed by work: what was found and what was done. */
function toRepairs({ link, tests, terminations, cableWork }: LinkDetail): SheetRepair[] {
  const failed = tests.filter((test) => test.diagnosis.result === 'fail');
  const work = [
    ...terminations.map((t) => ({ at: t.at, words: `${t.side} end redone by ${t.by}` })),
    ...cableWork.map((w) => ({ at: w.at, words: `${CABLE_WORK_WORDS[w.kind]} by ${w.by}` })),
  ].sort((a, b) => a.at.localeCompare(b.at));
  return failed.flatMap((test, index) => {
    const until = failed[index + 1]?.at ?? '9999';
    const done = work.filter((w) => w.at > test.at && w.at < until);
    const isLast = index === failed.length - 1;
    if (done.length === 0 && !isLast) return [];
    const mended = done.length > 0 ? done.map((w) => w.words).join('; ') : 'not mended yet';
    return [{ label: link.label, found: test.diagnosis.headline, foundAt: test.at, mended }];
  });
}
