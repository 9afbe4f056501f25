import { element, n, PAPER } from '../drawing/svg.js';
import { qrPath } from '../report/pictures/qr.js';
import {
  labelScene,
  writtenAreas,
  type LabelContent,
  type LabelFlaw,
  type LabelItem,
} from './label-scene.js';
import type { LabelStock } from './stock.js';

/** How a printer is off: everything moved by so much, and drawn so much larger, from the paper's upper left corner. */
export interface PrinterFit {
  offsetXMm: number;
  offsetYMm: number;
  scaleX: number;
  scaleY: number;
}
export const TRUE_PRINTER: PrinterFit = { offsetXMm: 0, offsetYMm: 0, scaleX: 1, scaleY: 1 };

/** A label's place on a page. */
export interface PlacedLabel {
  /** Which of the labels it is. */
  index: number;
  xMm: number;
  yMm: number;
}

export interface LabelPage {
  widthMm: number;
  heightMm: number;
  labels: PlacedLabel[];
}

/** Places of a stock's page, along its rows. */
export function placesOf({ sheet }: LabelStock): { xMm: number; yMm: number }[] {
  if (!sheet) return [{ xMm: 0, yMm: 0 }];
  return Array.from({ length: sheet.columns * sheet.rows }, (_, at) => ({
    xMm: sheet.leftMm + (at % sheet.columns) * sheet.pitchXMm,
    yMm: sheet.topMm + Math.floor(at / sheet.columns) * sheet.pitchYMm,
  }));
}

/**
 * Lays labels out on pages, along the rows.
 * @param skip places of the first sheet that are used up
 * @throws RangeError where more is skipped than a sheet has
 */
export function placeLabels(stock: LabelStock, count: number, skip = 0): LabelPage[] {
  const places = placesOf(stock);
  if (skip < 0 || (skip >= places.length && skip > 0))
    throw new RangeError(`A sheet has ${places.length} places: skip fewer of them.`);
  const { sheet, widthMm, heightMm } = stock;
  const paper = { widthMm: sheet?.paperWidthMm ?? widthMm, heightMm: sheet?.paperHeightMm ?? heightMm };
  const pages: LabelPage[] = [];
  for (let index = 0; index < count; index++) {
    const at = index + skip;
    const page = Math.floor(at / places.length);
    const place = places[at % places.length];
    if (place) (pages[page] ??= { ...paper, labels: [] }).labels.push({ index, ...place });
  }
  return pages;
}

/** Labels laid out, drawn, and what did not come out. */
export interface PrintedLabels {
  /** One SVG a page; its units are millimetres. */
  pages: { widthMm: number; heightMm: number; svg: string }[];
  flaws: { index: number; flaw: LabelFlaw }[];
}

interface PrintOptions {
  skip?: number;
  fit?: PrinterFit;
  /** Draws each label's edge, the edge of its written part, and where it is folded. */
  edges?: boolean;
  /** What letters are set in, where that is not the reader's to say. */
  font?: string;
}

/** Draws labels on their pages. */
export function printLabels(
  stock: LabelStock,
  contents: readonly LabelContent[],
  { skip = 0, fit = TRUE_PRINTER, edges = false, font }: PrintOptions = {},
): PrintedLabels {
  const scenes = contents.map((content) => labelScene(stock, content));
  const pages = placeLabels(stock, contents.length, skip).map(({ widthMm, heightMm, labels }) => {
    const inner = labels.map(({ index, xMm, yMm }) =>
      element(
        'g',
        { transform: `translate(${n(xMm)} ${n(yMm)})` },
        (edges ? edgesOf(stock) : '') +
          (scenes[index]?.items ?? []).map((item) => drawn(item, font)).join(''),
      ),
    );
    return { widthMm, heightMm, svg: pageSvg(widthMm, heightMm, fit, inner.join('')) };
  });
  return {
    pages,
    flaws: scenes.flatMap(({ flaws }, index) => flaws.map((flaw) => ({ index, flaw }))),
  };
}

/** Length of the rulers of a test page. */
export const RULER_MM = 100;

