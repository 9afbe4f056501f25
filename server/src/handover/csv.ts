import type { Sheet, SheetRow } from './sheet.js';

/** A cell that a spreadsheet could take for a formula is led by an apostrophe (OWASP, CSV injection). */
export function harmless(cell: string): string {
  return /^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell;
}

const quote = (cell: string): string => `"${harmless(cell).replaceAll('"', '""')}"`;

const COLUMNS: readonly (keyof SheetRow)[] = [
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

/** A table as CSV (RFC 4180), with a byte order mark so that spreadsheets read UTF-8. */
export const csvOf = (columns: readonly string[], rows: readonly (readonly string[])[]): string =>
  `\ufeff${[columns.join(','), ...rows.map((row) => row.map(quote).join(','))].join('\r\n')}\r\n`;

/** The rows of a handover sheet as CSV. */
export const sheetCsv = (sheet: Sheet): string =>
  csvOf(
    COLUMNS,
    sheet.rows.map((row) => COLUMNS.map((column) => String(row[column]))),
  );
