import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Link, Problem } from '@near-spoke/contracts';
import {
  EIGHT_CONTACTS,
  extraColumns,
  guessMapping,
  headerRow,
  INSTRUMENTS,
  NO_EXTRAS,
  readingsFromTable,
  type ColumnMapping,
  type LinkExpectation,
  type Reading,
  type TableClass,
  type TableRow,
} from '@near-spoke/core';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { judgeMany, type Batch, type Judged } from './diagnosing';
import { readTableFile } from '../ui/table-file';
import { SaveTable } from '../ui/save-table';

const CLASSES: readonly TableClass[] = [
  'coded-mapper-crosstalk',
  'coded-mapper',
  'stepping-lamps',
  'lamp-pairs',
];
const PAIRS: readonly string[] = ['1-2', '3-6', '4-5', '7-8'];

/** Readings that go to the server at once. */
const AT_ONCE = 1000;

/** Brings readings in from a table: which column is what, row by row what would be kept, then all or the good ones. */
@Component({
  selector: 'ns-import-readings',
  imports: [MatButtonModule, ProblemNote, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './import-readings.html',
  styleUrl: './import-readings.scss',
})
export class ImportReadings {
  private readonly api = inject(Api);
  readonly jobId = input.required<string>();
  readonly links = input.required<readonly Link[]>();
  readonly expectationOf = input.required<(label: string) => LinkExpectation | null>();
  readonly kept = output<number>();
  readonly left = output<void>();

  protected readonly classes = CLASSES;
  protected readonly names = INSTRUMENTS;
  protected readonly table = signal<{ name: string; header: string[]; rows: string[][] } | null>(null);
  protected readonly label = signal<number | null>(null);
  protected readonly instrument = signal<TableClass>('coded-mapper');
  protected readonly columns = signal<Readonly<Record<string, number>>>({});
  protected readonly splits = signal<number | null>(null);
  /** The column that holds a whole wire map, where there is one. */
  protected readonly wireMap = signal<number | null>(null);
  private readonly measured = signal<number | null>(null);
  private readonly operator = signal<number | null>(null);
  protected readonly extras = signal(NO_EXTRAS);
  /** Rows above the one that names the columns. */
  private readonly above = signal(0);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly trouble = signal('');
  protected readonly busy = signal(false);
  protected readonly judged = signal<Readonly<Record<number, Judged>>>({});
  protected readonly judging = signal(false);
  private batch: Batch | null = null;
  /** Of each row's record: kept for a retry, so that nothing is added twice. */
  private readonly ids = new Map<string, string>();

  /** What a column has to be chosen for. */
  protected readonly wanted = computed(() =>
    this.instrument() === 'lamp-pairs' ? PAIRS : this.wireMap() !== null ? [] : [...EIGHT_CONTACTS, 'S'],
  );
  protected readonly preview = computed((): TableRow[] => {
    const [table, label] = [this.table(), this.label()];
    if (!table || label === null) return [];
    const mapping: ColumnMapping = {
      label,
      instrument: this.instrument(),
      columns: this.columns(),
      splits: this.splits(),
      wireMap: this.wireMap(),
      measured: this.measured(),
      operator: this.operator(),
      extras: this.extras(),
    };
    return readingsFromTable(table.rows, mapping, this.expectationOf(), this.above() + 2);
  });
  protected readonly good = computed(() => this.preview().filter((row) => row.reading !== null));
  protected readonly bad = computed(() => this.preview().filter((row) => row.reading === null));

  constructor() {
    inject(DestroyRef).onDestroy(() => this.batch?.cancel());
  }

  protected async choose(event: Event): Promise<void> {
    const [file] = (event.target as HTMLInputElement).files ?? [];
    if (!file) return;
    this.trouble.set('');
    const { rows: data, trouble } = await readTableFile(file);
    if (data === null) return this.trouble.set(trouble);
    const at = headerRow(data);
    const [header, ...rows] = data.slice(at);
    this.above.set(at);
    if (!header || rows.every((row) => row.every((cell) => cell.trim() === '')))
      return this.trouble.set(`${file.name} has no rows under its header.`);
    this.table.set({ name: file.name, header, rows });
    const guess = remembered(header) ?? guessMapping(header);
    this.label.set(guess.label ?? null);
    this.instrument.set(guess.instrument ?? 'coded-mapper');
    this.columns.set(guess.columns ?? {});
    this.splits.set(guess.splits ?? null);
    this.wireMap.set(guess.wireMap ?? null);
    this.measured.set(guess.measured ?? null);
    this.operator.set(guess.operator ?? null);
    this.extras.set(extraColumns(header));
    this.judge();
  }

  protected setWireMap(event: Event): void {
    const value = Number((event.target as HTMLSelectElement).value);
    this.wireMap.set(value < 0 ? null : value);
    this.judge();
  }

  protected setColumn(name: string, event: Event): void {
    const value = Number((event.target as HTMLSelectElement).value);
    this.columns.update(({ [name]: _, ...columns }) => (value < 0 ? columns : { ...columns, [name]: value }));
    this.judge();
  }

  protected setLabel(event: Event): void {
    const value = Number((event.target as HTMLSelectElement).value);
    this.label.set(value < 0 ? null : value);
    this.judge();
  }

  protected setSplits(event: Event): void {
    const value = Number((event.target as HTMLSelectElement).value);
    this.splits.set(value < 0 ? null : value);
    this.judge();
  }

  protected setClass(event: Event): void {
    this.instrument.set((event.target as HTMLSelectElement).value as TableClass);
    this.judge();
  }

  /** Verdicts for the preview come from a worker, each as it is ready. */
  private judge(): void {
    this.stop();
    // Read otherwise, a row is another record.
    this.ids.clear();
    this.judged.set({});
    const items = this.good().flatMap((one) => {
      const { row, label, reading } = one;
      const expected = this.expectationOf()(label);
      const more = one.problem === null ? one.more : [];
      return reading && expected ? [{ row, expected, evidence: [reading, ...more] }] : [];
    });
    this.judging.set(true);
    this.batch = judgeMany(
      items,
      (index, judged) =>
        this.judged.update((all) => ({ ...all, [(items[index] as (typeof items)[number]).row]: judged })),
      () => this.judging.set(false),
    );
  }

  protected stop(): void {
    this.batch?.cancel();
    this.judging.set(false);
  }

  protected async keep(): Promise<void> {
    const tests = this.good().flatMap((one) => {
      const { row, label, reading } = one;
      const said = one.problem === null ? one.note : '';
      const link = this.links().find((one) => one.label.toLowerCase() === label.toLowerCase());
      if (!link || !reading) return [];
      const note = [`from ${this.table()?.name ?? 'a table'}`, said].filter(Boolean).join(', ');
      // What stands beside the map comes before it: the map is what the link is proved by.
      const all = [...(one.problem === null ? one.more : []), reading];
      return all.map((each) => ({
        linkId: link.id,
        test: {
          id: this.idOf(`${row} ${each.instrument}`),
          instrumentName: INSTRUMENTS[each.instrument].name,
          reading: each,
          corrects: null,
          note,
          unplugged: true as const,
        },
      }));
    });
    this.busy.set(true);
    this.problem.set(null);
    try {
      const params = { jobId: this.jobId() };
      let all = 0;
      // What was kept before one is refused is found kept when it is sent again.
      for (let at = 0; at < tests.length; at += AT_ONCE) {
        const body = { tests: tests.slice(at, at + AT_ONCE) };
        const { kept } = await firstValueFrom(this.api.call('addTests', { params, body }));
        all += kept;
      }
      this.remember();
      this.kept.emit(all);
    } catch (error) {
      this.problem.set(problemOf(error));
    } finally {
      this.busy.set(false);
    }
  }

  /** What a row holds beside its map. */
  protected besides(more: readonly Reading[]): string {
    return `with ${more.map((one) => ('pairs' in one ? 'lengths of its pairs' : 'loop resistances')).join(' and ')}`;
  }

  private idOf(key: string): string {
    const id = this.ids.get(key) ?? (crypto.randomUUID() as string);
    this.ids.set(key, id);
    return id;
  }

  /** What was said of the columns holds for the next file of this kind as well. */
  private remember(): void {
    const table = this.table();
    if (!table) return;
    const mapping = {
      label: this.label() ?? undefined,
      instrument: this.instrument(),
      columns: this.columns(),
      splits: this.splits(),
      wireMap: this.wireMap(),
      measured: this.measured(),
      operator: this.operator(),
    };
    localStorage.setItem(kindOf(table.header), JSON.stringify(mapping));
  }
}

/** Files whose columns are called the same are of one kind. */
const kindOf = (header: readonly string[]): string =>
  `readings table: ${header.map((name) => name.trim().toLowerCase()).join('|')}`;

function remembered(header: readonly string[]): Partial<ColumnMapping> | null {
  try {
    return JSON.parse(localStorage.getItem(kindOf(header)) ?? 'null') as Partial<ColumnMapping> | null;
  } catch {
    return null;
  }
}
