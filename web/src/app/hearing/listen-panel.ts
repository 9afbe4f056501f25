import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Said } from '@near-spoke/core/hearing';
import { Keys } from '../keys/keys';
import { Preferences } from '../preferences/preferences';
import { Listening } from './listening';
import { Speaking } from './speaking';
import { VoiceChoice } from './voice-choice';

const WIDTH = 300;
const HEIGHT = 64;
/** Decibels drawn over and under what it takes. */
const OVER_DB = 18;
const UNDER_DB = 18;
const MOMENTS = 150;

/** The microphone hears the meter's own tone, so that a touch answers itself. */
@Component({
  selector: 'ns-listen-panel',
  imports: [MatButtonModule, VoiceChoice],
  providers: [Listening],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Listening</h2>
    @switch (listening.state()) {
      @case ('off') {
        <p class="small quiet">
          The microphone hears your meter’s tone: a touch answers itself. Nothing is recorded or sent.
        </p>
      }
      @case ('starting') {
        <p class="small">Opening the microphone…</p>
      }
      @case ('teaching') {
        <p>
          Touch the meter’s leads together three times, half a second each.
          <strong class="figure">{{ listening.touches() }} of 3</strong>
        </p>
      }
      @case ('listening') {
        <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="drawn()">
          <line class="needed" x1="0" [attr.x2]="width" [attr.y1]="neededY" [attr.y2]="neededY" />
          <path [attr.d]="path()" />
          <text x="6" y="11">your beeper, {{ listening.pitch() }}</text>
        </svg>
        <p class="small quiet">
          Hold: it beeps. Two taps, on the contact’s own partner or probe to probe: silent. Three taps: take
          the last one back.
        </p>
      }
    }
    <p class="small" role="status">{{ listening.trouble() || listening.words() }}</p>
    <div class="row">
      @if (listening.state() === 'off') {
        <button matButton="outlined" (click)="start()">Listen <kbd>L</kbd></button>
      } @else {
        <button matButton="outlined" (click)="listening.stop()">Stop listening <kbd>L</kbd></button>
        @if (listening.state() === 'listening') {
          <button matButton (click)="listening.teach()">Another meter</button>
        }
      }
      @if (speaking.able) {
        <button
          matButton
          [attr.aria-pressed]="preferences.readAloud()"
          (click)="preferences.toggleReadAloud()"
        >
          Read aloud: {{ preferences.readAloud() ? 'on' : 'off' }}
        </button>
      }
    </div>
    @if (speaking.able && preferences.readAloud()) {
      <ns-voice-choice />
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    svg {
      width: 100%;
      max-width: 460px;
      background: var(--film);
      border: 1px solid var(--rule);
      border-radius: 6px;
    }
    path {
      fill: none;
      stroke: var(--accent);
      stroke-width: 2;
    }
    .needed {
      stroke: var(--wrong);
      stroke-dasharray: 5 4;
    }
    text {
      font: 10px var(--figures);
      fill: var(--wrong);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    p:empty {
      display: none;
    }
  `,
})
export class ListenPanel {
  protected readonly listening = inject(Listening);
  protected readonly speaking = inject(Speaking);
  protected readonly preferences = inject(Preferences);
  /** A touch waits for its answer. */
  readonly asks = input.required<boolean>();
  readonly answered = output<boolean>();
  readonly takenBack = output();
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly neededY = (HEIGHT * OVER_DB) / (OVER_DB + UNDER_DB);

  protected readonly path = computed(() => {
    const trail = this.listening.trail();
    return trail
      .map(({ clear }, n) => {
        const db = Math.max(-UNDER_DB, Math.min(OVER_DB, 10 * Math.log10(Math.max(1e-9, clear))));
        const x = WIDTH - ((trail.length - 1 - n) * WIDTH) / (MOMENTS - 1);
        return `${n === 0 ? 'M' : 'L'}${x.toFixed(1)} ${(((OVER_DB - db) * HEIGHT) / (OVER_DB + UNDER_DB)).toFixed(1)}`;
      })
      .join('');
  });
  protected readonly drawn = computed(() =>
    this.listening.trail().at(-1)?.sounding ? 'The meter sounds' : 'The meter is silent',
  );

  constructor() {
    inject(Keys).use(
      [
        {
          key: 'l',
          words: 'listen to the meter, or stop',
          run: () => (this.listening.state() === 'off' ? this.start() : this.listening.stop()),
        },
      ],
      inject(DestroyRef),
    );
  }

  protected start(): void {
    void this.listening.start((said) => this.hear(said));
  }

  private hear(said: Said['say']): void {
    if (said === 'take back') this.takenBack.emit();
    else if (this.asks() && (said === 'beeps' || said === 'silent')) this.answered.emit(said === 'beeps');
  }
}
