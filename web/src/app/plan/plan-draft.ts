import type { Kit, Link, LinkChange, NewLink } from '@near-spoke/contracts';
import {
  cableLengthFromM,
  endsALink,
  LIST_FIELDS,
  ListReader,
  runsALink,
  type ListColumns,
  type ListedLink,
  type ListField,
  type ListProblem,
  type UnitSystem,
} from '@near-spoke/core';
import { labelSeries } from '../jobs/label-series';

/** A row of a plan as it is typed: of a link by its id, or of one that is to be. */
export interface DraftRow {
  id: string;
  isNew: boolean;
  cells: readonly string[];
}

/** A block of cells, both ends with it. */
export interface Block {
  top: number;
  left: number;
  bottom: number;
  right: number;
}

/** Every field has the column of its place. */
const COLUMNS: ListColumns = Object.fromEntries(LIST_FIELDS.map((field, at) => [field, at]));
export const columnOf = (field: ListField): number => LIST_FIELDS.indexOf(field);
/** Fields that count up where they are carried down: what two links do not share. */
const COUNTED: readonly ListField[] = ['label', 'port', 'outlet'];

/** The rows of a job's plan, as people read them. */
export function rowsOf(links: readonly Link[], kit: Kit, units: UnitSystem): DraftRow[] {
  const names = new Map([...kit.cables, ...kit.connectors].map(({ id, name }) => [id, name]));
  const named = (id: string): string => names.get(id) ?? id;
  const length = (lengthM: number): string => String(Number(cableLengthFromM(lengthM, units).toFixed(2)));
  return links.map(({ id, label, near, far, cableTypeId, lengthM, route }) => ({
    id,
    isNew: false,
    cells: [
      label,
      near.panel,
      near.port,
      far.room,
      far.outlet,
      named(cableTypeId),
      named(near.connectorId),
      named(far.connectorId),
      length(lengthM),
      route.map((stretch) => `${stretch.name} ${length(stretch.lengthM)}`).join('; '),
      near.otherHub ? near.hub : '',
    ],
  }));
}

/**
 * Rows with a block of texts written from a cell on; rows that are not there yet become new links, what would lie
 * beyond the last column is left out.
 */
export function written(
  rows: readonly DraftRow[],
  at: { row: number; column: number },
  block: readonly (readonly string[])[],
  newId: () => string = () => crypto.randomUUID(),
): DraftRow[] {
  const after = [...rows];
  block.forEach((texts, down) => {
    const row = at.row + down;
    while (after.length <= row) after.push({ id: newId(), isNew: true, cells: LIST_FIELDS.map(() => '') });
    const before = after[row] as DraftRow;
    const cells = before.cells.map((cell, column) => texts[column - at.column]?.trim() ?? cell);
    after[row] = { ...before, cells };
  });
  return after;
}

/** Rows with the first of a block carried down into the others: labels, ports and outlets count up, the rest is the same. */
export function carriedDown(rows: readonly DraftRow[], { top, left, bottom, right }: Block): DraftRow[] {
  const first = rows[top];
  if (!first) return [...rows];
  const count = Math.min(bottom, rows.length - 1) - top + 1;
  const columns = LIST_FIELDS.slice(left, right + 1).map((field, at) => {
    const text = first.cells[left + at] ?? '';
    const counts = COUNTED.includes(field) && text !== '';
    return counts ? labelSeries(text, count) : Array.from({ length: count }, () => text);
  });
  const block = Array.from({ length: count }, (_, row) => columns.map((texts) => texts[row] ?? ''));
  return written(rows, { row: top, column: left }, block);
}

/** Rows that do not hold all of these words, anywhere in them and in any case; none where no word is given. */
export function withoutWords(rows: readonly DraftRow[], wanted: string): DraftRow[] {
  const words = wanted.toLowerCase().split(/\s+/).filter((word) => word !== ''); // prettier-ignore
  if (words.length === 0) return [];
  return rows.filter(({ cells }) => {
    const all = textOf(cells);
    return !words.every((word) => all.includes(word));
  });
}

const texts = new WeakMap<readonly string[], string>();
/** All that a row holds, in lower case; made once for as long as the row stays what it is. */
function textOf(cells: readonly string[]): string {
  let text = texts.get(cells);
  if (text === undefined) texts.set(cells, (text = cells.join('\n').toLowerCase()));
  return text;
}

/** What a draft comes to: what is to be changed and added, and what stands in its way, row by row from 0. */
export interface DraftRead {
  changes: (LinkChange & { id: string })[];
  added: NewLink[];
  problems: (Omit<ListProblem, 'row'> & { row: number })[];
}

