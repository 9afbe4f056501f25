import type { LinkRow } from '@near-spoke/core/report';

/** A cell that a spreadsheet could take for a formula is led by an apostrophe (OWASP, CSV injection). */
export function harmless(cell: string): string {
  return /^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell;
}

const quote = (cell: string): string => `"${harmless(cell).replaceAll('"', '""')}"`;

const COLUMNS: readonly (keyof LinkRow)[] = [
  'label',
  'from',
  'to',
  'cable',
  'length',
  'stage',
  'verdict',
  'restsOn',
  'blindTo',
  'testedWith',
  'testedBy',
  'testedAt',
  'handedOverBy',
  'handedOverAt',
  'spoiled',
];

/** A byte order mark first, so that spreadsheets read UTF-8. */
const headOf = (columns: readonly string[]): string => `\ufeff${columns.join(',')}\r\n`;
const lineOf = (cells: readonly string[]): string => `${cells.map(quote).join(',')}\r\n`;

/** A table as CSV (RFC 4180). */
export const csvOf = (columns: readonly string[], rows: readonly (readonly string[])[]): string =>
  `${headOf(columns)}${rows.map(lineOf).join('')}`;

/** The handover table as CSV, its head and one row. */
export const csvHead = headOf(COLUMNS);
export const csvRow = (row: LinkRow): string => lineOf(COLUMNS.map((column) => String(row[column])));
