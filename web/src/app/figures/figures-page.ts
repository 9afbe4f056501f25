import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { JobFigures, Problem } from '@near-spoke/contracts';
import { FAULT_KINDS, type FaultKind, type Share } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { CrewWork } from './crew-work';
import { ProblemNote } from '../drawing/problem-note';
import { onThemeChange } from '../drawing/theme-change';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { sessionFeature } from '../session/session.state';
import { SaveTable } from '../ui/save-table';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

/** First-pass rate and what goes wrong, of a job and of the crew, each with what it rests on. */
@Component({
  selector: 'ns-figures-page',
  imports: [CrewWork, MatProgressBarModule, ProblemNote, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './figures-page.html',
  styleUrl: './figures-page.scss',
})
export class FiguresPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  protected readonly isLead = this.store.selectSignal(sessionFeature.selectIsLead);
  protected readonly figures = signal<JobFigures | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('chart');
  private chart: Chart | null = null;

  /** Kinds of fault over both, the crew's most frequent first. */
  protected readonly kinds = computed(() => {
    const figures = this.figures();
    if (!figures) return [];
    return figures.crew.byKind.map(({ kind, count }) => ({
      name: FAULT_KINDS[kind as FaultKind] ?? kind,
      crew: count,
      job: figures.job.byKind.find((one) => one.kind === kind)?.count ?? 0,
    }));
  });

  constructor() {
    const header = inject(Header);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => {
        this.store.dispatch(JobEvents.jobOpened({ jobId }));
        firstValueFrom(this.api.call('jobFigures', { params: { jobId } })).then(
          (figures) => this.figures.set(figures),
          (error: unknown) => this.problem.set(problemOf(error)),
        );
      });
    });
    effect(() => {
      const job = this.job();
      if (job) header.show([{ name: job.title, link: ['/jobs', job.id] }, { name: 'Figures' }]);
    });
    effect(() => this.draw(this.canvas()?.nativeElement, this.kinds()));
    const unthemed = onThemeChange(() => this.draw(this.canvas()?.nativeElement, this.kinds()));
    inject(DestroyRef).onDestroy(() => {
      unthemed();
      this.chart?.destroy();
    });
  }

  protected percent(share: number): string {
    return `${Math.round(share * 100)} %`;
  }

  protected span(share: Share): string {
    return `${this.percent(share.low)} to ${this.percent(share.high)}`;
  }

  private draw(
    canvas: HTMLCanvasElement | undefined,
    kinds: { name: string; crew: number; job: number }[],
  ): void {
    this.chart?.destroy();
    this.chart = null;
    if (!canvas || kinds.length === 0) return;
    const style = getComputedStyle(canvas);
    const [ink, accent, rule] = ['--ink', '--accent', '--ink-2'].map((name) => resolved(canvas, style, name));
    this.chart = new Chart(canvas, {
      type: 'bar',
      data: {
        labels: kinds.map((kind) => kind.name),
        datasets: [
          { label: 'this job', data: kinds.map((kind) => kind.job), backgroundColor: accent },
          { label: 'crew, all jobs', data: kinds.map((kind) => kind.crew), backgroundColor: rule },
        ],
      },
      options: {
        indexAxis: 'y',
        animation: false,
        maintainAspectRatio: false,
        scales: {
          x: { ticks: { color: ink, precision: 0 }, beginAtZero: true },
          y: { ticks: { color: ink, font: { size: 14 } } },
        },
      },
    });
  }
}

/** A colour of the theme as the canvas understands it: light and dark already decided. */
function resolved(host: HTMLElement, style: CSSStyleDeclaration, name: string): string {
  const probe = document.createElement('span');
  probe.style.color = style.getPropertyValue(name);
  host.parentElement?.append(probe);
  const { color } = getComputedStyle(probe);
  probe.remove();
  return color;
}
