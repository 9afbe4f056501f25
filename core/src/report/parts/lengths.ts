import { NORMAL_95 } from '../../chance/normal.js';
import { distanceDeviationM } from '../../continuity/observers/echoes.js';
import type { EchoReading } from '../../continuity/readings.js';
import { notCorrected } from '../../links/standing.js';
import { formatCableLength } from '../../quantities/length.js';
import type { Block, Cell } from '../blocks.js';
import { comesFrom } from '../link-row.js';
import { namesOf } from '../names.js';
import type { ReportData, ReportLink } from '../report-data.js';
import { dayOf } from '../times.js';

/** The length of a link as it was last measured while nothing was wrong with it. */
interface Measured {
  lengthM: number;
  /** Half width of its 95 % interval. */
  u95M: number;
  test: ReportLink['tests'][number];
}

/** The ends that a reflectometer saw, pair by pair: of several the middle one, as good as one of them is. */
function measuredOf({ tests, diagnosis }: ReportLink): Measured | null {
  if (diagnosis?.result !== 'pass') return null;
  const test = notCorrected(tests).findLast(({ reading }) => reading.instrument === 'pair-reflectometer');
  if (!test) return null;
  const ends = Object.values((test.reading as EchoReading).pairs)
    .flatMap((events) => events.findLast(({ kind }) => kind === 'open' || kind === 'short') ?? [])
    .sort((a, b) => a.distanceM - b.distanceM);
  const middle = ends[Math.floor(ends.length / 2)];
  if (!middle) return null;
  const deviationM = middle.uM ?? distanceDeviationM(middle.distanceM);
  return { lengthM: middle.distanceM, u95M: NORMAL_95 * deviationM, test };
}

/** Planned and measured lengths of the links that were measured, and the velocity that those rest on. */
export function lengths(data: ReportData): Block[] {
  const { cable } = namesOf(data);
  const measured = data.links.flatMap((detail) => {
    const found = measuredOf(detail);
    return found ? [{ detail, found }] : [];
  });
  const used = new Set(measured.map(({ detail }) => detail.link.cableTypeId));
  if (measured.length === 0)
    return [{ type: 'text', text: 'No length was measured: those of this report are the plan’s.' }];
  return [
    {
      type: 'table',
      columns: [
        { name: 'Link', share: 3 },
        { name: 'Planned', share: 3, figures: true },
        { name: 'Measured', share: 3, figures: true },
        { name: '95 % interval', share: 3, figures: true },
        { name: 'By', share: 9 },
      ],
      rows: measured.map(({ detail: { link, units }, found: { lengthM, u95M, test } }): Cell[] => [
        { text: link.label, strong: true },
        formatCableLength(link.lengthM, units),
        formatCableLength(lengthM, units),
        `± ${formatCableLength(u95M, units)}`,
        { text: `${test.instrumentName}${comesFrom(test)}`, note: `${test.by}, ${dayOf(test.at)}` },
      ]),
    },
    {
      type: 'text',
      tone: 'quiet',
      text: `A reflectometer measures time: its lengths rest on the velocity that was set. By their sheets: ${data.cables
        .filter(({ id }) => used.has(id))
        .map(({ id, velocityFactor }) => `${cable(id)} ${velocityFactor}`)
        .join('; ')}.`,
    },
  ];
}
