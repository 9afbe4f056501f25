import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { REPORT_PARTS, reportParts, type ReportPartId } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { from } from 'rxjs';
import { Api, ApiProblem, fileAddress, reportAddress } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { saveFile } from '../ui/save-file';
import { xlsxOf } from '../ui/save-table';
import { readTableFile } from '../ui/table-file';

interface Part {
  id: ReportPartId;
  name: string;
  holds: string;
  taken: boolean;
}

const ALL: readonly Part[] = REPORT_PARTS.map((part) => ({ ...part, taken: true }));
/** The choice that holds everything. */
const WHOLE = 'whole';

/** Which parts a report has, and in which order; the choice may be kept as the crew's own form. */
@Component({
  selector: 'ns-report-choice',
  imports: [
    RouterLink,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ProblemNote,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './report-choice.html',
  styleUrl: './report-choice.scss',
})
export class ReportChoice {
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);
  protected readonly asking = new Asking();
  protected readonly parts = signal(ALL);
  protected readonly open = signal(false);
  protected readonly name = signal('');
  protected readonly formId = signal(WHOLE);
  protected readonly whole = WHOLE;

  private readonly kept = rxResource({ stream: () => this.api.call('listForms', {}) });
  protected readonly forms = computed(() =>
    this.kept.hasValue() ? this.kept.value().flatMap((form) => (form.kind === 'report' ? [form] : [])) : [],
  );
  protected readonly taken = computed(() => this.parts().flatMap(({ id, taken }) => (taken ? [id] : [])));
  protected readonly files = computed(() => {
    const [jobId, parts] = [this.jobId(), this.taken()];
    return {
      pdf: reportAddress('reportPdf', jobId, parts),
      html: reportAddress('reportHtml', jobId, parts),
      csv: fileAddress('handoverCsv', jobId),
      json: fileAddress('handoverJson', jobId),
      archive: fileAddress('jobArchive', jobId),
    };
  });

  /** The handover table as a workbook. */
  protected saveTable(): void {
    this.asking.ask(from(handoverTable(this.files().csv)), (table) => saveFile('handover.xlsx', table));
  }

  protected take(id: ReportPartId, taken: boolean): void {
    this.parts.update((parts) => parts.map((part) => (part.id === id ? { ...part, taken } : part)));
  }

  /** Moves a part one place up or down. */
  protected move(at: number, by: -1 | 1): void {
    this.parts.update((parts) => {
      const next = [...parts];
      const [moved] = next.splice(at, 1);
      if (moved) next.splice(at + by, 0, moved);
      return next;
    });
  }

  protected useForm(id: string): void {
    this.formId.set(id);
    const form = this.forms().find((one) => one.id === id);
    const wanted = form ? (reportParts(form.body.parts) ?? []) : ALL.map((part) => part.id);
    this.parts.set([
      ...wanted.flatMap((part) => ALL.filter((one) => one.id === part)),
      ...ALL.filter((part) => !wanted.includes(part.id)).map((part) => ({ ...part, taken: false })),
    ]);
  }

  protected keep(): void {
    const name = this.name().trim();
    if (name === '') return;
    const body = { id: crypto.randomUUID(), kind: 'report' as const, name, body: { parts: this.taken() } };
    this.asking.ask(this.api.call('keepForm', { body }), (form) => {
      this.name.set('');
      this.kept.reload();
      this.formId.set(form.id);
    });
  }

  protected remove(): void {
    const formId = this.formId();
    this.asking.ask(this.api.call('removeForm', { params: { formId } }), () => {
      this.formId.set(WHOLE);
      this.kept.reload();
    });
  }
}

async function handoverTable(address: string): Promise<Blob> {
  const answer = await fetch(address);
  const file = new File([await answer.blob()], 'handover.csv');
  const { rows, trouble } = await readTableFile(file);
  const [head, ...data] = (rows ?? []).filter((row) => row.length > 1);
  if (!answer.ok || !head)
    throw new ApiProblem({
      type: 'about:blank',
      title: 'No table',
      status: answer.status,
      detail: trouble || 'The table could not be read. Try again.',
    });
  return xlsxOf({ head, rows: data }, 'Handover');
}
