import type { LabelStock } from './stock.js';

const A4 = { paperWidthMm: 210, paperHeightMm: 297 };
const LETTER = { paperWidthMm: 215.9, paperHeightMm: 279.4 };
const IN = 25.4;

/** Common sizes, by their measures; a crew adds its own. */
export const LABEL_STOCKS: readonly LabelStock[] = [
  {
    id: 'a4-wrap-25x38',
    name: 'A4 sheet, wrap-around 25.4 x 38.1 mm',
    kind: 'wrap',
    widthMm: 25.4,
    heightMm: 38.1,
    partMm: 12.7,
    sheet: { ...A4, columns: 7, rows: 7, leftMm: 9, topMm: 13.5, pitchXMm: 27.8, pitchYMm: 38.6 },
  },
  {
    id: 'letter-wrap-1x2',
    name: 'Letter sheet, wrap-around 1 x 2.25 in',
    kind: 'wrap',
    widthMm: IN,
    heightMm: 2.25 * IN,
    partMm: 0.75 * IN,
    sheet: {
      ...LETTER,
      columns: 7,
      rows: 4,
      leftMm: 0.4375 * IN,
      topMm: 0.75 * IN,
      pitchXMm: 1.1 * IN,
      pitchYMm: 2.4 * IN,
    },
  },
  {
    id: 'a4-flat-48x25',
    name: 'A4 sheet, flat 48.5 x 25.4 mm',
    kind: 'flat',
    widthMm: 48.5,
    heightMm: 25.4,
    partMm: 0,
    sheet: { ...A4, columns: 4, rows: 11, leftMm: 8, topMm: 8.8, pitchXMm: 48.5, pitchYMm: 25.4 },
  },
  {
    id: 'a4-flag-60x12',
    name: 'A4 sheet, flag 60 x 12 mm',
    kind: 'flag',
    widthMm: 60,
    heightMm: 12,
    partMm: 20,
    sheet: { ...A4, columns: 3, rows: 20, leftMm: 10, topMm: 13, pitchXMm: 64, pitchYMm: 13.6 },
  },
  {
    id: 'roll-flag-76x25',
    name: 'Roll, flag 76.2 x 25.4 mm',
    kind: 'flag',
    widthMm: 76.2,
    heightMm: 25.4,
    partMm: 25.4,
    sheet: null,
  },
  {
    id: 'roll-flat-50x12',
    name: 'Roll, flat 50 x 12 mm (faceplate)',
    kind: 'flat',
    widthMm: 50,
    heightMm: 12,
    partMm: 0,
    sheet: null,
  },
  {
    id: 'roll-wrap-25x19',
    name: 'Roll, wrap-around 25.4 x 31.8 mm',
    kind: 'wrap',
    widthMm: 25.4,
    heightMm: 31.8,
    partMm: 9.5,
    sheet: null,
  },
  {
    id: 'strip-12',
    name: 'A4 sheet, panel strips, 12 ports of 15.9 x 9 mm',
    kind: 'strip',
    widthMm: 15.9,
    heightMm: 9,
    partMm: 0,
    sheet: { ...A4, columns: 12, rows: 20, leftMm: 9.6, topMm: 14, pitchXMm: 15.9, pitchYMm: 13 },
  },
];
