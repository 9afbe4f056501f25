import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { clockWords, isDay } from '@near-spoke/core';
import { minuteOf, WEEKDAYS, type WindowSaid } from './days-draft';

export interface WindowAsked {
  window: WindowSaid;
  isNew: boolean;
  places: readonly string[];
}

/** When a room or a closet can be worked in. Closes with the window, or null to take it away. */
@Component({
  selector: 'ns-window-form',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>When a place is open</h2>
    <form [formGroup]="form" (ngSubmit)="keep()">
      <mat-dialog-content>
        <mat-form-field class="wide" subscriptSizing="dynamic">
          <mat-label>Place</mat-label>
          <mat-select formControlName="place">
            @for (place of data.places; track place) {
              <mat-option [value]="place">{{ place }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
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
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>Not before</mat-label>
          <input matInput type="date" formControlName="notBefore" />
        </mat-form-field>
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>Last day</mat-label>
          <input matInput type="date" formControlName="notAfter" />
        </mat-form-field>
        <p class="small wide trouble" role="status">{{ trouble() }}</p>
      </mat-dialog-content>
      <mat-dialog-actions>
        @if (!data.isNew) {
          <button matButton type="button" (click)="takeAway()">It is always open</button>
        }
        <button matButton type="button" mat-dialog-close>Leave it</button>
        <button matButton="filled" [disabled]="trouble() !== ''">Keep</button>
      </mat-dialog-actions>
    </form>
  `,
  styleUrl: './hours-form.scss',
})
export class WindowForm {
  protected readonly data = inject<WindowAsked>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<WindowForm, WindowSaid | null>>(MatDialogRef);
  protected readonly weekdays = WEEKDAYS;
  protected readonly form = inject(NonNullableFormBuilder).group({
    place: [this.data.window.place, Validators.required],
    days: [[...this.data.window.days], Validators.required],
    from: [clockWords(this.data.window.from), Validators.required],
    to: [clockWords(this.data.window.to), Validators.required],
    notBefore: [this.data.window.notBefore ?? ''],
    notAfter: [this.data.window.notAfter ?? ''],
  });

  protected trouble(): string {
    const { place, days, from, to, notBefore, notAfter } = this.form.getRawValue();
    if (place === '') return 'Which place is it?';
    if (days.length === 0) return 'Choose the days of the week.';
    const [opens, shuts] = [minuteOf(from), minuteOf(to)];
    if (opens === null || shuts === null || opens >= shuts) return 'It shuts after it opens.';
    if ([notBefore, notAfter].some((day) => day !== '' && !isDay(day))) return 'That is no day.';
    return notBefore !== '' && notAfter !== '' && notAfter < notBefore ? 'Its last day comes first.' : '';
  }

  protected keep(): void {
    if (this.trouble() !== '') return;
    const { place, days, from, to, notBefore, notAfter } = this.form.getRawValue();
    this.dialog.close({
      place,
      days,
      from: minuteOf(from) ?? 0,
      to: minuteOf(to) ?? 0,
      notBefore: notBefore === '' ? null : notBefore,
      notAfter: notAfter === '' ? null : notAfter,
    });
  }

  protected takeAway(): void {
    this.dialog.close(null);
  }
}
