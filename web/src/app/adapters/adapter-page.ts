import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { DatePipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import {
  joinContacts,
  newEnd,
  nextEndId,
  replaceEnd,
  type AdapterDesign,
  type AdapterEnd,
  type PinPlace,
  type SuggestedJoin,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { adapterFileAddress } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { Keys } from '../keys/keys';
import { sessionFeature } from '../session/session.state';
import { AdapterBench, builtWords } from './adapter-bench';
import { BuildRoom } from './build-room';
import { CableRoom } from './cable-room';
import { JoinParts } from './join-parts';
import { LeadBench } from './lead-bench';
import { PinoutEditor } from './pinout-editor';
import { ProveRoom } from './prove-room';
import { RuleList } from './rule-list';
import { VersionsRoom } from './versions-room';

const ROOMS = [
  ['join', 'Join'],
  ['cable', 'Cable'],
  ['build', 'Build'],
  ['prove', 'Prove'],
  ['versions', 'Versions'],
] as const;
type Room = (typeof ROOMS)[number][0];

/** One adapter on the bench: its ends joined, its cable chosen, the lead built and proved. */
@Component({
  selector: 'ns-adapter-page',
  imports: [
    DatePipe,
    MatButtonModule,
    RouterLink,
    BuildRoom,
    CableRoom,
    JoinParts,
    LeadBench,
    PinoutEditor,
    ProblemNote,
    ProveRoom,
    RuleList,
    VersionsRoom,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './adapter-page.html',
  styleUrl: './adapter-page.scss',
})
export class AdapterPage {
  protected readonly bench = inject(AdapterBench);
  private readonly router = inject(Router);
  private readonly header = inject(Header);
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);
  /** From the address. */
  readonly adapterId = input.required<string>();
  readonly room = input<string>();

  protected readonly rooms = ROOMS;
  protected readonly here = computed((): Room => ROOMS.find(([id]) => id === this.room())?.[0] ?? 'join');
  protected readonly editing = signal<string | null>(null);
  protected readonly editedEnd = computed(
    () => this.bench.draft()?.ends.find(({ id }) => id === this.editing()) ?? null,
  );
  /** Contacts that a finding was asked about. */
  protected readonly shown = signal<readonly string[]>([]);
  /** The contact that is picked on the lead. */
  protected readonly inHand = signal<PinPlace | null>(null);
  protected readonly keeping = signal(false);
  protected readonly note = signal('');
  protected readonly scale = signal(2);
  protected readonly built = computed(() => builtWords(this.bench.record()?.builds ?? []));
  protected readonly functions = computed(() => (this.bench.draft()?.functionTest ?? []).join('\n'));

  constructor() {
    effect(() => {
      const id = this.adapterId();
      untracked(() => void this.bench.open(id));
    });
    effect(() => {
      const name = this.bench.draft()?.name ?? 'Adapter';
      untracked(() =>
        this.header.show([
          { name: 'Bench', link: '/bench' },
          { name: 'Adapters', link: '/bench/adapters' },
          { name },
        ]),
      );
    });
    const joining = (): boolean => this.here() === 'join' && this.editing() === null;
    const keys = inject(Keys);
    keys.use(
      [
        {
          key: 's',
          words: 'join what the signals suggest',
          run: () => this.joinAll(this.bench.suggested()),
          when: () => joining() && this.mayWork() && this.bench.suggested().length > 0,
        },
        {
          key: 'u',
          words: 'undo the last change',
          run: () => this.bench.undo(),
          when: () => this.bench.past().length > 0 && this.editing() === null,
        },
        {
          key: 'k',
          words: 'keep the adapter',
          run: () => this.startKeeping(),
          when: () => this.mayKeep(),
        },
      ],
      inject(DestroyRef),
    );
  }

  protected mayKeep(): boolean {
    return this.mayWork() && this.bench.changed() && this.bench.trouble() === null && this.editing() === null;
  }

  protected change(design: AdapterDesign): void {
    this.shown.set([]);
    this.bench.change(design);
  }

  protected joinAll(suggested: readonly SuggestedJoin[]): void {
    const draft = this.bench.draft();
    if (!draft) return;
    this.change(suggested.reduce((design, { join }) => joinContacts(design, join.from, join.to), draft));
  }

  protected takeEnd(end: AdapterEnd): void {
    const draft = this.bench.draft();
    if (draft) this.change(replaceEnd(draft, end));
    this.editing.set(null);
  }

  protected leaveEditor(): void {
    this.editing.set(null);
  }

  protected addEnd(): void {
    const draft = this.bench.draft();
    if (!draft || draft.ends.length >= 8) return;
    const id = nextEndId(draft);
    this.change({ ...draft, ends: [...draft.ends, newEnd(id, `device ${id}`)] });
    this.editing.set(id);
  }

  protected dropEnd(id: string): void {
    const draft = this.bench.draft();
    if (!draft || draft.ends.length <= 2) return;
    this.change({
      ...draft,
      ends: draft.ends.filter((end) => end.id !== id),
      joins: draft.joins.filter(({ from, to }) => from.end !== id && to.end !== id),
    });
    this.editing.set(null);
  }

  protected rename(name: string): void {
    const draft = this.bench.draft();
    if (draft && name.trim() !== '') this.change({ ...draft, name: name.trim() });
  }

  protected setFunctions(text: string): void {
    const draft = this.bench.draft();
    const functionTest = text
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '');
    if (draft) this.change({ ...draft, functionTest });
  }

  protected startKeeping(): void {
    this.note.set('');
    this.keeping.set(true);
    setTimeout(() => document.querySelector<HTMLInputElement>('.keeping input')?.focus());
  }

  protected async keep(event: Event): Promise<void> {
    event.preventDefault();
    if (await this.bench.keep(this.note().trim())) this.keeping.set(false);
  }

  protected go(room: Room): void {
    this.editing.set(null);
    void this.router.navigate(['/bench/adapters', this.adapterId()], { queryParams: { room } });
  }

  protected address(id: Parameters<typeof adapterFileAddress>[0]): string {
    const record = this.bench.record();
    return record ? adapterFileAddress(id, record.id, record.version, this.scale()) : '';
  }
}
