import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { NavigationEnd, Router, RouterOutlet } from '@angular/router';
import { endDone } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { filter, map, startWith } from 'rxjs';
import { LinkStrip } from '../drawing/link-strip';
import { ProblemNote } from '../drawing/problem-note';
import { LinkWaits } from '../field/link-waits';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Locating } from '../locate/locating';
import { LinkFacts } from './link-facts';
import { LinkEvents, linkFeature } from './link.state';
import { OutNote } from './out-note';

const ROOMS = ['plan', 'terminate', 'verify', 'locate', 'hand-over'] as const;
const ROOM_NAMES: Record<(typeof ROOMS)[number], string> = {
  plan: 'Plan',
  terminate: 'Terminate',
  verify: 'Verify',
  locate: 'Locate',
  'hand-over': 'Hand over',
};

/** One link: its strip above, the room of the stage one is in below. */
@Component({
  selector: 'ns-link-page',
  imports: [RouterOutlet, MatProgressBarModule, LinkStrip, LinkWaits, OutNote, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (busy() || (!detail() && !problem())) {
      <mat-progress-bar mode="indeterminate" aria-label="Working" />
    }
    <main [class.card-room]="room() === 'terminate'">
      <h1 class="visually-hidden">{{ detail()?.link?.label }}, {{ roomName() }}</h1>
      @if (problem(); as problem) {
        @if (problem.status !== 409 || room() !== 'plan') {
          <ns-problem-note [problem]="problem" />
        }
      }
      @if (detail(); as detail) {
        <ns-out-note [link]="detail.link" [closedAt]="closedAt()" />
        <ns-link-waits [linkId]="detail.link.id" />
        @if (facts.picture(); as picture) {
          @if (room() !== 'terminate') {
            <section class="sheet strip" aria-label="The link">
              <ns-link-strip
                [detail]="detail"
                [picture]="picture"
                [cableName]="facts.cable()?.name ?? ''"
                [nearName]="facts.near()?.name ?? ''"
                [farName]="facts.far()?.name ?? ''"
                [compact]="room() === 'plan' || room() === 'locate' || room() === 'hand-over'"
                [located]="room() === 'locate' ? locating.onStrip() : null"
              />
            </section>
          }
          <router-outlet />
        }
      }
    </main>
  `,
  styles: `
    main {
      display: grid;
      gap: 14px;
      padding: 16px 24px;
      align-content: start;
      min-height: calc(100vh - 64px);
    }
    @media print {
      .strip,
      h1 {
        display: none;
      }
    }
    main.card-room {
      align-content: stretch;
    }
    router-outlet,
    ns-link-waits:not(:has(p)),
    ns-out-note:empty {
      display: none;
    }
    .strip {
      padding: 8px 10px;
      min-width: 0;
    }
    @media (max-width: 1080px) {
      main {
        padding: 12px;
        min-height: 0;
      }
      .strip {
        overflow-x: auto;
      }
      ns-link-strip {
        min-width: 720px;
      }
    }
  `,
})
export class LinkPage {
  private readonly store = inject(Store);
  readonly jobId = input.required<string>();
  readonly linkId = input.required<string>();
  protected readonly facts = inject(LinkFacts);
  protected readonly locating = inject(Locating);
  protected readonly detail = this.facts.detail;
  protected readonly busy = this.store.selectSignal(linkFeature.selectBusy);
  protected readonly problem = this.store.selectSignal(linkFeature.selectProblem);
  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  protected readonly closedAt = computed(() => this.jobs()[this.jobId()]?.closedAt);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);

  private readonly router = inject(Router);
  protected readonly room = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      startWith(null),
      map(() => ROOMS.find((room) => this.router.url.split('?')[0]?.endsWith(`/${room}`)) ?? 'verify'),
    ),
    { requireSync: true },
  );
  protected readonly roomName = computed(() => ROOM_NAMES[this.room()]);

  constructor() {
    const header = inject(Header);
    effect(() => {
      const linkId = this.linkId();
      untracked(() => {
        this.store.dispatch(LinkEvents.linkOpened({ linkId }));
        this.store.dispatch(JobEvents.kitNeeded());
      });
    });
    effect(() => {
      const jobId = this.jobId();
      // A link opened by its address: the job's list is needed for what comes next.
      untracked(() => {
        if (this.linksOf() !== jobId) this.store.dispatch(JobEvents.jobOpened({ jobId }));
      });
    });
    effect(() => {
      const detail = this.detail();
      const job = this.jobs()[this.jobId()];
      if (!detail || !job) return;
      const { link } = detail;
      const here = this.room();
      const reached = {
        plan: true,
        terminate: endDone(detail, 'near') || endDone(detail, 'far'),
        verify: detail.tests.length > 0,
        locate: this.locating.traces().length > 0,
        'hand-over': link.stage === 'handed-over',
      };
      header.show(
        [
          { name: job.title, link: ['/jobs', job.id] },
          { name: job.hub, link: ['/jobs', job.id] },
          { name: link.label },
        ],
        ROOMS.map((room) => ({
          name: ROOM_NAMES[room],
          link: ['/jobs', job.id, 'links', link.id, room],
          reached: reached[room],
          here: room === here,
        })),
      );
    });
  }
}