/** A page to measure a printer by: every label's edge, and two lines of a hundred millimetres. */
export function testPage(
  stock: LabelStock,
  fit: PrinterFit = TRUE_PRINTER,
  font?: string,
): PrintedLabels['pages'][number] {
  const [page] = placeLabels(stock, 1);
  const widthMm = page?.widthMm ?? stock.widthMm;
  const heightMm = page?.heightMm ?? stock.heightMm;
  const edges = placesOf(stock).map(({ xMm, yMm }) =>
    element('g', { transform: `translate(${n(xMm)} ${n(yMm)})` }, edgesOf(stock)),
  );
  const fits = widthMm > RULER_MM + 20 && heightMm > RULER_MM + 20;
  const ruler = (along: 'x' | 'y'): string => {
    const [x, y] = [widthMm / 2 - RULER_MM / 2, heightMm / 2 - RULER_MM / 2];
    const ticks = Array.from({ length: 11 }, (_, at) => at * 10).map((at) =>
      along === 'x' ? `M${n(x + at)} ${n(heightMm / 2 - 2)}v4` : `M${n(widthMm / 2 - 2)} ${n(y + at)}h4`,
    );
    const line =
      along === 'x' ? `M${n(x)} ${n(heightMm / 2)}h${RULER_MM}` : `M${n(widthMm / 2)} ${n(y)}v${RULER_MM}`;
    return element('path', {
      d: line + ticks.join(''),
      stroke: PAPER.ink,
      'stroke-width': 0.2,
      fill: 'none',
    });
  };
  const words = drawn(
    {
      type: 'text',
      x: widthMm / 2 + 4,
      y: heightMm / 2 - 4,
      sizeMm: 3,
      text: `each ${RULER_MM} mm`,
      bold: false,
    },
    font,
  );
  return {
    widthMm,
    heightMm,
    svg: pageSvg(widthMm, heightMm, fit, edges.join('') + (fits ? ruler('x') + ruler('y') + words : '')),
  };
}

/** What to set a printer by, from a test page: how long its rulers came out, and how far its first label lies off. */
export function fitFrom(measured: {
  rulerXMm: number;
  rulerYMm: number;
  offXMm: number;
  offYMm: number;
}): PrinterFit {
  return {
    scaleX: RULER_MM / measured.rulerXMm,
    scaleY: RULER_MM / measured.rulerYMm,
    offsetXMm: -measured.offXMm || 0,
    offsetYMm: -measured.offYMm || 0,
  };
}

function pageSvg(widthMm: number, heightMm: number, fit: PrinterFit, inner: string): string {
  const moved = `translate(${n(fit.offsetXMm)} ${n(fit.offsetYMm)}) scale(${fit.scaleX.toFixed(5)} ${fit.scaleY.toFixed(5)})`;
  return element(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      width: `${n(widthMm)}mm`,
      height: `${n(heightMm)}mm`,
      viewBox: `0 0 ${n(widthMm)} ${n(heightMm)}`,
    },
    element('g', { transform: moved }, inner),
  );
}

function edgesOf(stock: LabelStock): string {
  const edge = { fill: 'none', stroke: PAPER.second, 'stroke-width': 0.1 };
  const { widthMm, heightMm, kind } = stock;
  const parts = kind === 'wrap' || kind === 'flag' ? writtenAreas(stock) : [];
  return (
    element('rect', { x: 0, y: 0, width: widthMm, height: heightMm, ...edge }) +
    parts
      .map(({ x, y, width, height }) =>
        element('rect', { x, y, width, height, ...edge, 'stroke-dasharray': '1 1' }),
      )
      .join('')
  );
}

function drawn(item: LabelItem, font: string | undefined): string {
  if (item.type === 'qr')
    return element('path', { d: qrPath(item.text, item.x, item.y, item.sizeMm), fill: '#000000' });
  return element(
    'text',
    {
      x: item.x,
      y: item.y,
      'font-size': item.sizeMm,
      fill: '#000000',
      ...(font === undefined ? {} : { 'font-family': font }),
      ...(item.bold ? { 'font-weight': 'bold' } : {}),
    },
    item.text.replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`),
  );
}
