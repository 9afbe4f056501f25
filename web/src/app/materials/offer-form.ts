import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { CrewPrices } from '@near-spoke/contracts';
import {
  BadPriceList,
  inCurrency,
  isCurrency,
  isDay,
  offerOf,
  readPriceList,
  USUAL_WORK,
  type Brought,
  type OfferTerms,
  type WorkToDo,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { FileDrop } from '../ui/file-drop';
import { NumberField } from '../ui/number-field';
import { saveFile } from '../ui/save-file';
import { readTableFile } from '../ui/table-file';
import { priceTable } from './price-table';

/** An offer is good for so many days, where nobody says otherwise. */
const GOOD_DAYS = 30;
const MOST_ROWS = 6;
const dayFrom = (days: number): string => {
  const day = new Date();
  day.setDate(day.getDate() + days);
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, '0')}-${String(day.getDate()).padStart(2, '0')}`;
};

/** What a job is offered for: by the crew's price list, the hours of its work, and what is put on top. */
@Component({
  selector: 'ns-offer-form',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    FileDrop,
    NumberField,
    ProblemNote,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './offer-form.html',
  styleUrl: './offer-form.scss',
})
export class OfferForm {
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  readonly title = input.required<string>();
  readonly brought = input.required<readonly Brought[]>();
  readonly work = input.required<WorkToDo>();
  readonly spoilt = input.required<(connectorId: string) => { spoiled: number; good: number }>();

  protected readonly isLead = inject(Store).selectSignal(sessionFeature.selectIsLead);
  protected readonly asking = new Asking();
  protected readonly kept = signal<CrewPrices | null>(null);
  /** Why a price list could not be taken, row by row. */
  protected readonly wrong = signal<readonly string[]>([]);
  protected readonly form = inject(NonNullableFormBuilder).group({
    currency: 'EUR',
    hour: [null as number | null],
    pullMinutes: [USUAL_WORK.pullMinutes as number | null],
    testMinutes: [USUAL_WORK.testMinutes as number | null],
    markup: [0 as number | null],
    tax: [0 as number | null],
    until: dayFrom(GOOD_DAYS),
    note: '',
  });
  private readonly typed = toSignal(this.form.valueChanges);
  protected readonly terms = computed((): OfferTerms => {
    this.typed();
    const given = this.form.getRawValue();
    return {
      currency: this.kept()?.list?.currency ?? given.currency.trim().toUpperCase(),
      hour: given.hour,
      pullMinutes: given.pullMinutes ?? USUAL_WORK.pullMinutes,
      testMinutes: given.testMinutes ?? USUAL_WORK.testMinutes,
      markup: given.markup ?? 0,
      tax: given.tax ?? 0,
    };
  });
  protected readonly offer = computed(() =>
    offerOf(this.brought(), this.work(), this.kept()?.list ?? { prices: [] }, this.terms(), this.spoilt()),
  );
  protected readonly hours = computed(() =>
    this.offer().work.reduce((sum, { quantity }) => sum + quantity, 0),
  );
  /** Why there is no offer yet; nothing where there is. */
  protected readonly missing = computed((): string => {
    this.typed();
    const { unpriced, material, work } = this.offer();
    if (material.length + work.length === 0) return 'Nothing is left to be done on this job.';
    if (!isCurrency(this.terms().currency)) return 'Write the currency by its three letters, as EUR.';
    if (unpriced.length > 0) {
      const more = unpriced.length - MOST_ROWS;
      return `No price yet of ${unpriced.slice(0, MOST_ROWS).join('; ')}${more > 0 ? `; and ${more} more` : ''}.`;
    }
    if (!isDay(this.form.getRawValue().until)) return 'Write until when it is good as a day: 2026-12-31.';
    return this.form.valid ? '' : 'A figure is out of its range.';
  });

  constructor() {
    this.asking.ask(this.api.call('readPrices', {}), (kept) => this.kept.set(kept));
  }

  protected money(amount: number | null): string {
    const { currency } = this.terms();
    return `${inCurrency(amount ?? 0, currency)} ${currency}`;
  }

  /** A list of everything, with the prices that are known, to be filled in. */
  protected saveTable(): void {
    const { currency } = this.terms();
    const table = priceTable(
      this.brought().map(({ item }) => item),
      this.kept()?.list ?? null,
      { currency, dated: dayFrom(0) },
    );
    saveFile('price-list.csv', new Blob([table], { type: 'text/csv' }));
  }

  protected async take(file: File): Promise<void> {
    const { rows, trouble } = await readTableFile(file);
    this.wrong.set(rows === null ? [trouble] : []);
    if (rows === null) return;
    try {
      const list = readPriceList(rows, { currency: this.terms().currency, dated: dayFrom(0) });
      this.keep({ ...list, prices: [...list.prices] });
    } catch (error) {
      if (!(error instanceof BadPriceList)) throw error;
      this.wrong.set(error.rows);
    }
  }

  private keep(list: NonNullable<CrewPrices['list']>): void {
    const body = { list, version: this.kept()?.version ?? 0 };
    this.asking.ask(this.api.call('keepPrices', { body }), (kept) => this.kept.set(kept));
  }

  protected print(): void {
    if (this.missing() !== '') return;
    const { until, note } = this.form.getRawValue();
    const { ends, pulls, links } = this.work();
    const body = {
      material: this.brought().map((one) => ({ ...one })),
      work: { ends: ends.map((one) => ({ ...one })), pulls, links },
      terms: this.terms(),
      until,
      note: note.trim(),
    };
    this.asking.ask(this.api.file('printOffer', { params: { jobId: this.jobId() }, body }), (pdf) =>
      saveFile(`offer ${this.title()}.pdf`, pdf),
    );
  }
}
