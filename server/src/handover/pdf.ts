import { printPdf } from '../print/printer.js';
import type { Sheet, SheetRow } from './sheet.js';

const INK = '#1b2225';
const SECOND = '#56626a';
const day = (at: string): string => (at ? at.slice(0, 10) : '');

function rowCells(row: SheetRow): unknown[] {
  const proof = row.testedBy ? `${row.restsOn}; ${row.testedBy}, ${day(row.testedAt)}` : '';
  const handed = row.handedOverBy ? `${row.handedOverBy}, ${day(row.handedOverAt)}` : '';
  return [
    { text: row.label, bold: true },
    { stack: [row.from, row.to] },
    { stack: [row.cable, row.length] },
    row.stage,
    {
      stack: [
        row.verdict,
        { text: row.blindTo ? `Not seen: ${row.blindTo}` : '', color: SECOND, fontSize: 7 },
      ],
    },
    proof,
    handed,
  ];
}

const heading = (text: string): unknown => ({ text, bold: true, fontSize: 12, margin: [0, 14, 0, 4] });
const head = (...names: string[]): unknown[] => names.map((text) => ({ text, bold: true, color: SECOND }));
const lines = {
  hLineWidth: (): number => 0.5,
  vLineWidth: (): number => 0,
  hLineColor: (): string => '#d9d8d0',
  paddingTop: (): number => 3,
  paddingBottom: (): number => 3,
};

/** The handover sheet of a job: summary, one row per link, failures and their repair. */
export function sheetPdf(sheet: Sheet, made: { at: Date; by: string }): Promise<Buffer> {
  const { job } = sheet;
  const repairs =
    sheet.repairs.length === 0
      ? [{ text: 'No link failed a test.' }]
      : [
          {
            layout: lines,
            table: {
              headerRows: 1,
              widths: [50, '*', 60, '*'],
              body: [
                head('Link', 'Found', 'On', 'Mended'),
                ...sheet.repairs.map((r) => [r.label, r.found, day(r.foundAt), r.mended]),
              ],
            },
          },
        ];
  const definition = {
    pageSize: 'A4',
    pageOrientation: 'landscape',
    pageMargins: [36, 40, 36, 44],
    info: { title: `Handover, ${job.site}, ${job.title}` },
    defaultStyle: { font: 'Atkinson', fontSize: 8.5, color: INK },
    footer: (page: number, pages: number): unknown => ({
      margin: [36, 12],
      columns: [
        `Made ${made.at.toISOString().slice(0, 16).replace('T', ' ')} UTC by ${made.by}`,
        { text: `${page} of ${pages}`, alignment: 'right' },
      ],
      color: SECOND,
      fontSize: 7.5,
    }),
    content: [
      { text: `${job.site}: ${job.title}`, bold: true, fontSize: 18 },
      { text: `Hub ${job.hub}, wired to ${job.scheme}`, color: SECOND, margin: [0, 2, 0, 8] },
      {
        text: sheet.counts
          .filter((c) => c.count > 0)
          .map((c) => `${c.count} ${c.name}`)
          .join('  ·  '),
        bold: true,
      },
      {
        text: 'Verdicts rest on the instruments named and say nothing of what those cannot see. None is a certification.',
        color: SECOND,
        margin: [0, 4, 0, 0],
      },
      heading('Links'),
      {
        layout: lines,
        table: {
          headerRows: 1,
          widths: [44, 130, 84, 58, '*', 150, 80],
          dontBreakRows: true,
          body: [
            head('Link', 'From, to', 'Cable', 'Stage', 'Verdict', 'Rests on', 'Handed over'),
            ...sheet.rows.map(rowCells),
          ],
        },
      },
      heading('Failures and their repair'),
      ...repairs,
    ],
  };
  return printPdf(definition);
}
