import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { COLOURS, insulationName, type ColourCode, type ContactLayout } from '@near-spoke/core';
import { ConnectorFace } from '../drawing/connector-face';
import { Keys } from '../keys/keys';
import { Tones } from '../preferences/tones';

/** The colour that beeped with a contact; null where none did. */
export interface MeteredWire {
  contact: string;
  colour: ColourCode | null;
}

/** Leads through a moulded half, contact by contact: touch it, find the wire that beeps, tell its colour. */
@Component({
  selector: 'ns-meter-colours',
  imports: [MatButtonModule, ConnectorFace],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (contact(); as contact) {
      <div class="ask">
        <div>
          <p class="small quiet">Contact {{ answers().length + 1 }} of {{ contacts().length }}</p>
          <h3 aria-live="polite">
            One lead on contact <span class="figure big">{{ contact }}</span>
          </h3>
          <p>Touch the cut wires with the other, one by one. Which one beeps?</p>
          @if (found().length > 0) {
            <p class="small quiet">So far: {{ found().join(', ') }}</p>
          }
        </div>
        @if (layout(); as layout) {
          <ns-connector-face [layout]="layout" face="mating" [lit]="[contact]" [wired]="wired()" />
        }
      </div>
      <div class="colours" role="group" aria-label="Colour of the wire that beeps">
        @for (code of codes; track code) {
          <button type="button" (click)="answer(code)">
            <span class="swatch" [style.background]="paint(code)"></span>{{ name(code) }}
            @if (seen(code) > 0) {
              <span class="small quiet">again</span>
            }
          </button>
        }
      </div>
      <div class="row">
        <button matButton="outlined" (click)="answer(null)">No wire beeps <kbd>PgUp</kbd></button>
        <button matButton [disabled]="answers().length === 0" (click)="undo()">
          Take the last back <kbd>Backspace</kbd>
        </button>
      </div>
    } @else {
      <p role="status">
        All {{ contacts().length }} are metered: {{ found().join(', ') || 'no wire beeped' }}.
        @if (twice().length > 0) {
          <span class="unsure">{{ twice().join(' and ') }} occur twice: mark those wires now.</span>
        }
      </p>
      <div class="row">
        <button matButton="filled" class="main-action" (click)="taken.emit(result())">
          Take the colours
        </button>
        <button matButton (click)="undo()">Take the last back</button>
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
    }
    .ask {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 220px;
      gap: 18px;
    }
    ns-connector-face {
      height: 130px;
    }
    .big {
      font-size: 34px;
    }
    .colours {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(132px, 1fr));
      gap: 8px;
    }
    .colours button {
      font: inherit;
      min-height: 48px;
      display: flex;
      gap: 10px;
      align-items: center;
      padding: 0 12px;
      color: var(--ink);
      background: var(--film);
      border: 1px solid var(--ink-2);
      border-radius: 6px;
      cursor: pointer;
    }
    .swatch {
      width: 26px;
      height: 26px;
      border-radius: 50%;
      border: 1px solid #7d868b;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
    }
  `,
})
export class MeterColours {
  private readonly tones = inject(Tones);
  readonly contacts = input.required<readonly string[]>();
  readonly layout = input<ContactLayout | null>(null);
  readonly taken = output<readonly MeteredWire[]>();

  protected readonly codes = Object.keys(COLOURS) as ColourCode[];
  protected readonly answers = signal<readonly (ColourCode | null)[]>([]);
  protected readonly contact = computed(() => this.contacts()[this.answers().length] ?? null);
  protected readonly result = computed((): MeteredWire[] =>
    this.answers().map((colour, n) => ({ contact: this.contacts()[n] ?? '', colour })),
  );
  protected readonly found = computed(() =>
    this.result().flatMap(({ contact, colour }) => (colour ? [`${contact} ${insulationName(colour)}`] : [])),
  );
  protected readonly wired = computed(() =>
    Object.fromEntries(this.result().flatMap(({ contact, colour }) => (colour ? [[contact, colour]] : []))),
  );
  protected readonly twice = computed(() =>
    this.codes.filter((code) => this.seen(code) > 1).map((code) => insulationName(code)),
  );

  constructor() {
    inject(Keys).use(
      [
        {
          key: 'PageUp',
          words: 'no wire beeps',
          run: () => this.answer(null),
          when: () => this.contact() !== null,
        },
        {
          key: 'Backspace',
          words: 'take the last colour back',
          run: () => this.undo(),
          when: () => this.answers().length > 0,
        },
      ],
      inject(DestroyRef),
    );
  }

  protected seen(code: ColourCode): number {
    return this.answers().filter((answer) => answer === code).length;
  }

  protected answer(colour: ColourCode | null): void {
    this.answers.update((answers) => [...answers, colour]);
    if (colour) this.tones.right();
    else this.tones.wrong();
  }

  protected undo(): void {
    this.answers.update((answers) => answers.slice(0, -1));
  }

  protected paint(code: ColourCode): string {
    return COLOURS[code].paint;
  }

  protected name(code: ColourCode): string {
    return insulationName(code);
  }
}
