import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { DatePipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import {
  cableType,
  connectorType,
  fieldErrors,
  kitFile,
  toolType,
  type KitKind,
  type KitVersion,
  type SpoilCount,
} from '@near-spoke/contracts';
import { spoilRate, type ConnectorType } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { kitFileAddress } from '../api/api';
import { CableSection } from '../drawing/cable-section';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { sessionFeature } from '../session/session.state';
import { KitKinds } from './kit-kinds';
import { KitShelf, type KindedSheet } from './kit-shelf';
import { SharedSheets } from './shared-sheets';
import { SheetForm } from './sheet-form';
import { SheetPreview } from './sheet-preview';
import { ToolSizes } from './tool-sizes';
import { SaveTable } from '../ui/save-table';

const KINDS: readonly KitKind[] = ['connector', 'cable', 'tool'];
const SCHEMAS = { cable: cableType, connector: connectorType, tool: toolType } as const;
const NOT_FOUND = 'not-there';

/** A sheet as it is typed; fresh where it is a copy under a new name. */
interface Draft {
  draft: KindedSheet | null;
  fresh: boolean;
}

/** The kit: cables, connectors and tools with their figures, versions, and what a crew spoils. */
@Component({
  selector: 'ns-kit-page',
  imports: [
    DatePipe,
    RouterLink,
    MatButtonModule,
    ProblemNote,
    SheetForm,
    SharedSheets,
    SheetPreview,
    CableSection,
    KitKinds,
    ToolSizes,
    SaveTable,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './kit-page.html',
  styleUrl: './kit-page.scss',
})
export class KitPage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  protected readonly shelf = inject(KitShelf);
  /** From the address: what is open. */
  readonly kind = input<string>();
  readonly typeId = input<string>();

  protected readonly fileAddress = kitFileAddress;
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly open = computed(
    (): KitKind => KINDS.find((kind) => kind === this.kind()) ?? 'connector',
  );
  private readonly edit = viewChild<ElementRef<HTMLElement>>('edit');
  protected readonly search = signal('');
  private readonly all = computed(() => {
    const kit = this.kit();
    return kit === null ? [] : { cable: kit.cables, connector: kit.connectors, tool: kit.tools }[this.open()];
  });
  protected readonly listed = computed(() => {
    const words = this.search().trim().toLowerCase();
    return this.all().filter((sheet) => `${sheet.name} ${sheet.id}`.toLowerCase().includes(words));
  });
  /** The sheet as it is kept. */
  protected readonly kept = computed((): KindedSheet | null => {
    const id = this.typeId() ?? this.listed()[0]?.id ?? NOT_FOUND;
    const sheet = this.all().find((one) => one.id === id);
    return sheet ? ({ kind: this.open(), sheet } as KindedSheet) : null;
  });
  protected readonly version = computed(() => {
    const kept = this.kept();
    return kept ? (this.kit()?.versions[kept.kind][kept.sheet.id] ?? 0) : 0;
  });
  private readonly opened = computed(() => {
    const kept = this.kept();
    return kept ? `${kept.kind}/${kept.sheet.id}/${this.version()}` : '';
  });
  /** What was typed and is not kept, by what was open: it is there again when that is opened again. */
  private readonly laidAside = signal<ReadonlyMap<string, Draft>>(new Map());
  private readonly work = computed(
    (): Draft => this.laidAside().get(this.opened()) ?? { draft: this.kept(), fresh: false },
  );
  protected readonly draft = computed(() => this.work().draft);
  /** A copy under a new name that is not kept yet. */
  protected readonly fresh = computed(() => this.work().fresh);
  protected readonly changed = computed(
    () => this.fresh() || JSON.stringify(this.draft()?.sheet) !== JSON.stringify(this.kept()?.sheet),
  );
  protected readonly wrong = computed((): Readonly<Record<string, string>> => {
    const draft = this.draft();
    if (!draft) return {};
    const parsed = SCHEMAS[draft.kind].safeParse(draft.sheet);
    const errors = parsed.success ? [] : fieldErrors(parsed.error);
    const taken = this.fresh() && this.all().some((sheet) => sheet.id === draft.sheet.id);
    return {
      ...Object.fromEntries(errors.map((e) => [e.path, e.message])),
      ...(taken ? { id: 'There is a sheet of this name already.' } : {}),
    };
  });
  protected readonly whole = computed(() => Object.keys(this.wrong()).length === 0);
  protected readonly previewed = computed((): ConnectorType | null => {
    const draft = this.draft();
    return draft?.kind === 'connector' ? draft.sheet : null;
  });
  protected readonly versions = signal<readonly KitVersion[]>([]);
  private readonly spoils = signal<readonly SpoilCount[]>([]);
  protected readonly rates = computed(() => {
    const id = this.draft()?.sheet.id;
    const mine = this.spoils().filter((count) => count.connectorTypeId === id);
    const all = mine.reduce((sum, c) => ({ good: sum.good + c.good, spoiled: sum.spoiled + c.spoiled }), {
      good: 0,
      spoiled: 0,
    });
    return [{ by: 'The crew', ...spoilRate(all) }, ...mine.map((c) => ({ by: c.by, ...spoilRate(c) }))];
  });

  constructor() {
    inject(Header).show([{ name: 'Kit' }]);
    this.shelf.clear();
    this.store.dispatch(JobEvents.kitNeeded());
    void this.shelf.spoils().then((counts) => this.spoils.set(counts ?? []));
    // Another sheet begins at its top.
    effect(() => {
      this.opened();
      this.edit()?.nativeElement.scrollTo({ top: 0 });
    });
    effect(() => {
      const kept = this.kept();
      this.version();
      if (!kept) return;
      void this.shelf.versions(kept.kind, kept.sheet.id).then((all) => this.versions.set(all ?? []));
    });
  }

  protected percent(share: number): string {
    return `${Math.round(share * 100)} %`;
  }

  protected copy(): void {
    const draft = this.draft();
    if (!draft) return;
    const sheet = {
      ...draft.sheet,
      id: `${draft.sheet.id}-2`.slice(0, 40),
      name: `${draft.sheet.name}, ours`,
    };
    this.lay({ draft: { kind: draft.kind, sheet } as KindedSheet, fresh: true });
  }

  protected rename(id: string): void {
    const draft = this.draft();
    if (draft) this.change({ kind: draft.kind, sheet: { ...draft.sheet, id } } as KindedSheet);
  }

  protected change(draft: KindedSheet): void {
    this.lay({ draft, fresh: this.fresh() });
  }

  private lay(work: Draft | null, at = this.opened()): void {
    this.laidAside.update((before) => {
      const after = new Map(before);
      if (work) after.set(at, work);
      else after.delete(at);
      return after;
    });
  }

  /** Whether something typed on a sheet is not kept yet. */
  protected unkept(id: string): boolean {
    const version = this.kit()?.versions[this.open()][id] ?? 0;
    return this.laidAside().has(`${this.open()}/${id}/${version}`);
  }

  protected undo(): void {
    this.lay(null);
    this.shelf.clear();
  }

  protected async save(): Promise<void> {
    const draft = this.draft();
    if (!draft) return;
    const given = { kind: draft.kind, sheet: { ...draft.sheet, source: 'sheet' } } as KindedSheet;
    const at = this.opened();
    const kept = await this.shelf.save(given, this.fresh() ? 0 : this.version());
    if (!kept) return;
    this.lay(null, at);
    void this.router.navigate(['/kit', draft.kind, draft.sheet.id]);
  }

  /** Looks at an older version; keeping it makes it the newest. */
  protected lookAt(version: KitVersion): void {
    this.change({ kind: version.kind, sheet: version.sheet } as KindedSheet);
  }

  protected async take(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    if (!file) return;
    const refuse = (detail: string): void =>
      this.shelf.refuse({
        type: 'about:blank',
        title: 'Not taken',
        status: 400,
        detail: `${file.name}: ${detail}`,
      });
    try {
      const parsed = kitFile.safeParse(JSON.parse((await file.text()).replace(/^\ufeff/, '')));
      if (parsed.success) await this.shelf.take(parsed.data);
      else
        refuse(
          fieldErrors(parsed.error)
            .slice(0, 3)
            .map((e) => `${e.path}: ${e.message}`)
            .join(' '),
        );
    } catch (error) {
      refuse(`It is not JSON: ${error instanceof Error ? error.message : String(error)}`);
    } finally {
      input.value = '';
    }
  }
}
