import { ChangeDetectionStrategy, Component, computed, effect, input, output } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormRecord, ReactiveFormsModule } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { startWith, switchMap } from 'rxjs';
import { DEAD_AND_FREE, typedQuantity, withoutLeads, type CapacitanceReading } from '@near-spoke/core';

/** How a field for no figure is filled in: what meters show for a loop, or above their range. */
const NO_FIGURE = /^(-|—|ol|o\.l\.?|over)$/i;

/** Capacitances of the pairs of one end, keyed in with their units, the leads' own taken off. */
@Component({
  selector: 'ns-farads-reading',
  imports: [ReactiveFormsModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="unsure">{{ caution }}</p>
    <p>
      Both wires of each pair, with its unit (2.31 nF, 840 pF); - where the meter shows no figure. One pair
      alone is a reading too: whole pairs say what a metre has.
    </p>
    <form [formGroup]="form()">
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>The leads alone</mat-label>
        <input matInput formControlName="leads" autocomplete="off" />
      </mat-form-field>
      @for (pair of pairs(); track pair) {
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>{{ pair }}</mat-label>
          <input matInput [formControlName]="pair" autocomplete="off" />
        </mat-form-field>
      }
    </form>
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
    }
    form {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
      gap: 10px;
    }
  `,
})
export class FaradsReading {
  readonly pairs = input.required<readonly string[]>();
  /** The figures as far as they make sense, or what is wrong with them. */
  readonly told = output<CapacitanceReading['nF'] | string>();

  protected readonly caution = DEAD_AND_FREE;
  protected readonly form = computed(
    () =>
      new FormRecord<FormControl<string>>(
        Object.fromEntries(
          ['leads', ...this.pairs()].map((name) => [name, new FormControl('', { nonNullable: true })]),
        ),
      ),
  );
  private readonly typed = toSignal(
    toObservable(this.form).pipe(switchMap((form) => form.valueChanges.pipe(startWith(form.getRawValue())))),
    { initialValue: {} as Partial<Record<string, string>> },
  );

  constructor() {
    effect(() => this.told.emit(this.reading(this.typed())));
  }

  private reading(typed: Partial<Record<string, string>>): CapacitanceReading['nF'] | string {
    const leads = farads(typed['leads'] || '0 pF', 'The leads');
    if (typeof leads === 'string') return leads;
    const filled = this.pairs().filter((pair) => typed[pair]?.trim());
    if (filled.length === 0) return 'Measure at least one pair.';
    const nF: Record<string, number | null> = {};
    for (const pair of filled) {
      const text = (typed[pair] ?? '').trim();
      const figure = NO_FIGURE.test(text) ? null : farads(text, pair);
      if (typeof figure === 'string') return figure;
      try {
        nF[pair] = figure === null ? null : asNanofarads(withoutLeads(figure, leads, pair));
      } catch (problem) {
        return (problem as Error).message;
      }
    }
    return nF;
  }
}

function farads(text: string, what: string): number | string {
  const { figure, trouble } = typedQuantity(text, 'capacitance', what);
  return figure ?? trouble;
}

const asNanofarads = (farad: number): number => Math.round(farad * 1e12) / 1e3;
