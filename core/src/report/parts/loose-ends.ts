import type { Block, Cell } from '../blocks.js';
import type { ReportData, ReportLooseEnd } from '../report-data.js';
import { dayOf } from '../times.js';
import { photoBlocks } from './notes.js';

const PROOFS = { proved: 'proved', failed: 'failed its proof', unfinished: 'not proved through' } as const;

/** Ends that were made without a job and given to this one: who made them, and what was found. */
export function looseEnds(data: ReportData): Block[] {
  const given = (data.looseEnds ?? []).filter(({ outcome }) => outcome === 'good');
  if (given.length === 0) return [];
  return [
    { type: 'heading', text: 'Made loose, and given to this job' },
    {
      type: 'table',
      columns: [
        { name: 'What', share: 5 },
        { name: 'Made of', share: 8 },
        { name: 'By', share: 4 },
        { name: 'Found', share: 8 },
      ],
      rows: given.map((end): Cell[] => [
        { text: end.name || end.connector, strong: true },
        {
          text: `${end.connector} on ${end.cable}`,
          note: [end.lot && `lot ${end.lot}`, end.tool && `made with ${end.tool}`].filter(Boolean).join(', '),
        },
        `${end.by}, ${dayOf(end.at)}`,
        { text: foundOf(end), note: end.stopgap && `Stopgap: ${end.stopgap}` },
      ]),
    },
    ...photoBlocks(
      data,
      given.flatMap(({ name, connector, by, at, photos }) =>
        photos.map((photo) => ({ photo, caption: `${name || connector}, ${by}, ${dayOf(at)}` })),
      ),
    ),
  ];
}

/** Proof, colours and functions, what is wrong first said as such. */
function foundOf({ proof, notAsCard, functionTest }: ReportLooseEnd): string {
  const missing = functionTest.filter(({ does }) => does === false).map(({ what }) => what);
  const open = functionTest.filter(({ does }) => does === null).length;
  const words = [
    proof === null ? 'not metered' : PROOFS[proof],
    notAsCard &&
      (notAsCard.length > 0 ? `colours not as its card on ${notAsCard.join(', ')}` : 'colours as its card'),
    missing.length > 0 && `does not do: ${missing.join('; ')}`,
    missing.length === 0 && functionTest.length > open && `does: ${doneOf(functionTest)}`,
    open > 0 && `${open} of ${functionTest.length} functions not tried`,
  ];
  return words.filter(Boolean).join('; ');
}

const doneOf = (lines: ReportLooseEnd['functionTest']): string =>
  lines
    .filter(({ does }) => does === true)
    .map(({ what }) => what)
    .join(', ');
