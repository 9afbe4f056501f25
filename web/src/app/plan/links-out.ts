import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { Link } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { JobEvents } from '../jobs/jobs.state';
import { Asking } from '../ui/asking';

/** Links that were taken out of a job, folded: by whom, why, and the way back. */
@Component({
  selector: 'ns-links-out',
  imports: [DatePipe, RouterLink, MatButtonModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (links().length > 0) {
      <details>
        <summary>Taken out of the job: {{ links().length }}</summary>
        @if (asking.problem(); as problem) {
          <ns-problem-note [problem]="problem" />
        }
        <ul>
          @for (link of links(); track link.id) {
            <li>
              <span>
                <a class="figure" [routerLink]="['/jobs', link.jobId, 'links', link.id, 'plan']">{{
                  link.label
                }}</a>
                <span class="small">{{ link.far.outlet }}, {{ link.far.room }}</span>
                @if (link.out; as out) {
                  <span class="small quiet"
                    >{{ out.by }}, {{ out.at | date: 'd MMM y'
                    }}{{ out.reason ? ': ' + out.reason : '' }}</span
                  >
                }
              </span>
              @if (mayWork()) {
                <button
                  matButton="outlined"
                  [attr.aria-label]="'Bring ' + link.label + ' back'"
                  [disabled]="asking.busy()"
                  (click)="bringBack(link)"
                >
                  Bring back
                </button>
              }
            </li>
          }
        </ul>
      </details>
    }
  `,
  styles: `
    summary {
      min-height: 44px;
      display: list-item;
      line-height: 44px;
      padding: 0 16px;
      font-weight: 600;
      cursor: pointer;
    }
    ul {
      max-height: 200px;
      overflow: auto;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 12px;
      align-items: center;
      justify-content: space-between;
      padding: 4px 16px;
      border-top: 1px solid var(--rule);
      > span {
        display: grid;
      }
    }
  `,
})
export class LinksOut {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  readonly jobId = input.required<string>();
  readonly mayWork = input(false);
  /** Changes whenever one went out. */
  readonly after = input<unknown>();
  protected readonly links = signal<readonly Link[]>([]);
  protected readonly asking = new Asking();

  constructor() {
    effect(() => {
      const jobId = this.jobId();
      this.after();
      untracked(() =>
        this.api.call('listLinksOut', { params: { jobId } }).subscribe({
          next: (links) => this.links.set(links),
          // The plan stands without them.
          error: () => this.links.set([]),
        }),
      );
    });
  }

  protected bringBack({ id, version }: Link): void {
    const params = { jobId: this.jobId() };
    const body = { links: [{ id, version }] };
    this.asking.ask(this.api.call('bringLinksBack', { params, body }), (links) => {
      this.store.dispatch(JobEvents.linksAdded({ jobId: this.jobId(), links }));
      this.links.update((out) => out.filter((one) => one.id !== id));
    });
  }
}
