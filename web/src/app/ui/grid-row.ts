import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { GridColumn } from './cell-grid';

/** About what a letter of a cell is wide, in pixels: a text that surely fits needs no edge cut for it. */
const LETTER_PX = 8;

/**
 * One row of a grid. Whatever is typed elsewhere, a row that nothing happened to is not looked at: what it is given are
 * figures and texts, the same as long as it looks the same.
 */
@Component({
  // eslint-disable-next-line @angular-eslint/component-selector -- a row has to be the grid's own element
  selector: 'div[nsGridRow]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="number figure" role="rowheader">{{ called() }}</span>
    @for (column of columns(); track column.name; let c = $index) {
      <span
        role="gridcell"
        [id]="gridId() + '-' + n() + '-' + c"
        [class]="looks()[c]"
        [attr.aria-selected]="c >= left() && c <= right()"
        [attr.aria-invalid]="!!wrongs()[c]"
        [attr.title]="wrongs()[c] || null"
      >
        @if (c === at() && editing() !== null) {
          <input
            #field
            [attr.aria-label]="column.name"
            [value]="editing()"
            [attr.list]="column.options ? gridId() + '-list-' + c : null"
            autocomplete="off"
            (keydown)="pressed.emit({ event: $event, text: field.value })"
            (blur)="finished.emit(field.value)"
          />
        } @else {
          {{ row()[c] ?? '' }}
        }
      </span>
    }
  `,
  styleUrl: './grid-row.scss',
  host: {
    '(pointerdown)': 'tell($event, touched)',
    '(dblclick)': 'tell($event, opened)',
  },
})
export class GridRow {
  readonly gridId = input.required<string>();
  readonly n = input.required<number>();
  readonly row = input.required<readonly string[]>();
  readonly columns = input.required<readonly GridColumn[]>();
  readonly called = input.required<string | number>();
  /** The column in hand, where it is in this row; -1 where not. */
  readonly at = input(-1);
  /** Columns chosen, both with them; none where the second is before the first. */
  readonly left = input(0);
  readonly right = input(-1);
  /** A bit for each column that is changed. */
  readonly changed = input(0);
  /** What is wrong with each column; empty where nothing is with any. */
  readonly wrongs = input<readonly (string | null)[]>([]);
  readonly editing = input<string | null>(null);
  readonly touched = output<{ event: PointerEvent; column: number }>();
  readonly opened = output<{ event: MouseEvent; column: number }>();
  readonly pressed = output<{ event: KeyboardEvent; text: string }>();
  readonly finished = output<string>();

  /** One text of classes a cell. */
  protected readonly looks = computed(() => {
    const [row, at, left, right, changed, wrongs] = [
      this.row(),
      this.at(),
      this.left(),
      this.right(),
      this.changed(),
      this.wrongs(),
    ];
    return this.columns().map(({ figure, least }, c) => {
      let look = figure ? 'cell figure' : 'cell';
      if ((row[c] ?? '').length * LETTER_PX > least - 2 * LETTER_PX) look += ' long';
      if (c === at) look += ' at';
      if (c >= left && c <= right) look += ' chosen';
      if (changed & (1 << c)) look += ' changed';
      if (wrongs[c]) look += ' wrong';
      return look;
    });
  });

  protected tell<E extends Event>(
    event: E,
    out: { emit: (told: { event: E; column: number }) => void },
  ): void {
    const row = event.currentTarget as HTMLElement;
    const cells = [...row.querySelectorAll(':scope > .cell')];
    const column = cells.findIndex((cell) => cell.contains(event.target as Node));
    if (column >= 0) out.emit({ event, column });
  }
}
