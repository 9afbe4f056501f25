import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormBuilder, FormGroupDirective, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { SignOff } from '@near-spoke/contracts';
import {
  changesSince,
  digestInGroups,
  isOrdinary,
  sealChangeWords,
  type SealChange,
} from '@near-spoke/core/report';
import { Store } from '@ngrx/store';
import { forkJoin } from 'rxjs';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';

/** Who accepts what is handed over, and whether it is still what they accepted. */
@Component({
  selector: 'ns-acceptance',
  imports: [DatePipe, ReactiveFormsModule, MatButtonModule, MatFormFieldModule, MatInputModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './acceptance.html',
  styleUrl: './side.scss',
})
export class Acceptance {
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  /** Links that are handed over now. */
  readonly handedOver = input.required<number>();
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);
  protected readonly asking = new Asking();
  protected readonly comparing = new Asking();
  protected readonly words = sealChangeWords;
  protected readonly ordinary = isOrdinary;
  protected readonly digits = digestInGroups;
  /** What changed since somebody signed, by who it was; only where it was asked. */
  protected readonly changes = signal<ReadonlyMap<string, readonly SealChange[]>>(new Map());

  protected readonly form = inject(FormBuilder).nonNullable.group({
    name: ['', [Validators.required, Validators.maxLength(80)]],
    role: ['', [Validators.required, Validators.maxLength(80)]],
    note: [''],
  });
  private readonly sheet = viewChild(FormGroupDirective);
  private id = crypto.randomUUID();

  protected readonly kept = rxResource({
    params: () => this.jobId(),
    stream: ({ params: jobId }) => this.api.call('listSignOffs', { params: { jobId } }),
  });
  protected readonly signed = computed((): readonly SignOff[] =>
    this.kept.hasValue() ? this.kept.value() : [],
  );

  protected accept(): void {
    if (this.form.invalid) return;
    const body = { id: this.id, ...this.form.getRawValue() };
    this.asking.ask(this.api.call('addSignOff', { params: { jobId: this.jobId() }, body }), () => {
      this.id = crypto.randomUUID();
      this.sheet()?.resetForm();
      this.kept.reload();
    });
  }

  protected compare({ id: signOffId }: SignOff): void {
    const jobId = this.jobId();
    const both = forkJoin({
      then: this.api.call('signOffSeal', { params: { jobId, signOffId } }),
      now: this.api.call('jobSeal', { params: { jobId } }),
    });
    this.comparing.ask(both, ({ then, now }) =>
      this.changes.update((known) => new Map([...known, [signOffId, changesSince(then, now)]])),
    );
  }
}
