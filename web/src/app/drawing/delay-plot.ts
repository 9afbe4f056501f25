import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { roundTripS } from '@near-spoke/core';

const WIDTH = 372;
const HEIGHT = 170;
const LEFT = 44;
const BOTTOM = 30;

/** Pieces by length and delay, with the line their velocity makes: a piece off it is seen at once. */
@Component({
  selector: 'ns-delay-plot',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + width + ' ' + height"
      role="img"
      [attr.aria-label]="points().length + ' pieces: delay of the echo over length'"
    >
      <path [attr.d]="'M' + left + ' 8V' + (height - bottom) + 'H' + (width - 8)" class="axis" />
      <text [attr.x]="left + 6" y="18">echo after, ns</text>
      <text [attr.x]="width - 8" [attr.y]="height - bottom - 6" text-anchor="end">length, m</text>
      @for (tick of ticks(); track $index) {
        <text [attr.x]="tick.x" [attr.y]="height - 8" text-anchor="middle" class="figure">
          {{ tick.name }}
        </text>
      }
      <line
        [attr.x1]="line().x1"
        [attr.y1]="line().y1"
        [attr.x2]="line().x2"
        [attr.y2]="line().y2"
        class="fit"
      />
      @for (dot of dots(); track $index) {
        <circle [attr.cx]="dot.x" [attr.cy]="dot.y" r="5" class="dot" />
        <text [attr.x]="dot.x - 8" [attr.y]="dot.y - 8" text-anchor="end" class="figure">{{ dot.name }}</text>
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
    }
    text {
      font-size: 12px;
      fill: var(--ink-2);
    }
    .axis {
      fill: none;
      stroke: var(--rule-firm);
    }
    .fit {
      stroke: var(--accent);
      stroke-width: 2;
    }
    .dot {
      fill: var(--sheet);
      stroke: var(--ink);
      stroke-width: 2;
    }
  `,
})
export class DelayPlot {
  readonly points = input.required<readonly { lengthM: number; delayNs: number }[]>();
  readonly offsetNs = input.required<number>();
  readonly velocityFactor = input.required<number>();
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly left = LEFT;
  protected readonly bottom = BOTTOM;

  private readonly mostM = computed(() => 1.15 * Math.max(...this.points().map(({ lengthM }) => lengthM), 1));
  private readonly nsAt = (lengthM: number): number =>
    this.offsetNs() + 1e9 * roundTripS(lengthM, this.velocityFactor());
  private readonly x = (lengthM: number): number => LEFT + (lengthM / this.mostM()) * (WIDTH - LEFT - 12);
  private readonly y = (ns: number): number =>
    HEIGHT - BOTTOM - (ns / this.nsAt(this.mostM())) * (HEIGHT - BOTTOM - 12);
  protected readonly line = computed(() => ({
    x1: this.x(0),
    y1: this.y(this.nsAt(0)),
    x2: this.x(this.mostM()),
    y2: this.y(this.nsAt(this.mostM())),
  }));
  protected readonly dots = computed(() =>
    this.points().map(({ lengthM, delayNs }) => ({
      x: this.x(lengthM),
      y: this.y(delayNs),
      name: delayNs.toFixed(1),
    })),
  );
  protected readonly ticks = computed(() =>
    [...new Set(this.points().map(({ lengthM }) => lengthM))].map((lengthM) => ({
      x: this.x(lengthM),
      name: lengthM.toFixed(1),
    })),
  );
}
