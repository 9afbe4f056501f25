import { DatePipe, DOCUMENT } from '@angular/common';
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
import type { ShareLink } from '@near-spoke/contracts';
import { Api, sharedAddress } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Asking } from '../ui/asking';
import { NumberField } from '../ui/number-field';

const DAYS = 30;

/** Who may look at the report without an account: an address for each, until a day or until it is taken back. */
@Component({
  selector: 'ns-shared-with',
  imports: [
    DatePipe,
    ReactiveFormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    NumberField,
    ProblemNote,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shared-with.html',
  styleUrl: './side.scss',
})
export class SharedWith {
  private readonly api = inject(Api);
  private readonly page = inject(DOCUMENT);
  readonly jobId = input.required<string>();
  protected readonly asking = new Asking();
  /** The address that was just made: it is shown once. */
  protected readonly made = signal<{ forWhom: string; address: string } | null>(null);
  protected readonly copied = signal(false);

  protected readonly form = inject(FormBuilder).nonNullable.group({
    forWhom: ['', [Validators.required, Validators.maxLength(80)]],
    days: [DAYS as number | null, Validators.required],
  });
  private readonly sheet = viewChild(FormGroupDirective);
  private id = crypto.randomUUID();

  protected readonly kept = rxResource({
    params: () => this.jobId(),
    stream: ({ params: jobId }) => this.api.call('listShareLinks', { params: { jobId } }),
  });
  protected readonly links = computed((): readonly ShareLink[] =>
    this.kept.hasValue() ? this.kept.value() : [],
  );

  protected isOpen({ expiresAt, revokedAt }: ShareLink): boolean {
    return revokedAt === null && Date.parse(expiresAt) > Date.now();
  }

  protected share(): void {
    const { forWhom, days } = this.form.getRawValue();
    if (this.form.invalid || days === null) return;
    const body = { id: this.id, forWhom, days };
    this.asking.ask(this.api.call('addShareLink', { params: { jobId: this.jobId() }, body }), ({ token }) => {
      this.id = crypto.randomUUID();
      this.made.set({ forWhom, address: sharedAddress(this.page.location.origin, token) });
      this.copied.set(false);
      this.sheet()?.resetForm({ forWhom: '', days: DAYS });
      this.kept.reload();
    });
  }

  protected copy(address: string): void {
    void navigator.clipboard.writeText(address).then(() => this.copied.set(true));
  }

  protected takeBack({ id: shareId }: ShareLink): void {
    const params = { jobId: this.jobId(), shareId };
    this.asking.ask(this.api.call('revokeShareLink', { params }), () => this.kept.reload());
  }
}
