import type { CableType } from '../../cabling/cable-types.js';
import type { ConnectorType } from '../../connectors/connector-types.js';
import type { UnitSystem } from '../../quantities/length.js';
import type { RouteStretch } from '../../cabling/route-stretch.js';
import type { ListColumns, ListField } from './columns.js';
import { hubsOf, portKey, portsOf, type LinkPlaces } from '../hubs.js';
import { listLengthM } from './list-length.js';

/** A link as a list gives it, with the row it stood in, counted from 1. */
export interface ListedLink {
  row: number;
  label: string;
  /** Where it begins; empty in the job's own hub. */
  hub: string;
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
export type ListDefaults = Partial<Record<Exclude<ListField, 'label' | 'route' | 'hub'>, string>>;

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
  /** The job's own hub. */
  hub: string;
  /** Links that the job has already, with their labels and ports. */
  taken: readonly (LinkPlaces & { label: string })[];
}

const MOST_M = 10_000;
const LABEL = /^[\p{L}\p{N}][\p{L}\p{N}._/ -]{0,23}$/u;

/** A row by itself: what it gives, and what of it cannot be read. */
interface RowRead {
  link: Omit<ListedLink, 'row'>;
  wrong: readonly Omit<ListProblem, 'row'>[];
}

/**
 * Reads lists of links, row by row: nothing is guessed that two things could be, and every row that cannot be read is
 * named with its cell. Empty rows are passed by. A row that was read before, the same array of cells, is not read
 * again: a list that is being typed is read at every key.
 */
export class ListReader {
  private readonly known = new WeakMap<readonly string[], RowRead>();
  private readonly said: SaidInLists;

  constructor(private readonly reading: ListReading) {
    const connectors = typesByName(reading.connectors);
    this.said = {
      type: { cable: typesByName(reading.cables), near: connectors, far: connectors },
      lengthM: remembered((text) => listLengthM(text, reading.units)),
      route: remembered((text) => routeIn(text, reading.units)),
    };
  }

  read(rows: readonly (readonly string[])[]): { links: ListedLink[]; problems: ListProblem[] } {
    const { taken, skip } = this.reading;
    const links: ListedLink[] = [];
    const problems: ListProblem[] = [];
    const labels = new Map(taken.map(({ label }) => [label, 'in this job already']));
    const placed = rows.slice(skip).map((cells) => this.placesOf(cells));
    const hubs = hubsOf(this.reading.hub, [...taken, ...placed]);
    const ports = new Map(
      taken.flatMap((one) =>
        portsOf(one, hubs).map((port) => [portKey(port), `that of ${one.label} in this job`]),
      ),
    );
    rows.slice(skip).forEach((cells, at) => {
      const row = skip + at + 1;
      if (cells.every((cell) => cell.trim() === '')) return;
      const { link, wrong } = this.rowOf(cells);
      const found = wrong.map((problem) => ({ row, ...problem }));
      if (link.label !== '' && labels.has(link.label))
        found.push({ row, field: 'label', message: `${link.label} stands ${labels.get(link.label)}.` });
      portsOf(placed[at] as LinkPlaces, hubs).forEach((port, end) => {
        const by = ports.get(portKey(port));
        if (port.port !== '' && by !== undefined)
          found.push({
            row,
            field: end === 0 ? 'port' : 'outlet',
            message: `Port ${port.port} of ${port.panel} is ${by}.`,
          });
        ports.set(portKey(port), `that of row ${row}`);
      });
      labels.set(link.label, `in row ${row} already`);
      problems.push(...found);
      if (found.length === 0) links.push({ row, ...link });
    });
    return { links, problems };
  }

  private placesOf(cells: readonly string[]): LinkPlaces {
    const { hub, panel, port, room, outlet } = this.rowOf(cells).link;
    return { near: { hub: hub || this.reading.hub, panel, port }, far: { room, outlet } };
  }

  private rowOf(cells: readonly string[]): RowRead {
    let read = this.known.get(cells);
    if (!read) {
      const wrong: Omit<ListProblem, 'row'>[] = [];
      const link = readRow(cells, this.reading, this.said, (field, message) =>
        wrong.push({ field, message }),
      );
      this.known.set(cells, (read = { link, wrong }));
    }
    return read;
  }
}

