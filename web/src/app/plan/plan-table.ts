import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Link } from '@near-spoke/contracts';
import { cableLengthUnit, endsALink, hubsOf, LIST_FIELDS, runsALink, type ListField } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { concatMap, of } from 'rxjs';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { jobStations } from '../jobs/job-stations';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Keys } from '../keys/keys';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { CellGrid, type GridColumn } from '../ui/cell-grid';
import { Later } from '../ui/later';
import { keepCells, readKeptCells } from './kept-cells';
import {
  beginPlan,
  carriedDown,
  cellsToKeep,
  columnOf,
  laidOver,
  readDraft,
  withoutWords,
  written,
  type BegunPlan,
  type Block,
  type DraftRow,
} from './plan-draft';

const LOOKS: Readonly<Record<ListField, GridColumn>> = {
  label: { name: 'Label', least: 96, figure: true },
  panel: { name: 'Panel', least: 64 },
  port: { name: 'Port', least: 56, figure: true },
  room: { name: 'Far room', least: 110, grows: 1 },
  outlet: { name: 'Outlet', least: 120, grows: 1 },
  cable: { name: 'Cable', least: 150, grows: 1.2 },
  near: { name: 'Near connector', least: 150, grows: 1.2 },
  far: { name: 'Far connector', least: 150, grows: 1.2 },
  length: { name: 'Length', least: 84, figure: true },
  route: { name: 'Way', least: 120, grows: 1.4 },
  hub: { name: 'Hub', least: 78 },
};
/** Links that go to the server at once. */
const MOST_AT_ONCE = 1000;
const MOST_UNDONE = 200;
/** A text longer than this may be cut short in its cell. */
const OFTEN_CUT = 16;

