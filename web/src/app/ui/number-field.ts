import { ChangeDetectionStrategy, Component, computed, forwardRef, input, signal } from '@angular/core';
import {
  NG_VALIDATORS,
  NG_VALUE_ACCESSOR,
  type ControlValueAccessor,
  type ValidationErrors,
  type Validator,
} from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { typedNumber } from '@near-spoke/core';

/**
 * A figure with its unit, typed with a point or a comma; empty is null. What is out of range is said under the field, and
 * makes its control invalid.
 */
@Component({
  selector: 'ns-number-field',
  imports: [MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field [subscriptSizing]="'dynamic'">
      <mat-label>{{ label() }}</mat-label>
      <input
        #box
        matInput
        inputmode="decimal"
        autocomplete="off"
        [value]="text()"
        [disabled]="disabled()"
        [attr.aria-invalid]="trouble() !== ''"
        (input)="type(box.value)"
        (blur)="onTouched()"
      />
      @if (unit()) {
        <span matTextSuffix>{{ unit() }}</span>
      }
      @if (trouble()) {
        <mat-hint class="wrong">{{ trouble() }}</mat-hint>
      }
    </mat-form-field>
  `,
  styles: `
    mat-form-field {
      width: 100%;
    }
    .wrong {
      color: var(--wrong);
    }
  `,
  providers: [
    { provide: NG_VALUE_ACCESSOR, useExisting: forwardRef(() => NumberField), multi: true },
    { provide: NG_VALIDATORS, useExisting: forwardRef(() => NumberField), multi: true },
  ],
})
export class NumberField implements ControlValueAccessor, Validator {
  readonly label = input.required<string>();
  readonly unit = input('');
  readonly least = input(-Infinity);
  readonly most = input(Infinity);
  readonly required = input(false);

  protected readonly text = signal('');
  protected readonly disabled = signal(false);
  protected readonly trouble = computed(() => this.wrong(this.text()));
  private changed: (value: number | null) => void = () => undefined;
  private validity: () => void = () => undefined;
  protected onTouched: () => void = () => undefined;

  writeValue(value: number | null): void {
    this.text.set(value === null || value === undefined ? '' : String(value));
  }

  registerOnChange(changed: (value: number | null) => void): void {
    this.changed = changed;
  }

  registerOnTouched(touched: () => void): void {
    this.onTouched = touched;
  }

  registerOnValidatorChange(validity: () => void): void {
    this.validity = validity;
  }

  setDisabledState(disabled: boolean): void {
    this.disabled.set(disabled);
  }

  validate(): ValidationErrors | null {
    const trouble = this.wrong(this.text());
    if (trouble) return { figure: trouble };
    return this.required() && this.text().trim() === '' ? { required: true } : null;
  }

  protected type(text: string): void {
    this.text.set(text);
    const figure = typedNumber(text);
    this.changed(Number.isFinite(figure) ? figure : null);
    this.validity();
  }

  private wrong(text: string): string {
    if (text.trim() === '') return '';
    const figure = typedNumber(text);
    const [least, most] = [this.least(), this.most()];
    if (figure >= least && figure <= most) return '';
    if (!Number.isFinite(figure)) return 'Write a figure, such as 12.5.';
    return figure < least
      ? `At least ${least} ${this.unit()}`.trim()
      : `At most ${most} ${this.unit()}`.trim();
  }
}
