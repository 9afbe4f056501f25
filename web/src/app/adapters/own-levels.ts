import { ChangeDetectionStrategy, Component, input, output, linkedSignal, computed } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { typedNumber, type LevelFigures } from '@near-spoke/core';

const FIELDS = [
  ['outLowV', 'Output, low'],
  ['outHighV', 'Output, high'],
  ['inLowV', 'Input, low up to'],
  ['inHighV', 'Input, high from'],
  ['leastV', 'Bears at least'],
  ['mostV', 'Bears at most'],
  ['supplyV', 'Its supply'],
] as const;
type Field = (typeof FIELDS)[number][0];
const USUAL: Record<Field, string> = {
  outLowV: '0.4',
  outHighV: '2.4',
  inLowV: '0.8',
  inHighV: '2.0',
  leastV: '-0.3',
  mostV: '3.6',
  supplyV: '3.3',
};

/** Levels and thresholds that a device's own sheet gives, where it belongs to no family. */
@Component({
  selector: 'ns-own-levels',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset>
      <legend>Levels of its own sheet, V</legend>
      @for (field of fields; track field[0]) {
        <label
          >{{ field[1] }}
          <input
            inputmode="decimal"
            [value]="typed()[field[0]]"
            (input)="type(field[0], $any($event.target).value)"
        /></label>
      }
      <label class="tick"
        ><input type="checkbox" [checked]="inverted()" (change)="inverted.set($any($event.target).checked)" />
        idle at the lower voltage, as RS-232 is</label
      >
      <p class="wrong" role="alert">{{ wrong() }}</p>
      <button matButton="outlined" type="button" [disabled]="wrong() !== ''" (click)="take()">
        Take these figures
      </button>
    </fieldset>
  `,
  styles: `
    fieldset {
      border: 0;
      padding: 0;
      margin: 0;
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(120px, 1fr));
      gap: 8px 12px;
      align-items: end;
    }
    legend {
      font-size: 14px;
      padding: 0 0 4px;
    }
    label {
      display: grid;
      gap: 2px;
      font-size: 13px;
    }
    .tick {
      grid-column: span 2;
      display: flex;
      gap: 8px;
      align-items: center;
      min-height: 36px;
    }
    input:not([type='checkbox']) {
      font: 400 15px var(--figures);
      min-height: 36px;
    }
    p {
      grid-column: 1 / -1;
    }
    button {
      grid-column: span 2;
      justify-self: start;
    }
  `,
})
export class OwnLevels {
  readonly figures = input<LevelFigures | null>(null);
  readonly taken = output<LevelFigures>();
  protected readonly fields = FIELDS;
  protected readonly typed = linkedSignal((): Record<Field, string> => {
    const figures = this.figures();
    if (!figures) return USUAL;
    const text = Object.fromEntries(FIELDS.map(([field]) => [field, String(figures[field])]));
    return { ...USUAL, ...text };
  });
  protected readonly inverted = linkedSignal(() => this.figures()?.inverted ?? false);
  private readonly volts = computed(() => {
    const of = (field: Field): number => typedNumber(this.typed()[field]);
    return {
      outLowV: of('outLowV'),
      outHighV: of('outHighV'),
      inLowV: of('inLowV'),
      inHighV: of('inHighV'),
      leastV: of('leastV'),
      mostV: of('mostV'),
      supplyV: of('supplyV'),
      inverted: this.inverted(),
    };
  });
  protected readonly wrong = computed(() => {
    const { outLowV, outHighV, inLowV, inHighV, leastV, mostV, supplyV } = this.volts();
    if (![outLowV, outHighV, inLowV, inHighV, leastV, mostV, supplyV].every(Number.isFinite))
      return 'Every figure is a number of volts.';
    if (outLowV >= outHighV) return 'An output’s high is over its low.';
    if (inLowV >= inHighV) return 'An input’s high threshold is over its low one.';
    return leastV >= mostV ? 'What it bears at most is over what it bears at least.' : '';
  });

  protected type(field: Field, text: string): void {
    this.typed.update((typed) => ({ ...typed, [field]: text }));
  }

  protected take(): void {
    if (this.wrong() === '') this.taken.emit(this.volts());
  }
}
