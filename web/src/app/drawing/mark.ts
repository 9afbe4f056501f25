import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** The application's own mark: a hub with its spokes. */
@Component({
  selector: 'ns-mark',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.width]="size()" [attr.height]="size()" viewBox="0 0 32 32" aria-hidden="true">
      <g stroke="var(--ink)" stroke-width="2.2" stroke-linecap="round">
        <path d="M16 16 20 4" stroke-width="4.4" />
        <path d="M16 16 27 13M16 16 25 25M16 16 12 28M16 16 4 20M16 16 7 7" />
      </g>
      <circle cx="16" cy="16" r="5" fill="var(--accent)" />
    </svg>
  `,
  styles: ':host { display: inline-flex }',
})
export class Mark {
  readonly size = input(32);
}
