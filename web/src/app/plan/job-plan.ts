import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatDialog } from '@angular/material/dialog';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatTableModule } from '@angular/material/table';
import { Router, RouterLink } from '@angular/router';
import type { Link } from '@near-spoke/contracts';
import {
  findingHeadline,
  formatCableLength,
  hubsOf,
  powerTypeOf,
  stretchMoved,
  type Carries,
  type JobFindings,
  type PlanFinding,
  type StretchUse,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { AddLinks } from '../jobs/add-links';
import { jobStations } from '../jobs/job-stations';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Keys } from '../keys/keys';
import { sessionFeature } from '../session/session.state';
import { CarriesForm } from './carries-form';
import { FindingList } from './finding-list';
import { ImportList } from './import-list';
import { LinksOut } from './links-out';
import { plannedLinks } from './planned-links';
import { Planning } from './planning';
import { RouteBranches } from './route-branches';
import { StretchForm } from './stretch-form';
import { TakeOut } from './take-out';
import { WhatIfPlan, type LinksThought, type WhatIfAsked } from './what-if';
import { SaveTable } from '../ui/save-table';

interface Row {
  link: Link;
  cable: string;
  length: string;
  fed: string;
  verdict: PlanFinding['verdict'] | 'unknown';
  least: string;
}