/** A job's whole plan as cells: many links are changed and added by typing, pasting and carrying down; kept all at once. */
@Component({
  selector: 'ns-plan-table',
  imports: [
    RouterLink,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    ProblemNote,
    CellGrid,
  ],
  providers: [Later],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-table.html',
  styleUrl: './plan-table.scss',
})
export class PlanTable {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  protected readonly grid = viewChild(CellGrid);
  private readonly words = viewChild<ElementRef<HTMLInputElement>>('words');

  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);
  private readonly allLinks = this.store.selectSignal(jobsFeature.selectAllLinks);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  private readonly failed = this.store.selectSignal(jobsFeature.selectProblem);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  private readonly links = computed(() => (this.linksOf() === this.jobId() ? this.allLinks() : null));
  private readonly asking = new Asking();
  private readonly later = inject(Later);
  protected readonly busy = this.asking.busy;
  protected readonly problem = computed(() => this.asking.problem() ?? this.failed());
  protected readonly locked = computed(() => !this.mayWork() || this.job()?.closedAt !== undefined);

  protected readonly columns = computed((): GridColumn[] => {
    const kit = this.kit();
    const unit = cableLengthUnit(this.job()?.units ?? 'metric');
    const cables = kit?.cables.filter(runsALink).map(({ name }) => name) ?? [];
    const connectors = kit?.connectors.filter(endsALink).map(({ name }) => name) ?? [];
    const options = { cable: cables, near: connectors, far: connectors };
    const others = hubsOf(this.job()?.hub ?? '', this.links() ?? []).slice(1);
    return LIST_FIELDS.map((field) => ({
      ...LOOKS[field],
      ...(field === 'length' ? { name: `Length, ${unit}` } : {}),
      ...(field === 'hub' ? { options: others } : {}),
      ...(field in options ? { options: options[field as keyof typeof options] } : {}),
    }));
  });

  /** The plan as it is kept, and its rows. */
  private readonly plan = computed(() => {
    const [links, kit, job] = [this.links(), this.kit(), this.job()];
    return links && kit && job ? beginPlan(links, kit, job) : null;
  });
  private readonly begun = computed(() => this.plan()?.rows ?? []);
  /** Whatever the plan is by now, what was typed is laid over it: what stands here already, else what was kept on this device. */
  protected readonly rows = linkedSignal<BegunPlan | null, readonly DraftRow[]>({
    source: this.plan,
    computation: (plan, before) => {
      if (!plan) return [];
      const typed = before?.source
        ? cellsToKeep(before.value, before.source.rows)
        : readKeptCells(this.jobId());
      return laidOver(plan.rows, typed);
    },
  });
  /** Words of the rows that are looked at. */
  protected readonly wanted = signal('');
  /** Rows that hold those words when they are asked for: what is typed into one does not take it away. */
  private readonly hidden = computed((): ReadonlySet<string> => {
    const wanted = this.wanted();
    this.plan();
    return untracked(() => new Set(withoutWords(this.rows(), wanted).map(({ id }) => id)));
  });
  protected readonly looked = computed(() => {
    const [rows, hidden] = [this.rows(), this.hidden()];
    return hidden.size === 0 ? rows : rows.filter(({ id }) => !hidden.has(id));
  });
  private readonly numberOf = computed(() => new Map(this.rows().map(({ id }, at) => [id, at + 1])));
  /** What each row that is looked at is called in the whole table. */
  protected readonly numbers = computed(() => this.looked().map(({ id }) => this.numberOf().get(id) ?? 0));
  protected readonly cells = computed(() => this.looked().map((row) => row.cells));
  private readonly past = signal<readonly (readonly DraftRow[])[]>([]);
  private readonly future = signal<readonly (readonly DraftRow[])[]>([]);
  protected readonly canUndo = computed(() => this.past().length > 0);
  /** The rows that are read: those shown, one task later, so that a thousand pasted cells are seen before they are judged. */
  private readonly toRead = signal<readonly DraftRow[]>([]);
  private readonly reading = computed(() => this.toRead() !== this.rows());
  protected readonly read = computed(() => {
    const plan = this.plan();
    return plan ? readDraft(this.toRead(), plan) : { changes: [], added: [], problems: [] };
  });
  private readonly troubles = computed(
    () =>
      new Map(
        this.read().problems.map((p) => [`${this.toRead()[p.row]?.id}/${columnOf(p.field)}`, p.message]),
      ),
  );
  private readonly before = computed(() => new Map(this.begun().map((row) => [row.id, row.cells])));
  protected readonly isChanged = computed(() => {
    const [rows, before] = [this.looked(), this.before()];
    return (row: number, column: number): boolean => {
      const own = rows[row];
      return own !== undefined && own.cells[column] !== (before.get(own.id)?.[column] ?? '');
    };
  });
  protected readonly wrong = computed(() => {
    const [rows, troubles] = [this.looked(), this.troubles()];
    if (troubles.size === 0) return () => null;
    return (row: number, column: number): string | null => troubles.get(`${rows[row]?.id}/${column}`) ?? null;
  });
  protected readonly count = computed(() => this.read().changes.length + this.read().added.length);
  /** What is said of the cell in hand: what is wrong with it, else what it was. */
  protected readonly ofCell = computed(() => {
    const { row, column } = this.grid()?.at() ?? { row: 0, column: 0 };
    const own = this.looked()[row];
    const trouble = own && this.troubles().get(`${own.id}/${column}`);
    if (trouble !== undefined) return { words: trouble, wrong: true };
    const was = own && this.before().get(own.id)?.[column];
    if (own && was !== undefined && was !== own.cells[column])
      return { words: was === '' ? 'It was empty.' : `It was ${was}.`, wrong: false };
    const text = own?.cells[column] ?? '';
    return text.length > OFTEN_CUT ? { words: text, wrong: false } : null;
  });
  /** Why nothing can be kept yet; empty when it can. */
  protected readonly waits = computed(() => {
    if (this.reading()) return 'Reading what was typed.';
    const { problems, changes, added } = this.read();
    const [first] = problems;
    if (first)
      return `${problems.length === 1 ? 'One cell has' : `${problems.length} cells have`} to be mended first.`;
    if (changes.length > MOST_AT_ONCE || added.length > MOST_AT_ONCE)
      return `At most ${MOST_AT_ONCE} links are changed at once, and as many added.`;
    return changes.length + added.length === 0 ? 'Nothing is changed yet.' : '';
  });

  constructor() {
    const header = inject(Header);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => {
        this.store.dispatch(JobEvents.jobOpened({ jobId }));
        this.store.dispatch(JobEvents.kitNeeded());
      });
    });
    effect(() => {
      const job = this.job();
      if (job)
        header.show(
          [{ name: job.site, link: '/jobs' }, { name: job.title, link: ['/jobs', job.id] }, { name: 'Plan' }],
          jobStations(job.id, this.links() ?? [], 'plan'),
        );
    });
    effect(() => {
      this.wanted();
      untracked(() => this.grid()?.go(0, this.grid()?.at().column ?? 0));
    });
    effect(() => {
      const rows = this.rows();
      this.later.soon('read', () => this.toRead.set(rows));
    });
    inject(Keys).use(
      [
        { key: 'f', words: 'look at some rows only', run: () => this.words()?.nativeElement.focus() },
        { key: 'l', words: 'go to the cells; arrows move, typing edits', run: () => this.grid()?.focus() },
      ],
      inject(DestroyRef),
    );
  }

  private change(rows: readonly DraftRow[]): void {
    this.past.update((past) => [...past, this.rows()].slice(-MOST_UNDONE));
    this.future.set([]);
    this.put(rows);
  }

  private put(rows: readonly DraftRow[]): void {
    this.rows.set(rows);
    this.later.soon('keep', () => keepCells(this.jobId(), cellsToKeep(this.rows(), this.begun())));
  }

  protected write({ row, column, block }: { row: number; column: number; block: string[][] }): void {
    this.changeLooked(written(this.looked(), { row, column }, block));
  }

  /** Takes rows that are looked at as they are by now, new ones after them. */
  private changeLooked(looked: readonly DraftRow[]): void {
    const after = new Map(looked.map((row) => [row.id, row]));
    const there = this.numberOf();
    this.change([
      ...this.rows().map((row) => after.get(row.id) ?? row),
      ...looked.filter(({ id }) => !there.has(id)),
    ]);
  }

  protected carryDown(
    block: Block = this.grid()?.chosen() ?? { top: 0, left: 0, bottom: 0, right: 0 },
  ): void {
    // One cell alone is carried into the one below it.
    const bottom = block.bottom === block.top ? block.top + 1 : block.bottom;
    this.changeLooked(carriedDown(this.looked(), { ...block, bottom }));
    this.grid()?.focus();
  }

  protected undo(): void {
    this.step(this.past, this.future);
  }

  protected redo(): void {
    this.step(this.future, this.past);
  }

  private step(from: typeof this.past, to: typeof this.past): void {
    const last = from().at(-1);
    if (!last) return;
    from.update((all) => all.slice(0, -1));
    to.update((all) => [...all, this.rows()]);
    this.put(last);
    this.grid()?.focus();
  }

  protected throwAway(): void {
    this.change(this.begun());
    this.grid()?.focus();
  }

  /** Goes to the first cell that has to be mended. */
  protected toTrouble(): void {
    const [first] = this.read().problems;
    if (!first) return;
    this.wanted.set('');
    this.grid()?.go(first.row, columnOf(first.field));
    this.grid()?.focus();
  }

  /** Keeps what is changed, all or none, and then what is new. */
  protected keep(): void {
    if (this.waits() !== '') return;
    const { changes, added } = this.read();
    const params = { jobId: this.jobId() };
    const none = of<Link[]>([]);
    const seen = (links: Link[]): void =>
      this.store.dispatch(JobEvents.linksAdded({ jobId: this.jobId(), links }));
    const kept = (
      changes.length > 0 ? this.api.call('changeLinks', { params, body: { changes } }) : none
    ).pipe(
      concatMap((links) => {
        // Said at once: should what is new be refused, what was changed is kept and no draft any more.
        seen(links);
        return added.length > 0 ? this.api.call('addLinks', { params, body: { links: added } }) : none;
      }),
    );
    this.asking.ask(kept, (links) => {
      keepCells(this.jobId(), []);
      this.past.set([]);
      this.future.set([]);
      seen(links);
      this.rows.set(this.begun());
      this.grid()?.focus();
    });
  }
}
