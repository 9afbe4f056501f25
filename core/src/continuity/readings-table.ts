import type { ContactId } from '../cabling/schemes.js';
import { checkReading } from './check-reading.js';
import { contactPairsAt, intendedLink, intendedMap, type LinkExpectation } from './expectation.js';
import type { MapReading, Reading } from './readings.js';
import { extraColumns, extrasOf, NO_EXTRAS, type ExtraColumns } from './table-extras.js';
import { readWireMapCell } from './wire-map-cell.js';

export type TableClass = MapReading['instrument'] | 'lamp-pairs';

/** Which column of a table says what. */
export interface ColumnMapping {
  label: number;
  instrument: TableClass;
  /** Column of each near contact, or of each pair for lamps. */
  columns: Readonly<Record<string, number>>;
  /** Column of split pairs, where there is one. */
  splits: number | null;
  /** Column of the whole wire map, where it stands in one; then no contact has a column of its own. */
  wireMap?: number | null;
  /** Columns of when and by whom it was measured: they are kept in the record's note as they stand. */
  measured?: number | null;
  operator?: number | null;
  /** What stands beside the map: lengths, resistances, marks. */
  extras?: ExtraColumns;
}

/** A row of a table as a reading, or what is wrong with it. */
export type TableRow =
  | {
      row: number;
      label: string;
      reading: Reading;
      /** Further readings that the row holds, of other kinds. */
      more: readonly Reading[];
      note: string;
      problem: null;
    }
  | { row: number; label: string; reading: null; problem: string };

const NOWHERE: readonly string[] = ['', '-', '0', 'open', 'none'];
const LIT: readonly string[] = ['1', 'on', 'lit', 'yes', 'true', 'ok', 'x'];
const DARK: readonly string[] = ['', '0', '-', 'off', 'dark', 'no', 'false', 'open'];

/** Guesses the columns of a table by its header; what it cannot tell stays out. */
export function guessMapping(
  header: readonly string[],
): Partial<ColumnMapping> & { columns: Record<string, number> } {
  const columns: Record<string, number> = {};
  let label: number | undefined;
  let splits: number | null = null;
  let [wireMap, measured, operator]: (number | null)[] = [null, null, null];
  const extras = extraColumns(header);
  const beside = new Set([
    ...Object.values(extras.lengths),
    ...Object.values(extras.ohms),
    extras.mark,
    extras.limit,
  ]);
  header.forEach((name, i) => {
    if (beside.has(i)) return;
    const word = name.trim().toLowerCase();
    const contact = /^(?:pin|contact|c)?\s*([1-9]\d?|s|shield|screen|a|b)$/.exec(word)?.[1];
    const pair = /^(?:pair\s*)?(\d+)\s*[-/]\s*(\d+)$/.exec(word);
    if (/^(?:wire ?map|map|pin ?map|pin ?out|wiring)(?: result)?$/.test(word)) wireMap ??= i;
    else if (/^(?:date|time|date.*time|measured|tested(?: on)?|timestamp)$/.test(word)) measured ??= i;
    else if (/^(?:operator|tester|technician|user|by|tested by|measured by)$/.test(word)) operator ??= i;
    else if (/\b(?:label|link|port|id|name|cable)\b/.test(word)) label ??= i;
    else if (/split/.test(word)) splits = i;
    else if (pair) columns[`${pair[1]}-${pair[2]}`] = i;
    else if (contact) columns[contact.startsWith('s') ? 'S' : contact] = i;
  });
  const lamps = Object.keys(columns).some((name) => name.includes('-'));
  return {
    ...(label === undefined ? {} : { label }),
    instrument: lamps ? 'lamp-pairs' : splits === null ? 'coded-mapper' : 'coded-mapper-crosstalk',
    columns,
    splits,
    ...(wireMap === null ? {} : { wireMap }),
    ...(measured === null ? {} : { measured }),
    ...(operator === null ? {} : { operator }),
    extras,
  };
}

/** Rows that are looked through for a header: instruments write who and when above it. */
const HEADERS_SOUGHT = 25;

/**
 * Which row names the columns: the first that tells most of them. Instruments write titles, dates and limits above it.
 * @returns its place; 0 where no row tells anything
 */
export function headerRow(rows: readonly (readonly string[])[]): number {
  const told = rows.slice(0, HEADERS_SOUGHT).map((row) => {
    const { label, columns, splits, wireMap, measured, operator } = guessMapping(row);
    if (label === undefined || row.length < 2) return 0;
    const named = [splits, wireMap, measured, operator].filter((column) => column != null).length;
    return 1 + Object.keys(columns).length + named;
  });
  const most = Math.max(0, ...told);
  return most === 0 ? 0 : told.indexOf(most);
}