/** Reads one list of links (`ListReader`). */
export const readLinkList = (
  rows: readonly (readonly string[])[],
  reading: ListReading,
): { links: ListedLink[]; problems: ListProblem[] } => new ListReader(reading).read(rows);

function readRow(
  cells: readonly string[],
  { columns, defaults, hub: ownHub }: ListReading,
  { type, lengthM: lengthOf, route: routeOf }: SaidInLists,
  complain: (field: ListField, message: string) => void,
): Omit<ListedLink, 'row'> {
  const said = (field: ListField): string => {
    const column = columns[field];
    const cell = column === undefined ? '' : (cells[column] ?? '').trim();
    if (cell.startsWith('=')) {
      complain(field, 'A formula: save its value, not the formula.');
      return '';
    }
    return cell || (field === 'label' || field === 'route' || field === 'hub' ? '' : (defaults[field] ?? ''));
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
  const typed = (field: 'cable' | 'near' | 'far'): string => {
    const text = said(field);
    const found = type[field](text);
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
  const lengthM = lengthOf(lengthText);
  if (lengthM === null || !(lengthM > 0 && lengthM <= MOST_M))
    complain(
      'length',
      lengthText === ''
        ? 'Nothing says how long it is.'
        : `${lengthText} is no length, such as 31.4 m or 103 ft.`,
    );
  const route = routeOf(said('route'));
  for (const part of route.unread)
    complain('route', `${part} is no stretch: write its name and its length, such as tray 12 m; riser 9 m.`);
  const hub = said('hub');
  if (hub.length > 40) complain('hub', 'At most 40 characters.');
  return {
    label,
    hub: hub === ownHub ? '' : hub,
    panel: wanted('panel', 40),
    port: wanted('port', 16),
    room: wanted('room', 80),
    outlet: wanted('outlet', 80),
    cableTypeId: typed('cable'),
    nearConnectorId: typed('near'),
    farConnectorId: typed('far'),
    lengthM: lengthM ?? 0,
    route: [...route.stretches],
  };
}

/** `tray 12 m; riser 9 m` as stretches, and the parts that are none. */
function routeIn(text: string, units: UnitSystem): RouteRead {
  const read: RouteRead = { stretches: [], unread: [] };
  for (const part of text.split(';').map((each) => each.trim())) {
    if (part === '') continue;
    const stretch = stretchIn(part, units);
    if (stretch) read.stretches.push(stretch);
    else read.unread.push(part);
  }
  return read;
}

function stretchIn(part: string, units: UnitSystem): RouteStretch | null {
  // A name may end in a figure, and a length in inches: the longest name that leaves a length.
  for (const split of [/^(.*\S)\s+(\d.*)$/, /^(.*?\S)\s+(\d.*)$/]) {
    const [, name = '', length = ''] = split.exec(part) ?? [];
    const lengthM = listLengthM(length, units);
    if (name !== '' && lengthM !== null && lengthM > 0) return { name, lengthM };
  }
  return null;
}

interface RouteRead {
  stretches: RouteStretch[];
  unread: string[];
}

type Named = Pick<CableType | ConnectorType, 'id' | 'name'>;
/** What a cell can mean: a type by its id or its whole name, otherwise all whose name begins so. */
type TypesCalled = (text: string) => readonly Named[];

/** What the texts of a list mean. */
interface SaidInLists {
  type: Readonly<Record<'cable' | 'near' | 'far', TypesCalled>>;
  lengthM: (text: string) => number | null;
  route: (text: string) => RouteRead;
}

/** Types by what people write for them; the few texts that a list repeats are looked up once each. */
function typesByName(types: readonly Named[]): TypesCalled {
  const plain = (words: string): string => words.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');
  const all = types.map((type) => ({ type, id: plain(type.id), name: plain(type.name) }));
  const look = (asked: string): readonly Named[] => {
    if (asked === '') return [];
    const exact = all.filter(({ id, name }) => id === asked || name === asked);
    const found = exact.length > 0 ? exact : all.filter(({ name }) => name.startsWith(asked));
    return found.map(({ type }) => type);
  };
  return remembered((text) => look(plain(text)));
}

/** What a text comes to, worked out once for each: lists say the same again and again. */
function remembered<T>(of: (text: string) => T): (text: string) => T {
  const known = new Map<string, { is: T }>();
  return (text) => {
    let found = known.get(text);
    if (!found) known.set(text, (found = { is: of(text) }));
    return found.is;
  };
}
