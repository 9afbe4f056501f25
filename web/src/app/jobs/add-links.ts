import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Job, Link } from '@near-spoke/contracts';
import { cableLengthToM, cableLengthUnit, endsALink, runsALink } from '@near-spoke/core';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { ProblemNote } from '../drawing/problem-note';
import { JobEvents, jobsFeature } from './jobs.state';
import { labelSeries } from './label-series';

/** Plans one link or a row of like ones. */
@Component({
  selector: 'ns-add-links',
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
    <h2 mat-dialog-title>Add links</h2>
    <form [formGroup]="form" (ngSubmit)="save()">
      <mat-dialog-content>
        @if (problem(); as problem) {
          <ns-problem-note [problem]="problem" />
        }
        <mat-form-field>
          <mat-label>First label</mat-label>
          <input matInput formControlName="label" maxlength="24" cdkFocusInitial />
        </mat-form-field>
        <mat-form-field>
          <mat-label>How many</mat-label>
          <input matInput type="number" formControlName="count" min="1" max="200" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Panel</mat-label>
          <input matInput formControlName="panel" maxlength="40" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>First port</mat-label>
          <input matInput formControlName="port" maxlength="16" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Far room</mat-label>
          <input matInput formControlName="room" maxlength="80" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>First outlet</mat-label>
          <input matInput formControlName="outlet" maxlength="80" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Cable</mat-label>
          <mat-select formControlName="cableTypeId">
            @for (cable of cables(); track cable.id) {
              <mat-option [value]="cable.id">{{ cable.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field>
          <mat-label>Length, {{ unit }}</mat-label>
          <input matInput type="number" formControlName="length" min="0.1" step="0.1" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Near connector</mat-label>
          <mat-select formControlName="nearConnectorId">
            @for (connector of connectors(); track connector.id) {
              <mat-option [value]="connector.id">{{ connector.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field>
          <mat-label>Far connector</mat-label>
          <mat-select formControlName="farConnectorId">
            @for (connector of connectors(); track connector.id) {
              <mat-option [value]="connector.id">{{ connector.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <p class="small quiet" role="status">{{ preview() }}</p>
      </mat-dialog-content>
      <mat-dialog-actions>
        <button matButton type="button" mat-dialog-close>Leave it</button>
        <button matButton="filled" [disabled]="form.invalid || busy()">Add</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px;
      padding-top: 8px !important;
    }
    p,
    ns-problem-note {
      grid-column: 1 / -1;
    }
    @media (max-width: 520px) {
      mat-dialog-content {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class AddLinks {
  private readonly store = inject(Store);
  private readonly data = inject<{ job: Job; links: readonly Link[] }>(MAT_DIALOG_DATA);
  protected readonly unit = cableLengthUnit(this.data.job.units);
  protected readonly form = inject(NonNullableFormBuilder).group({
    label: ['', Validators.required],
    count: [1, [Validators.required, Validators.min(1), Validators.max(200)]],
    panel: [this.data.links.at(-1)?.near.panel ?? 'P1', Validators.required],
    port: ['', Validators.required],
    room: ['', Validators.required],
    outlet: ['', Validators.required],
    cableTypeId: [this.data.links.at(-1)?.cableTypeId ?? 'cat6-u', Validators.required],
    length: [null as number | null, [Validators.required, Validators.min(0.1), Validators.max(30_000)]],
    nearConnectorId: ['jack-punched', Validators.required],
    farConnectorId: ['jack-toolless', Validators.required],
  });
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly cables = computed(() => this.kit()?.cables.filter(runsALink) ?? []);
  protected readonly connectors = computed(() => this.kit()?.connectors.filter(endsALink) ?? []);
  protected readonly problem = this.store.selectSignal(jobsFeature.selectProblem);
  protected readonly busy = this.store.selectSignal(jobsFeature.selectBusy);
  private readonly value = toSignal(this.form.valueChanges);
  /** Kept for a retry, so that nothing is added twice. */
  private readonly ids = signal(Array.from({ length: 200 }, () => crypto.randomUUID()));
  protected readonly preview = computed(() => {
    const { label = '', count = 1 } = this.value() ?? {};
    if (!label || count < 1 || count > 200) return '';
    const labels = labelSeries(label, count);
    return count === 1 ? `Adds ${labels[0]}.` : `Adds ${labels[0]} to ${labels.at(-1)}.`;
  });

  constructor() {
    const dialog = inject(MatDialogRef);
    inject(Actions)
      .pipe(ofType(JobEvents.linksAdded), takeUntilDestroyed())
      .subscribe(() => dialog.close());
  }

  protected save(): void {
    if (this.form.invalid) return;
    const { label, count, port, outlet, length, ...same } = this.form.getRawValue();
    const [labels, ports, outlets] = [
      labelSeries(label, count),
      labelSeries(port, count),
      labelSeries(outlet, count),
    ];
    const lengthM = cableLengthToM(length ?? 0, this.data.job.units);
    const links = labels.map((each, i) => ({
      id: this.ids()[i] as string,
      label: each,
      port: ports[i] as string,
      outlet: outlets[i] as string,
      lengthM,
      route: [],
      ...same,
    }));
    this.store.dispatch(JobEvents.linksDrafted({ jobId: this.data.job.id, links }));
  }
}
