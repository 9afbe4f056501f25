import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { DatePipe } from '@angular/common';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import type { Link } from '@near-spoke/contracts';
import { hubsOf, linksAt, type Pattern } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { TakeAlong } from '../field/take-along';
import { Header } from '../header';
import { Keys } from '../keys/keys';
import { sessionFeature } from '../session/session.state';
import { AddLinks } from './add-links';
import { EditJob } from './edit-job';
import { jobStations } from './job-stations';
import { JobEvents, jobsFeature } from './jobs.state';
import { LinkTable } from './link-table';
import { mostUrgent, ROOM_OF_STAGE, STOPS } from './rooms';
import { SpokeMap } from './spoke-map';

/** One job: the spoke map, the table beside it, and what to do next. */
@Component({
  selector: 'ns-job-page',
  imports: [
    DatePipe,
    FormsModule,
    RouterLink,
    MatButtonModule,
    MatProgressBarModule,
    SpokeMap,
    LinkTable,
    ProblemNote,
    TakeAlong,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './job-page.html',
  styleUrl: './job-page.scss',
})
export class JobPage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly dialog = inject(MatDialog);
  readonly jobId = input.required<string>();
  /** A stop of the line: only the links that wait there. */
  readonly at = input<string>();

  protected readonly table = viewChild(LinkTable);
  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly allLinks = this.store.selectSignal(jobsFeature.selectAllLinks);
  protected readonly problem = this.store.selectSignal(jobsFeature.selectProblem);
  protected readonly busy = this.store.selectSignal(jobsFeature.selectBusy);
  protected readonly isLead = this.store.selectSignal(sessionFeature.selectIsLead);
  private readonly worker = this.store.selectSignal(sessionFeature.selectMayWork);

  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  /** Whoever looks may change it, and it is not closed. */
  protected readonly mayWork = computed(() => this.worker() && this.job()?.closedAt === undefined);
  protected readonly loaded = computed(() => this.linksOf() === this.jobId());
  protected readonly links = computed(() => (this.loaded() ? this.allLinks() : []));
  /** Where links begin: the job's own hub, and others. */
  protected readonly hubs = computed(() => hubsOf(this.job()?.hub ?? '', this.links()));
  private readonly asked = linkedSignal<string, string | null>({
    source: this.jobId,
    computation: () => null,
  });
  protected readonly hub = computed(() => {
    const [own = ''] = this.hubs();
    const asked = this.asked();
    return asked !== null && this.hubs().includes(asked) ? asked : own;
  });
  protected readonly hubLinks = computed(() => linksAt(this.hub(), this.links()));
  protected readonly stop = computed(() => STOPS.find((stop) => stop.id === this.at()));
  protected readonly search = signal('');
  /** What several links have wrong in common; asked for when more than one is wrong. */
  protected readonly patterns = signal<readonly Pattern[]>([]);
  protected readonly pointed = signal<string | null>(null);
  protected readonly cableNames = computed(
    () => new Map(this.kit()?.cables.map((cable) => [cable.id, cable.name]) ?? []),
  );
  protected readonly shown = computed(() => {
    const words = this.search().trim().toLowerCase();
    const stages = this.stop()?.stages;
    return this.links().filter((link) => {
      if (stages && !stages.includes(link.stage)) return false;
      const text =
        `${link.label} ${link.far.outlet} ${link.far.room} ${link.near.hub} ${link.near.panel} ${link.standing}`.toLowerCase();
      return text.includes(words);
    });
  });
  protected readonly next = computed(() => (this.job()?.closedAt ? undefined : mostUrgent(this.links())));
  protected readonly chosen = computed(() => this.pointed() ?? this.next()?.id ?? null);
  protected readonly handedOver = computed(
    () => this.links().filter((link) => link.stage === 'handed-over').length,
  );

  constructor() {
    const api = inject(Api);
    const header = inject(Header);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => {
        this.store.dispatch(JobEvents.jobOpened({ jobId }));
        firstValueFrom(api.call('jobPatterns', { params: { jobId } })).then(
          (patterns) => this.patterns.set(patterns),
          // The page stands without them.
          () => this.patterns.set([]),
        );
        this.store.dispatch(JobEvents.kitNeeded());
      });
    });
    effect(() => {
      const job = this.job();
      if (!job) return;
      header.show(
        [{ name: job.site, link: '/jobs' }, { name: job.title }],
        jobStations(job.id, this.links(), this.stop()?.id),
      );
    });
    inject(Keys).use(
      [
        {
          key: 'Enter',
          words: 'open the link that needs work next',
          run: () => this.openNext(),
          when: () => this.next() !== undefined,
        },
        {
          key: '/',
          words: 'find a link of this job',
          run: () => document.getElementById('find-link')?.focus(),
        },
        {
          key: 'l',
          words: 'go to the list; arrow keys move, Enter opens',
          run: () => this.table()?.focusFirst(),
        },
      ],
      inject(DestroyRef),
    );
  }

  protected look(hub: string): void {
    this.asked.set(hub);
  }

  protected openNext(): void {
    const next = this.next();
    if (next) this.open(next);
  }

  protected open(link: Link): void {
    void this.router.navigate(['/jobs', link.jobId, 'links', link.id, ROOM_OF_STAGE[link.stage]]);
  }

  protected addLinks(): void {
    const job = this.job();
    if (job)
      this.dialog.open(AddLinks, { data: { job, links: this.links() }, width: '640px', maxWidth: '96vw' });
  }

  protected edit(): void {
    this.dialog.open(EditJob, { data: this.job(), width: '560px', maxWidth: '96vw' });
  }
}
