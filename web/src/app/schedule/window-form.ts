import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { isDay } from '@near-spoke/core';
import { hoursGroup, hoursIn, troubleOf, type WindowSaid } from './days-draft';
import { HoursFields } from './hours-fields';

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
    HoursFields,
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
        <ns-hours-fields class="wide" [hours]="form.controls.hours" />
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
  protected readonly form = inject(NonNullableFormBuilder).group({
    place: [this.data.window.place, Validators.required],
    hours: hoursGroup(this.data.window),
    notBefore: [this.data.window.notBefore ?? ''],
    notAfter: [this.data.window.notAfter ?? ''],
  });

  protected trouble(): string {
    const { place, hours, notBefore, notAfter } = this.form.getRawValue();
    if (place === '') return 'Which place is it?';
    const hoursTrouble = troubleOf(hours);
    if (hoursTrouble !== '') return hoursTrouble;
    if ([notBefore, notAfter].some((day) => day !== '' && !isDay(day))) return 'That is no day.';
    return notBefore !== '' && notAfter !== '' && notAfter < notBefore ? 'Its last day comes first.' : '';
  }

  protected keep(): void {
    if (this.trouble() !== '') return;
    const { place, hours, notBefore, notAfter } = this.form.getRawValue();
    this.dialog.close({
      place,
      ...hoursIn(hours),
      notBefore: notBefore === '' ? null : notBefore,
      notAfter: notAfter === '' ? null : notAfter,
    });
  }

  protected takeAway(): void {
    this.dialog.close(null);
  }
}
