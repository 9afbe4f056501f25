import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { clockWords, isDay, SKILLS } from '@near-spoke/core';
import { NumberField } from '../ui/number-field';
import { ALL_SKILLS, hoursGroup, hoursIn, minuteOf, troubleOf, type PersonSaid } from './days-draft';
import { HoursFields } from './hours-fields';

export interface PersonAsked {
  person: PersonSaid;
  isNew: boolean;
  /** Of the crew who are not on the job yet. */
  crew: readonly string[];
  /** Names that are on it already. */
  taken: readonly string[];
}

/** Somebody who works on a job: which days, from when to when, and what they can do. Closes with the person, or null to take them off it. */
@Component({
  selector: 'ns-person-form',
  imports: [
    ReactiveFormsModule,
    MatAutocompleteModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    HoursFields,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './person-form.html',
  styleUrl: './hours-form.scss',
})
export class PersonForm {
  protected readonly data = inject<PersonAsked>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<PersonForm, PersonSaid | null>>(MatDialogRef);
  protected readonly skills = ALL_SKILLS.map((id) => ({ id, name: SKILLS[id] }));
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: [this.data.person.name, [Validators.required, Validators.maxLength(80)]],
    hours: hoursGroup(this.data.person),
    pauseFrom: [this.data.person.pause ? clockWords(this.data.person.pause.from) : ''],
    pauseMinutes: [this.data.person.pause?.minutes ?? (null as number | null)],
    off: [this.data.person.off.join(', ')],
    skills: [[...this.data.person.skills], Validators.required],
  });

  /** What stands in its way, empty where nothing does. */
  protected trouble(): string {
    const { name, hours, skills } = this.form.getRawValue();
    if (name.trim() === '') return 'Who is it?';
    if (this.data.taken.includes(name.trim())) return `${name.trim()} is on the job already.`;
    const hoursTrouble = troubleOf(hours);
    if (hoursTrouble !== '') return hoursTrouble;
    if (skills.length === 0) return 'Choose what they can do.';
    const wrong = this.daysOff().find((day) => !isDay(day));
    return wrong === undefined ? '' : `${wrong} is no day: write it as 2026-12-24.`;
  }

  private daysOff(): string[] {
    return this.form
      .getRawValue()
      .off.split(/[\s,;]+/)
      .filter((day) => day !== '');
  }

  protected keep(): void {
    if (this.trouble() !== '') return;
    const { name, hours, pauseFrom, pauseMinutes, skills } = this.form.getRawValue();
    const pause = minuteOf(pauseFrom);
    this.dialog.close({
      name: name.trim(),
      ...hoursIn(hours),
      pause: pause !== null && pauseMinutes ? { from: pause, minutes: Math.round(pauseMinutes) } : null,
      off: this.daysOff(),
      skills,
    });
  }

  protected takeOff(): void {
    this.dialog.close(null);
  }
}
