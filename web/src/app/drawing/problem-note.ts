import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Problem } from '@near-spoke/contracts';

/** What is wrong, where, and what to do. */
@Component({
  selector: 'ns-problem-note',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="alert">
      <strong>{{ problem().title }}</strong>
      <p>{{ problem().detail }}</p>
      @if (problem().request; as number) {
        <p class="small">
          Tell the lead this number if it stays: <code>{{ number }}</code>
        </p>
      }
      @if ((problem().errors?.length ?? 0) > 1) {
        <ul>
          @for (error of problem().errors; track $index) {
            <li>
              <code>{{ error.path }}</code> {{ error.message }}
            </li>
          }
        </ul>
      }
    </div>
  `,
  styles: `
    div {
      border: 1px solid var(--wrong);
      border-left-width: 6px;
      border-radius: var(--round);
      background: var(--wrong-soft);
      padding: 12px 16px;
      display: grid;
      gap: 4px;
    }
  `,
})
export class ProblemNote {
  readonly problem = input.required<Problem>();
}
