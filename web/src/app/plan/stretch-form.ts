import { ChangeDetectionStrategy, Component, effect, inject, input, output, untracked } from '@angular/core';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import {
  cableLengthToM,
  ORDINARY,
  SPACES,
  type Space,
  type StretchUse,
  type UnitSystem,
} from '@near-spoke/core';
import { NumberField } from '../ui/number-field';

const SPACE_NAMES: Readonly<Record<Space, string>> = {
  indoor: 'a room or a tray',
  riser: 'a riser between floors',
  plenum: 'an air space (plenum)',
  outdoor: 'outdoors',
  underground: 'underground',
};
const MM_PER_INCH = 25.4;

/** What a stretch is like: how warm, through what, how far from mains. */
@Component({
  selector: 'ns-stretch-form',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatSelectModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="form" (ngSubmit)="save()" [attr.aria-label]="'Stretch ' + stretch().name">
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Goes through</mat-label>
        <mat-select formControlName="space">
          @for (space of spaces; track space) {
            <mat-option [value]="space">{{ names[space] }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <ns-number-field
        formControlName="temperature"
        label="Warmest air"
        [unit]="metric() ? '°C' : '°F'"
        [least]="metric() ? -50 : -58"
        [most]="metric() ? 90 : 194"
        [required]="true"
      />
      <ns-number-field
        formControlName="duct"
        label="Duct bore"
        [unit]="small()"
        [least]="metric() ? 5 : 0.2"
        [most]="metric() ? 1000 : 40"
      />
      <ns-number-field
        formControlName="mains"
        label="Mains are away"
        [unit]="small()"
        [least]="0"
        [most]="metric() ? 10000 : 400"
      />
      <ns-number-field
        formControlName="longer"
        label="Longer by"
        [unit]="metric() ? 'm' : 'ft'"
        [least]="-1000"
        [most]="1000"
      />
      <p class="small quiet">Longer, or with a minus shorter: every link in it follows.</p>
      <mat-checkbox formControlName="closed">Closed in, or under insulation: warmth stays</mat-checkbox>
      <div class="row">
        <button matButton="filled" [disabled]="form.invalid || busy()">Keep the stretch</button>
        <button matButton type="button" (click)="left.emit()">Leave it</button>
      </div>
    </form>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 10px;
      padding: 10px 0;
    }
    mat-form-field:first-child,
    mat-checkbox,
    p,
    .row {
      grid-column: 1 / -1;
    }
    .row {
      display: flex;
      gap: 8px;
    }
  `,
})
export class StretchForm {
  readonly stretch = input.required<StretchUse>();
  readonly units = input.required<UnitSystem>();
  readonly busy = input(false);
  readonly kept = output<{ stretch: StretchUse; byM: number }>();
  readonly left = output<void>();

  protected readonly spaces = SPACES;
  protected readonly names = SPACE_NAMES;
  protected readonly form = inject(FormBuilder).nonNullable.group({
    space: [ORDINARY.space],
    temperature: [null as number | null],
    duct: [null as number | null],
    mains: [null as number | null],
    closed: [false],
    longer: [null as number | null],
  });

  constructor() {
    effect(() => {
      const { space, temperatureC, ductMm, mainsMm, closed } = this.stretch();
      const metric = this.metric();
      const small = (mm: number | null): number | null =>
        mm === null ? null : metric ? mm : Math.round((mm / MM_PER_INCH) * 100) / 100;
      untracked(() =>
        this.form.reset({
          space,
          closed,
          temperature: metric ? temperatureC : Math.round(temperatureC * 1.8 + 32),
          duct: small(ductMm),
          mains: small(mainsMm),
          longer: null,
        }),
      );
    });
  }

  protected metric = (): boolean => this.units() === 'metric';
  protected small = (): string => (this.metric() ? 'mm' : 'in');

  protected save(): void {
    if (this.form.invalid) return;
    const { space, closed, temperature, duct, mains, longer } = this.form.getRawValue();
    const metric = this.metric();
    const mm = (figure: number | null): number | null =>
      figure === null ? null : metric ? figure : figure * MM_PER_INCH;
    const celsius = temperature ?? ORDINARY.temperatureC;
    const stretch = {
      ...this.stretch(),
      space,
      closed,
      temperatureC: metric ? celsius : Math.round(((celsius - 32) / 1.8) * 10) / 10,
      ductMm: mm(duct),
      mainsMm: mm(mains),
    };
    this.kept.emit({ stretch, byM: cableLengthToM(longer ?? 0, this.units()) });
  }
}
