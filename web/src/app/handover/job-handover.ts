import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatTabsModule } from '@angular/material/tabs';
import { Store } from '@ngrx/store';
import { jobOfPage } from '../jobs/job-of-page';
import { sessionFeature } from '../session/session.state';
import { Acceptance } from './acceptance';
import { JobLeads } from './job-leads';
import { JobLooseWork } from './job-loose-work';
import { JobLog } from './job-log';
import { ReadyLinks } from './ready-links';
import { ReportChoice } from './report-choice';
import { ReportCheck } from './report-check';
import { SharedWith } from './shared-with';

/** A job's handover: what may go and what may not, the report, who accepted it, and what happened. */
@Component({
  selector: 'ns-job-handover',
  imports: [
    MatProgressBarModule,
    MatTabsModule,
    Acceptance,
    JobLeads,
    JobLooseWork,
    JobLog,
    ReadyLinks,
    ReportChoice,
    ReportCheck,
    SharedWith,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './job-handover.html',
  styleUrl: './job-handover.scss',
})
export class JobHandover {
  readonly jobId = input.required<string>();
  private readonly page = jobOfPage(this.jobId, 'Hand over', 'hand-over');
  protected readonly job = this.page.job;
  protected readonly links = this.page.links;
  protected readonly loaded = this.page.loaded;
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);
  protected readonly handedOver = computed(
    () => this.links().filter(({ stage }) => stage === 'handed-over').length,
  );
}