/** A job's plan: its ways as a tree, its links with what is least of each, and what would cure it. */
@Component({
  selector: 'ns-job-plan',
  imports: [
    RouterLink,
    MatButtonModule,
    MatCheckboxModule,
    MatProgressBarModule,
    MatTableModule,
    CarriesForm,
    FindingList,
    LinksOut,
    ProblemNote,
    RouteBranches,
    StretchForm,
    SaveTable,
    TakeOut,
  ],
  providers: [Planning],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './job-plan.html',
  styleUrl: './job-plan.scss',
})
export class JobPlan {
  private readonly store = inject(Store);
  private readonly dialog = inject(MatDialog);
  private readonly router = inject(Router);
  readonly jobId = input.required<string>();

  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);
  private readonly allLinks = this.store.selectSignal(jobsFeature.selectAllLinks);
  protected readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly busy = this.store.selectSignal(jobsFeature.selectBusy);
  protected readonly problem = this.store.selectSignal(jobsFeature.selectProblem);
  private readonly worker = this.store.selectSignal(sessionFeature.selectMayWork);
  private readonly lead = this.store.selectSignal(sessionFeature.selectIsLead);

  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  private readonly open = computed(() => this.job()?.closedAt === undefined);
  protected readonly mayWork = computed(() => this.worker() && this.open());
  protected readonly mayLead = computed(() => this.lead() && this.open());
  protected readonly loaded = computed(() => this.linksOf() === this.jobId());
  protected readonly links = computed(() => (this.loaded() ? this.allLinks() : []));
  /** Hubs with the links that begin there: each has a tree of its own. */
  protected readonly hubs = computed(() =>
    hubsOf(this.job()?.hub ?? '', this.links())
      .map((hub) => ({ hub, links: this.links().filter(({ near }) => near.hub === hub) }))
      .filter(({ links }) => links.some(({ route }) => route.length > 0)),
  );
  protected readonly units = computed(() => this.job()?.units ?? 'metric');
  protected readonly findings = signal<JobFindings | null>(null);
  protected readonly columns = ['pick', 'link', 'far', 'length', 'fed', 'least', 'cable'];

  private readonly byLabel = computed(
    () => new Map(this.findings()?.links.map(({ label, findings }) => [label, findings]) ?? []),
  );
  protected readonly rows = computed((): Row[] => {
    const cables = new Map(this.kit()?.cables.map(({ id, name }) => [id, name]) ?? []);
    return this.links().map((link) => {
      const [least] = this.byLabel().get(link.label) ?? [];
      const { power, load } = link.carries;
      return {
        link,
        cable: cables.get(link.cableTypeId) ?? link.cableTypeId,
        length: formatCableLength(link.lengthM, this.units()),
        fed: power ? `${power.deviceW} W` : load ? `${load.sourceV} V` : '',
        verdict: least?.verdict ?? 'unknown',
        least: least ? findingHeadline(least, { units: this.units() }) : '',
      };
    });
  });
  protected readonly count = computed(() => {
    const of = (verdict: string): number => this.rows().filter((row) => row.verdict === verdict).length;
    return { wrong: of('fails'), close: of('close') };
  });

  private readonly pointed = signal<string | null>(null);
  /** The link in hand: the one pointed at, or the one that is worst off. */
  protected readonly chosen = computed(
    () =>
      this.links().find(({ id }) => id === this.pointed()) ??
      this.rows().find(({ verdict }) => verdict === 'fails')?.link ??
      this.rows().find(({ verdict }) => verdict === 'close')?.link ??
      this.links()[0],
  );
  protected readonly chosenFindings = computed(() => this.byLabel().get(this.chosen()?.label ?? '') ?? []);
  protected readonly chosenStretches = computed(
    () => new Set(this.chosen()?.route.map(({ name }) => name) ?? []),
  );
  protected readonly chosenCable = computed(() =>
    this.kit()?.cables.find(({ id }) => id === this.chosen()?.cableTypeId),
  );
  protected readonly chosenPower = computed(() => {
    const type = this.chosen()?.carries.power?.type;
    return type === undefined ? null : (powerTypeOf(type)?.name ?? type);
  });

  protected readonly openStretch = signal<string | null>(null);
  protected readonly stretchTrouble = signal('');
  protected readonly stretch = computed(() =>
    this.findings()?.stretches.find(({ name }) => name === this.openStretch()),
  );

  /** Links that are changed together. */
  protected readonly picked = signal<ReadonlySet<string>>(new Set());
  protected readonly draft = signal<Carries | null>(null);
  protected readonly pickedCable = computed(() => {
    const first = this.links().find(({ id }) => this.picked().has(id));
    return this.kit()?.cables.find(({ id }) => id === first?.cableTypeId);
  });
  protected readonly pickedLinks = computed(() => this.links().filter(({ id }) => this.picked().has(id)));
  protected readonly nothing: Carries = {};

  constructor() {
    const header = inject(Header);
    const planning = inject(Planning);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => {
        this.store.dispatch(JobEvents.jobOpened({ jobId }));
        this.store.dispatch(JobEvents.kitNeeded());
      });
    });
    effect(() => {
      const job = this.job();
      if (job)
        header.show(
          [{ name: job.site, link: '/jobs' }, { name: job.title, link: ['/jobs', job.id] }, { name: 'Plan' }],
          jobStations(job.id, this.links(), 'plan'),
        );
    });
    effect(() => {
      const [job, kit, links] = [this.job(), this.kit(), this.links()];
      if (!job || !kit || !this.loaded()) return;
      planning.ask(
        { links: plannedLinks(links, kit), conditions: job.stretches, cables: kit.cables },
        (findings) => this.findings.set(findings),
      );
    });
    inject(Keys).use(
      [
        {
          key: 'i',
          words: 'take links from a spreadsheet',
          run: () => this.importList(),
          when: () => this.mayWork(),
        },
        { key: 'n', words: 'add links', run: () => this.addLinks(), when: () => this.mayWork() },
        {
          key: 't',
          words: 'the plan as a table, to change many',
          run: () => void this.router.navigate(['/jobs', this.jobId(), 'plan', 'table']),
        },
        {
          key: 'w',
          words: 'what if it were warmer, another cable, fed otherwise',
          run: () => this.whatIf(),
          when: () => this.findings() !== null,
        },
        { key: 'ArrowDown', words: 'the next link', run: () => this.step(1) },
        { key: 'ArrowUp', words: 'the link before', run: () => this.step(-1) },
      ],
      inject(DestroyRef),
    );
  }

  protected point(link: Link): void {
    this.pointed.set(link.id);
  }

  private step(by: 1 | -1): void {
    const at = this.links().findIndex(({ id }) => id === this.chosen()?.id);
    const next = this.links()[Math.min(this.links().length - 1, Math.max(0, at + by))];
    if (!next) return;
    this.point(next);
    document.getElementById(`plan-${next.id}`)?.scrollIntoView({ block: 'nearest' });
  }

  protected pick(link: Link, on: boolean): void {
    const picked = new Set(this.picked());
    if (on) picked.add(link.id);
    else picked.delete(link.id);
    this.picked.set(picked);
    this.draft.set(null);
  }

  protected pickAll(on: boolean): void {
    this.picked.set(new Set(on ? this.links().map(({ id }) => id) : []));
    this.draft.set(null);
  }

  /** Gives the links that are picked what was said, all or none. */
  protected setPicked(): void {
    const carries = this.draft();
    if (!carries) return;
    const changes = this.links()
      .filter(({ id }) => this.picked().has(id))
      .map(({ id, version }) => ({ id, version, carries }));
    this.store.dispatch(JobEvents.linksEdited({ jobId: this.jobId(), changes }));
    this.picked.set(new Set());
  }

  /** What a stretch is like is the job's; what it is longer by goes to every link that runs in it, all or none. */
  protected keepStretch({ stretch, byM }: { stretch: StretchUse; byM: number }): void {
    const job = this.job();
    if (!job) return;
    const { name, temperatureC, space, closed, ductMm, mainsMm } = stretch;
    const inIt = this.links().filter(({ route }) => route.some((one) => one.name === name));
    const moved = inIt.map((link) => ({ link, to: stretchMoved(link, name, byM) }));
    const used = moved.find(({ to }) => to === null);
    this.stretchTrouble.set(
      used && byM !== 0 ? `Nothing would be left of ${name} on ${used.link.label}: shorten it by less.` : '',
    );
    if (this.stretchTrouble() !== '') return;
    const kept = { name, temperatureC, space, closed, ductMm, mainsMm };
    const others = job.stretches.filter((one) => one.name !== name);
    const was = this.stretch();
    const same = (['temperatureC', 'space', 'closed', 'ductMm', 'mainsMm'] as const).every(
      (field) => was?.[field] === kept[field],
    );
    if (!same)
      this.store.dispatch(
        JobEvents.jobEdited({
          jobId: job.id,
          change: { version: job.version, stretches: [...others, kept] },
        }),
      );
    if (byM !== 0)
      this.store.dispatch(
        JobEvents.linksEdited({
          jobId: job.id,
          changes: moved.flatMap(({ link: { id, version }, to }) => (to ? [{ id, version, ...to }] : [])),
        }),
      );
    this.openStretch.set(null);
  }

  protected importList(): void {
    const [job, kit] = [this.job(), this.kit()];
    if (job && kit)
      this.dialog.open(ImportList, {
        data: { job, kit, links: this.links() },
        width: '1120px',
        maxWidth: '96vw',
      });
  }

  protected whatIf(): void {
    const [job, kit, findings] = [this.job(), this.kit(), this.findings()];
    if (!job || !kit || !findings) return;
    const data: WhatIfAsked = { job, kit, links: this.links(), findings, mayWork: this.mayWork() };
    this.dialog
      .open<WhatIfPlan, WhatIfAsked, LinksThought>(WhatIfPlan, { data, width: '900px', maxWidth: '96vw' })
      .afterClosed()
      .subscribe((changes) => {
        if (changes && changes.length > 0)
          this.store.dispatch(JobEvents.linksEdited({ jobId: job.id, changes }));
      });
  }

  protected addLinks(): void {
    const job = this.job();
    if (job)
      this.dialog.open(AddLinks, { data: { job, links: this.links() }, width: '640px', maxWidth: '96vw' });
  }
}
