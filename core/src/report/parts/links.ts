import type { Block } from '../blocks.js';
import { linkRow } from '../link-row.js';
import { namesOf } from '../names.js';
import type { ReportData } from '../report-data.js';
import { dayOf } from '../times.js';

/** One row per link. */
export function links(data: ReportData): Block[] {
  const names = namesOf(data);
  const seals = new Map(data.seal.links.map(({ linkId, digest }) => [linkId, digest]));
  return [
    {
      type: 'table',
      columns: [
        { name: 'Link', share: 10 },
        { name: 'From, to', share: 20 },
        { name: 'Cable', share: 15 },
        { name: 'Verdict', share: 28 },
        { name: 'Rests on', share: 24 },
        { name: 'Handed over', share: 14 },
      ],
      rows: data.links.map((detail) => {
        const row = linkRow(detail, names.cable);
        const seal = seals.get(detail.link.id);
        return [
          { text: row.label, strong: true, note: row.stage },
          { text: row.from, note: row.to },
          { text: row.cable, note: row.length },
          { text: row.verdict, ...(row.blindTo ? { note: `Not seen: ${row.blindTo}` } : {}) },
          row.testedBy ? { text: row.restsOn, note: `${row.testedBy}, ${dayOf(row.testedAt)}` } : row.restsOn,
          row.handedOverBy
            ? {
                text: `${row.handedOverBy}, ${dayOf(row.handedOverAt)}`,
                ...(seal ? { note: `seal ${seal.slice(0, 8)}` } : {}),
              }
            : '',
        ];
      }),
    },
  ];
}
