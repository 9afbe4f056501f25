import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Link } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { LinkEvents } from './link.state';

/** Says of a link that it is no part of its job any more, and brings it back. */
@Component({
  selector: 'ns-out-note',
  imports: [DatePipe, MatButtonModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asking.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    @if (link().out; as out) {
      <section class="sheet" role="note">
        <p>
          <strong>{{ link().label }} was taken out of the job</strong> by {{ out.by }} on
          {{ out.at | date: 'd MMM y' }}{{ out.reason ? ': ' + out.reason : '' }}. What was recorded stays;
          nothing is added.
        </p>
        @if (mayWork()) {
          <button matButton="outlined" [disabled]="asking.busy()" (click)="bringBack()">Bring it back</button>
        }
      </section>
    } @else if (closed()) {
      <section class="sheet" role="note">
        <p>
          <strong>The job is closed.</strong> What was recorded is read; a lead reopens the job to add to it.
        </p>
      </section>
    }
  `,
  styles: `
    section {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 16px;
      align-items: center;
      justify-content: space-between;
      padding: 10px 16px;
    }
    button {
      min-height: 44px;
    }
  `,
})
export class OutNote {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  readonly link = input.required<Link>();
  readonly closedAt = input<string | undefined>();
  protected readonly closed = computed(() => this.closedAt() !== undefined);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly asking = new Asking();

  protected bringBack(): void {
    const { id, jobId, version } = this.link();
    const body = { links: [{ id, version }] };
    this.asking.ask(this.api.call('bringLinksBack', { params: { jobId }, body }), () =>
      this.store.dispatch(LinkEvents.linkOpened({ linkId: id })),
    );
  }
}
