import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { Api } from '../api/api';

/** What happened on a job, in the order of the times shown. */
@Component({
  selector: 'ns-job-log',
  imports: [DatePipe, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (log.error()) {
      <p class="wrong">
        The log could not be read. <button matButton (click)="log.reload()">Try again</button>
      </p>
    }
    <ol tabindex="0" aria-label="What happened, newest first">
      @for (entry of log.hasValue() ? log.value() : []; track entry.id) {
        <li>
          <span class="figure quiet">{{ entry.at | date: 'd MMM HH:mm' }}</span>
          <span>
            @if (entry.label) {
              <strong class="figure">{{ entry.label }}</strong>
            }
            {{ entry.what }} <span class="quiet">{{ entry.by }}</span>
          </span>
        </li>
      }
    </ol>
  `,
  styles: `
    ol {
      display: grid;
      gap: 5px;
      max-height: 560px;
      overflow: auto;
      padding-top: 14px;
      font-size: 15px;
    }
    li {
      display: grid;
      grid-template-columns: 108px 1fr;
      gap: 10px;
    }
  `,
})
export class JobLog {
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  protected readonly log = rxResource({
    params: () => this.jobId(),
    stream: ({ params: jobId }) => this.api.call('jobActivity', { params: { jobId } }),
  });
}
