import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Job, JobChange } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Asking } from '../ui/asking';
import { JobEvents } from './jobs.state';

/** Changes what a job is called and how it is measured, closes or reopens it, and lends its plan to another. */
@Component({
  selector: 'ns-edit-job',
  imports: [
    ReactiveFormsModule,
    MatDialogModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ProblemNote,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ copying() ? 'A job with the same plan' : job.title }}</h2>
    <form [formGroup]="form" (ngSubmit)="save()">
      <mat-dialog-content>
        @if (asking.problem(); as problem) {
          <ns-problem-note [problem]="problem" />
        }
        @if (job.closedAt && !copying()) {
          <p>This job is closed: it is read, and nothing of it is changed until it is reopened.</p>
        } @else {
          <mat-form-field>
            <mat-label>Site</mat-label>
            <input matInput formControlName="site" maxlength="120" />
          </mat-form-field>
          <mat-form-field>
            <mat-label>What is done there</mat-label>
            <input matInput formControlName="title" maxlength="120" cdkFocusInitial />
          </mat-form-field>
          <mat-form-field>
            <mat-label>Hub, as its door says</mat-label>
            <input matInput formControlName="hub" maxlength="40" />
          </mat-form-field>
          @if (copying()) {
            <p class="small quiet">
              {{ job.scheme }}, its labels, ways, cables and ends as they are planned; nothing of what was
              done.
            </p>
          } @else {
            <mat-form-field>
              <mat-label>Units</mat-label>
              <mat-select formControlName="units">
                <mat-option value="metric">metres</mat-option>
                <mat-option value="imperial">feet</mat-option>
              </mat-select>
            </mat-form-field>
            <mat-form-field>
              <mat-label>Scheme, at every end</mat-label>
              <mat-select formControlName="scheme">
                <mat-option value="T568B">T568B</mat-option>
                <mat-option value="T568A">T568A</mat-option>
              </mat-select>
            </mat-form-field>
            @if (form.getRawValue().scheme !== job.scheme) {
              <p class="small wrong" role="alert">
                Every end that was made to {{ job.scheme }} is another scheme’s then, and every reading is
                judged again.
              </p>
            }
          }
        }
      </mat-dialog-content>
      <mat-dialog-actions>
        @if (!copying()) {
          <button
            matButton
            type="button"
            class="left"
            [disabled]="asking.busy()"
            (click)="close(!job.closedAt)"
          >
            {{ job.closedAt ? 'Reopen the job' : 'Close the job' }}
          </button>
          <button matButton type="button" (click)="copy()">Use its plan again</button>
        }
        <button matButton type="button" mat-dialog-close>Leave it</button>
        @if (copying()) {
          <button matButton="filled" [disabled]="form.invalid || asking.busy()">Start the job</button>
        } @else if (!job.closedAt) {
          <button matButton="filled" [disabled]="form.invalid || asking.busy()">Keep</button>
        }
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: 12px;
      padding-top: 8px !important;
    }
    .wrong {
      color: var(--wrong);
      font-weight: 600;
    }
    mat-dialog-actions {
      flex-wrap: wrap;
    }
    .left {
      margin-right: auto;
    }
  `,
})
export class EditJob {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly dialog = inject<MatDialogRef<EditJob>>(MatDialogRef);
  protected readonly job = inject<Job>(MAT_DIALOG_DATA);
  protected readonly asking = new Asking();
  protected readonly copying = signal(false);
  /** Kept for a retry, so that nothing is started twice. */
  private readonly copyId = crypto.randomUUID();
  protected readonly form = inject(NonNullableFormBuilder).group({
    site: [this.job.site, Validators.required],
    title: [this.job.title, Validators.required],
    hub: [this.job.hub, Validators.required],
    scheme: [this.job.scheme],
    units: [this.job.units],
  });

  protected copy(): void {
    this.copying.set(true);
    this.form.controls.title.setValue(`${this.job.title}, again`.slice(0, 120));
  }

  protected close(closed: boolean): void {
    this.change({ version: this.job.version, closed });
  }

  protected save(): void {
    if (this.form.invalid) return;
    const { site, title, hub, ...more } = this.form.getRawValue();
    if (!this.copying()) {
      this.change({ version: this.job.version, site, title, hub, ...more });
      return;
    }
    const body = { id: this.copyId, site, title, hub };
    this.asking.ask(this.api.call('copyJob', { params: { jobId: this.job.id }, body }), (job) => {
      this.store.dispatch(JobEvents.jobAdded({ job }));
      this.dialog.close();
    });
  }

  private change(body: JobChange): void {
    this.asking.ask(this.api.call('changeJob', { params: { jobId: this.job.id }, body }), (job) => {
      this.store.dispatch(JobEvents.jobChanged({ job }));
      this.dialog.close();
    });
  }
}
