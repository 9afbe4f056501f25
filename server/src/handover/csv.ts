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

/** The rows as CSV (RFC 4180), with a byte order mark so that spreadsheets read UTF-8. */
export function sheetCsv(sheet: Sheet): string {
  const lines = [
    COLUMNS.join(','),
    ...sheet.rows.map((row) => COLUMNS.map((column) => quote(String(row[column]))).join(',')),
  ];
  return `\ufeff${lines.join('\r\n')}\r\n`;
}
