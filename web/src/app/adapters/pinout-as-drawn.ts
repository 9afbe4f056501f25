import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  facesShowing,
  rowsOfFace,
  signalsFromFace,
  type AdapterEnd,
  type ContactLayout,
  type FaceTold,
} from '@near-spoke/core';
import { SHEET_FACES } from './sheet-faces';
import { ConnectorFace } from '../drawing/connector-face';

const FACE_WORDS = { mating: 'the mating face', rear: 'the wiring side' } as const;

/** Signals typed where a sheet draws them; which face the sheet shows is asked for, or told by its numbers. */
@Component({
  selector: 'ns-pinout-as-drawn',
  imports: [MatButtonModule, ConnectorFace],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="ask" role="group" aria-label="How the sheet shows the connector">
      <label
        >The sheet shows
        <select [value]="face() ?? ''" (change)="say($any($event.target).value)">
          <option value="" [selected]="face() === null">not said yet</option>
          @for (each of sheetFaces; track each[1]) {
            <option [value]="each[0]" [selected]="face() === each[0]">{{ each[1] }}</option>
          }
        </select></label
      >
      <label
        >{{ layout().shell?.keyed ? 'Its key is' : 'It lies' }}
        <select (change)="latch.set($any($event.target).value)">
          <option value="down" [selected]="latch() === 'down'">
            {{ layout().shell?.keyed ? 'down' : 'as drawn here' }}
          </option>
          <option value="up" [selected]="latch() === 'up'">
            {{ layout().shell?.keyed ? 'up' : 'turned by half a turn' }}
          </option>
        </select></label
      >
      <label class="numbers"
        >Not sure? Its numbers as drawn, rows by /
        <input [value]="numbers()" (input)="numbers.set($any($event.target).value)" [placeholder]="example()"
      /></label>
    </div>
    @if (numbers().trim() !== '') {
      <p role="status" class="told">
        @if (told().length === 0) {
          <span class="wrong"
            >No face of {{ layout().name }} is numbered so: look whether it is another one.</span
          >
        } @else {
          These numbers are {{ tellings() }}.
          <button matButton="outlined" (click)="believe()">Take that</button>
        }
      </p>
    }
    @if (face(); as shown) {
      <div class="drawn">
        <div class="grid" role="group" aria-label="Signals where the sheet draws them">
          @for (row of places(); track $index; let r = $index) {
            <div class="line">
              @for (contact of row; track contact; let n = $index) {
                <label>
                  <span class="visually-hidden">Row {{ r + 1 }}, place {{ n + 1 }}</span>
                  <input
                    maxlength="40"
                    [value]="typed()[r]?.[n] ?? ''"
                    (input)="type(r, n, $any($event.target).value)"
                  />
                  <span class="figure small quiet">{{ contact }}</span>
                </label>
              }
            </div>
          }
        </div>
        <ns-connector-face [layout]="layout()" [face]="shown" [latch]="latch()" [known]="filled()" />
      </div>
      <p class="small quiet">
        The small figure is the contact that each place has on {{ words(shown) }}. From the other side the
        same drawing would mean the mirror image.
      </p>
      <button
        matButton="filled"
        class="main-action"
        [disabled]="signals().length === 0"
        (click)="taken.emit(signals())"
      >
        Take {{ signals().length }} signals
      </button>
    } @else {
      <p class="unsure">Say first which face the sheet shows: it is never guessed.</p>
    }
  `,
  styleUrl: './pinout-as-drawn.scss',
})
export class PinoutAsDrawn {
  protected readonly sheetFaces = SHEET_FACES;
  readonly layout = input.required<ContactLayout>();
  readonly sheetFace = input.required<AdapterEnd['sheetFace']>();
  readonly said = output<AdapterEnd['sheetFace']>();
  readonly taken = output<readonly { contact: string; signal: string }[]>();

  protected readonly face = linkedSignal(() => this.sheetFace());
  protected readonly latch = signal<FaceTold['latch']>('down');
  protected readonly numbers = signal('');
  protected readonly typed = signal<Readonly<Record<number, Readonly<Record<number, string>>>>>({});
  protected readonly view = computed(() => ({ face: this.face() ?? 'mating', latch: this.latch() }) as const);
  protected readonly places = computed(() => rowsOfFace(this.layout(), this.view()));
  protected readonly example = computed(() =>
    rowsOfFace(this.layout(), { face: 'mating', latch: 'down' })
      .map((row) => row.join(' '))
      .join(' / '),
  );
  protected readonly told = computed(() =>
    facesShowing(
      this.layout(),
      this.numbers()
        .split('/')
        .map((row) => row.trim().split(/[\s,]+/)),
    ),
  );
  protected readonly tellings = computed(() =>
    this.told()
      .map(
        ({ face, latch }) =>
          `${FACE_WORDS[face]}${this.layout().shell?.keyed ? `, key ${latch}` : latch === 'up' ? ', turned' : ''}`,
      )
      .join(', or '),
  );
  protected readonly signals = computed(() =>
    signalsFromFace(
      this.layout(),
      this.view(),
      this.places().map((row, r) => row.map((_, n) => this.typed()[r]?.[n] ?? '')),
    ),
  );
  protected readonly filled = computed(() => this.signals().map(({ contact }) => contact));

  protected words(face: FaceTold['face']): string {
    return FACE_WORDS[face];
  }

  protected say(face: string): void {
    const said = face === 'mating' || face === 'rear' ? face : null;
    this.face.set(said);
    this.said.emit(said);
  }

  protected believe(): void {
    const [first] = this.told();
    if (!first) return;
    this.latch.set(first.latch);
    this.say(first.face);
    this.numbers.set('');
  }

  protected type(row: number, place: number, text: string): void {
    this.typed.update((typed) => ({ ...typed, [row]: { ...typed[row], [place]: text } }));
  }
}
