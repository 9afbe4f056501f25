import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { FED_SETS, POWER_TYPES, type FedAs, type FedSet, type PowerReading } from '@near-spoke/core';
import { NumberField } from '../ui/number-field';

const nameOf = (set: FedSet): string => FED_SETS[set].map((pair) => pair.join('-')).join(' and ');

/** What a power tester shows, keyed in: which set of pairs is fed, how, and what the supply is known to feed. */
@Component({
  selector: 'ns-fed-reading',
  imports: [ReactiveFormsModule, MatButtonToggleModule, MatFormFieldModule, MatSelectModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="unsure">
      Taken live, the supply plugged in at the other end. Unplug it again before any other reading: a tester
      for dead lines is damaged by it and reads wrong.
    </p>
    <form [formGroup]="form">
      @for (set of sets; track set.id) {
        <div class="set">
          <span [id]="'fed-' + set.id">{{ set.name }}</span>
          <mat-button-toggle-group
            [formControlName]="set.id"
            [attr.aria-labelledby]="'fed-' + set.id"
            hideSingleSelectionIndicator
          >
            @for (way of set.ways; track way.is) {
              <mat-button-toggle [value]="way.is">{{ way.words }}</mat-button-toggle>
            }
          </mat-button-toggle-group>
        </div>
      }
      <div class="more">
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>The supply feeds</mat-label>
          <mat-select formControlName="feeds">
            <mat-option [value]="null">not known</mat-option>
            <mat-option value="a">1-2 and 3-6</mat-option>
            <mat-option value="b">4-5 and 7-8</mat-option>
            <mat-option value="both">all four pairs</mat-option>
          </mat-select>
        </mat-form-field>
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>It offers</mat-label>
          <mat-select formControlName="offers">
            <mat-option [value]="null">not shown</mat-option>
            @for (type of types; track type.id) {
              <mat-option [value]="type.id">{{ type.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <ns-number-field formControlName="volts" label="Volts, if shown" unit="V" [least]="0" [most]="1000" />
      </div>
    </form>
  `,
  styles: `
    :host,
    form {
      display: grid;
      gap: 12px;
    }
    .set {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 16px;
    }
    .set > span {
      font-family: var(--figures);
      min-width: 130px;
    }
    .more {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
      gap: 10px;
    }
  `,
})
export class FedReading {
  /** The reading as far as it is told; null while a set is not answered for. */
  readonly told = output<Omit<PowerReading, 'end'> | null>();

  protected readonly types = POWER_TYPES;
  protected readonly sets = (['a', 'b'] as const).map((id) => ({
    id,
    name: nameOf(id),
    ways: [
      { is: 'none' as FedAs, words: 'not fed' },
      { is: 'plus' as FedAs, words: `${FED_SETS[id][0].join('-')} plus` },
      { is: 'minus' as FedAs, words: `${FED_SETS[id][1].join('-')} plus` },
    ],
  }));
  protected readonly form = inject(FormBuilder).group({
    a: null as FedAs | null,
    b: null as FedAs | null,
    feeds: null as PowerReading['feeds'],
    offers: null as string | null,
    volts: null as number | null,
  });

  constructor() {
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => this.told.emit(this.reading()));
  }

  private reading(): Omit<PowerReading, 'end'> | null {
    const { a, b, feeds, offers, volts } = this.form.getRawValue();
    if (a === null || b === null || this.form.invalid) return null;
    return {
      instrument: 'power-tester',
      feeds,
      sets: { a, b },
      ...(volts === null ? {} : { volts }),
      ...(offers === null ? {} : { offers }),
    };
  }
}
