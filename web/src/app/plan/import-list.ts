import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Job, Kit, Link } from '@near-spoke/contracts';
import {
  columnsNamed,
  endsALink,
  formatCableLength,
  headRow,
  LIST_FIELDS,
  readLinkList,
  runsALink,
  unitInHead,
  type ListColumns,
  type ListDefaults,
  type ListField,
  type ListProblem,
} from '@near-spoke/core';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { parse, unparse } from 'papaparse';
import { ProblemNote } from '../drawing/problem-note';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { readTableFile } from '../ui/table-file';
import { SaveTable } from '../ui/save-table';

/** Links that go to the server at once. */
const MOST_LINKS = 1000;
const MOST_TEXT = 5_000_000;
const SHOWN = 60;

const FIELD_NAMES: Readonly<Record<ListField, string>> = {
  label: 'Label',
  panel: 'Panel',
  port: 'Port',
  room: 'Far room',
  outlet: 'Outlet',
  cable: 'Cable',
  near: 'Near connector',
  far: 'Far connector',
  length: 'Length',
  route: 'Way',
  hub: 'Hub, where it is another',
};

/** A list of links from a spreadsheet: pasted or a file, its columns said, every cell shown as it was understood, then all or none. */
@Component({
  selector: 'ns-import-list',
  imports: [
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ProblemNote,
    SaveTable,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './import-list.html',
  styleUrl: './import-list.scss',
})
export class ImportList {
  private readonly store = inject(Store);
  protected readonly data = inject<{ job: Job; kit: Kit; links: readonly Link[] }>(MAT_DIALOG_DATA);
  protected readonly problem = this.store.selectSignal(jobsFeature.selectProblem);
  protected readonly busy = this.store.selectSignal(jobsFeature.selectBusy);
  protected readonly fields = LIST_FIELDS;
  protected readonly names = FIELD_NAMES;
  protected readonly cables = this.data.kit.cables.filter(runsALink);
  protected readonly connectors = this.data.kit.connectors.filter(endsALink);

  protected readonly text = signal('');
  /** Why the file that was chosen could not be read. */
  private readonly unread = signal('');
  protected readonly tooLong = computed(() => this.text().length > MOST_TEXT);
  protected readonly rows = computed((): string[][] =>
    this.text().trim() === '' || this.tooLong()
      ? []
      : parse<string[]>(this.text().replace(/^\ufeff/, ''), { skipEmptyLines: false }).data.map((row) =>
          row.map(String),
        ),
  );
  private readonly head = computed(() => headRow(this.rows()));
  /** Columns as a person set them; until then as their heads name them. */
  private readonly told = signal<ListColumns | null>(null);
  protected readonly columns = computed((): ListColumns => {
    const head = this.head();
    return this.told() ?? (head === null ? {} : columnsNamed(this.rows()[head] ?? []));
  });
  protected readonly columnNames = computed(() => {
    const head = this.rows()[this.head() ?? 0] ?? [];
    const most = Math.max(
      0,
      ...this.rows()
        .slice(0, 20)
        .map((row) => row.length),
    );
    return Array.from({ length: most }, (_, at) => head[at]?.trim() || `column ${at + 1}`);
  });
  protected readonly units = computed(() => {
    const length = this.columns().length;
    const said = length === undefined ? null : unitInHead(this.columnNames()[length] ?? '');
    if (said === null) return this.data.job.units;
    return said === 'ft' ? ('imperial' as const) : ('metric' as const);
  });
  protected readonly defaults = signal<ListDefaults>({
    panel: this.data.links.at(-1)?.near.panel ?? 'P1',
    cable: this.data.links.at(-1)?.cableTypeId ?? 'cat6-u',
    near: 'jack-punched',
    far: 'jack-toolless',
  });

  protected readonly read = computed(() =>
    readLinkList(this.rows(), {
      columns: this.columns(),
      skip: (this.head() ?? -1) + 1,
      units: this.units(),
      defaults: this.defaults(),
      cables: this.cables,
      connectors: this.connectors,
      hub: this.data.job.hub,
      taken: this.data.links,
    }),
  );
  protected readonly shown = computed(() =>
    this.read()
      .links.slice(0, SHOWN)
      .map((link) => ({
        ...link,
        cable: this.cables.find(({ id }) => id === link.cableTypeId)?.name ?? '',
        near: this.connectors.find(({ id }) => id === link.nearConnectorId)?.name ?? '',
        far: this.connectors.find(({ id }) => id === link.farConnectorId)?.name ?? '',
        length: formatCableLength(link.lengthM, this.data.job.units),
        way: link.route.map(({ name }) => name).join(', '),
      })),
  );
  protected readonly troubles = computed((): ListProblem[] => this.read().problems.slice(0, SHOWN));
  /** Why nothing can be added yet; empty when it can. */
  protected readonly waits = computed(() => {
    const { links, problems } = this.read();
    if (this.unread() !== '') return this.unread();
    if (this.tooLong()) return 'Over 5 MB: paste a part of it.';
    if (this.rows().length === 0) return 'Paste cells, or choose a file.';
    if (this.columns().label === undefined) return 'Say which column holds the label.';
    if (problems.length > 0)
      return `${problems.length === 1 ? 'One cell has' : `${problems.length} cells have`} to be mended first: nothing is added by halves.`;
    if (links.length > MOST_LINKS) return `At most ${MOST_LINKS} links at once: these are ${links.length}.`;
    return links.length === 0 ? 'There is no row with a link.' : '';
  });
  /** Kept for a retry, so that nothing is added twice. */
  private readonly ids = new Map<string, string>();

  constructor() {
    const dialog = inject(MatDialogRef);
    inject(Actions)
      .pipe(ofType(JobEvents.linksAdded), takeUntilDestroyed())
      .subscribe(() => dialog.close());
  }

  protected paste(text: string): void {
    this.text.set(text);
    this.told.set(null);
    this.unread.set('');
  }

  protected async open(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    const { rows, trouble } = await readTableFile(file);
    this.paste(rows === null ? '' : unparse(rows));
    this.unread.set(trouble);
  }

  protected setColumn(field: ListField, column: number | null): void {
    const { [field]: _, ...others } = this.columns();
    this.told.set(column === null ? others : { ...others, [field]: column });
  }

  protected setDefault(field: keyof ListDefaults, value: string): void {
    this.defaults.update((defaults) => ({ ...defaults, [field]: value }));
  }

  protected add(): void {
    if (this.waits() !== '') return;
    const links = this.read().links.map(({ row: _, ...link }) => {
      const id = this.ids.get(link.label) ?? crypto.randomUUID();
      this.ids.set(link.label, id);
      return { id, ...link };
    });
    this.store.dispatch(JobEvents.linksDrafted({ jobId: this.data.job.id, links }));
  }
}
