import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const WIDTH = 700;
const HEIGHT = 190;
const LEFT = 52;
const BOTTOM = 28;
const TOP = 8;
/** From the smallest reflection worth drawing to all of it, each a decade. */
const LEAST = 0.001;
const TICKS = [0.001, 0.01, 0.1, 1];

/** The smallest reflection that is seen at each distance, beside the one that is wanted. */
@Component({
  selector: 'ns-sight-plot',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="words()">
      @for (tick of ticks; track tick.name) {
        <line [attr.x1]="left" [attr.x2]="width - 8" [attr.y1]="tick.y" [attr.y2]="tick.y" class="rule" />
        <text [attr.x]="left - 6" [attr.y]="tick.y + 4" text-anchor="end" class="figure">
          {{ tick.name }}
        </text>
      }
      <path [attr.d]="area()" class="seen" />
      <path [attr.d]="path()" class="least" />
      <line
        [attr.x1]="left"
        [attr.x2]="width - 8"
        [attr.y1]="wantedY()"
        [attr.y2]="wantedY()"
        class="wanted"
      />
      <text [attr.x]="left + 8" [attr.y]="wantedY() - 5" class="name">looked for</text>
      <text [attr.x]="left + 8" [attr.y]="top + 16">seen</text>
      @for (at of distances(); track $index) {
        <text [attr.x]="at.x" [attr.y]="height - 8" text-anchor="middle" class="figure">{{ at.name }}</text>
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
    }
    text {
      font-size: 13px;
      fill: var(--ink-2);
    }
    .name {
      fill: var(--ink);
      font-weight: 700;
    }
    .rule {
      stroke: var(--rule);
    }
    .seen {
      fill: var(--accent-soft);
    }
    .least {
      fill: none;
      stroke: var(--accent);
      stroke-width: 2;
    }
    .wanted {
      stroke: var(--ink);
      stroke-dasharray: 6 4;
    }
  `,
})
export class SightPlot {
  readonly points = input.required<readonly { distanceM: number; reflection: number }[]>();
  readonly wanted = input.required<number>();
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly left = LEFT;
  protected readonly top = TOP;
  protected readonly ticks = TICKS.map((share) => ({ y: yOf(share), name: `${100 * share} %` }));

  private readonly mostM = computed(() => this.points().at(-1)?.distanceM ?? 1);
  private readonly xOf = (distanceM: number): number =>
    LEFT + (distanceM / this.mostM()) * (WIDTH - LEFT - 24);
  /** What is seen nearest holds from the beginning: loss has hardly begun. */
  private readonly from0 = computed(() => {
    const [first] = this.points();
    return first ? [{ ...first, distanceM: 0 }, ...this.points()] : [];
  });
  private readonly corners = computed(() =>
    this.from0().map(
      ({ distanceM, reflection }) => `${this.xOf(distanceM).toFixed(1)} ${yOf(reflection).toFixed(1)}`,
    ),
  );
  protected readonly path = computed(() => `M${this.corners().join('L')}`);
  protected readonly area = computed(
    () => `M${LEFT} ${TOP}L${this.corners().join('L')}L${this.xOf(this.mostM())} ${TOP}Z`,
  );
  protected readonly wantedY = computed(() => yOf(this.wanted()));
  protected readonly distances = computed(() =>
    this.points()
      .filter((_, n) => n % 2 === 0)
      .map(({ distanceM }) => ({ x: this.xOf(distanceM), name: `${distanceM.toFixed(0)} m` })),
  );
  protected readonly words = computed(() => {
    const far = this.points().at(-1);
    return far
      ? `At ${far.distanceM.toFixed(0)} m, ${(100 * far.reflection).toFixed(1)} % is the least that is seen`
      : '';
  });
}

/** Large reflections above, on a scale of decades. */
function yOf(share: number): number {
  const up = Math.log10(Math.max(LEAST, Math.min(1, share)) / LEAST) / Math.log10(1 / LEAST);
  return HEIGHT - BOTTOM - up * (HEIGHT - BOTTOM - TOP);
}
