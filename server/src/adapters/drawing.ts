import {
  colourOn,
  conductorPaint,
  drawFace,
  layoutFor,
  partWords,
  pinAt,
  type AdapterDesign,
  type AdapterEnd,
  type ContactLayout,
  type View,
  type WorkedUpAdapter,
} from '@near-spoke/core';

const INK = '#1b2225';
const SECOND = '#56626a';
const SHEET = '#fffefb';
/** Nothing is chosen: a plain line. */
const PLAIN = '#8b9196';

/** A drawing with its size, in its own units. */
export interface Drawing {
  svg: string;
  width: number;
  height: number;
}

const escape = (words: string): string =>
  words.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
const text = (x: number, y: number, size: number, words: string, more = ''): string =>
  `<text x="${round(x)}" y="${round(y)}" font-size="${size}" fill="${INK}"${more}>${escape(words)}</text>`;
const round = (value: number): number => Math.round(value * 100) / 100;

/** A face with its contacts' numbers, `unit` drawing units to a millimetre. */
export function faceSvg(layout: ContactLayout, view: View, unit: number): Drawing {
  const face = drawFace(layout, view);
  const [width, height] = [face.widthMm * unit, face.heightMm * unit];
  const size = Math.min(face.contactMm * unit * 1.25, 11);
  const path = (d: string, fill: string): string =>
    d === ''
      ? ''
      : `<path d="${d}" fill="${fill}" stroke="${INK}" stroke-width="${0.8 / unit}" transform="scale(${unit})"/>`;
  const contacts = face.contacts
    .map(
      ({ contact, xMm, yMm }) =>
        `<circle cx="${round(xMm * unit)}" cy="${round(yMm * unit)}" r="${round(face.contactMm * unit)}" fill="${SHEET}" stroke="${INK}" stroke-width="0.7"/>${text(xMm * unit, yMm * unit + size * 0.36, round(contact.length > 2 ? size * 0.7 : size), contact, ' text-anchor="middle"')}`,
    )
    .join('');
  return {
    svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${round(width)}" height="${round(height)}" viewBox="${round(-width / 2)} ${round(-height / 2)} ${round(width)} ${round(height)}">${path(face.outline, '#f5f4ef')}${path(face.key, '#d9d8d0')}${contacts}</svg>`,
    width,
    height,
  };
}

const ROW = 20;
const BOX = { left: 190, right: 510, width: 34 };
const WIDTH = 734;
const GAP = 14;

interface PlacedRow {
  end: string;
  contact: string;
  signal: string;
  y: number;
}

const MOST_NAME = 38;
const short = (words: string): string =>
  words.length > MOST_NAME ? `${words.slice(0, MOST_NAME - 1)}…` : words;

/** Rows of some ends one under the other, each end under its name. */
function column(ends: readonly AdapterEnd[]): {
  rows: PlacedRow[];
  names: { words: string; y: number }[];
  height: number;
} {
  let y = 0;
  const rows: PlacedRow[] = [];
  const names: { words: string; y: number }[] = [];
  for (const { id, name, connector, pins } of ends) {
    names.push({ words: `${id}  ${name}: ${connector}`, y: y + 14 });
    y += ROW + 4;
    for (const { contact, signal } of pins) {
      rows.push({ end: id, contact, signal, y: y + ROW / 2 });
      y += ROW;
    }
    y += GAP;
  }
  return { rows, names, height: y };
}

/** The lead lying down: the first end at the left, the others at the right, every join between them. */
export function leadSvg(design: AdapterDesign, { rows: joined }: WorkedUpAdapter): Drawing {
  const [first, ...others] = design.ends;
  const [left, right] = [column(first ? [first] : []), column(others)];
  const height = Math.max(left.height, right.height);
  const at = (place: { end: string; contact: string }): { x: number; y: number; side: 1 | -1 } | null => {
    const onLeft = left.rows.find(({ end, contact }) => end === place.end && contact === place.contact);
    if (onLeft) return { x: BOX.left + BOX.width, y: onLeft.y, side: 1 };
    const onRight = right.rows.find(({ end, contact }) => end === place.end && contact === place.contact);
    return onRight ? { x: BOX.right, y: onRight.y, side: -1 } : null;
  };
  const wires = design.joins
    .map((join) => {
      const [from, to] = [at(join.from), at(join.to)];
      if (!from || !to) return '';
      const bend = from.side === to.side ? 40 : 90;
      const d = `M${from.x} ${from.y}C${from.x + from.side * bend} ${from.y} ${to.x + to.side * bend} ${to.y} ${to.x} ${to.y}`;
      // A bridge at one end is a bare bit of wire.
      const colour =
        join.from.end === join.to.end ? null : colourOn(design, joined, pinAt(design, join.from));
      const paint = colour ? conductorPaint(colour).base : PLAIN;
      const middle = {
        x: (from.x + to.x + (from.side === to.side ? from.side * 60 : 0)) / 2,
        y: (from.y + to.y) / 2,
      };
      const parts = join.parts.map(partWords).join(', ');
      return `<path d="${d}" fill="none" stroke="${SECOND}" stroke-width="3.4"/><path d="${d}" fill="none" stroke="${paint}" stroke-width="2.4"${join.parts.length > 0 ? ' stroke-dasharray="7 3"' : ''}/>${
        parts === ''
          ? ''
          : `<rect x="${round(middle.x - 6)}" y="${round(middle.y - 5)}" width="12" height="10" fill="${SHEET}" stroke="${INK}"/>${text(middle.x, middle.y - 8, 7, parts, ' text-anchor="middle"')}`
      }`;
    })
    .join('');
  const box = ({ contact, signal, y }: PlacedRow, x: number, onLeft: boolean): string =>
    `<rect x="${x}" y="${round(y - 8)}" width="${BOX.width}" height="16" rx="3" fill="${SHEET}" stroke="${INK}"/>${text(x + BOX.width / 2, y + 3.5, 10, contact, ' text-anchor="middle" font-weight="bold"')}${
      onLeft
        ? text(x - 8, y + 3.5, 10, signal, ' text-anchor="end"')
        : text(x + BOX.width + 8, y + 3.5, 10, signal)
    }`;
  const body = [
    ...left.names.map(({ words, y }) => text(0, y, 11, words, ' font-weight="bold"')),
    ...right.names.map(({ words, y }) => text(BOX.right, y, 10, short(words), ' font-weight="bold"')),
    wires,
    ...left.rows.map((row) => box(row, BOX.left, true)),
    ...right.rows.map((row) => box(row, BOX.right, false)),
  ].join('');
  return {
    svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${height}" viewBox="0 0 ${WIDTH} ${height}" role="img"><title>${escape(design.name)}</title>${body}</svg>`,
    width: WIDTH,
    height,
  };
}

/** The layout of an end; null where none is drawn. */
export const layoutOf = ({ layout }: AdapterEnd): ContactLayout | null => layoutFor(layout ?? null);
