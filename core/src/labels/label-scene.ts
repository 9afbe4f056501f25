import { QUIET_ZONE, qrModules } from '../report/pictures/qr.js';
import type { LabelStock } from './stock.js';

/** What is drawn on a label, in millimetres from its upper left corner. */
export type LabelItem =
  /** `y` is the line it stands on. Letters are of one width, `ADVANCE` of their size. */
  | { type: 'text'; x: number; y: number; sizeMm: number; text: string; bold: boolean }
  | { type: 'qr'; x: number; y: number; sizeMm: number; text: string };

/** What a label is to say. */
export interface LabelContent {
  lines: readonly string[];
  /** What its QR says; null for none. */
  qr: string | null;
}

/** What does not come out on a label as it was wanted. */
export type LabelFlaw =
  /** At the least size that can be read, and broken between words, it is longer than the label. */
  | { code: 'too-long'; row: string; holds: number }
  | { code: 'too-many-lines'; lines: number; holds: number }
  /** Its modules would be finer than a reader and a printer can do: left out. */
  | { code: 'qr-too-fine'; needsMm: number };

export interface LabelScene {
  items: LabelItem[];
  flaws: LabelFlaw[];
}

/** Width of a letter of the fixed-width face as a share of its size. */
export const ADVANCE = 0.6;
/** Height of a capital as a share of its size. */
const CAPITAL = 0.73;
/** What hangs below the line, as a share of the size. */
const DESCENT = 0.22;
/** Free between what hangs from one line and the capitals of the next, as a share of the next. */
const BETWEEN = 0.2;
/** The least that is read at arm's length: about 5 points. */
const LEAST_MM = 1.75;
const MOST_MM = 7;
/** What stays free on every side: cutters and printers wander. */
const MARGIN_MM = 1;
/** The finest module that a hand-held reader takes off a 300 dpi print. */
const LEAST_MODULE_MM = 0.33;

interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The places of a label that are written on: one, or a flag's two halves, or a wrap-around's written part. */
export function writtenAreas({ kind, widthMm, heightMm, partMm }: LabelStock): Area[] {
  if (kind === 'wrap') return [{ x: 0, y: 0, width: widthMm, height: partMm }];
  if (kind === 'flag') {
    // Folded about the middle each half faces its own side, and both read upright.
    const half = (widthMm - partMm) / 2;
    return [
      { x: 0, y: 0, width: half, height: heightMm },
      { x: half + partMm, y: 0, width: half, height: heightMm },
    ];
  }
  return [{ x: 0, y: 0, width: widthMm, height: heightMm }];
}

/**
 * Lays a label out: the first line as large as fits, the others smaller below it; a wrap-around repeats what it says down
 * its written part, so that it is read from any side. What does not fit is said and not drawn as if it did.
 */
export function labelScene(stock: LabelStock, content: LabelContent): LabelScene {
  const items: LabelItem[] = [];
  const flaws = new Map<string, LabelFlaw>();
  for (const area of writtenAreas(stock)) {
    const within = inset(area);
    const qr = content.qr === null ? null : placeQr(within, content.qr);
    if (qr && 'code' in qr) flaws.set(qr.code, qr);
    if (qr && 'type' in qr) items.push(qr);
    const left = qr && 'type' in qr ? besideQr(within, qr.sizeMm) : within;
    const { lines, flaw } = placeLines(left, content.lines, stock.kind === 'wrap');
    if (flaw) flaws.set(flaw.code, flaw);
    items.push(...lines);
  }
  return { items, flaws: [...flaws.values()] };
}

const inset = ({ x, y, width, height }: Area): Area => ({
  x: x + MARGIN_MM,
  y: y + MARGIN_MM,
  width: Math.max(0, width - 2 * MARGIN_MM),
  height: Math.max(0, height - 2 * MARGIN_MM),
});

function placeQr(area: Area, text: string): Extract<LabelItem, { type: 'qr' }> | LabelFlaw {
  const modules = qrModules(text).length + 2 * QUIET_ZONE;
  // The label's own margin is light as well, and counts as quiet zone.
  const sizeMm = Math.min(area.height, area.width / 2) + MARGIN_MM;
  if (sizeMm / modules < LEAST_MODULE_MM)
    return { code: 'qr-too-fine', needsMm: Math.ceil(10 * (modules * LEAST_MODULE_MM + MARGIN_MM)) / 10 };
  return { type: 'qr', x: area.x - MARGIN_MM / 2, y: area.y + (area.height - sizeMm) / 2, sizeMm, text };
}

const besideQr = ({ x, y, width, height }: Area, sizeMm: number): Area => ({
  x: x + sizeMm - MARGIN_MM / 2,
  y,
  width: Math.max(0, width - sizeMm + MARGIN_MM / 2),
  height,
});

interface Rows {
  /** The first line, in as many rows as it takes. */
  first: string[];
  others: string[];
}

const lengthOf = (text: string): number => [...text].length;
const longestOf = (rows: readonly string[]): number => Math.max(1, ...rows.map(lengthOf));

