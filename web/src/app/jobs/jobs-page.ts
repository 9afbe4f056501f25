import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Job } from '@near-spoke/contracts';
import { LINK_STAGES } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { ProblemNote } from '../drawing/problem-note';
import { StageGlyph } from '../drawing/stage-glyph';
import { RepeatsTold } from '../figures/repeats-told';
import { Header } from '../header';
import { sessionFeature } from '../session/session.state';
import { JobEvents, jobsFeature } from './jobs.state';
import { NewJob } from './new-job';
import { TakeArchive } from './take-archive';

/** All jobs, each with how far it has come. */
@Component({
  selector: 'ns-jobs-page',
  imports: [
    NgTemplateOutlet,
    RouterLink,
    MatButtonModule,
    MatProgressBarModule,
    StageGlyph,
    ProblemNote,
    RepeatsTold,
    TakeArchive,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (busy() && !read()) {
      <mat-progress-bar mode="indeterminate" aria-label="Reading the jobs" />
    }
    <main>
      <div class="title">
        <h1>Jobs</h1>
        @if (jobs().length > 0) {
          <a matButton routerLink="/as-built">Buildings as built</a>
        }
        @if (isLead()) {
          <button matButton="filled" class="main-action" (click)="start()">Start a job</button>
        }
      </div>
      @if (isLead()) {
        @defer (on idle) {
          <ns-repeats-told />
        }
      }
      @if (problem(); as problem) {
        <ns-problem-note [problem]="problem" />
      }
      <ul>
        @for (job of open(); track job.id) {
          <ng-container [ngTemplateOutlet]="one" [ngTemplateOutletContext]="{ $implicit: job }" />
        } @empty {
          @if (read()) {
            <li class="empty sheet">
              <h2>{{ closed().length > 0 ? 'Every job is closed' : 'No jobs yet' }}</h2>
              <p class="quiet">
                {{
                  isLead()
                    ? 'Start the ' +
                      (closed().length > 0 ? 'next' : 'first') +
                      ': where it is, its hub, and the scheme it is wired to.'
                    : 'The lead starts them.'
                }}
              </p>
            </li>
          }
        }
      </ul>
      @if (closed().length > 0) {
        <details>
          <summary>Closed: {{ closed().length }}</summary>
          <ul>
            @for (job of closed(); track job.id) {
              <ng-container [ngTemplateOutlet]="one" [ngTemplateOutletContext]="{ $implicit: job }" />
            }
          </ul>
        </details>
      }
      <ng-template #one let-job>
        <li class="sheet">
          <a [routerLink]="['/jobs', job.id]">
            <span class="name">
              <strong>{{ job.title }}</strong>
              <span class="quiet">{{ job.site }}, hub {{ job.hub }}, {{ job.scheme }}</span>
            </span>
            <span class="bar" aria-hidden="true">
              @for (part of parts(job); track part.id) {
                <span [class]="part.id" [style.flex-grow]="part.count"></span>
              }
            </span>
            <span class="counts">
              @for (part of parts(job); track part.id) {
                <span><ns-stage-glyph [stage]="part.id" /> {{ part.count }} {{ part.name }}</span>
              } @empty {
                <span class="quiet">no links yet</span>
              }
            </span>
          </a>
        </li>
      </ng-template>
      @if (isLead()) {
        <ns-take-archive (brought)="again()" />
      }
    </main>
  `,
  styleUrl: './jobs-page.scss',
})
export class JobsPage {
  private readonly store = inject(Store);
  private readonly dialog = inject(MatDialog);
  protected readonly jobs = this.store.selectSignal(jobsFeature.selectAllJobs);
  protected readonly open = computed(() => this.jobs().filter(({ closedAt }) => closedAt === undefined));
  protected readonly closed = computed(() => this.jobs().filter(({ closedAt }) => closedAt !== undefined));
  protected readonly read = this.store.selectSignal(jobsFeature.selectJobsRead);
  protected readonly busy = this.store.selectSignal(jobsFeature.selectBusy);
  protected readonly problem = this.store.selectSignal(jobsFeature.selectProblem);
  protected readonly isLead = this.store.selectSignal(sessionFeature.selectIsLead);

  constructor() {
    inject(Header).show([{ name: 'Jobs' }]);
    this.store.dispatch(JobEvents.jobsOpened());
  }

  protected parts(job: Job): { id: (typeof LINK_STAGES)[number]['id']; name: string; count: number }[] {
    return LINK_STAGES.map(({ id, name }) => ({ id, name, count: job.stages[id] })).filter(
      ({ count }) => count > 0,
    );
  }

  protected again(): void {
    this.store.dispatch(JobEvents.jobsOpened());
  }

  protected start(): void {
    this.dialog.open(NewJob, { width: '560px', maxWidth: '96vw' });
  }
}
