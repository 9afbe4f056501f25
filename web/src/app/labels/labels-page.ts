import { DOCUMENT } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatExpansionModule } from '@angular/material/expansion';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { DomSanitizer } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type { LabelOrder, Link } from '@near-spoke/contracts';
import {
  cableRange,
  LABEL_FIELDS,
  labelText,
  unknownFields,
  type LabelLines,
  type LabelStock,
  type LinkEnd,
} from '@near-spoke/core';
import {
  fitFrom,
  labelFlawWords,
  placesOf,
  printLabels,
  rangeWords,
  RULER_MM,
  LABEL_STOCKS,
  LABEL_WAYS,
  labelAddress,
} from '@near-spoke/core/labels';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { jobOfPage } from '../jobs/job-of-page';
import { jobsFeature } from '../jobs/jobs.state';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { NumberField } from '../ui/number-field';
import { saveFile } from '../ui/save-file';
import { StockForm } from './stock-form';

/** Lines written by the person instead of one of the ways. */
const OWN = 'own';
/** So many pages are drawn; the PDF has all. */
const PAGES_SHOWN = 3;
const FLAWS_SHOWN = 4;

/** Labels of a job's links: on what, saying what, for which ends; shown at true size, printed as PDF. */
@Component({
  selector: 'ns-labels-page',
  imports: [
    ReactiveFormsModule,
    RouterLink,
    MatButtonModule,
    MatCheckboxModule,
    MatExpansionModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    MatSelectModule,
    NumberField,
    ProblemNote,
    StockForm,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './labels-page.html',
  styleUrl: './labels-page.scss',
})
export class LabelsPage {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly clean = inject(DomSanitizer);
  private readonly origin = inject(DOCUMENT).location.origin;
  readonly jobId = input.required<string>();
  private readonly page = jobOfPage(this.jobId, 'Labels', 'hand-over');
  protected readonly job = this.page.job;
  protected readonly loaded = this.page.loaded;
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly units = computed(() => this.job()?.units ?? 'metric');
  protected readonly unit = computed(() => (this.units() === 'metric' ? 'mm' : 'in'));
  protected readonly asking = new Asking();
  protected readonly ways = LABEL_WAYS;
  protected readonly own = OWN;
  protected readonly ruler = RULER_MM;
  protected readonly fields = Object.keys(LABEL_FIELDS).map((field) => `{${field}}`);

  private readonly kept = rxResource({ stream: () => this.api.call('listForms', {}) });
  protected readonly stocks = computed((): readonly LabelStock[] => [
    ...LABEL_STOCKS,
    ...(this.kept.hasValue()
      ? this.kept.value().flatMap((form) => (form.kind === 'label-stock' ? [form.body] : []))
      : []),
  ]);

  protected readonly form = inject(FormBuilder).nonNullable.group({
    stock: LABEL_STOCKS[0]?.id ?? '',
    way: LABEL_WAYS[0]?.id ?? OWN,
    near: '{label}',
    far: '{label}',
    nearEnd: true,
    farEnd: true,
    qr: false,
    only: '',
    skip: [0 as number | null],
    rulerX: [RULER_MM as number | null],
    rulerY: [RULER_MM as number | null],
    offX: [0 as number | null],
    offY: [0 as number | null],
  });
  protected readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.value });

  protected readonly stock = computed(
    () => this.stocks().find(({ id }) => id === this.typed().stock) ?? (LABEL_STOCKS[0] as LabelStock),
  );
  protected readonly range = computed(() => {
    const range = cableRange(this.stock());
    return range ? rangeWords(range, this.units()) : '';
  });
  protected readonly places = computed(() => placesOf(this.stock()).length);
  private readonly lines = computed((): LabelLines => {
    const { way, near = '', far = '' } = this.typed();
    return LABEL_WAYS.find(({ id }) => id === way)?.lines ?? { near: near.split('\n'), far: far.split('\n') };
  });
  protected readonly unknown = computed(() => {
    const { near, far } = this.lines();
    return unknownFields([...near, ...far]).map(({ field }) => `There is no field {${field}}.`);
  });
  protected readonly chosen = computed((): readonly Link[] => {
    const wanted = (this.typed().only ?? '').trim().toLowerCase().split(/\s+/).filter(Boolean);
    return this.page
      .links()
      .filter(({ label, near, far }) =>
        wanted.every((word) =>
          [label, near.panel, far.room, far.outlet].join(' ').toLowerCase().includes(word),
        ),
      );
  });
  private readonly ends = computed((): LinkEnd[] => [
    ...(this.typed().nearEnd ? (['near'] as const) : []),
    ...(this.typed().farEnd ? (['far'] as const) : []),
  ]);
  protected readonly skip = computed(() => Math.min(this.typed().skip ?? 0, this.places() - 1));
  /** Links whose cable is too thick or too thin for a label that goes round it. */
  protected readonly misfits = computed(() => {
    const range = cableRange(this.stock());
    const cables = new Map(this.kit()?.cables.map((cable) => [cable.id, cable.jacketMm]));
    if (!range) return [];
    return this.chosen().filter(({ cableTypeId }) => {
      const jacketMm = cables.get(cableTypeId);
      return jacketMm !== undefined && (jacketMm < range.leastMm || jacketMm > range.mostMm);
    });
  });
  private readonly labels = computed(() => {
    const [job, lines] = [this.job(), this.lines()];
    if (!job) return [];
    const names = new Map(this.kit()?.cables.map(({ id, name }) => [id, name]));
    const words = { site: job.site, units: job.units, cableName: (id: string) => names.get(id) ?? id };
    const qr = this.typed().qr === true;
    return this.chosen().flatMap((link) =>
      this.ends().map((end) => ({
        label: link.label,
        lines: labelText(link, end, lines, words),
        qr: qr ? labelAddress(this.origin, link.id) : null,
      })),
    );
  });
  protected readonly count = computed(() => this.labels().length);
  private readonly printed = computed(() =>
    printLabels(this.stock(), this.labels(), {
      skip: this.skip(),
      edges: true,
      font: 'JetBrains Mono Variable',
    }),
  );
  protected readonly pages = computed(() =>
    this.printed()
      .pages.slice(0, PAGES_SHOWN)
      .map(({ svg, ...size }) => ({
        ...size,
        // Made by core of figures and escaped words; Angular's own sanitizer knows no SVG.
        svg: this.clean.bypassSecurityTrustHtml(svg),
      })),
  );
  protected readonly morePages = computed(() => this.printed().pages.length - this.pages().length);
  protected readonly flaws = computed(() => {
    const { flaws } = this.printed();
    const words = [
      ...new Set(
        flaws.map(({ index, flaw }) => `${this.labels()[index]?.label ?? ''}: ${labelFlawWords(flaw)}`),
      ),
    ];
    const more = words.length - FLAWS_SHOWN;
    return [...words.slice(0, FLAWS_SHOWN), ...(more > 0 ? [`${more} more labels likewise.`] : [])];
  });
  protected readonly adding = signal(false);

  protected print(testPage: boolean): void {
    this.save('printLabels', 'pdf', { ...this.order(), testPage });
  }

  protected table(): void {
    this.save('labelTable', 'csv', this.order());
  }

  protected keepStock(stock: LabelStock): void {
    const body = { id: crypto.randomUUID(), kind: 'label-stock' as const, name: stock.name, body: stock };
    this.asking.ask(this.api.call('keepForm', { body }), () => {
      this.adding.set(false);
      this.kept.reload();
      this.form.patchValue({ stock: stock.id });
    });
  }

  private order(): LabelOrder {
    const { qr = false, rulerX, rulerY, offX, offY } = this.typed();
    const scale = this.units() === 'metric' ? 1 : 25.4;
    return {
      linkIds: this.chosen().map(({ id }) => id),
      ends: this.ends(),
      stock: this.stock(),
      lines: { near: [...this.lines().near], far: [...this.lines().far] },
      qr,
      skip: this.skip(),
      fit: fitFrom({
        rulerXMm: rulerX || RULER_MM,
        rulerYMm: rulerY || RULER_MM,
        offXMm: (offX ?? 0) * scale,
        offYMm: (offY ?? 0) * scale,
      }),
    };
  }

  private save(id: 'printLabels' | 'labelTable', extension: string, body: LabelOrder): void {
    const what = body.testPage ? 'label-test-page' : 'labels';
    this.asking.ask(this.api.file(id, { params: { jobId: this.jobId() }, body }), (file) =>
      saveFile(`${what}.${extension}`, file),
    );
  }
}
