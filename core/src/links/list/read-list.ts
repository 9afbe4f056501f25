import type { CableType } from '../../cabling/cable-types.js';
import type { ConnectorType } from '../../connectors/connector-types.js';
import type { UnitSystem } from '../../quantities/length.js';
import type { RouteStretch } from '../plan-check.js';
import type { ListColumns, ListField } from './columns.js';
import { listLengthM } from './list-length.js';

/** A link as a list gives it, with the row it stood in, counted from 1. */
export interface ListedLink {
  row: number;
  label: string;
  panel: string;
  port: string;
  room: string;
  outlet: string;
  cableTypeId: string;
  nearConnectorId: string;
  farConnectorId: string;
  lengthM: number;
  route: RouteStretch[];
}

/** What is wrong in a list: where, and what to do. */
export interface ListProblem {
  row: number;
  field: ListField;
  message: string;
}

/** What holds where a list says nothing. */
export type ListDefaults = Partial<Record<Exclude<ListField, 'label' | 'route'>, string>>;

/** Where and how a list is read. */
export interface ListReading {
  columns: ListColumns;
  /** Rows from the top that are heads and titles. */
  skip: number;
  /** Of bare lengths. */
  units: UnitSystem;
  defaults: ListDefaults;
  cables: readonly Pick<CableType, 'id' | 'name'>[];
  connectors: readonly Pick<ConnectorType, 'id' | 'name'>[];
  /** Labels and ports that the job has already. */
  taken: readonly { label: string; panel: string; port: string }[];
}

const MOST_M = 10_000;
const LABEL = /^[\p{L}\p{N}][\p{L}\p{N}._/ -]{0,23}$/u;

/**
 * Reads a list of links, row by row: nothing is guessed that two things could be, and every row that cannot be read
 * is named with its cell. Empty rows are passed by.
 */
export function readLinkList(
  rows: readonly (readonly string[])[],
  reading: ListReading,
): { links: ListedLink[]; problems: ListProblem[] } {
  const links: ListedLink[] = [];
  const problems: ListProblem[] = [];
  const labels = new Map(reading.taken.map(({ label }) => [label, 'in this job already']));
  const ports = new Map(
    reading.taken.map(({ panel, port, label }) => [`${panel}/${port}`, `that of ${label} in this job`]),
  );
  rows.slice(reading.skip).forEach((cells, at) => {
    const row = reading.skip + at + 1;
    if (cells.every((cell) => cell.trim() === '')) return;
    const wrong: ListProblem[] = [];
    const link = readRow(cells, reading, (field, message) => wrong.push({ row, field, message }));
    if (link.label !== '' && labels.has(link.label))
      wrong.push({ row, field: 'label', message: `${link.label} stands ${labels.get(link.label)}.` });
    const port = `${link.panel}/${link.port}`;
    if (link.port !== '' && ports.has(port))
      wrong.push({
        row,
        field: 'port',
        message: `Port ${link.port} of ${link.panel} is ${ports.get(port)}.`,
      });
    labels.set(link.label, `in row ${row} already`);
    ports.set(port, `that of row ${row}`);
    problems.push(...wrong);
    if (wrong.length === 0) links.push({ row, ...link });
  });
  return { links, problems };
}

function readRow(
  cells: readonly string[],
  { columns, units, defaults, cables, connectors }: ListReading,
  complain: (field: ListField, message: string) => void,
): Omit<ListedLink, 'row'> {
  const said = (field: ListField): string => {
    const column = columns[field];
    const cell = column === undefined ? '' : (cells[column] ?? '').trim();
    if (cell.startsWith('=')) {
      complain(field, 'A formula: save its value, not the formula.');
      return '';
    }
    return cell || (field === 'label' || field === 'route' ? '' : (defaults[field] ?? ''));
  };
  const wanted = (field: ListField, most: number): string => {
    const text = said(field);
    if (text === '') complain(field, `Nothing says its ${field}.`);
    else if (text.length > most) complain(field, `At most ${most} characters.`);
    return text;
  };
  const label = said('label');
  if (!LABEL.test(label))
    complain(
      'label',
      label === ''
        ? 'A link needs a label.'
        : `${label}: a label is up to 24 letters, figures, dots and dashes.`,
    );
  const typed = (field: 'cable' | 'near' | 'far', types: readonly { id: string; name: string }[]): string => {
    const text = said(field);
    const found = typesCalled(text, types);
    const [only] = found;
    if (only && found.length === 1) return only.id;
    if (text === '')
      complain(field, `Nothing says its ${field === 'cable' ? 'cable' : `${field} connector`}.`);
    else if (found.length === 0) complain(field, `${text}: the kit has nothing of that name.`);
    else
      complain(
        field,
        `${text} could be ${found
          .map(({ name }) => name)
          .slice(0, 4)
          .join(' or ')}: say which.`,
      );
    return '';
  };
  const lengthText = said('length');
  const lengthM = listLengthM(lengthText, units);
  if (lengthM === null || !(lengthM > 0 && lengthM <= MOST_M))
    complain(
      'length',
      lengthText === ''
        ? 'Nothing says how long it is.'
        : `${lengthText} is no length, such as 31.4 m or 103 ft.`,
    );
  return {
    label,
    panel: wanted('panel', 40),
    port: wanted('port', 16),
    room: wanted('room', 80),
    outlet: wanted('outlet', 80),
    cableTypeId: typed('cable', cables),
    nearConnectorId: typed('near', connectors),
    farConnectorId: typed('far', connectors),
    lengthM: lengthM ?? 0,
    route: routeIn(said('route'), units, complain),
  };
}

/** `tray 12 m; riser 9 m` as stretches. */
function routeIn(
  text: string,
  units: UnitSystem,
  complain: (field: ListField, message: string) => void,
): RouteStretch[] {
  return text
    .split(';')
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .flatMap((part) => {
      // A name may end in a figure, and a length in inches: the longest name that leaves a length.
      for (const split of [/^(.*\S)\s+(\d.*)$/, /^(.*?\S)\s+(\d.*)$/]) {
        const [, name = '', length = ''] = split.exec(part) ?? [];
        const lengthM = listLengthM(length, units);
        if (name !== '' && lengthM !== null && lengthM > 0) return [{ name, lengthM }];
      }
      complain(
        'route',
        `${part} is no stretch: write its name and its length, such as tray 12 m; riser 9 m.`,
      );
      return [];
    });
}

/** What a cell can mean: a type by its id or its whole name, otherwise all whose name begins so. */
function typesCalled<T extends { id: string; name: string }>(text: string, types: readonly T[]): T[] {
  const plain = (words: string): string => words.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');
  const asked = plain(text);
  if (asked === '') return [];
  const exact = types.filter(({ id, name }) => plain(id) === asked || plain(name) === asked);
  return exact.length > 0 ? exact : types.filter(({ name }) => plain(name).startsWith(asked));
}