/** A plan as it is kept, ready for drafts to be read beside it. */
export interface BegunPlan {
  links: readonly Link[];
  rows: readonly DraftRow[];
  reader: ListReader;
}

export const beginPlan = (
  links: readonly Link[],
  kit: Kit,
  { units, hub }: { units: UnitSystem; hub: string },
): BegunPlan => ({
  links,
  rows: rowsOf(links, kit, units),
  reader: new ListReader({
    columns: COLUMNS,
    skip: 0,
    units,
    defaults: {},
    cables: kit.cables.filter(runsALink),
    connectors: kit.connectors.filter(endsALink),
    hub,
    taken: [],
  }),
});

/** Reads a draft beside the plan it began from: only cells that read otherwise than before are changes. */
export function readDraft(rows: readonly DraftRow[], plan: BegunPlan): DraftRead {
  const { links, problems } = plan.reader.read(rows.map(({ cells }) => cells));
  const before = new Map(plan.rows.map((row) => [row.id, row.cells]));
  const versions = new Map(plan.links.map(({ id, version }) => [id, version]));
  const read: DraftRead = {
    changes: [],
    added: [],
    // What was so before is no fault of what is typed now.
    problems: problems
      .map((problem) => ({ ...problem, row: problem.row - 1 }))
      .filter(({ row, field }) => {
        const own = rows[row] as DraftRow;
        const changed = own.cells.some((cell, at) => cell !== before.get(own.id)?.[at]);
        return (
          changed && (own.isNew || field === 'port' || field === 'outlet' || differs(own, before, field))
        );
      }),
  };
  rows.forEach((row, at) => {
    if (!row.isNew && row.cells.every((cell) => cell === ''))
      read.problems.push({
        row: at,
        field: 'label',
        message: 'Nothing is left of this link: take it out of the job instead.',
      });
  });
  read.problems.sort((a, b) => a.row - b.row || columnOf(a.field) - columnOf(b.field));
  const listed = new Map(links.map((link) => [link.row - 1, link]));
  rows.forEach((row, at) => {
    const link = listed.get(at);
    if (!link) return;
    const fields = sentOf(link);
    const version = versions.get(row.id);
    if (row.isNew || version === undefined) {
      read.added.push({
        id: row.id,
        ...(Object.assign({}, ...Object.values(fields)) as Omit<NewLink, 'id'>),
      });
      return;
    }
    const changed = LIST_FIELDS.filter((field) => differs(row, before, field)).map((field) => fields[field]);
    if (changed.length > 0)
      read.changes.push({ id: row.id, version, ...(Object.assign({}, ...changed) as object) });
  });
  return read;
}

const differs = (row: DraftRow, before: ReadonlyMap<string, readonly string[]>, field: ListField): boolean =>
  row.cells[columnOf(field)] !== before.get(row.id)?.[columnOf(field)];

/** What each column of a row says, as it is sent. */
const sentOf = (link: ListedLink): Record<ListField, Partial<NewLink>> => ({
  label: { label: link.label },
  panel: { panel: link.panel },
  port: { port: link.port },
  room: { room: link.room },
  outlet: { outlet: link.outlet },
  cable: { cableTypeId: link.cableTypeId },
  near: { nearConnectorId: link.nearConnectorId },
  far: { farConnectorId: link.farConnectorId },
  length: { lengthM: link.lengthM },
  route: { route: link.route },
  hub: { hub: link.hub },
});

/** Cells that were typed and not kept, by link and column: laid over the plan as it is by then. */
export type KeptCells = { id: string; isNew: boolean; cells: Record<number, string> }[];

export function cellsToKeep(rows: readonly DraftRow[], begun: readonly DraftRow[]): KeptCells {
  const before = new Map(begun.map((row) => [row.id, row.cells]));
  return rows.flatMap(({ id, isNew, cells }) => {
    const typed = Object.fromEntries(
      [...cells.entries()].filter(([at, cell]) => cell !== (before.get(id)?.[at] ?? '')),
    );
    return Object.keys(typed).length === 0 ? [] : [{ id, isNew, cells: typed }];
  });
}

export function laidOver(begun: readonly DraftRow[], kept: KeptCells): DraftRow[] {
  const own = new Map(kept.map((row) => [row.id, row]));
  const over = (row: DraftRow): DraftRow => ({
    ...row,
    cells: row.cells.map((cell, at) => own.get(row.id)?.cells[at] ?? cell),
  });
  const there = new Set(begun.map(({ id }) => id));
  const added = kept.filter(({ id, isNew }) => isNew && !there.has(id));
  const empty = LIST_FIELDS.map(() => '');
  return [...begun, ...added.map(({ id }) => ({ id, isNew: true, cells: empty }))].map(over);
}
