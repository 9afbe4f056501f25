import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import type { LinkDetail } from '@near-spoke/contracts';
import { cableLengthFromM, cableLengthToM, cableLengthUnit } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { LinkEvents, linkFeature } from '../link/link.state';

/** Records work on the cable itself: mended in place, or replaced and both ends open again. */
@Component({
  selector: 'ns-cable-work-form',
  imports: [ReactiveFormsModule, MatButtonModule, MatFormFieldModule, MatInputModule, MatRadioModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-labelledby="cable-title">
      <h2 id="cable-title">What was done to the cable?</h2>
      <form [formGroup]="form" (ngSubmit)="save()">
        <mat-radio-group formControlName="kind" aria-label="Kind of work">
          <mat-radio-button value="replaced">Replaced: both ends are open again</mat-radio-button>
          <mat-radio-button value="mended">Mended in place</mat-radio-button>
        </mat-radio-group>
        <p class="small quiet">
          A data link wants one unbroken length: replace it, or join it at an accessible consolidation point.
          Before opening a wall or ceiling: isolate what is live there; dust in old buildings may hold
          asbestos, then stop; make fire stopping good again. Local code comes first.
        </p>
        <div class="fields">
          <mat-form-field>
            <mat-label>Place from the near end, {{ unit() }} (if known)</mat-label>
            <input matInput type="number" formControlName="at" min="0" step="0.1" />
          </mat-form-field>
          <mat-form-field>
            <mat-label>Note</mat-label>
            <input matInput formControlName="note" maxlength="400" />
          </mat-form-field>
        </div>
        <div class="fields">
          <button matButton="filled" class="main-action" [disabled]="busy()">Record it</button>
          <button matButton class="main-action" type="button" (click)="left.emit()">Leave it</button>
        </div>
      </form>
    </section>
  `,
  styles: `
    section,
    form {
      display: grid;
      gap: 12px;
    }
    section {
      padding: 18px 22px;
      max-width: 860px;
    }
    mat-radio-group {
      display: grid;
    }
    .fields {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px;
    }
  `,
})
export class CableWorkForm {
  private readonly store = inject(Store);
  readonly detail = input.required<LinkDetail>();
  readonly left = output<void>();
  protected readonly busy = this.store.selectSignal(linkFeature.selectBusy);
  protected readonly unit = computed(() => cableLengthUnit(this.detail().units));
  protected readonly form = inject(NonNullableFormBuilder).group({
    kind: ['replaced' as 'mended' | 'replaced'],
    at: [null as number | null],
    note: [''],
  });
  private readonly id = crypto.randomUUID();

  constructor() {
    effect(() => {
      const { diagnosis, units } = this.detail();
      const located = diagnosis?.explanations[0]?.faults.find((fault) => fault.end === 'cable')?.distanceM;
      const { at } = this.form.controls;
      // What a person typed stands, whatever is read meanwhile.
      if (located != null && at.pristine) at.setValue(cableLengthFromM(located, units));
    });
  }

  protected save(): void {
    const { kind, at, note } = this.form.getRawValue();
    const atM = at === null ? null : cableLengthToM(at, this.detail().units);
    this.store.dispatch(
      LinkEvents.cableWorked({ linkId: this.detail().link.id, work: { id: this.id, kind, atM, note } }),
    );
  }
}
