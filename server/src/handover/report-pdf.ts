import { DATA_ID, makeReport, type Block, type Cell, type ReportData } from '@near-spoke/core/report';
import { printPdf } from '../print/printer.js';

const INK = '#1b2225';
const SECOND = '#56626a';
const RULE = '#d9d8d0';
const WRONG = '#a8321f';
/** PDF points in a millimetre. */
const PT = 72 / 25.4;
const MARGIN = 14 * PT;

const RULED = {
  hLineWidth: (): number => 0.5,
  vLineWidth: (): number => 0,
  hLineColor: (): string => RULE,
  paddingLeft: (): number => 0,
  paddingRight: (): number => 7,
  paddingTop: (): number => 3,
  paddingBottom: (): number => 3,
};

function cell(given: Cell, figures: boolean | undefined): unknown {
  const { text, note, strong } = typeof given === 'string' ? { text: given } : { note: '', ...given };
  const said = { text, ...(strong ? { bold: true } : {}), ...(figures ? { font: 'Mono', fontSize: 7 } : {}) };
  return note ? { stack: [said, { text: note, color: SECOND, fontSize: 7 }] } : said;
}

function content(block: Block, widthPt: number): unknown {
  switch (block.type) {
    case 'text':
      return block.tone === 'caution'
        ? { text: block.text, color: WRONG, margin: [0, 3, 0, 3] }
        : {
            text: block.text,
            margin: [0, 2, 0, 4],
            ...(block.tone === 'quiet' ? { color: SECOND } : {}),
            ...(block.tone === 'strong' ? { bold: true } : {}),
          };
    case 'heading':
      return { text: block.text, bold: true, fontSize: 11, margin: [0, 8, 0, 3], headlineLevel: 2 };
    case 'list':
      return { ul: [...block.items] };
    case 'page':
      return { text: '', pageBreak: 'after' };
    case 'facts':
      return {
        layout: 'noBorders',
        table: {
          widths: [78, '*'],
          body: block.facts.map(({ name, value }) => [{ text: name, color: SECOND }, value]),
        },
      };
    case 'picture': {
      const scale = Math.min(1, widthPt / (block.widthMm * PT));
      return {
        svg: block.svg,
        width: block.widthMm * PT * scale,
        height: block.heightMm * PT * scale,
        margin: [0, 4, 0, 6],
      };
    }
    case 'table': {
      const shares = block.columns.reduce((sum, { share }) => sum + share, 0);
      const free = widthPt - 7 * block.columns.length;
      return {
        layout: RULED,
        table: {
          headerRows: 1,
          dontBreakRows: true,
          widths: block.columns.map(({ share }) => (free * share) / shares),
          body: [
            block.columns.map(({ name }) => ({ text: name, bold: true, color: SECOND })),
            ...block.rows.map((row) => row.map((each, at) => cell(each, block.columns[at]?.figures))),
          ],
        },
      };
    }
  }
}

/** A report as PDF; the data it was made from are attached to it. */
export function reportPdf(data: ReportData): Promise<Buffer> {
  const report = makeReport(data);
  const widthPt = (report.paper === 'A4' ? 595.28 : 612) - 2 * MARGIN;
  const definition = {
    pageSize: report.paper,
    pageMargins: [MARGIN, MARGIN, MARGIN, 46],
    info: { title: report.title, subject: report.subtitle, creationDate: new Date(data.made.at) },
    defaultStyle: { font: 'Atkinson', fontSize: 8.5, color: INK },
    footer: (page: number, pages: number): unknown => ({
      margin: [MARGIN, 12],
      columns: [
        `${report.title}. ${report.made}`,
        { text: `${page} of ${pages}`, alignment: 'right', width: 60 },
      ],
      color: SECOND,
      fontSize: 7.5,
    }),
    // A heading with nothing under it begins the next page.
    pageBreakBefore: (
      node: { headlineLevel?: number },
      { getFollowingNodesOnPage }: { getFollowingNodesOnPage(): unknown[] },
    ): boolean => node.headlineLevel !== undefined && getFollowingNodesOnPage().length === 0,
    content: [
      { text: report.title, bold: true, fontSize: 18 },
      { text: report.subtitle, color: SECOND, margin: [0, 2, 0, 6] },
      ...report.sections.flatMap(({ title, blocks }) => [
        { text: title, bold: true, fontSize: 13, margin: [0, 14, 0, 4], headlineLevel: 1 },
        ...blocks.map((block) => content(block, widthPt)),
      ]),
    ],
  };
  return printPdf(definition, { name: `${DATA_ID}.json`, text: JSON.stringify(data) });
}
