import { DatePipe } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import type { FoundOther } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { debounceTime, distinctUntilChanged } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { StageGlyph } from '../drawing/stage-glyph';
import { Header } from '../header';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';

/** A person has paused so long before it is looked for. */
const PAUSE_MS = 220;
const EXAMPLES = [
  'made by Tobi last month',
  'T568A',
  'proved with a mapper only',
  'split pairs',
  'handed over this week',
] as const;

const WAYS: Readonly<Record<FoundOther['kind'], readonly string[]>> = {
  job: ['/jobs'],
  adapter: ['/bench/adapters'],
  reel: ['/kit/reels'],
};

/** One search over all jobs: what was typed, what it was taken for, what there is. */
@Component({
  selector: 'ns-search-page',
  imports: [
    DatePipe,
    RouterLink,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    ProblemNote,
    StageGlyph,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './search-page.html',
  styleUrl: './search-page.scss',
})
export class SearchPage {
  private readonly dialog = inject(MatDialog);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  /** What the address asks for: a search can be kept and sent. */
  readonly q = input<string | undefined>('');
  private readonly box = viewChild<ElementRef<HTMLInputElement>>('box');
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);
  protected readonly text = signal('');
  protected readonly examples = EXAMPLES;
  protected readonly asking = new Asking();

  private readonly settled = toSignal(
    toObservable(computed(() => this.text().trim().replace(/\s+/g, ' ').slice(0, 200))).pipe(
      debounceTime(PAUSE_MS),
      distinctUntilChanged(),
    ),
    { initialValue: '' },
  );
  protected readonly found = rxResource({
    params: () => (this.settled() === '' ? undefined : this.settled()),
    stream: ({ params: text }) => this.api.call('search', { params: { text } }),
  });
  protected readonly answer = computed(() => (this.found.hasValue() ? this.found.value() : null));
  protected readonly problem = computed(() => {
    const error = this.found.error();
    return error ? problemOf(error.cause ?? error) : null;
  });
  private readonly forms = rxResource({ stream: () => this.api.call('listForms', {}) });
  protected readonly kept = computed(() =>
    this.forms.hasValue() ? this.forms.value().flatMap((form) => (form.kind === 'search' ? [form] : [])) : [],
  );
  protected readonly isKept = computed(() => this.kept().some(({ body }) => body.text === this.settled()));

  constructor() {
    inject(Header).show([{ name: 'Find' }], []);
    effect(() => {
      const asked = this.q() ?? '';
      untracked(() => {
        if (asked !== this.settled()) this.text.set(asked);
      });
    });
    effect(() => {
      const q = this.settled();
      untracked(() => {
        if (q !== (this.q() ?? ''))
          void this.router.navigate([], { queryParams: { q: q || null }, replaceUrl: true });
      });
    });
    afterNextRender(() => this.box()?.nativeElement.focus());
  }

  protected look(text: string): void {
    this.text.set(text);
    this.box()?.nativeElement.focus();
  }

  protected way({ kind, id }: FoundOther): string[] {
    return [...WAYS[kind], id];
  }

  /** Enter goes to what was found first, once it is that of what stands in the field. */
  protected openFirst(): void {
    const [first] = this.answer()?.links ?? [];
    if (first && this.settled() === this.text().trim().replace(/\s+/g, ' '))
      void this.router.navigate(['/jobs', first.jobId, 'links', first.linkId]);
  }

  protected async readLabel(): Promise<void> {
    const { CameraReader } = await import('../labels/camera-reader');
    this.dialog.open(CameraReader, { width: '560px', maxWidth: '96vw' });
  }

  protected keep(): void {
    const text = this.settled();
    const body = {
      id: crypto.randomUUID(),
      kind: 'search' as const,
      name: text.slice(0, 80),
      body: { text },
    };
    this.asking.ask(this.api.call('keepForm', { body }), () => this.forms.reload());
  }

  protected forget(formId: string): void {
    this.asking.ask(this.api.call('removeForm', { params: { formId } }), () => this.forms.reload());
  }
}
