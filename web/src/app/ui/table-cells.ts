/** A cell as a spreadsheet has it. */
export type SheetCell = string | number;

/** The cells of a table on the page, its head first. */
export interface TableCells {
  head: string[];
  rows: SheetCell[][];
}

/** A figure as it is written, but for labels such as 007. */
const FIGURE = /^[-−]?(0|[1-9]\d*)(\.\d+)?$/;
const WITH_UNIT = /^([-−]?(?:0|[1-9]\d*)(?:\.\d+)?) ?(m|ft|mm|in|ohm|V|mA|A|W|dB|ns|%|kB)$/;
const figureOf = (text: string): number => Number(text.replace('−', '-'));

/** What a person reads in a cell: fields by what is in them, signs by their names, nothing that is only to be pressed. */
function wordsIn(cell: Element): string {
  const copy = cell.cloneNode(true) as Element;
  // A copied field has lost what was typed.
  const fields = [...cell.querySelectorAll<HTMLInputElement | HTMLSelectElement>('input, select, textarea')];
  copy.querySelectorAll('input, select, textarea').forEach((field, n) => {
    const own = fields[n];
    const words =
      own instanceof HTMLSelectElement ? (own.selectedOptions[0]?.text ?? '') : (own?.value ?? '');
    field.replaceWith(own?.type === 'checkbox' ? ((own as HTMLInputElement).checked ? 'yes' : 'no') : words);
  });
  copy.querySelectorAll('[aria-hidden="true"], mat-icon').forEach((sign) => sign.remove());
  if (cell.closest('tbody')) copy.querySelectorAll('button').forEach((button) => button.remove());
  return (copy.textContent ?? '').replace(/\s+/g, ' ').trim();
}

/**
 * The cells of a table as they stand on the page. A column of figures with one unit has its unit in its head and figures in its
 * cells, so that a spreadsheet can reckon with them.
 */
export function tableCells(table: HTMLTableElement): TableCells {
  const head = [...(table.tHead?.rows[0]?.cells ?? [])].map(wordsIn);
  const rows = [...table.tBodies].flatMap((body) => [...body.rows].map((row) => [...row.cells].map(wordsIn)));
  const wide = Math.max(head.length, ...rows.map((row) => row.length));
  const columns = Array.from({ length: wide }, (_, at) => {
    const words = rows.map((row) => row[at] ?? '');
    const filled = words.filter((text) => text !== '');
    const units = new Set(filled.map((text) => WITH_UNIT.exec(text)?.[2] ?? ''));
    const [unit = ''] = units;
    const name = head[at] ?? '';
    if (filled.length > 0 && units.size === 1 && unit !== '')
      return {
        name: `${name} (${unit})`,
        cells: words.map((text) => (text === '' ? '' : figureOf(WITH_UNIT.exec(text)?.[1] ?? ''))),
      };
    return { name, cells: words.map((text) => (FIGURE.test(text) ? figureOf(text) : text)) };
  });
  const shown = columns.filter(({ name, cells }) => name !== '' || cells.some((cell) => cell !== ''));
  return {
    head: shown.map(({ name }) => name),
    rows: rows.map((_, n) => shown.map(({ cells }) => cells[n] ?? '')),
  };
}
