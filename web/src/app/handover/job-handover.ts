import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { LINK_STAGES } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { Api, fileAddress } from '../api/api';
import { StageGlyph } from '../drawing/stage-glyph';
import { Header } from '../header';
import { jobStations } from '../jobs/job-stations';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';

/** A job's handover: what may go, what may not, the sheet and the files, and what happened. */
@Component({
  selector: 'ns-job-handover',
  imports: [DatePipe, RouterLink, MatButtonModule, MatProgressBarModule, StageGlyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './job-handover.html',
  styleUrl: './job-handover.scss',
})
export class JobHandover {
  private readonly store = inject(Store);
  readonly jobId = input.required<string>();
  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly links = this.store.selectSignal(jobsFeature.selectAllLinks);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);
  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  protected readonly loaded = computed(() => this.linksOf() === this.jobId());
  protected readonly groups = computed(() =>
    LINK_STAGES.map((stage) => ({
      ...stage,
      links: this.links().filter((link) => link.stage === stage.id),
    })).filter((g) => g.links.length > 0),
  );
  protected readonly files = computed(() => [
    { name: 'Handover sheet, PDF', href: fileAddress('handoverPdf', this.jobId()) },
    { name: 'Table, CSV', href: fileAddress('handoverCsv', this.jobId()) },
    { name: 'Complete record, JSON', href: fileAddress('handoverJson', this.jobId()) },
  ]);
  private readonly api = inject(Api);
  protected readonly log = rxResource({
    params: () => this.jobId(),
    stream: ({ params: jobId }) => this.api.call('jobActivity', { params: { jobId } }),
  });

  constructor() {
    const header = inject(Header);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => this.store.dispatch(JobEvents.jobOpened({ jobId })));
    });
    effect(() => {
      const job = this.job();
      if (!job) return;
      header.show(
        [
          { name: job.site, link: '/jobs' },
          { name: job.title, link: ['/jobs', job.id] },
          { name: 'Hand over' },
        ],
        jobStations(job.id, this.links(), 'hand-over'),
      );
    });
  }
}
