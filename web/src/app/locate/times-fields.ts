import { ChangeDetectionStrategy, Component, computed, effect, output, signal } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { typedNumber, typedQuantity, typedTimes, type CursorReading } from '@near-spoke/core';

/** What a person reads off a screen with two cursors; nothing is taken for granted that was not written. */
@Component({
  selector: 'ns-times-fields',
  imports: [MatFormFieldModule, MatInputModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="hand-fields">
      <mat-form-field subscriptSizing="dynamic" class="wide">
        <mat-label>Launch to echo, or both cursors</mat-label>
        <input
          matInput
          placeholder="41.8 ns, or 12.0 ns to 53.8 ns"
          [value]="time()"
          (input)="time.set($any($event.target).value)"
        />
      </mat-form-field>
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Points taken</mat-label>
        <mat-select [value]="points()" (selectionChange)="points.set($event.value)">
          <mat-option value="edge">edge to edge</mat-option>
          <mat-option value="peak">peak to peak, reads long</mat-option>
        </mat-select>
      </mat-form-field>
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Time per division</mat-label>
        <input
          matInput
          placeholder="10 ns"
          [value]="division()"
          (input)="division.set($any($event.target).value)"
        />
      </mat-form-field>
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Echo’s edge, about</mat-label>
        <input matInput placeholder="2 ns" [value]="edge()" (input)="edge.set($any($event.target).value)" />
      </mat-form-field>
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Echo’s height, %</mat-label>
        <input
          matInput
          placeholder="of the launch; −30 if it points down"
          [value]="height()"
          (input)="height.set($any($event.target).value)"
        />
      </mat-form-field>
    </div>
    @if (time() !== '' && typed().trouble) {
      <p class="wrong small" role="alert">{{ typed().trouble }}</p>
    }
  `,
  styleUrl: './hand-fields.scss',
})
export class TimesFields {
  /** What was read; null while a field is empty that is needed, or holds what is none. */
  readonly times = output<CursorReading | null>();
  protected readonly time = signal('');
  protected readonly points = signal<CursorReading['points']>('edge');
  protected readonly division = signal('');
  protected readonly edge = signal('');
  protected readonly height = signal('');
  protected readonly typed = computed((): { reading: CursorReading | null; trouble: string } => {
    const time = typedTimes(this.time(), 'Launch to echo');
    const optional = (text: string, what: string) =>
      text.trim() === '' ? { figure: null, trouble: '' } : typedQuantity(text, 'time', what);
    const [division, edge] = [
      optional(this.division(), 'Time per division'),
      optional(this.edge(), 'Echo’s edge'),
    ];
    const height = heightOf(this.height());
    const trouble = [time, division, edge, height]
      .map((figure) => figure.trouble)
      .filter(Boolean)
      .join(' ');
    if (trouble || time.figure === null) return { reading: null, trouble };
    return {
      trouble: '',
      reading: {
        timeS: time.figure,
        points: this.points(),
        perDivisionS: division.figure,
        edgeS: edge.figure,
        echoShare: height.figure,
      },
    };
  });

  constructor() {
    effect(() => this.times.emit(this.typed().reading));
  }
}

/** A height in per cent of the launch, with whichever minus the keyboard gave. */
function heightOf(text: string): { figure: number | null; trouble: string } {
  if (text.trim() === '') return { figure: null, trouble: '' };
  const percent = typedNumber(text.replace('−', '-').replace('%', ''));
  return Math.abs(percent) <= 120
    ? { figure: percent / 100, trouble: '' }
    : { figure: null, trouble: 'Echo’s height: write per cent from -120 to 120.' };
}
