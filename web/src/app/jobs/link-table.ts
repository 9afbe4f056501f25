import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Link } from '@near-spoke/contracts';
import { formatCableLength, type UnitSystem } from '@near-spoke/core';
import { StageGlyph } from '../drawing/stage-glyph';
import { ROOM_OF_STAGE } from './rooms';
import { SaveTable } from '../ui/save-table';

type Column = 'stage' | 'label' | 'far' | 'cable' | 'length' | 'standing';
const STAGE_ORDER = ['failed', 'both-ends', 'one-end', 'planned', 'proved', 'handed-over'];

/** The links of a job as a table: sortable, each row opening the room where its next work is. */
@Component({
  selector: 'ns-link-table',
  imports: [RouterLink, StageGlyph, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table #saved>
      <caption class="visually-hidden">
        Links,
        {{
          sorted().length
        }}
        shown
      </caption>
      <thead>
        <tr>
          @for (column of columns; track column.id) {
            <th
              scope="col"
              [class]="column.id"
              [attr.aria-sort]="sort().by === column.id ? (sort().down ? 'descending' : 'ascending') : 'none'"
            >
              <button type="button" (click)="sortBy(column.id)">
                <span [class.visually-hidden]="column.id === 'stage'">{{ column.name }}</span>
                <span class="arrow" aria-hidden="true">{{
                  sort().by === column.id ? (sort().down ? '▾' : '▴') : ''
                }}</span>
              </button>
            </th>
          }
        </tr>
      </thead>
      <tbody>
        @for (link of sorted(); track link.id) {
          <tr [class.chosen]="link.id === chosen()" (mouseenter)="point.emit(link)">
            <td class="stage"><ns-stage-glyph [stage]="link.stage" /></td>
            <th scope="row">
              <a
                [routerLink]="['/jobs', link.jobId, 'links', link.id, rooms[link.stage]]"
                (focus)="point.emit(link)"
                >{{ link.label }}</a
              >
            </th>
            <td>{{ link.far.outlet }}</td>
            <td class="cable">{{ cableNames().get(link.cableTypeId) ?? link.cableTypeId }}</td>
            <td class="length figure">{{ length(link) }}</td>
            <td class="standing">{{ link.standing }}</td>
          </tr>
        }
      </tbody>
    </table>
    <ns-save-table [table]="saved" name="Links" />
  `,
  styleUrl: './link-table.scss',
  host: { '(keydown.arrowdown)': 'move($event, 1)', '(keydown.arrowup)': 'move($event, -1)' },
})
export class LinkTable {
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly links = input.required<readonly Link[]>();
  readonly units = input<UnitSystem>('metric');
  readonly cableNames = input<ReadonlyMap<string, string>>(new Map());
  readonly chosen = input<string | null>(null);
  readonly point = output<Link>();

  protected readonly rooms = ROOM_OF_STAGE;
  protected readonly columns: readonly { id: Column; name: string }[] = [
    { id: 'stage', name: 'Stage' },
    { id: 'label', name: 'Link' },
    { id: 'far', name: 'Far end' },
    { id: 'cable', name: 'Cable' },
    { id: 'length', name: 'Length' },
    { id: 'standing', name: 'Where it stands' },
  ];
  protected readonly sort = signal<{ by: Column; down: boolean }>({ by: 'stage', down: false });
  protected readonly sorted = computed(() => {
    const { by, down } = this.sort();
    const key = (link: Link): string | number => {
      switch (by) {
        case 'stage':
          return STAGE_ORDER.indexOf(link.stage);
        case 'far':
          return link.far.outlet;
        case 'cable':
          return link.cableTypeId;
        case 'length':
          return link.lengthM;
        case 'standing':
          return link.standing;
        case 'label':
          return link.position;
      }
    };
    const compare = (a: Link, b: Link): number => {
      const [x, y] = [key(a), key(b)];
      const order =
        typeof x === 'number' && typeof y === 'number' ? x - y : String(x).localeCompare(String(y));
      return (down ? -order : order) || a.position - b.position;
    };
    return [...this.links()].sort(compare);
  });

  protected length(link: Link): string {
    return formatCableLength(link.lengthM, this.units());
  }

  protected sortBy(by: Column): void {
    const { by: now, down } = this.sort();
    this.sort.set({ by, down: by === now ? !down : false });
  }

  /** Puts the focus into the table, on its first row. */
  focusFirst(): void {
    this.rowLinks()[0]?.focus();
  }

  protected move(event: Event, step: 1 | -1): void {
    const links = this.rowLinks();
    const at = links.indexOf(document.activeElement as HTMLAnchorElement);
    if (at < 0) return;
    event.preventDefault();
    links[Math.min(links.length - 1, Math.max(0, at + step))]?.focus();
  }

  private rowLinks(): HTMLAnchorElement[] {
    return [...this.element.querySelectorAll<HTMLAnchorElement>('tbody a')];
  }
}
