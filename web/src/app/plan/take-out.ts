import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { Link } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { JobEvents } from '../jobs/jobs.state';
import { Asking } from '../ui/asking';

/** Takes links out of their job: nothing of them is lost, and they can come back. */
@Component({
  selector: 'ns-take-out',
  imports: [FormsModule, MatButtonModule, MatFormFieldModule, MatInputModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asking.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    <div class="row">
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Why {{ links().length === 1 ? 'it is' : 'they are' }} not wanted</mat-label>
        <input matInput maxlength="200" [(ngModel)]="reason" />
      </mat-form-field>
      <button matButton="outlined" [disabled]="asking.busy()" (click)="takeOut()">
        Take {{ links().length === 1 ? 'it' : 'them' }} out of the job
      </button>
    </div>
    <p class="small quiet">
      What was recorded stays, label and port are free, and {{ links().length === 1 ? 'it' : 'they' }} can be
      brought back.
    </p>
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: center;
    }
    mat-form-field {
      flex: 1 1 220px;
    }
    button {
      min-height: 44px;
    }
  `,
})
export class TakeOut {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  readonly links = input.required<readonly Link[]>();
  readonly gone = output();
  protected readonly asking = new Asking();
  protected reason = '';

  protected takeOut(): void {
    const links = this.links();
    const jobId = links[0]?.jobId;
    if (jobId === undefined) return;
    const body = { links: links.map(({ id, version }) => ({ id, version })), reason: this.reason.trim() };
    this.asking.ask(this.api.call('takeLinksOut', { params: { jobId }, body }), () => {
      this.store.dispatch(JobEvents.linksGone({ ids: links.map(({ id }) => id) }));
      this.gone.emit();
    });
  }
}
