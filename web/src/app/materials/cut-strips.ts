import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { formatCableLength, type CutSource, type UnitSystem } from '@near-spoke/core';

/** Drums and boxes as strips to one scale, each with the pieces that are cut from it and what is left over. */
@Component({
  selector: 'ns-cut-strips',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (strip of strips(); track $index) {
        <li>
          <p class="small">
            <strong>{{ strip.name }}</strong> <span class="quiet figure">{{ strip.words }}</span>
          </p>
          <ol class="strip" [style.width.%]="strip.wide" [attr.aria-label]="strip.name + ', from its end'">
            @for (piece of strip.pieces; track piece.label) {
              <li
                [style.flex-grow]="piece.lengthM"
                class="piece"
                [class.lit]="piece.pull === lit()"
                [title]="piece.label + ', ' + piece.words"
              >
                <span class="figure">{{ piece.label }}</span>
                <span class="figure long">{{ piece.words }}</span>
              </li>
            }
            @if (strip.leftM > 0) {
              <li
                [style.flex-grow]="strip.leftM"
                class="rest"
                [attr.aria-label]="'left over: ' + strip.left"
                [title]="'left over: ' + strip.left"
              >
                @if (strip.leftM > 0.05 * longest()) {
                  <span class="figure">{{ strip.left }}</span>
                }
              </li>
            }
          </ol>
        </li>
      }
    </ul>
  `,
  styleUrl: './cut-strips.scss',
})
export class CutStrips {
  readonly sources = input.required<readonly CutSource[]>();
  readonly units = input.required<UnitSystem>();
  /** The pull whose pieces stand out. */
  readonly lit = input<string | null>(null);

  protected readonly longest = computed(() => Math.max(1, ...this.sources().map(({ lengthM }) => lengthM)));
  protected readonly strips = computed(() => {
    const long = (m: number): string => formatCableLength(m, this.units());
    return this.sources().map(({ name, lengthM, heldId, pieces, leftM }) => ({
      name,
      words: heldId === null ? `${long(lengthM)} surely in it, to buy` : `${long(lengthM)} surely left`,
      wide: (100 * lengthM) / this.longest(),
      pieces: pieces.map((piece) => ({ ...piece, words: long(piece.lengthM) })),
      leftM,
      left: long(leftM),
    }));
  });
}
