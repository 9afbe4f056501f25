import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { LooseEnd } from '@near-spoke/contracts';
import { Api } from '../api/api';

/** Ends that were made without a job and given to this one: they stand in its report. */
@Component({
  selector: 'ns-job-loose-work',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (end of given(); track end.id) {
        <li>
          <strong>{{ end.name || end.connector }}</strong>
          <span class="small quiet">
            {{ end.connector }} on {{ end.cable }}, {{ end.by }}, {{ end.proof ?? 'not metered' }}
          </span>
        </li>
      } @empty {
        <li class="quiet">
          None was given to this job. The <a routerLink="/bench/make">loose-work book</a> gives it.
        </li>
      }
    </ul>
  `,
  styleUrl: './side.scss',
  styles: `
    li {
      display: grid;
    }
  `,
})
export class JobLooseWork {
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  private readonly book = rxResource({ stream: () => this.api.call('listLooseEnds', {}) });
  protected readonly given = computed((): readonly LooseEnd[] =>
    this.book.hasValue() ? this.book.value().filter(({ givenTo }) => givenTo?.jobId === this.jobId()) : [],
  );
}
