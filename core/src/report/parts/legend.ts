import { LINK_STAGES, type LinkStage } from '../../links/stage.js';
import { digestInGroups } from '../../seal/digest.js';
import type { Block } from '../blocks.js';
import { stageSign } from '../pictures/stage-sign.js';
import { drawing, words } from '../../drawing/svg.js';
import type { ReportData } from '../report-data.js';

const MEANS: Readonly<Record<LinkStage, string>> = {
  'handed-over': 'proved, and given to the customer; nothing was done to it since',
  proved: 'a wire map was read and is as it should be',
  failed: 'a reading shows a fault that is not mended',
  'both-ends': 'both ends made, no map proved yet',
  'one-end': 'one end made',
  planned: 'not begun',
};

export function legend(): Block[] {
  const rows = LINK_STAGES.map(
    ({ id, name }, at) =>
      stageSign(id, 3, 4 + at * 6, 1.8) +
      words(`${name}: ${MEANS[id]}`, { x: 8, y: 5 + at * 6, 'font-size': 2.8 }),
  );
  const heightMm = LINK_STAGES.length * 6 + 2;
  return [
    {
      type: 'picture',
      title: 'Signs of the stages',
      svg: drawing(130, heightMm, 'Signs of the stages', rows.join('')),
      widthMm: 130,
      heightMm,
    },
    {
      type: 'facts',
      facts: [
        { name: 'Near end', value: 'at the hub; far end: at the outlet' },
        { name: 'Map', value: 'which contact of the far end each contact of the near end reaches' },
        { name: 'Rests on', value: 'the readings that still hold; work ends what was read before it' },
        { name: 'Not seen', value: 'faults that none of those readings could have shown' },
        { name: 'Keyed in', value: 'written down by a person; simulated: not of real cable' },
        { name: 'Times', value: 'in coordinated universal time (UTC)' },
      ],
    },
  ];
}

/** The digits of every link that is handed over. */
export function sealed({ seal }: ReportData): Block[] {
  return [
    {
      type: 'text',
      text: 'SHA-256 over the plan and every record of each link, written as RFC 8785 has it; the seal of the job is over all of these. “spoke verify-report” checks this file, and with a newer record tells what changed since.',
    },
    { type: 'text', tone: 'strong', text: `Job ${digestInGroups(seal.digest)}` },
    {
      type: 'table',
      columns: [
        { name: 'Link', share: 2 },
        { name: 'Records', share: 1, figures: true },
        { name: 'Digits', share: 12, figures: true },
      ],
      rows: seal.links.map(({ label, records, digest }) => [
        { text: label, strong: true },
        String(records.length),
        digestInGroups(digest),
      ]),
    },
  ];
}
