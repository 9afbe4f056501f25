import { ChangeDetectionStrategy, Component, computed, effect, input, signal } from '@angular/core';

/** A code to be read out, and the same as a symbol to be held before a camera. */
@Component({
  selector: 'ns-code-sign',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
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
  `,
  styles: `
    :host {
      display: flex;
      gap: 16px;
      align-items: center;
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
  readonly code = input.required<string>();
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
