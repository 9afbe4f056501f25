import {
  DATA_ID,
  makeReport,
  type Block,
  type Cell,
  type Photos,
  type PrintedPhoto,
  type ReportData,
  type Section,
} from '@near-spoke/core/report';
import { printedPieces } from '../print/printer.js';

const INK = '#1b2225';
const SECOND = '#56626a';
const RULE = '#d9d8d0';
const WRONG = '#a8321f';
/** PDF points in a millimetre. */
const PT = 72 / 25.4;
const MARGIN = 14 * PT;

type TableBlock = Extract<Block, { type: 'table' }>;

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

function content(block: Block, widthPt: number, photos: Photos): unknown {
  switch (block.type) {
    case 'text':
      return block.tone === 'caution'
        ? { text: block.text, color: WRONG, margin: [0, 3, 0, 3] }
        : {
            text: block.text,
            margin: [0, block.tone === 'strong' ? 8 : 2, 0, 4],
            ...(block.tone === 'quiet' ? { color: SECOND } : {}),
            ...(block.tone === 'strong' ? { bold: true } : {}),
          };
    case 'heading':
      return { text: block.text, ...TITLES.heading };
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
    case 'photos':
      return inPairs(block.photos).map((two) => ({
        columns: two.map((photo) => printed(photo, widthPt / 2 - 6, photos)),
        columnGap: 12,
        unbreakable: true,
      }));
    case 'table':
      return table(block, widthPt, null);
  }
}

const inPairs = <T>(some: readonly T[]): T[][] =>
  some.flatMap((one, n) => (n % 2 === 0 ? [[one, ...some.slice(n + 1, n + 2)]] : []));

/** A photo no larger than half a page is wide or a third of one high, its words below it. */
function printed({ sha256, caption }: PrintedPhoto, widthPt: number, photos: Photos): unknown {
  const jpeg = photos.get(sha256);
  return {
    width: widthPt,
    stack: [
      jpeg === undefined
        ? { text: 'The photo is missing.', color: WRONG }
        : { image: `data:image/jpeg;base64,${jpeg}`, fit: [widthPt, 240] },
      { text: caption, color: SECOND, fontSize: 7.5, margin: [0, 2, 0, 8] },
    ],
  };
}

/** A table; a title is its first row, and comes again with its head on every page that it goes on to. */
function table(block: TableBlock, widthPt: number, title: unknown): unknown {
  const { columns, rows } = block;
  const shares = columns.reduce((sum, { share }) => sum + share, 0);
  const free = widthPt - 7 * columns.length;
  const head = columns.map(({ name }) => ({ text: name, bold: true, color: SECOND }));
  const heads = title === null ? [head] : [[title, ...columns.slice(1).map(() => ({}))], head];
  return {
    layout: title === null ? RULED : { ...RULED, hLineWidth: (at: number): number => (at === 0 ? 0 : 0.5) },
    table: {
      headerRows: heads.length,
      dontBreakRows: true,
      keepWithHeaderRows: 1,
      widths: columns.map(({ share }) => (free * share) / shares),
      body: [...heads, ...rows.map((row) => row.map((each, at) => cell(each, columns[at]?.figures)))],
    },
  };
}

const TITLES = {
  section: { bold: true, fontSize: 13, margin: [0, 14, 0, 4] },
  heading: { bold: true, fontSize: 11, margin: [0, 8, 0, 3] },
} as const;

/**
 * A section's blocks. A title never stands alone at the foot of a page: it goes with the words, facts and drawing that
 * follow it, or is the first row of its table.
 */
function laidOut({ title, blocks }: Section, widthPt: number, photos: Photos): unknown[] {
  const out: unknown[] = [];
  let titles: unknown[] = [{ text: title, ...TITLES.section }];
  /** What stands with the titles before it, so far. */
  let group: unknown[] = [];
  const flush = (): void => {
    if (titles.length + group.length > 0) out.push({ stack: [...titles, ...group], unbreakable: true });
    [titles, group] = [[], []];
  };
  for (const block of blocks) {
    if (block.type === 'heading') {
      if (group.length > 0) flush();
      titles.push({ text: block.text, ...TITLES.heading });
    } else if (block.type === 'table') {
      const only =
        titles.length > 0 && group.length === 0 ? { stack: titles, colSpan: block.columns.length } : null;
      if (only) titles = [];
      else flush();
      out.push(table(block, widthPt, only));
    } else if (block.type === 'page') {
      flush();
      out.push(content(block, widthPt, photos));
    } else if (block.type === 'photos') {
      const [first, ...rest] = content(block, widthPt, photos) as unknown[];
      // The first row stays with its title; the rows break between themselves.
      group.push(first);
      flush();
      out.push(...rest);
    } else {
      group.push(content(block, widthPt, photos));
      if (block.type === 'picture') flush();
    }
  }
  flush();
  return out;
}

/** A report as PDF, piece by piece; the data it was made from are attached to it. */
export function reportPdf(data: ReportData, photos: Photos = new Map()): AsyncGenerator<Buffer> {
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
    content: [
      { text: report.title, bold: true, fontSize: 18 },
      { text: report.subtitle, color: SECOND, margin: [0, 2, 0, 6] },
      ...report.sections.flatMap((section) => laidOut(section, widthPt, photos)),
    ],
  };
  return printedPieces(definition, { name: `${DATA_ID}.json`, text: JSON.stringify(data) });
}
