import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import type { JobLead } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';

/** Adapters that go with a job: their pinouts and proofs stand in its report. */
@Component({
  selector: 'ns-job-leads',
  imports: [RouterLink, MatButtonModule, MatFormFieldModule, MatSelectModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asking.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    <ul>
      @for (lead of leads(); track lead.adapterId) {
        <li>
          <span
            ><a [routerLink]="['/bench/adapters', lead.adapterId]">{{ lead.name }}</a
            >&ngsp; <span class="small quiet">version {{ lead.version }}, {{ proofOf(lead) }}</span></span
          >
          @if (mayWork()) {
            <button
              matButton
              [disabled]="asking.busy()"
              [attr.aria-label]="lead.name + ' does not go with it'"
              (click)="remove(lead)"
            >
              Leave it here
            </button>
          }
        </li>
      } @empty {
        <li class="quiet">No adapter goes with this job yet.</li>
      }
    </ul>
    @if (mayWork() && others().length > 0) {
      <div class="add">
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>Adapter</mat-label>
          <mat-select [value]="chosen()" (valueChange)="chosen.set($event)">
            @for (one of others(); track one.id) {
              <mat-option [value]="one.id">{{ one.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <button matButton="outlined" [disabled]="!chosen() || asking.busy()" (click)="add()">
          It goes with the job
        </button>
      </div>
    }
  `,
  styleUrl: './side.scss',
  styles: `
    :host > ul > li,
    .add {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      justify-content: space-between;
      gap: 4px 12px;
    }
    mat-form-field {
      flex: 1;
    }
  `,
})
export class JobLeads {
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);
  protected readonly asking = new Asking();
  private readonly kept = rxResource({
    params: () => this.jobId(),
    stream: ({ params: jobId }) => this.api.call('listJobLeads', { params: { jobId } }),
  });
  private readonly all = rxResource({ stream: () => this.api.call('listAdapters', {}) });
  protected readonly leads = linkedSignal((): readonly JobLead[] =>
    this.kept.hasValue() ? this.kept.value() : [],
  );
  protected readonly others = computed(() => {
    const going = new Set(this.leads().map(({ adapterId }) => adapterId));
    return this.all.hasValue() ? this.all.value().filter(({ id }) => !going.has(id)) : [];
  });
  protected readonly chosen = linkedSignal<string | null>(() => this.others()[0]?.id ?? null);

  protected proofOf({ built, proved }: JobLead): string {
    if (built === 0) return 'none built yet';
    return proved === 0 ? `${built} built, none of this version proved` : `${proved} of ${built} proved`;
  }

  protected add(): void {
    const adapterId = this.chosen();
    if (adapterId === null) return;
    const params = { jobId: this.jobId() };
    this.asking.ask(this.api.call('addJobLead', { params, body: { adapterId } }), (leads) =>
      this.leads.set(leads),
    );
  }

  protected remove({ adapterId }: JobLead): void {
    this.asking.ask(this.api.call('removeJobLead', { params: { jobId: this.jobId(), adapterId } }), (leads) =>
      this.leads.set(leads),
    );
  }
}
