import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  branchLines,
  formatCableLength,
  formatTemperature,
  ORDINARY,
  routeTree,
  type RouteStretch,
  type StretchUse,
  type UnitSystem,
} from '@near-spoke/core';

const ROW = 46;
const STEP = 18;

/** The ways of a job as a tree from its hub: as thick as cables run there, each branch a key to its stretch. */
@Component({
  selector: 'ns-route-branches',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="hub figure">{{ hub() }}</div>
    <div class="tree" [style.height.px]="rows().length * ROW">
      <svg [attr.height]="rows().length * ROW" [attr.width]="wide()" aria-hidden="true">
        @for (row of rows(); track $index) {
          <path [attr.d]="row.path" [class.hot]="row.hot" [attr.stroke-width]="row.thick" />
        }
      </svg>
      <ol>
        @for (row of rows(); track $index) {
          <li [style.padding-left.px]="row.x + 12">
            <button
              type="button"
              [attr.aria-pressed]="row.name === chosen()"
              (click)="choose.emit(row.name)"
              [class.lit]="lit().has(row.name)"
            >
              <span>{{ row.name }}</span>
              <span class="figure small">{{ row.words }}</span>
            </button>
          </li>
        }
      </ol>
    </div>
  `,
  styleUrl: './route-branches.scss',
})
export class RouteBranches {
  readonly hub = input.required<string>();
  readonly links = input.required<readonly { label: string; route: readonly RouteStretch[] }[]>();
  readonly stretches = input.required<readonly StretchUse[]>();
  readonly units = input.required<UnitSystem>();
  readonly chosen = input<string | null>(null);
  /** Names of the stretches that the link in hand runs through. */
  readonly lit = input<ReadonlySet<string>>(new Set());
  readonly choose = output<string>();
  protected readonly ROW = ROW;

  protected readonly rows = computed(() => {
    const known = new Map(this.stretches().map((stretch) => [stretch.name, stretch]));
    const lines = branchLines(routeTree(this.links()));
    return lines.map((line, at) => {
      const stretch = known.get(line.name);
      const x = 10 + line.depth * STEP;
      // It leaves the line above it that lies one step nearer to the hub.
      const parent = lines.slice(0, at).findLastIndex(({ depth }) => depth < line.depth);
      const from = parent < 0 ? 0 : parent * ROW + ROW / 2;
      const y = at * ROW + ROW / 2;
      const left = x - (line.depth === 0 ? 0 : STEP);
      const hot = stretch !== undefined && stretch.temperatureC > ORDINARY.temperatureC + 20;
      return {
        ...line,
        x,
        hot,
        thick: 2 + Math.min(5, line.links.length / 4),
        path: `M${left} ${from}V${y}H${x + 6}`,
        words: [
          formatCableLength(line.lengthM, this.units()),
          line.links.length === 1 ? '1 cable' : `${line.links.length} cables`,
          ...(stretch && stretch.temperatureC !== ORDINARY.temperatureC
            ? [formatTemperature(stretch.temperatureC, this.units())]
            : []),
        ].join(', '),
      };
    });
  });
  protected readonly wide = computed(() => 20 + STEP * Math.max(0, ...this.rows().map(({ depth }) => depth)));
}
