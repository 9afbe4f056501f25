import { CdkDrag, CdkDropList, CdkDropListGroup, type CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { conductorPaint, insulationName } from '@near-spoke/core';
import type { LayingDrill } from '@near-spoke/core/drills';
import { Keys } from '../keys/keys';

/** The pile stands for no place. */
const PILE = -1;

/**
 * Pieces to be laid into places: dragged, or by tap or key, each into the first place that is free. What lies in a place goes back to
 * the pile by a tap, and changes places with what is dragged upon it.
 */
@Component({
  selector: 'ns-drill-laying',
  imports: [CdkDrag, CdkDropList, CdkDropListGroup, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div cdkDropListGroup class="all">
      <ol class="places" aria-label="Places, left to right">
        @for (piece of laid(); track $index; let place = $index) {
          <li
            cdkDropList
            [cdkDropListData]="place"
            (cdkDropListDropped)="drop($event)"
            [class.next]="place === next() && !done()"
            [class.is-right]="done() && piece === drill().right[place]"
            [class.is-wrong]="done() && piece !== drill().right[place]"
          >
            @if (piece !== null) {
              <button
                type="button"
                cdkDrag
                [cdkDragData]="piece"
                [cdkDragDisabled]="done()"
                [disabled]="done()"
                [attr.aria-label]="nameOf(piece) + ', ' + drill().places[place] + '; take it out'"
                (click)="takeOut(place)"
              >
                <span class="wire" [style.background]="paint(piece)"></span>
                <span class="figure" [class.struck]="done() && piece !== drill().right[place]">{{
                  wordsOf(piece)
                }}</span>
              </button>
            } @else {
              <span class="visually-hidden">{{ drill().places[place] }}: nothing yet</span>
            }
            @if (done() && piece !== drill().right[place]) {
              <strong class="figure small">
                <span class="visually-hidden">here belongs</span> {{ wordsOf(drill().right[place] ?? 0) }}
              </strong>
            }
          </li>
        }
      </ol>
      @if (!done()) {
        <ul
          class="pile"
          aria-label="Wires to lay"
          cdkDropList
          cdkDropListOrientation="mixed"
          cdkDropListSortingDisabled
          [cdkDropListData]="pile"
          (cdkDropListDropped)="drop($event)"
        >
          @for (piece of drill().pieces; track $index; let n = $index) {
            <li>
              @if (!laid().includes(n)) {
                <button
                  type="button"
                  cdkDrag
                  [cdkDragData]="n"
                  [attr.aria-label]="nameOf(n)"
                  (click)="put(n)"
                >
                  <kbd>{{ n + 1 }}</kbd>
                  <span class="lying" [style.background]="paint(n)"></span>
                  <span class="figure">{{ wordsOf(n) }}</span>
                </button>
              }
            </li>
          }
        </ul>
        <div class="row">
          <button matButton="filled" class="main-action" [disabled]="next() !== null" (click)="say()">
            So they lie <kbd>Page Down</kbd>
          </button>
          <button matButton="outlined" [disabled]="last() === null" (click)="takeLast()">
            The last one out <kbd>Backspace</kbd>
          </button>
        </div>
      }
    </div>
  `,
  styleUrl: './drill-laying.scss',
})
export class DrillLaying {
  readonly drill = input.required<LayingDrill>();
  /** It is answered: what was laid stays, beside what is right. */
  readonly done = input(false);
  readonly answered = output<number[]>();

  protected readonly pile = PILE;
  /** The piece in each place. */
  protected readonly laid = linkedSignal((): readonly (number | null)[] =>
    this.drill().places.map(() => null),
  );
  /** The first place that is free; null where none is. */
  protected readonly next = computed(() => {
    const free = this.laid().indexOf(null);
    return free < 0 ? null : free;
  });
  protected readonly last = computed(() => {
    const lying = this.laid().findLastIndex((piece) => piece !== null);
    return lying < 0 ? null : lying;
  });

  constructor() {
    const laying = (): boolean => !this.done();
    const pieces = Array.from({ length: 9 }, (_, n) => ({
      key: String(n + 1),
      words: n === 0 ? 'the first of the pile; 2 to 8 the others' : '',
      run: () => this.put(n),
      when: () => laying() && n < this.drill().pieces.length && !this.laid().includes(n),
    }));
    inject(Keys).use(
      [
        ...pieces,
        {
          key: 'Backspace',
          words: 'take the last one out again',
          run: () => this.takeLast(),
          when: () => laying() && this.last() !== null,
        },
        {
          key: 'PageDown',
          words: 'so they lie',
          run: () => this.say(),
          when: () => laying() && this.next() === null,
        },
      ],
      inject(DestroyRef),
    );
  }

  protected put(piece: number): void {
    const place = this.next();
    if (place !== null) this.lay(place, piece);
  }

  protected takeOut(place: number): void {
    this.lay(place, null);
  }

  protected takeLast(): void {
    const place = this.last();
    if (place !== null) this.takeOut(place);
  }

  /** What lay where it is dropped goes where it came from. */
  protected drop({ previousContainer, container, item }: CdkDragDrop<number>): void {
    const [from, to, piece] = [previousContainer.data, container.data, item.data as number];
    if (from === to) return;
    if (to === PILE) this.takeOut(from);
    else {
      const lay = this.laid()[to] ?? null;
      this.lay(to, piece);
      if (from !== PILE) this.lay(from, lay);
    }
  }

  protected say(): void {
    const laid = this.laid().flatMap((piece) => (piece === null ? [] : [piece]));
    if (laid.length === this.drill().places.length) this.answered.emit(laid);
  }

  private lay(place: number, piece: number | null): void {
    this.laid.update((all) => all.map((each, n) => (n === place ? piece : each)));
  }

  protected wordsOf(piece: number): string {
    return this.drill().pieces[piece]?.words ?? '';
  }

  protected nameOf(piece: number): string {
    const conductor = this.drill().pieces[piece]?.conductor ?? null;
    return conductor === null ? this.wordsOf(piece) : insulationName(conductor);
  }

  /** Its insulation: banded across where it has two colours. */
  protected paint(piece: number): string {
    const conductor = this.drill().pieces[piece]?.conductor ?? null;
    if (conductor === null) return 'var(--film)';
    const { base, band } = conductorPaint(conductor);
    return band === null ? base : `repeating-linear-gradient(to bottom, ${band} 0 8px, ${base} 8px 18px)`;
  }
}
