import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Together } from './together';

/** A code to be read out, the same as a symbol to be held before a camera, and the end that this device is at. */
@Component({
  selector: 'ns-code-sign',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sign">
      <p>
        At the other end: open <strong>{{ address }}</strong> and give
        <strong class="figure code">{{ spaced() }}</strong>
        @if (hereOnly) {
          <span class="small quiet">
            This address is good on this machine alone. For a phone, open Near Spoke here by the name that the
            machine has on your network.
          </span>
        }
      </p>
      @if (path(); as path) {
        <svg viewBox="0 0 100 100" role="img" [attr.aria-label]="'Code ' + spaced() + ' for a camera'">
          <rect width="100" height="100" fill="#fff" />
          <path [attr.d]="path" fill="#000" />
        </svg>
      }
    </div>
    @if (!together.state()?.list) {
      <mat-button-toggle-group
        aria-label="The end that you are at"
        [value]="together.end()"
        (change)="together.goTo($event.value)"
      >
        <mat-button-toggle value="near">{{ nearWords() }}</mat-button-toggle>
        <mat-button-toggle value="far">{{ farWords() }}</mat-button-toggle>
      </mat-button-toggle-group>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
      justify-items: start;
    }
    .sign {
      display: flex;
      gap: 16px;
      align-items: center;
      justify-self: stretch;
    }
    p {
      flex: 1;
      overflow-wrap: anywhere;
    }
    .code {
      display: block;
      font-size: 30px;
      letter-spacing: 0.08em;
    }
    svg {
      width: 108px;
      flex: none;
      border-radius: 6px;
    }
  `,
})
export class CodeSign {
  protected readonly together = inject(Together);
  readonly nearWords = input('I am at the near end');
  readonly farWords = input('At the far end');
  private readonly code = computed(() => this.together.state()?.code ?? '');
  protected readonly address = `${location.host}/help`;
  /** Addressed so, no other device finds it. */
  protected readonly hereOnly = /^(localhost|127\.|\[::1\])/.test(location.hostname);
  protected readonly spaced = computed(() => `${this.code().slice(0, 3)} ${this.code().slice(3)}`);
  protected readonly path = signal('');

  constructor() {
    effect(() => {
      const text = `${location.origin}/help/${this.code()}`;
      void import('@near-spoke/core/labels').then(({ qrModules, QUIET_ZONE }) => {
        const modules = qrModules(text);
        const step = 100 / (modules.length + 2 * QUIET_ZONE);
        const at = (k: number): string => ((k + QUIET_ZONE) * step).toFixed(2);
        const square = `h${step.toFixed(2)}v${step.toFixed(2)}h-${step.toFixed(2)}z`;
        this.path.set(
          modules
            .flatMap((row, r) => row.flatMap((dark, c) => (dark ? [`M${at(c)} ${at(r)}${square}`] : [])))
            .join(''),
        );
      });
    });
  }
}