/**
 * Rows of a table as readings of the links they name, row by row: a bad row says what is wrong with
 * it and keeps none of the others back.
 * @param rows cells by row, the header not among them
 * @param firstRow the number the first of them has in its file
 */
export function readingsFromTable(
  rows: readonly (readonly string[])[],
  mapping: ColumnMapping,
  expectationOf: (label: string) => LinkExpectation | null,
  firstRow = 2,
): TableRow[] {
  const seen = new Map<string, number>();
  const readRow = (cells: readonly string[], i: number): TableRow => {
    const row = firstRow + i;
    const label = (cells[mapping.label] ?? '').trim();
    const bad = (problem: string): TableRow => ({ row, label, reading: null, problem });
    if (label === '') return bad('No label in this row.');
    const key = label.toLowerCase();
    const before = seen.get(key);
    if (before !== undefined) return bad(`${label} is already in row ${before}: keep one of them.`);
    seen.set(key, row);
    const expected = expectationOf(label);
    if (!expected) return bad(`This job has no link ${label}.`);
    const reading = readCells(cells, mapping, expected);
    if (typeof reading === 'string') return bad(reading);
    const [problem] = checkReading(expected, reading);
    if (problem) return bad(problem.message);
    const extras = extrasOf(cells, mapping.extras ?? NO_EXTRAS, reading, expected);
    if (typeof extras === 'string') return bad(extras);
    const note = [noteOf(cells, mapping), extras.said].filter(Boolean).join(', ');
    return { row, label, reading, more: extras.more, note, problem: null };
  };
  // An empty line parts what stands above it from what stands below, and is no row.
  return rows.flatMap((cells, i) => (cells.every((cell) => cell.trim() === '') ? [] : [readRow(cells, i)]));
}

/** When and by whom it was measured, as the table says it. */
function noteOf(cells: readonly string[], { measured, operator }: ColumnMapping): string {
  const [when, who] = [measured, operator].map((column) =>
    column == null ? '' : (cells[column] ?? '').trim(),
  );
  return [when && `measured ${when}`, who && `by ${who}`].filter(Boolean).join(' ');
}

function readCells(
  cells: readonly string[],
  { instrument, columns, splits, wireMap }: ColumnMapping,
  expected: LinkExpectation,
): Reading | string {
  const link = intendedLink(expected);
  const cell = (name: string): string | null => {
    const column = columns[name];
    return column === undefined ? null : (cells[column] ?? '').trim();
  };
  if (instrument === 'lamp-pairs') {
    const lamps: Record<string, boolean> = {};
    for (const pair of contactPairsAt(link, link.near).map((p) => p.join('-'))) {
      const word = cell(pair)?.toLowerCase();
      if (word === undefined) return `No column is chosen for the lamp of ${pair}.`;
      if (LIT.includes(word)) lamps[pair] = true;
      else if (DARK.includes(word)) lamps[pair] = false;
      else return `${pair}: "${word}" is neither lit nor dark. Write 1 or 0.`;
    }
    return { instrument, lamps };
  }
  const read =
    wireMap == null ? readContacts() : readWireMapCell(cells[wireMap] ?? '', Object.keys(link.near));
  if (typeof read === 'string') return read;
  if ('problem' in read && typeof read.problem === 'string') return read.problem;
  const arrivals = read as Record<ContactId, ContactId[]>;
  const said = splits === null ? null : (cells[splits] ?? '').trim();
  const none = said === null || NOWHERE.includes(said.toLowerCase());
  return {
    instrument,
    arrivals,
    joins: [],
    splits: instrument === 'coded-mapper-crosstalk' ? (none ? [] : said.split(/[,;\s]+/)) : null,
  };

  function readContacts(): Record<ContactId, ContactId[]> | string {
    const arrivals: Record<ContactId, ContactId[]> = {};
    for (const contact of Object.keys(link.near)) {
      const word = cell(contact);
      if (word === null) return `No column is chosen for contact ${contact}.`;
      arrivals[contact] = NOWHERE.includes(word.toLowerCase())
        ? []
        : word.split(/[+&,;\s]+/).map((part) => (/^(?:s|shield|screen)$/i.test(part) ? 'S' : part));
    }
    return arrivals;
  }
}

/** The map of a link in order, as a coded mapper would read it: what one key stands for. */
export function straightReading(expected: LinkExpectation): MapReading {
  const meant = intendedMap(expected);
  return {
    instrument: 'coded-mapper',
    arrivals: Object.fromEntries(
      Object.keys(expected.near.wiring).map((contact) => {
        const far = meant[contact];
        return [contact, far === undefined ? [] : [far]];
      }),
    ),
    joins: [],
    splits: null,
  };
}
