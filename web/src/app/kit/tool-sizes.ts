import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { ToolType } from '@near-spoke/core';

const MM_PER_INCH = 25.4;

/** The dies of a tool to scale, hexagon by hexagon; other sizes by name. */
@Component({
  selector: 'ns-tool-sizes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (size of sizes(); track $index) {
        <li>
          @if (size.mm; as mm) {
            <svg viewBox="-7 -7 14 14" role="img" [attr.aria-label]="mm.toFixed(1) + ' mm across flats'">
              <path [attr.d]="hexagon(mm)" />
            </svg>
            <span class="small quiet">{{ mm.toFixed(1) }} mm</span>
          }
          <strong class="figure">{{ size.name }}</strong>
        </li>
      } @empty {
        <li class="small quiet">One size for all.</li>
      }
    </ul>
  `,
  styles: `
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(84px, 1fr));
      gap: 10px;
    }
    li {
      display: grid;
      justify-items: center;
    }
    svg {
      width: 76px;
    }
    path {
      fill: var(--accent-soft);
      stroke: var(--ink);
      stroke-width: 0.2px;
    }
  `,
})
export class ToolSizes {
  readonly tool = input.required<ToolType>();
  protected readonly sizes = computed(() =>
    this.tool().sizes.map((name) => {
      const inches = name.startsWith('.') ? Number(name) : Number.NaN;
      return { name, mm: Number.isNaN(inches) ? null : inches * MM_PER_INCH };
    }),
  );

  /** A hexagon by its width across flats. */
  protected hexagon(acrossMm: number): string {
    const radius = acrossMm / Math.sqrt(3);
    const corners = Array.from({ length: 6 }, (_, i) => {
      const angle = (Math.PI / 3) * i;
      return `${(radius * Math.cos(angle)).toFixed(3)} ${(radius * Math.sin(angle)).toFixed(3)}`;
    });
    return `M${corners.join('L')}Z`;
  }
}
