import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { fieldErrors } from '@near-spoke/contracts';
import { reportFile } from '@near-spoke/contracts/report-files';
import {
  attachedIn,
  checkReport,
  dataInPage,
  reportFlawWords,
  changesSince,
  digestInGroups,
  isOrdinary,
  sealChangeWords,
  wordsComparable,
  type ReportData,
} from '@near-spoke/core/report';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Asking } from '../ui/asking';
import { FileDrop } from '../ui/file-drop';

interface Line {
  words: string;
  wrong: boolean;
}

/** Inflates what a PDF holds (RFC 1950). */
async function inflated(bytes: Uint8Array): Promise<string> {
  const whole = new Blob([bytes as Uint8Array<ArrayBuffer>]).stream();
  return new Response(whole.pipeThrough(new DecompressionStream('deflate'))).text();
}

/** The data inside a report, and the page they lie in where it is one; throws with what is wrong. */
async function reportIn(file: File): Promise<{ data: ReportData; page?: string }> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const isPdf = new TextDecoder('latin1').decode(bytes.subarray(0, 5)) === '%PDF-';
  const text = isPdf ? '' : new TextDecoder().decode(bytes);
  const attached = isPdf ? attachedIn(bytes) : null;
  if (isPdf && !attached)
    throw new Error('This PDF has no data attached: it is no report, or was printed anew.');
  const inside = attached ? (JSON.parse(await inflated(attached)) as unknown) : dataInPage(text);
  if (inside === null) throw new Error('This is no report: a PDF or a page of this application is wanted.');
  const parsed = reportFile.safeParse(inside);
  if (!parsed.success)
    throw new Error(
      fieldErrors(parsed.error)
        .slice(0, 3)
        .map(({ path, message }) => `${path}: ${message}`)
        .join(' '),
    );
  return { data: parsed.data, ...(isPdf ? {} : { page: text }) };
}

/** Whether a report is as it was made, and what changed since: by the report itself, and by the records here. */
@Component({
  selector: 'ns-report-check',
  imports: [MatButtonModule, FileDrop, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ns-file-drop label="A report, PDF or page" accept=".pdf,.html" (dropped)="check($event)" />
    @if (asking.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    @if (trouble()) {
      <p class="wrong" role="alert">{{ trouble() }}</p>
    }
    @if (seal()) {
      <p class="figure small">{{ seal() }}</p>
      <ul role="status">
        @for (line of lines(); track $index) {
          <li [class.wrong]="line.wrong">{{ line.words }}</li>
        }
      </ul>
    }
  `,
  styleUrl: './side.scss',
})
export class ReportCheck {
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  protected readonly asking = new Asking();
  protected readonly trouble = signal('');
  protected readonly seal = signal('');
  protected readonly lines = signal<readonly Line[]>([]);

  protected async check(file: File): Promise<void> {
    this.trouble.set('');
    this.seal.set('');
    try {
      const { data, page } = await reportIn(file);
      if (data.job.id !== this.jobId())
        throw new Error(`This report is of another job: ${data.job.site}, ${data.job.title}.`);
      this.compare(data, page);
    } catch (error) {
      this.trouble.set(error instanceof Error ? error.message : 'The file cannot be read.');
    }
  }

  private compare(data: ReportData, page: string | undefined): void {
    const flaws = checkReport(data, page).map((flaw) => ({ words: reportFlawWords(flaw), wrong: true }));
    this.asking.ask(this.api.call('jobSeal', { params: { jobId: this.jobId() } }), (now) => {
      const changes = changesSince(data.seal, now).map((change) => ({
        words: sealChangeWords(change),
        wrong: !isOrdinary(change),
      }));
      this.seal.set(digestInGroups(data.seal.digest));
      this.lines.set([
        ...(flaws.length === 0 ? [{ words: 'The report is as it was made.', wrong: false }] : flaws),
        ...(page !== undefined && !wordsComparable(data)
          ? [{ words: 'Its words were made by another version and are not compared.', wrong: false }]
          : []),
        ...(changes.length === 0
          ? [{ words: 'The records here are those it was made from: nothing changed since.', wrong: false }]
          : changes),
      ]);
    });
  }
}