/** A line in so many rows, broken between words, no row longer than it must be. */
function inRows(text: string, count: number): string[] {
  const words = text.split(/\s+/).filter(Boolean);
  if (count >= words.length) return words;
  const within = (most: number): string[] =>
    words.reduce<string[]>((rows, word) => {
      const last = rows.at(-1);
      return last !== undefined && lengthOf(last) + 1 + lengthOf(word) <= most
        ? [...rows.slice(0, -1), `${last} ${word}`]
        : [...rows, word];
    }, []);
  let [low, high] = [longestOf(words), lengthOf(text)];
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    if (within(middle).length <= count) high = middle;
    else low = middle + 1;
  }
  return within(low);
}

/** Sizes of rows that fit an area, the first line's as large as may be; null where even the least do not fit. */
function sizesIn({ width, height }: Area, { first, others }: Rows): number[] | null {
  const rows = [...first, ...others];
  const lead = Math.min(MOST_MM, width / (ADVANCE * longestOf(first)));
  const small = Math.min(lead * 0.72, width / (ADVANCE * longestOf(others)));
  if (Math.min(lead, others.length > 0 ? width / (ADVANCE * longestOf(others)) : MOST_MM) < LEAST_MM)
    return null;
  const sizesAt = (share: number): number[] =>
    rows.map((_, at) => Math.max(LEAST_MM, share * (at < first.length ? lead : small)));
  if (heightOf(sizesAt(0)) > height) return null;
  if (heightOf(sizesAt(1)) <= height) return sizesAt(1);
  let [low, high] = [0, 1];
  for (let step = 0; step < 40; step++) {
    const middle = (low + high) / 2;
    if (heightOf(sizesAt(middle)) <= height) low = middle;
    else high = middle;
  }
  return sizesAt(low);
}

const heightOf = (sizes: readonly number[]): number =>
  sizes.reduce((sum, size, at) => sum + size * (CAPITAL + DESCENT + (at === 0 ? 0 : BETWEEN)), 0);

/** Ways of breaking lines: none; each below the first in two or three; the first too. */
const BREAKS = [
  [1, 1],
  [1, 2],
  [1, 3],
  [2, 2],
  [3, 3],
] as const;

/** The rows in which lines come out largest, the smallest of them counting most; null where none fit. */
function bestRows(
  area: Area,
  [head = '', ...more]: readonly string[],
): { rows: string[]; sizes: number[]; first: number } | null {
  let best: { rows: string[]; sizes: number[]; first: number } | null = null;
  for (const [a, b] of BREAKS) {
    const first = inRows(head, a);
    const others = more.flatMap((line) => inRows(line, b));
    const sizes = sizesIn(area, { first, others });
    // A break has to be worth it: a label is read quicker in fewer rows.
    if (sizes && (!best || Math.min(...sizes) > 1.15 * Math.min(...best.sizes)))
      best = { rows: [...first, ...others], sizes, first: first.length };
  }
  return best;
}

/** What stands in the way of lines that fit in no way. */
function whyNot(area: Area, lines: readonly string[]): LabelFlaw {
  const holds = Math.floor(area.width / (ADVANCE * LEAST_MM));
  const tooLong = lines.flatMap((line) => inRows(line, 3)).find((row) => lengthOf(row) > holds);
  if (tooLong !== undefined) return { code: 'too-long', row: tooLong, holds };
  const most = Math.floor((area.height / LEAST_MM + BETWEEN) / (CAPITAL + DESCENT + BETWEEN));
  return { code: 'too-many-lines', lines: lines.length, holds: most };
}

function placeLines(
  area: Area,
  lines: readonly string[],
  repeated: boolean,
): { lines: LabelItem[]; flaw: LabelFlaw | null } {
  if (lines.length === 0) return { lines: [], flaw: null };
  // What does not fit goes from the end: the label itself is what is looked for.
  let shown = lines;
  let best = bestRows(area, shown);
  const flaw = best ? null : whyNot(area, lines);
  while (!best && shown.length > 1) {
    shown = shown.slice(0, -1);
    best = bestRows(area, shown);
  }
  if (!best) return { lines: [], flaw };
  const { rows, sizes, first } = best;
  const block = heightOf(sizes);
  const gap = LEAST_MM;
  const times = repeated ? Math.max(1, Math.floor((area.height + gap) / (block + gap))) : 1;
  const all = times * block + (times - 1) * gap;
  const placed: LabelItem[] = [];
  let y = area.y + (area.height - all) / 2;
  for (let time = 0; time < times; time++) {
    rows.forEach((text, at) => {
      const sizeMm = sizes[at] ?? LEAST_MM;
      y += sizeMm * (CAPITAL + (at === 0 ? 0 : BETWEEN));
      placed.push({ type: 'text', x: area.x, y, sizeMm, text, bold: at < first });
      y += sizeMm * DESCENT;
    });
    y += gap;
  }
  return { lines: placed, flaw };
}
