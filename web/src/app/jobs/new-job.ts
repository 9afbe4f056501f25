import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { explainScheme } from '@near-spoke/core';
import { ProblemNote } from '../drawing/problem-note';
import { JobEvents, jobsFeature } from './jobs.state';

/** Starts a job. */
@Component({
  selector: 'ns-new-job',
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
    <h2 mat-dialog-title>Start a job</h2>
    <form [formGroup]="form" (ngSubmit)="save()">
      <mat-dialog-content>
        @if (problem(); as problem) {
          <ns-problem-note [problem]="problem" />
        }
        <mat-form-field>
          <mat-label>Site</mat-label>
          <input matInput formControlName="site" maxlength="120" cdkFocusInitial />
        </mat-form-field>
        <mat-form-field>
          <mat-label>What is done there</mat-label>
          <input matInput formControlName="title" maxlength="120" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Hub, as its door says</mat-label>
          <input matInput formControlName="hub" maxlength="40" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Scheme, at every end</mat-label>
          <mat-select formControlName="scheme">
            <mat-option value="T568B">T568B</mat-option>
            <mat-option value="T568A">T568A</mat-option>
          </mat-select>
        </mat-form-field>
        <p class="small quiet">{{ explain() }}</p>
        <mat-form-field>
          <mat-label>Units</mat-label>
          <mat-select formControlName="units">
            <mat-option value="metric">metres</mat-option>
            <mat-option value="imperial">feet</mat-option>
          </mat-select>
        </mat-form-field>
      </mat-dialog-content>
      <mat-dialog-actions>
        <button matButton type="button" mat-dialog-close>Leave it</button>
        <button matButton="filled" [disabled]="form.invalid || busy()">Start the job</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: 'mat-dialog-content { display: grid; gap: 12px; padding-top: 8px !important }',
})
export class NewJob {
  private readonly store = inject(Store);
  private readonly id = crypto.randomUUID();
  protected readonly form = inject(NonNullableFormBuilder).group({
    site: ['', Validators.required],
    title: ['', Validators.required],
    hub: ['', Validators.required],
    scheme: ['T568B' as 'T568A' | 'T568B'],
    units: ['metric' as 'metric' | 'imperial'],
  });
  protected readonly problem = this.store.selectSignal(jobsFeature.selectProblem);
  protected readonly busy = this.store.selectSignal(jobsFeature.selectBusy);

  constructor() {
    const dialog = inject(MatDialogRef);
    inject(Actions)
      .pipe(ofType(JobEvents.jobAdded), takeUntilDestroyed())
      .subscribe(() => dialog.close());
  }

  protected explain(): string {
    return explainScheme(this.form.getRawValue().scheme);
  }

  protected save(): void {
    if (this.form.valid)
      this.store.dispatch(JobEvents.jobDrafted({ job: { id: this.id, ...this.form.getRawValue() } }));
  }
}
