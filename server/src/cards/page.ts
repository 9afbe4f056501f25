import {
  followsScheme,
  formatStripTolerance,
  insulation,
  slotRows,
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

const METAL: Readonly<Record<string, string>> = { CENTRE: '#c98a4b', SHELL: '#b9bec1', SCREEN: '#b9bec1' };

function paint(conductor: string): { base: string; band: string | null } {
  const metal = METAL[conductor];
  if (metal) return { base: metal, band: null };
  const { base, band } = insulation(conductor);
  return { base: base.paint, band: band?.paint ?? null };
}

/** A conductor's insulation as a swatch, bands and all. */
function swatch(conductor: string, x: number, y: number, width: number, height: number): string {
  const { base, band } = paint(conductor);
  const bands = band
    ? [0.15, 0.6]
        .map(
          (at) =>
            `<rect x="${x + at * width}" y="${y}" width="${width * 0.25}" height="${height}" fill="${band}"/>`,
        )
        .join('')
    : '';
  return `<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${base}"/>${bands}<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="none" stroke="${SECOND}" stroke-width="0.5"/>`;
}

const text = (x: number, y: number, size: number, words: string, anchor = 'middle', bold = false): string =>
  `<text x="${x}" y="${y}" font-size="${size}" text-anchor="${anchor}" fill="${INK}"${bold ? ' font-weight="bold"' : ''}>${words}</text>`;

/** The contacts as they are wired: a row for a plug held latch down, two columns for slots, a list otherwise. */
function contactsPicture(
  card: WorkCard,
  connector: ConnectorType,
): { svg: string; width: number; height: number } {
  const on = new Map(card.order.map((line) => [line.contact, line.conductor]));
  if (connector.slots.length > 0) {
    const { left, right } = slotRows(connector);
    const rows = Math.max(left.length, right.length);
    const cells = [left, right].flatMap((column, side) =>
      column.map(({ contact, place }) => {
        const y = (rows - 1 - place) * 22;
        const x = side * 92;
        const conductor = on.get(contact);
        return `${text(x + 8, y + 13, 9, contact, 'middle', true)}${
          conductor
            ? swatch(conductor, x + 18, y + 3, 24, 12) + text(x + 46, y + 13, 7.5, conductor, 'start')
            : text(x + 18, y + 13, 7.5, 'empty', 'start')
        }`;
      }),
    );
    const height = rows * 22 + 12;
    return {
      svg: `<svg width="190" height="${height}">${cells.join('')}${text(90, height - 2, 7, 'cable from below')}</svg>`,
      width: 190,
      height,
    };
  }
  if (card.order.length <= 10) {
    const cells = card.order.map(({ contact, conductor }, i) => {
      const x = i * 24;
      return `${swatch(conductor, x + 3, 0, 18, 18)}${text(x + 12, 28, 9, contact, 'middle', true)}${text(x + 12, 37, 5.2, conductor)}`;
    });
    const width = card.order.length * 24;
    return { svg: `<svg width="${width}" height="40">${cells.join('')}</svg>`, width, height: 40 };
  }
  const perColumn = 10;
  const cells = card.order.map(({ contact, conductor }, i) => {
    const x = Math.floor(i / perColumn) * 46;
    const y = (i % perColumn) * 10;
    return `${text(x + 4, y + 8, 6, contact, 'middle', true)}${swatch(conductor, x + 10, y + 2, 10, 6)}${text(x + 22, y + 8, 5, conductor, 'start')}`;
  });
  const width = Math.ceil(card.order.length / perColumn) * 46;
  return {
    svg: `<svg width="${width}" height="${perColumn * 10}">${cells.join('')}</svg>`,
    width,
    height: perColumn * 10,
  };
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

/** How the connector is held while its contacts are read. */
function contactsLabel({ face, slots }: ConnectorType): string {
  if (slots.length > 0) return 'Slots, as the label shows them (the label wins)';
  if (face === 'plug-8' || face === 'plug-6') return 'Contacts, latch down, cable towards you';
  if (face === 'coax') return 'Contacts: the centre and the shell';
  if (face === 'joint') return 'Joined: like to like';
  if (face === 'block') return 'The count, tip before ring';
  if (face === 'terminals' || face === 'two-rows-50') return 'Contacts, by the marks on the body';
  return 'Contacts by the numbers moulded on the solder side';
}

function sideLines(card: WorkCard, connector: ConnectorType): unknown[] {
  const picture = contactsPicture(card, connector);
  const notFitting = card.fit.filter((check) => check.verdict !== 'fits');
  const width = Math.min(picture.width, 205);
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
    label(contactsLabel(connector)),
    { svg: picture.svg, width, margin: [0, 2, 0, 2] },
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
          { width: 210, stack: sideLines(card, connector) },
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
