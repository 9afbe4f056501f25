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
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Link } from '@near-spoke/contracts';
import { buildCard, formatStripTolerance, type CardStep, type WorkCard } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Keys } from '../keys/keys';
import { LinkEvents, linkFeature } from '../link/link.state';
import { Tones } from '../preferences/tones';
import { sessionFeature } from '../session/session.state';
import { likeEnds, type LikeEnds } from './round';
import { StepPictureView } from './step-picture';

/** Many like ends, one after another: the order in the hand, and one key to record each. */
@Component({
  selector: 'ns-round-page',
  imports: [RouterLink, MatButtonModule, MatProgressBarModule, ProblemNote, StepPictureView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './round-page.html',
  styleUrl: './round-page.scss',
})
export class RoundPage {
  private readonly store = inject(Store);
  readonly jobId = input.required<string>();

  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);
  private readonly allLinks = this.store.selectSignal(jobsFeature.selectAllLinks);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  private readonly kept = this.store.selectSignal(linkFeature.selectKept);
  protected readonly problem = this.store.selectSignal(linkFeature.selectProblem);
  protected readonly busy = this.store.selectSignal(linkFeature.selectBusy);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  protected readonly loaded = computed(() => this.linksOf() === this.jobId() && this.kit() !== null);
  protected readonly groups = computed(() => (this.loaded() ? likeEnds(this.allLinks()) : []));
  private readonly picked = signal<LikeEnds | null>(null);
  /** The round as it was begun: what is recorded on the way stays in its list. */
  protected readonly round = computed(() => this.picked());
  protected readonly at = linkedSignal({ source: this.picked, computation: () => 0 });
  protected readonly here = computed((): Link | null => this.round()?.links[this.at()] ?? null);
  protected readonly doneIds = linkedSignal({
    source: this.picked,
    computation: (): ReadonlySet<string> => new Set(),
  });
  protected readonly spoiled = linkedSignal({ source: this.here, computation: () => 0 });
  protected readonly connector = computed(
    () => this.kit()?.connectors.find((c) => c.id === this.round()?.connectorId) ?? null,
  );
  protected readonly cable = computed(() => this.kit()?.cables.find((c) => c.id === this.round()?.cableId));
  protected readonly card = computed((): WorkCard | null => {
    const [kit, job, connector, cable] = [this.kit(), this.job(), this.connector(), this.cable()];
    if (!cable || !connector || !job) return null;
    return buildCard({ cable, connector, scheme: job.scheme, units: job.units, tools: kit?.tools ?? [] });
  });
  /** The step at which the order is laid: the picture that matters end after end. */
  protected readonly laying = computed((): CardStep | null => {
    const steps = this.card()?.steps ?? [];
    return (
      steps.find((step) => step.readBack) ??
      steps.find((step) => step.picture === 'strip') ??
      steps[0] ??
      null
    );
  });
  protected readonly finished = computed(
    () => this.round() !== null && this.at() >= (this.round()?.links.length ?? 0),
  );
  private asked: string | null = null;
  private attemptId = crypto.randomUUID();

  constructor() {
    const header = inject(Header);
    const tones = inject(Tones);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => {
        this.store.dispatch(JobEvents.kitNeeded());
        if (this.linksOf() !== jobId) this.store.dispatch(JobEvents.jobOpened({ jobId }));
      });
    });
    effect(() => {
      const job = this.job();
      if (job)
        header.show([
          { name: job.site, link: '/jobs' },
          { name: job.title, link: ['/jobs', job.id] },
          { name: 'Round' },
        ]);
    });
    effect(() => {
      if (this.kept() !== 'termination' || this.asked === null) return;
      untracked(() => {
        this.doneIds.update((ids) => new Set([...ids, this.asked as string]));
        this.asked = null;
        this.attemptId = crypto.randomUUID();
        this.at.update((at) => at + 1);
        tones.right();
      });
    });
    const working = (): boolean => this.here() !== null && this.mayWork();
    inject(Keys).use(
      [
        {
          key: 'PageDown',
          words: 'this end is good: record it, next',
          run: () => this.record(),
          when: working,
        },
        { key: 'Enter', words: 'this end is good: record it, next', run: () => this.record(), when: working },
        {
          key: 'x',
          words: 'one connector spoiled',
          run: () => this.spoiled.update((n) => n + 1),
          when: working,
        },
        { key: 's', words: 'skip this end', run: () => this.at.update((at) => at + 1), when: working },
        {
          key: 'PageUp',
          words: 'look at the end before',
          run: () => this.at.update((at) => Math.max(0, at - 1)),
        },
      ],
      inject(DestroyRef),
    );
  }

  protected begin(group: LikeEnds): void {
    this.picked.set(group);
  }

  protected leave(): void {
    this.picked.set(null);
  }

  protected nameOf(kind: 'connectors' | 'cables', id: string): string {
    return this.kit()?.[kind].find((sheet) => sheet.id === id)?.name ?? id;
  }

  protected labels(group: LikeEnds): string {
    const names = group.links.map((link) => link.label);
    return names.length > 6
      ? `${names.slice(0, 5).join(', ')} and ${names.length - 5} more`
      : names.join(', ');
  }

  protected place(link: Link): string {
    return this.round()?.side === 'near'
      ? `${link.near.panel} port ${link.near.port}`
      : `${link.far.outlet}, ${link.far.room}`;
  }

  protected figure(mm: number, toleranceMm: number): string {
    return formatStripTolerance(mm, this.job()?.units ?? 'metric', toleranceMm);
  }

  protected record(): void {
    const [link, round] = [this.here(), this.round()];
    if (!link || !round || this.busy()) return;
    if (this.doneIds().has(link.id)) {
      this.at.update((at) => at + 1);
      return;
    }
    this.asked = link.id;
    const versions = this.kit()?.versions;
    this.store.dispatch(
      LinkEvents.terminationDone({
        linkId: link.id,
        attempt: {
          id: this.attemptId,
          side: round.side,
          connectorTypeId: round.connectorId,
          outcome: 'good',
          connectorsSpoiled: this.spoiled(),
          connectorVersion: versions?.connector[round.connectorId],
          cableVersion: versions?.cable[round.cableId],
        },
      }),
    );
  }
}
