import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { ReactiveFormsModule, type FormControl, type FormGroup } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { WEEKDAYS } from './days-draft';

export type HoursGroup = FormGroup<{
  days: FormControl<number[]>;
  from: FormControl<string>;
  to: FormControl<string>;
}>;

/** On which days of the week, and from when to when. */
@Component({
  selector: 'ns-hours-fields',
  imports: [ReactiveFormsModule, MatFormFieldModule, MatInputModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="fields" [formGroup]="hours()">
      <mat-form-field class="wide" subscriptSizing="dynamic">
        <mat-label>Days of the week</mat-label>
        <mat-select formControlName="days" multiple>
          @for (day of weekdays; track day; let n = $index) {
            <mat-option [value]="n + 1">{{ day }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>From</mat-label>
        <input matInput type="time" formControlName="from" />
      </mat-form-field>
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>To</mat-label>
        <input matInput type="time" formControlName="to" />
      </mat-form-field>
    </div>
  `,
  styles: `
    .fields {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 12px;
    }
    .wide {
      grid-column: 1 / -1;
    }
  `,
})
export class HoursFields {
  readonly hours = input.required<HoursGroup>();
  protected readonly weekdays = WEEKDAYS;
}
