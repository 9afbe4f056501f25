import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { HandoversGiven, Link } from '@near-spoke/contracts';
import { LINK_STAGES } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { concatMap, from, scan, takeLast } from 'rxjs';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { StageGlyph } from '../drawing/stage-glyph';
import { JobEvents } from '../jobs/jobs.state';
import { Keys } from '../keys/keys';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';

/** So many are handed over by one request: a few seconds of judging. */
const AT_ONCE = 100;

const words = ({ label, near, far }: Link): string =>
  [label, near.panel, near.port, far.room, far.outlet].join(' ').toLowerCase();

/** What is proved and may go, chosen by a filter or one by one; what may not, and why. */
@Component({
  selector: 'ns-ready-links',
  imports: [
    RouterLink,
    MatButtonModule,
    MatChipsModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    ProblemNote,
    StageGlyph,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ready-links.html',
  styleUrl: './ready-links.scss',
})
export class ReadyLinks {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  readonly jobId = input.required<string>();
  readonly links = input.required<readonly Link[]>();

  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly asking = new Asking();
  protected readonly filter = signal('');
  /** Those that a person took out of the choice. */
  private readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly result = signal<HandoversGiven | null>(null);

  private readonly proved = computed(() => this.links().filter(({ stage }) => stage === 'proved'));
  protected readonly shown = computed(() => {
    const wanted = this.filter().trim().toLowerCase().split(/\s+/).filter(Boolean);
    return this.proved().filter((link) => wanted.every((word) => words(link).includes(word)));
  });
  protected readonly chosen = computed(() => this.shown().filter(({ id }) => !this.left().has(id)));
  protected readonly hidden = computed(() => this.proved().length - this.shown().length);
  protected readonly waiting = computed(() =>
    LINK_STAGES.filter(({ id }) => id !== 'proved' && id !== 'handed-over')
      .map((stage) => ({ ...stage, links: this.links().filter((link) => link.stage === stage.id) }))
      .filter(({ links }) => links.length > 0),
  );
  protected readonly given = computed(() => this.links().filter(({ stage }) => stage === 'handed-over'));
  /** What each link is handed over by: a repeat is the same record. */
  private readonly ids = new Map<string, string>();

  constructor() {
    inject(Keys).use(
      [
        {
          key: 'Enter',
          words: 'hand over what is chosen',
          run: () => this.give(),
          when: () => this.chosen().length > 0 && this.mayWork(),
        },
      ],
      inject(DestroyRef),
    );
  }

  protected isChosen(link: Link): boolean {
    return !this.left().has(link.id);
  }

  protected choose(link: Link, chosen: boolean): void {
    this.left.update((left) => {
      const next = new Set(left);
      if (chosen) next.delete(link.id);
      else next.add(link.id);
      return next;
    });
  }

  protected give(): void {
    const handovers = this.chosen().map(({ id: linkId }) => ({ id: this.idFor(linkId), linkId }));
    if (handovers.length === 0) return;
    const jobId = this.jobId();
    const parts = Array.from({ length: Math.ceil(handovers.length / AT_ONCE) }, (_, at) =>
      handovers.slice(at * AT_ONCE, (at + 1) * AT_ONCE),
    );
    const all = from(parts).pipe(
      concatMap((some) => this.api.call('handOverMany', { params: { jobId }, body: { handovers: some } })),
      scan(
        (sum, { given, refused, links }): HandoversGiven => ({
          given: [...sum.given, ...given],
          refused: [...sum.refused, ...refused],
          links: [...sum.links, ...links],
        }),
        { given: [], refused: [], links: [] } as HandoversGiven,
      ),
      takeLast(1),
    );
    this.asking.ask(all, (result) => {
      this.result.set(result);
      this.store.dispatch(JobEvents.linksAdded({ jobId, links: result.links }));
    });
  }

  private idFor(linkId: string): string {
    const known = this.ids.get(linkId) ?? crypto.randomUUID();
    this.ids.set(linkId, known);
    return known;
  }
}
