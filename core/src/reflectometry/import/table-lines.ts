import { BadTrace } from './bad-trace.js';

/** How the numbers of a text table are written. */
export interface Writing {
  separator: ',' | ';' | '\t' | ' ';
  decimal: '.' | ',';
}

/** No number begins with an idle nought: "0,0118" is one with a decimal comma, not two. */
const NUMBER = /^[+-]?(?!0\d)(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?$/i;
const NUMBER_WITH_COMMA = /^[+-]?(?:\d+,?\d*|,\d+)(?:e[+-]?\d+)?$/i;

/** A line's cells, quotes and blanks round them taken off. */
export function cellsOf(line: string, { separator }: Writing): string[] {
  const cells = separator === ' ' ? line.trim().split(/\s+/) : line.split(separator);
  return cells.map((cell) =>
    cell
      .trim()
      .replace(/^"(.*)"$/, '$1')
      .trim(),
  );
}

/** A cell's number; NaN where it is none. */
export function numberIn(cell: string, { decimal }: Writing): number {
  if (decimal === '.') return NUMBER.test(cell) ? Number(cell) : NaN;
  return NUMBER_WITH_COMMA.test(cell) || NUMBER.test(cell) ? Number(cell.replace(',', '.')) : NaN;
}

const WRITINGS: readonly Writing[] = [
  { separator: '\t', decimal: '.' },
  { separator: '\t', decimal: ',' },
  { separator: ';', decimal: '.' },
  { separator: ';', decimal: ',' },
  { separator: ',', decimal: '.' },
  { separator: ' ', decimal: '.' },
  { separator: ' ', decimal: ',' },
];

/**
 * How a table is written, told from its first lines: the way in which most of them end as rows of
 * the same many numbers.
 */
export function writingOf(lines: readonly string[]): { writing: Writing; columns: number[] } | null {
  let best: { writing: Writing; columns: number[]; score: number } | null = null;
  for (const writing of WRITINGS) {
    const rows = lines.map((line) => numericCells(line, writing));
    const last = [...rows].reverse().find((columns) => columns.length > 0);
    if (!last) continue;
    const alike = rows.filter((columns) => sameColumns(columns, last)).length;
    // A separator that occurs says more than one that does not.
    const score = alike * 10 + Math.min(last.length, 4);
    if (!best || score > best.score) best = { writing, columns: last, score };
  }
  return best;
}

/** Places of the numbers in a line, in order. */
function numericCells(line: string, writing: Writing): number[] {
  const places: number[] = [];
  cellsOf(line, writing).forEach((cell, place) => {
    if (!Number.isNaN(numberIn(cell, writing))) places.push(place);
  });
  return places;
}

const sameColumns = (one: readonly number[], other: readonly number[]): boolean =>
  one.length === other.length && one.every((place, n) => place === other[n]);

const LONGEST_LINE = 20_000;

/**
 * Cuts text that comes in pieces into lines, of any line end, and refuses what is no text.
 *
 * @throws BadTrace for a line of more than 20,000 characters, or one with a NUL in it
 */
export class LineCutter {
  private rest = '';
  private lines = 0;

  constructor(private readonly take: (line: string, number: number) => void) {}

  add(piece: string): void {
    const text = this.rest + piece;
    let from = 0;
    for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', from)) {
      this.give(text.slice(from, at));
      from = at + 1;
    }
    this.rest = text.slice(from);
    this.check(this.rest);
  }

  end(): void {
    if (this.rest !== '') this.give(this.rest);
    this.rest = '';
  }

  private give(line: string): void {
    this.check(line);
    this.lines++;
    const clean = this.lines === 1 ? line.replace(/^\uFEFF/, '') : line;
    // An old export may end its lines with a return alone.
    for (const part of clean.replace(/\r$/, '').split('\r')) this.take(part, this.lines);
  }

  private check(line: string): void {
    if (line.includes('\0'))
      throw new BadTrace('this is no text. Export the trace as comma-separated values.', this.lines + 1);
    if (line.length > LONGEST_LINE && !line.includes('\r'))
      throw new BadTrace(
        `over ${LONGEST_LINE.toLocaleString('en')} characters without an end. One sample belongs on each line.`,
        this.lines + 1,
      );
  }
}
