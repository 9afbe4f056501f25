import { CdkVirtualScrollableElement, ScrollingModule } from '@angular/cdk/scrolling';
import {
  afterNextRender,
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { GridRow } from './grid-row';

export interface GridColumn {
  name: string;
  /** In pixels, at least. */
  least: number;
  /** Its share of the room that is left over; none where it is left out. */
  grows?: number;
  figure?: boolean;
  /** What a cell can be, to choose from while typing. */
  options?: readonly string[];
}

/** Cells that are chosen together, both ends with them. */
export interface GridBlock {
  top: number;
  left: number;
  bottom: number;
  right: number;
}

const ROW_PX = 36;
/** Of the column of row numbers. */
const NUMBERS_PX = 44;
const MOST_PX = 10_000;
let grids = 0;
const remembered = <T>(of: (row: number) => T): ((row: number) => T) => {
  const known = new Map<number, T>();
  return (row) => {
    if (!known.has(row)) known.set(row, of(row));
    return known.get(row) as T;
  };
};
/** The row that is not there yet. */
const NEXT: readonly string[] = [];
/** Of a row in which nothing is wrong. */
const RIGHT: readonly null[] = [];

/**
 * Cells to type in, many at a time: arrows move, Shift chooses more, typing or Enter edits, a copied block is pasted
 * where one stands. It holds no cells itself: what is typed goes out, and comes back with the rows.
 */
@Component({
  selector: 'ns-cell-grid',
  imports: [ScrollingModule, GridRow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cell-grid.html',
  styleUrl: './cell-grid.scss',
})
export class CellGrid {
  private readonly application = inject(ApplicationRef);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly name = input.required<string>();
  readonly columns = input.required<readonly GridColumn[]>();
  readonly rows = input.required<readonly (readonly string[])[]>();
  /** What each row is called by; its place from 1 where nobody says. */
  readonly numbers = input<readonly number[]>();
  readonly isChanged = input<(row: number, column: number) => boolean>(() => false);
  readonly wrong = input<(row: number, column: number) => string | null>(() => null);
  readonly locked = input(false);
  /** Texts from a cell on. */
  readonly wrote = output<{ row: number; column: number; block: string[][] }>();
  readonly undo = output();
  readonly redo = output();
  readonly carryDown = output<GridBlock>();

  protected readonly rowPx = ROW_PX;
  protected readonly id = `grid-${++grids}`;
  private readonly scrolling = viewChild.required(CdkVirtualScrollableElement);
  private readonly scroller = computed(() => this.scrolling().getElementRef().nativeElement);
  /** Widths in pixels, the room that is left over shared out: rows of fixed columns are laid out the fastest. */
  protected readonly template = computed(() => {
    const columns = this.columns();
    const shares = columns.reduce((sum, { grows = 0 }) => sum + grows, 0);
    const over = Math.max(0, Math.min(this.widthPx(), MOST_PX) - this.leastPx());
    const width = ({ least, grows = 0 }: GridColumn): number => Math.floor(least + (over * grows) / shares);
    return [NUMBERS_PX, ...columns.map(width)].map((px) => `${px}px`).join(' ');
  });
  protected readonly leastPx = computed(() =>
    this.columns().reduce((sum, { least }) => sum + least, NUMBERS_PX),
  );
  private readonly widthPx = signal(MOST_PX);
  protected readonly narrow = computed(() => this.widthPx() < this.leastPx());
  /** The cell in hand, and the other corner of what is chosen. */
  readonly at = signal({ row: 0, column: 0 });
  private readonly corner = signal<{ row: number; column: number } | null>(null);
  readonly chosen = computed((): GridBlock => {
    const [a, b] = [this.at(), this.corner() ?? this.at()];
    return {
      top: Math.min(a.row, b.row),
      bottom: Math.max(a.row, b.row),
      left: Math.min(a.column, b.column),
      right: Math.max(a.column, b.column),
    };
  });
  protected readonly editing = signal<string | null>(null);
  /** One more than there are, for the next. */
  protected readonly shown = computed(() => (this.locked() ? this.rows() : [...this.rows(), NEXT]));
  /** Row -> what was last said to be wrong in it. */
  private readonly wrongs = new Map<number, readonly (string | null)[]>();

  /** Rows keep their place in the page whatever comes into them: a field that is typed in would be lost with its row. */
  protected readonly byPlace = (row: number): number => row;

  constructor() {
    const width = new ResizeObserver(([grid]) => {
      if (grid) this.widthPx.set(grid.contentRect.width);
    });
    afterNextRender(() => width.observe(this.scroller()));
    inject(DestroyRef).onDestroy(() => width.disconnect());
  }

  protected isAt(row: number, column: number): boolean {
    return this.at().row === row && this.at().column === column;
  }

  /** Row -> a bit for each column that is changed; worked out once for each that is shown. */
  protected readonly changedIn = computed(() => {
    const [isChanged, columns] = [this.isChanged(), this.columns()];
    return remembered((row) =>
      columns.reduce((bits, _, c) => (isChanged(row, c) ? bits | (1 << c) : bits), 0),
    );
  });

  /** Row -> what is wrong in it, the same list as long as it says the same. */
  protected readonly wrongIn = computed(() => {
    const [wrong, columns] = [this.wrong(), this.columns()];
    return remembered((row): readonly (string | null)[] => {
      const said = columns.map((_, c) => wrong(row, c));
      if (said.every((words) => words === null)) return RIGHT;
      const before = this.wrongs.get(row);
      if (before?.length === said.length && said.every((words, c) => words === before[c])) return before;
      this.wrongs.set(row, said);
      return said;
    });
  });

  protected text(row: number, column: number): string {
    return this.rows()[row]?.[column] ?? '';
  }

  /** Puts the keyboard into the grid, on a cell. */
  go(row: number, column: number, extend = false): void {
    const { row: from, column: fromColumn } = this.at();
    if (extend) this.corner.update((corner) => corner ?? this.at());
    else this.corner.set(null);
    this.at.set({
      row: Math.max(0, Math.min(this.shown().length - 1, row)),
      column: Math.max(0, Math.min(this.columns().length - 1, column)),
    });
    if (this.at().row !== from || this.at().column !== fromColumn) this.intoView();
  }

  focus(): void {
    this.scroller().focus({ preventScroll: true });
  }

  /** Scrolls as little as shows the cell in hand below the heads and beside what its row is called. */
  private intoView(): void {
    const scroller = this.scroller();
    const { column } = this.at();
    const heads = [...this.element.querySelectorAll<HTMLElement>('.head')];
    const [called, own] = [heads[0], heads[column]];
    if (called && own && column > 0) {
      const left = own.offsetLeft - called.offsetWidth - NUMBERS_PX;
      const right = own.offsetLeft + own.offsetWidth - scroller.clientWidth;
      if (scroller.scrollLeft > left) scroller.scrollLeft = left;
      else if (scroller.scrollLeft < right) scroller.scrollLeft = right;
    }
    const top = this.at().row * ROW_PX;
    const most = top + 2 * ROW_PX - scroller.clientHeight;
    if (scroller.scrollTop > top) scroller.scrollTop = top;
    else if (scroller.scrollTop < most) scroller.scrollTop = most;
  }

  /** Rows that fit below the heads. */
  private fit(): number {
    return Math.max(1, Math.floor(this.scroller().clientHeight / ROW_PX) - 1);
  }

  protected press(event: KeyboardEvent): void {
    if (this.editing() !== null) return;
    const { row, column } = this.at();
    const ahead = event.ctrlKey || event.metaKey;
    const far = ahead ? Infinity : 1;
    const move = (down: number, right: number): void => this.go(row + down, column + right, event.shiftKey);
    const keys: Record<string, () => void> = {
      ArrowDown: () => (event.altKey ? this.carryDown.emit(this.chosen()) : move(far, 0)),
      ArrowUp: () => move(-far, 0),
      ArrowRight: () => move(0, far),
      ArrowLeft: () => move(0, -far),
      PageDown: () => move(this.fit(), 0),
      PageUp: () => move(-this.fit(), 0),
      Home: () => this.go(ahead ? 0 : row, 0, event.shiftKey),
      End: () => this.go(ahead ? Infinity : row, Infinity, event.shiftKey),
      Enter: () => this.edit(this.text(row, column)),
      F2: () => this.edit(this.text(row, column)),
      Delete: () => this.empty(),
      Backspace: () => this.empty(),
    };
    const typed = !ahead && !event.altKey && event.key.length === 1;
    if (ahead && event.key.toLowerCase() === 'z') (event.shiftKey ? this.redo : this.undo).emit();
    else if (ahead && event.key.toLowerCase() === 'a') this.chooseAll();
    else if (keys[event.key] && !(ahead && event.key === 'Enter')) keys[event.key]?.();
    else if (typed) this.edit(event.key);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private chooseAll(): void {
    this.at.set({ row: this.rows().length - 1, column: this.columns().length - 1 });
    this.corner.set({ row: 0, column: 0 });
  }

  private empty(): void {
    const { top, left, bottom, right } = this.chosen();
    if (this.locked()) return;
    const block = Array.from({ length: bottom - top + 1 }, () =>
      Array.from({ length: right - left + 1 }, () => ''),
    );
    this.wrote.emit({ row: top, column: left, block });
  }

  protected edit(text: string): void {
    if (this.locked()) return;
    this.corner.set(null);
    this.editing.set(text);
    // At once: the next key, however soon, is for the field.
    this.application.tick();
    const field = this.element.querySelector<HTMLInputElement>('.cell input');
    field?.focus();
    field?.setSelectionRange(field.value.length, field.value.length);
  }

  /** Ends an edit: kept or not, and on to the next cell. */
  protected end(text: string | null, down = 0, right = 0): void {
    if (this.editing() === null) return;
    const { row, column } = this.at();
    this.editing.set(null);
    if (text !== null && text !== this.text(row, column)) this.wrote.emit({ row, column, block: [[text]] });
    if (down !== 0 || right !== 0) this.go(row + down, column + right);
    this.focus();
  }

  protected pressInCell(event: KeyboardEvent, text: string): void {
    const { key, shiftKey } = event;
    if (key === 'Escape') this.end(null);
    else if (key === 'Enter') this.end(text, shiftKey ? -1 : 1);
    else if (key === 'Tab') this.end(text, 0, shiftKey ? -1 : 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected touch(event: PointerEvent, row: number, column: number): void {
    if (this.editing() !== null) return;
    // A finger that touches the cell in hand again means to write in it.
    if (this.isAt(row, column) && event.pointerType === 'touch') this.edit(this.text(row, column));
    else this.go(row, column, event.shiftKey);
  }

  protected copy(event: ClipboardEvent): void {
    if (this.editing() !== null) return;
    const { top, left, bottom, right } = this.chosen();
    const lines = this.rows()
      .slice(top, bottom + 1)
      .map((row) => row.slice(left, right + 1).join('\t'));
    event.clipboardData?.setData('text/plain', lines.join('\n'));
    event.preventDefault();
  }

  /** A block goes where one stands; a single text into all that is chosen. */
  protected paste(event: ClipboardEvent): void {
    if (this.editing() !== null || this.locked()) return;
    event.preventDefault();
    const block = (event.clipboardData?.getData('text/plain') ?? '')
      .replace(/\r\n?/g, '\n')
      .replace(/\n$/, '')
      .split('\n')
      .map((line) => line.split('\t'));
    const { top, left, bottom, right } = this.chosen();
    const [only] = block[0] ?? [];
    const alone = block.length === 1 && block[0]?.length === 1 && only !== undefined;
    const all = alone
      ? Array.from({ length: bottom - top + 1 }, () => Array.from({ length: right - left + 1 }, () => only))
      : block;
    this.wrote.emit({ row: top, column: left, block: all });
  }
}
