import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { stockProblems, type LabelKind, type LabelStock, type UnitSystem } from '@near-spoke/core';
import { NumberField } from '../ui/number-field';

const MM_IN_AN_INCH = 25.4;
const figure = (value: number) => [value as number | null, Validators.required];

/** A label of the crew's own, by its measures. */
@Component({
  selector: 'ns-stock-form',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="form" (ngSubmit)="keep()">
      <mat-form-field subscriptSizing="dynamic" class="wide">
        <mat-label>Called</mat-label>
        <input matInput formControlName="name" autocomplete="off" />
      </mat-form-field>
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Put on</mat-label>
        <mat-select formControlName="kind">
          <mat-option value="flat">flat</mat-option>
          <mat-option value="wrap">round the cable, clear tail</mat-option>
          <mat-option value="flag">as a flag</mat-option>
          <mat-option value="strip">along a panel</mat-option>
        </mat-select>
      </mat-form-field>
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Comes on</mat-label>
        <mat-select formControlName="on">
          <mat-option value="sheet">a sheet</mat-option>
          <mat-option value="roll">a roll</mat-option>
        </mat-select>
      </mat-form-field>
      <ns-number-field formControlName="width" label="Label, wide" [unit]="unit()" />
      <ns-number-field formControlName="height" label="Label, high" [unit]="unit()" />
      @if (partName()) {
        <ns-number-field formControlName="part" [label]="partName()" [unit]="unit()" />
      }
      @if (form.controls.on.value === 'sheet') {
        <ns-number-field formControlName="paperWidth" label="Paper, wide" [unit]="unit()" />
        <ns-number-field formControlName="paperHeight" label="Paper, high" [unit]="unit()" />
        <ns-number-field formControlName="columns" label="Labels in a row" [least]="1" [most]="100" />
        <ns-number-field formControlName="rows" label="Rows" [least]="1" [most]="200" />
        <ns-number-field
          formControlName="left"
          label="First label from the left"
          [unit]="unit()"
          [least]="0"
        />
        <ns-number-field formControlName="top" label="First label from the top" [unit]="unit()" [least]="0" />
        <ns-number-field formControlName="pitchX" label="One label to the next" [unit]="unit()" [least]="0" />
        <ns-number-field formControlName="pitchY" label="One row to the next" [unit]="unit()" [least]="0" />
      }
      @for (problem of problems(); track problem.message) {
        <p class="wrong wide" role="alert">{{ problem.message }}</p>
      }
      <button matButton="outlined" class="wide" [disabled]="form.invalid || problems().length > 0">
        {{ form.invalid ? 'Give every measure first' : 'Keep this label' }}
      </button>
    </form>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 10px;
    }
    .wide {
      grid-column: 1 / -1;
    }
  `,
})
export class StockForm {
  readonly units = input.required<UnitSystem>();
  readonly made = output<LabelStock>();
  protected readonly unit = computed(() => (this.units() === 'metric' ? 'mm' : 'in'));
  private readonly tried = signal(crypto.randomUUID());

  protected readonly form = inject(FormBuilder).nonNullable.group({
    name: ['', [Validators.required, Validators.maxLength(80)]],
    kind: ['flat' as LabelKind],
    on: ['sheet' as 'sheet' | 'roll'],
    width: figure(0),
    height: figure(0),
    part: figure(0),
    paperWidth: figure(0),
    paperHeight: figure(0),
    columns: figure(1),
    rows: figure(1),
    left: figure(0),
    top: figure(0),
    pitchX: figure(0),
    pitchY: figure(0),
  });
  private readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.value });
  protected readonly partName = computed(() => {
    const { kind } = this.typed();
    return kind === 'wrap' ? 'Written part, high' : kind === 'flag' ? 'Middle round the cable' : '';
  });
  private readonly stock = computed((): LabelStock => {
    const typed = this.typed();
    const scale = this.units() === 'metric' ? 1 : MM_IN_AN_INCH;
    const mm = (value: number | null | undefined): number => Math.round((value ?? 0) * scale * 1000) / 1000;
    return {
      id: this.tried(),
      name: typed.name?.trim() ?? '',
      kind: typed.kind ?? 'flat',
      widthMm: mm(typed.width),
      heightMm: mm(typed.height),
      partMm: mm(typed.part),
      sheet:
        typed.on === 'roll'
          ? null
          : {
              paperWidthMm: mm(typed.paperWidth),
              paperHeightMm: mm(typed.paperHeight),
              columns: typed.columns ?? 1,
              rows: typed.rows ?? 1,
              leftMm: mm(typed.left),
              topMm: mm(typed.top),
              pitchXMm: mm(typed.pitchX),
              pitchYMm: mm(typed.pitchY),
            },
    };
  });
  protected readonly problems = computed(() => {
    const stock = this.stock();
    if (stock.widthMm <= 0 || stock.heightMm <= 0) return [{ message: 'A label has a width and a height.' }];
    return stockProblems(stock);
  });

  protected keep(): void {
    if (this.form.invalid || this.problems().length > 0) return;
    this.made.emit(this.stock());
    this.tried.set(crypto.randomUUID());
  }
}
