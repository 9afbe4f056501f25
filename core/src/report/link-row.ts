import type { Diagnosis } from '../continuity/diagnose.js';
import { blindnessInWords, takenWith } from '../continuity/instruments.js';
import { exceptionWords } from '../continuity/verdict-words.js';
import { LINK_STAGES, type LinkStage } from '../links/stage.js';
import { notCorrected, proofOf } from '../links/standing.js';
import { formatCableLength } from '../quantities/length.js';
import type { ReportLink } from './report-data.js';

/** One link's line: what a table of links says of it. */
export interface LinkRow {
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

export const stageName = (stage: LinkStage): string => LINK_STAGES.find((s) => s.id === stage)?.name ?? stage;

/** A link's line, from its record. */
export function linkRow(detail: ReportLink, cableName: (id: string) => string): LinkRow {
  const { link, tests, handovers, terminations, diagnosis } = detail;
  const proof = proofOf(detail) ?? notCorrected(tests).at(-1);
  const simulated = diagnosis?.simulated ? ', simulated' : '';
  const handed = link.stage === 'handed-over' ? handovers.at(-1) : undefined;
  return {
    label: link.label,
    from: `${link.near.hub} ${link.near.panel} port ${link.near.port}`,
    to: `${link.far.room}, ${link.far.outlet}`,
    cable: cableName(link.cableTypeId),
    length: formatCableLength(link.lengthM, detail.units),
    stage: `${stageName(link.stage)}${simulated}`,
    verdict: diagnosis ? `${diagnosis.headline}${reasonOf(diagnosis)}` : 'not tested',
    restsOn: `${[...new Set(diagnosis?.restsOn ?? [])].join(', ')}${simulated}`,
    blindTo: diagnosis ? blindnessInWords(diagnosis.blindTo) : '',
    testedWith: proof ? `${takenWith(proof.reading)}${comesFrom(proof)}` : '',
    testedBy: proof?.by ?? '',
    testedAt: proof?.at ?? '',
    handedOverBy: handed?.by ?? '',
    handedOverAt: handed?.at ?? '',
    spoiled: terminations.reduce((sum, attempt) => sum + attempt.connectorsSpoiled, 0),
  };
}

/** Where a reading comes from, where that is not an instrument of the world. */
export const comesFrom = (test: { source: 'instrument' | 'keyed'; simulated: boolean }): string =>
  test.source === 'keyed' ? ', keyed in' : test.simulated ? ', simulated' : '';

/** A pass by exception says why, wherever it is shown. */
const reasonOf = ({ exception }: Diagnosis): string => (exception ? `. ${exceptionWords(exception)}` : '');
