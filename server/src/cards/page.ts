import {
  endScene,
  followsScheme,
  formatStripTolerance,
  sceneSvg,
  trueScaleGauge,
  type ConnectorType,
  type Gauge,
  type UnitSystem,
  type WorkCard,
} from '@near-spoke/core';
import { printPdf } from '../print/printer.js';

const INK = '#1b2225';
const SECOND = '#56626a';
const RULE = '#d9d8d0';
const WRONG = '#a8321f';
/** PDF points in a millimetre. */
const PT = 72 / 25.4;

/** What stands at the head of a printed card. */
export interface CardHead {
  link: string;
  place: string;
  /** Which sheets it was made from, and when. */
  made: string;
}

/** The gauge as PDF lines: its millimetres are millimetres on the paper. */
function gaugeCanvas(gauge: Gauge): unknown {
  return {
    canvas: gauge.lines.map(({ fromMm, toMm, heavy }) => ({
      type: 'line',
      x1: fromMm[0] * PT,
      y1: fromMm[1] * PT,
      x2: toMm[0] * PT,
      y2: toMm[1] * PT,
      lineWidth: heavy ? 0.9 : 0.4,
      lineColor: INK,
    })),
  };
}

const PAGE_MM = { width: 210, height: 297, margin: 12 };

function gaugeOnPage(gauge: Gauge): unknown[] {
  const left = PAGE_MM.margin;
  const top = PAGE_MM.height - PAGE_MM.margin - gauge.heightMm - 6;
  return [
    { ...(gaugeCanvas(gauge) as object), absolutePosition: { x: left * PT, y: top * PT } },
    ...gauge.texts.map(({ atMm, text: words }) => ({
      text: words,
      fontSize: 7,
      color: SECOND,
      absolutePosition: { x: (left + atMm[0]) * PT, y: (top + atMm[1]) * PT },
    })),
    {
      text: 'Gauge at true scale: print at 100 %, lay the cable’s end at the left stop.',
      fontSize: 7,
      color: SECOND,
      absolutePosition: { x: left * PT, y: (top - 5) * PT },
    },
  ];
}

const label = (words: string): unknown => ({ text: words, bold: true, fontSize: 8.5, margin: [0, 6, 0, 2] });

/** A long card is set smaller, so that it stays on its page. */
function sizeFor(card: WorkCard): number {
  const letters = card.steps.reduce(
    (sum, step) =>
      sum +
      step.title.length +
      step.how.length +
      step.accept.length +
      step.reject.length +
      (step.caution?.length ?? 0),
    0,
  );
  return letters < 1900 ? 8.6 : letters < 2500 ? 7.8 : 7;
}

function stepLines(card: WorkCard): unknown[] {
  const fontSize = sizeFor(card);
  return card.steps.map((step, i) => ({
    fontSize,
    margin: [0, 0, 0, 4.5],
    stack: [
      {
        text: [
          { text: `${i + 1}. ${step.title}`, bold: true },
          ...(step.noWayBack ? [{ text: '  no way back after this', bold: true, color: WRONG }] : []),
        ],
      },
      step.how,
      { text: [{ text: 'Good: ', bold: true }, step.accept], color: SECOND },
      { text: [{ text: 'Bad: ', bold: true }, step.reject], color: SECOND },
      ...(step.caution ? [{ text: [{ text: 'Care: ', bold: true }, step.caution] }] : []),
    ],
  }));
}

const SIDE_WIDTH = 205;

function sideLines(card: WorkCard, connector: ConnectorType): unknown[] {
  const scene = endScene(connector, card.order, true);
  // A few boxes are not drawn larger than they are on a screen.
  const { svg, width } = sceneSvg(scene, Math.min(SIDE_WIDTH, scene.width * 0.6));
  const notFitting = card.fit.filter((check) => check.verdict !== 'fits');
  return [
    ...(card.before.length > 0
      ? [label('Before step 1'), { ul: [...card.before], fontSize: 8, color: WRONG }]
      : []),
    label('Lay out'),
    { text: card.parts.join(', '), fontSize: 8.2 },
    { ul: card.tools.map((t) => t.words), fontSize: 8, color: SECOND },
    ...(notFitting.length > 0
      ? [
          label('Look at this first'),
          { ul: notFitting.map((check) => check.words), fontSize: 8, color: WRONG },
        ]
      : []),
    ...(card.threaded.length > 0
      ? [label('Rings'), { ul: card.threaded.map((v) => `${v.part.name}: ${v.words}`), fontSize: 8 }]
      : []),
    label('Contacts'),
    { svg, width, margin: [0, 2, 0, 2] },
    { text: scene.note, fontSize: 7, color: SECOND },
  ];
}

/** A card on one page, with the strip plan at true scale at its foot. */
export const cardPdf = (...given: Parameters<typeof cardDocument>): Promise<Buffer> =>
  printPdf(cardDocument(...given));

/** The same as a document to be set. */
export function cardDocument(
  card: WorkCard,
  connector: ConnectorType,
  head: CardHead,
  units: UnitSystem,
): object {
  const gauge = trueScaleGauge(card.strip, (mm) => formatStripTolerance(mm, units, card.strip.toleranceMm));
  const source =
    card.source === 'typical'
      ? 'Typical figures: the sheet in the bag wins.'
      : 'Figures from the sheet in the bag.';
  const scheme = followsScheme(connector) ? `, ${card.scheme}` : '';
  return {
    pageSize: 'A4',
    pageMargins: [PAGE_MM.margin * PT, PAGE_MM.margin * PT, PAGE_MM.margin * PT, (gauge.heightMm + 17) * PT],
    // The drawing is a measure: its numbers stay readable for whoever checks it.
    compress: false,
    info: { title: `${head.link}, ${card.title}` },
    defaultStyle: { font: 'Atkinson', fontSize: 8.6, color: INK },
    content: [
      { text: `${head.link}: ${card.title}`, bold: true, fontSize: 14 },
      {
        text: `${head.place}. ${card.cableName}${scheme}, about ${card.minutes} min. ${source}`,
        color: SECOND,
      },
      { text: head.made, color: SECOND, fontSize: 7, margin: [0, 0, 0, 4] },
      {
        canvas: [
          {
            type: 'line',
            x1: 0,
            y1: 0,
            x2: (PAGE_MM.width - 2 * PAGE_MM.margin) * PT,
            y2: 0,
            lineWidth: 0.5,
            lineColor: RULE,
          },
        ],
      },
      {
        columns: [
          { width: '*', stack: [label('Steps'), ...stepLines(card)] },
          { width: SIDE_WIDTH + 5, stack: sideLines(card, connector) },
        ],
        columnGap: 14,
      },
    ],
    // Drawn apart from the flowing text, so that it neither moves nor breaks the page.
    background: () => gaugeOnPage(gauge),
    footer: {
      text: 'Local code and licensed practice come first.',
      fontSize: 7,
      color: SECOND,
      margin: [PAGE_MM.margin * PT, (gauge.heightMm + 9) * PT, 0, 0],
    },
  };
}
