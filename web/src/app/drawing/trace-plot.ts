import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  model,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Chart, Decimation, LinearScale, LineController, LineElement, PointElement } from 'chart.js';
import Annotation, { type AnnotationOptions } from 'chartjs-plugin-annotation';
import Zoom from 'chartjs-plugin-zoom';

Chart.register(LineController, LineElement, PointElement, LinearScale, Decimation, Annotation, Zoom);

/** A trace over distance, with what was found in it. */
export interface PlottedTrace {
  /** Metres from the near end of the link, and share of the launch. */
  points: { x: number; y: number }[];
  /** What the fit leaves over, the same way; null where it is not asked for. */
  residual: { x: number; y: number }[] | null;
  /** Difference to an earlier trace, the same way; null where none is compared. */
  difference: { x: number; y: number }[] | null;
  /** Impedance by its nominal value, less one; null where it is not asked for. */
  profile: { x: number; y: number }[] | null;
  events: { atM: number; u95M: number; label: string; main: boolean; ghost: boolean }[];
}

/** Pixels from the strip's left edge to its near end, and from its far end to the right edge. */
const END_PX = 142;
/** One press of a zoom key. */
const ZOOM_STEP = 1.5;

/** The two cursors: a place is read at A, a stretch from A to B. */
export type CursorName = 'A' | 'B';
/** A cursor asks to be put on an edge or a peak. */
export interface SnapAsked {
  cursor: CursorName;
  to: 'edge' | 'peak';
}

/**
 * The trace under the strip, on the strip's own axis: what stands under a stretch of the route is in
 * it. Each cursor is a slider: arrow keys move it, with Shift in larger steps; E puts it on the
 * nearest edge, K on the nearest peak; plus, minus and 0 zoom.
 */
@Component({
  selector: 'ns-trace-plot',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="plot" (keydown)="zoomBy($event)">
      <canvas #canvas></canvas>
      @for (handle of handles(); track handle.name) {
        <button
          type="button"
          class="handle"
          [class.second]="handle.name === 'B'"
          role="slider"
          [style.left.px]="handle.x"
          [attr.aria-label]="'Cursor ' + handle.name + ' on the trace, metres from the near end'"
          [attr.aria-valuemin]="0"
          [attr.aria-valuemax]="lengthM()"
          [attr.aria-valuenow]="handle.atM"
          (focus)="active.set(handle.name)"
          (keydown)="move($event, handle.name)"
          (pointerdown)="grab($event, handle.name)"
          (pointermove)="drag($event, handle.name)"
          (pointerup)="held = null"
        >
          {{ handle.name }}
        </button>
      }
      @if (zoomed()) {
        <button type="button" class="whole" (click)="showWhole()">Whole line <kbd>0</kbd></button>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .plot {
      position: relative;
      height: var(--plot-height, 168px);
      overflow: hidden;
    }
    .handle {
      position: absolute;
      bottom: 20px;
      width: 26px;
      height: 26px;
      margin-left: -13px;
      padding: 0;
      font: 700 14px/24px var(--figures);
      color: var(--on-accent);
      background: var(--accent);
      border: 1px solid var(--sheet);
      border-radius: 13px 13px 13px 2px;
      cursor: ew-resize;
      touch-action: none;
      &.second {
        color: var(--accent);
        background: var(--sheet);
        border: 2px solid var(--accent);
        line-height: 22px;
      }
    }
    .whole {
      position: absolute;
      right: 8px;
      bottom: 24px;
      font: inherit;
      font-size: 14px;
      min-height: 32px;
      padding: 0 10px;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--ink-2);
      border-radius: 6px;
    }
  `,
})
export class TracePlot {
  readonly plotted = input.required<PlottedTrace>();
  readonly lengthM = input.required<number>();
  readonly cursorM = model<number | null>(null);
  readonly secondM = model<number | null>(null);
  /** Pixels to each side of the line; the strip's own unless the trace stands alone. */
  readonly marginPx = input(END_PX);
  readonly snap = output<SnapAsked>();
  protected readonly active = signal<CursorName>('A');
  protected held: CursorName | null = null;
  protected readonly zoomed = signal(false);
  /** Counts what moves the axis, so that the handles follow. */
  private readonly view = signal(0);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private chart: Chart<'line', { x: number; y: number }[]> | null = null;

  private readonly step = computed(() => this.lengthM() / 600);
  protected readonly handles = computed(() => {
    this.view();
    const x = this.chart?.scales['x'];
    return (['A', 'B'] as const).flatMap((name) => {
      const atM = this.placeOf(name)();
      const px = atM === null || !x ? null : x.getPixelForValue(atM);
      return px === null || atM === null ? [] : [{ name, atM, x: px }];
    });
  });

  constructor() {
    effect(() => this.draw());
    effect(() => {
      this.cursorM();
      this.secondM();
      if (this.chart) {
        this.annotate(this.chart);
        this.chart.update('none');
      }
    });
    // Both cursors can be reached by keys from the beginning.
    effect(() => {
      const lengthM = this.lengthM();
      untracked(() => {
        this.cursorM.update((at) => at ?? lengthM / 2);
        this.secondM.update((at) => at ?? 0);
      });
    });
    const observer = new ResizeObserver(() => this.fit());
    observer.observe(this.host);
    // Colours follow the theme.
    const themed = new MutationObserver(() => this.draw());
    themed.observe(document.documentElement, { attributes: true });
    inject(DestroyRef).onDestroy(() => {
      observer.disconnect();
      themed.disconnect();
      this.chart?.destroy();
    });
  }

  private placeOf(name: CursorName): typeof this.cursorM {
    return name === 'A' ? this.cursorM : this.secondM;
  }

  protected move(event: KeyboardEvent, name: CursorName): void {
    const to = ({ e: 'edge', k: 'peak' } as const)[event.key.toLowerCase()];
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const end = { Home: 0, End: this.lengthM() }[event.key];
    if (to) this.snap.emit({ cursor: name, to });
    else if (end !== undefined) this.placeOf(name).set(end);
    else if (way !== undefined) {
      const x = this.chart?.scales['x'];
      // Zoomed in, steps are smaller too.
      const step = x && this.zoomed() ? (x.max - x.min) / 800 : this.step();
      this.placeOf(name).update((at) => Math.max(0, (at ?? 0) + way * step * (event.shiftKey ? 10 : 1)));
    } else return;
    event.preventDefault();
  }

  protected zoomBy(event: KeyboardEvent): void {
    const by = { '+': ZOOM_STEP, '=': ZOOM_STEP, '-': 1 / ZOOM_STEP }[event.key];
    if (event.key === '0') this.showWhole();
    else if (by !== undefined && this.chart) {
      const x = this.chart.scales['x'];
      const at = this.placeOf(this.active())() ?? 0;
      const centre = { x: x ? x.getPixelForValue(at) : 0, y: 0 };
      this.chart.zoom({ x: by, focalPoint: centre });
      this.moved();
    } else return;
    event.preventDefault();
  }

  protected showWhole(): void {
    this.chart?.resetZoom();
    this.moved();
  }

  private moved(): void {
    this.zoomed.set(this.chart?.isZoomedOrPanned() ?? false);
    this.view.update((count) => count + 1);
  }

  protected grab(event: PointerEvent, name: CursorName): void {
    this.held = name;
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
  }

  protected drag(event: PointerEvent, name: CursorName): void {
    if (this.held !== name) return;
    const { left } = this.host.getBoundingClientRect();
    const at = this.chart?.scales['x']?.getValueForPixel(event.clientX - left);
    if (at !== undefined) this.placeOf(name).set(Math.max(0, at));
  }

  /** A token's colour as the page shows it now: a canvas knows no tokens. */
  private colour(name: string, opacity = 1): string {
    const probe = document.createElement('span');
    probe.style.color = `var(${name})`;
    this.host.append(probe);
    const { color } = getComputedStyle(probe);
    probe.remove();
    return opacity === 1 ? color : color.replace(/^rgb\((.*)\)$/, `rgba($1, ${opacity})`);
  }

  private font(name: string): string {
    return getComputedStyle(this.host).getPropertyValue(name).trim();
  }

  /** The axis so that the link's ends stand under the strip's. */
  private bounds(): { min: number; max: number } {
    const width = Math.max(320, this.host.clientWidth);
    const margin = this.marginPx();
    const perPx = this.lengthM() / Math.max(40, width - 2 * margin);
    return { min: -margin * perPx, max: this.lengthM() + margin * perPx };
  }

  private fit(): void {
    const x = this.chart?.options.scales?.['x'];
    if (!this.chart || !x) return;
    Object.assign(x, this.bounds());
    this.chart.update('none');
    this.moved();
  }

  private draw(): void {
    const plotted = this.plotted();
    const [ink, second, rule, accent] = ['--ink', '--ink-2', '--rule', '--accent'].map((name) =>
      this.colour(name),
    );
    this.chart?.destroy();
    const ticks = { color: second ?? '', font: { family: this.font('--figures'), size: 11 } };
    this.chart = new Chart(this.canvas().nativeElement, {
      type: 'line',
      data: {
        datasets: [
          { data: plotted.points, borderColor: ink ?? '', borderWidth: 1.6, pointRadius: 0 },
          ...(plotted.profile
            ? [
                {
                  data: plotted.profile,
                  borderColor: this.colour('--unsure'),
                  borderWidth: 1.4,
                  borderDash: [5, 3],
                  pointRadius: 0,
                },
              ]
            : []),
          ...(plotted.difference
            ? [
                {
                  data: plotted.difference,
                  borderColor: this.colour('--wrong'),
                  borderWidth: 2,
                  pointRadius: 0,
                  // Over the trace: where nothing was before, the two are one line.
                  order: -1,
                },
              ]
            : []),
          ...(plotted.residual
            ? [{ data: plotted.residual, borderColor: accent ?? '', borderWidth: 1.2, pointRadius: 0 }]
            : []),
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        parsing: false,
        normalized: true,
        events: ['click', 'mousemove'],
        onClick: ({ x }) => {
          const at = x === null ? undefined : this.chart?.scales['x']?.getValueForPixel(x);
          if (at !== undefined) this.placeOf(this.active()).set(Math.max(0, at));
        },
        layout: { padding: 0, autoPadding: false },
        scales: {
          x: {
            type: 'linear',
            ...this.bounds(),
            afterFit: (axis) => {
              axis.paddingLeft = 0;
              axis.paddingRight = 0;
            },
            grid: { color: rule ?? '' },
            border: { display: false },
            ticks: {
              ...ticks,
              includeBounds: false,
              callback: (value) => (Number(value) < 0 ? '' : `${value}`),
              maxRotation: 0,
            },
          },
          y: {
            min: -1,
            max: 1.25,
            grid: { color: rule ?? '', drawTicks: false },
            border: { display: false },
            // The figures stand inside, so that the axis is as wide as the strip.
            afterFit: (axis) => {
              axis.width = 0;
            },
            ticks: {
              ...ticks,
              mirror: true,
              includeBounds: false,
              stepSize: 0.5,
              z: 1,
              callback: (value) => (Number(value) > 0 ? `+${value}` : `${value}`),
            },
          },
        },
        plugins: {
          legend: { display: false },
          tooltip: { enabled: false },
          decimation: { enabled: true, algorithm: 'min-max' },
          zoom: {
            pan: { enabled: true, mode: 'x', onPan: () => this.moved() },
            zoom: {
              wheel: { enabled: true, modifierKey: 'ctrl' },
              pinch: { enabled: true },
              mode: 'x',
              onZoom: () => this.moved(),
            },
          },
          annotation: { annotations: {} },
        },
      },
    });
    this.annotate(this.chart);
    this.chart.update('none');
    untracked(() => this.moved());
  }

  private annotate(chart: Chart<'line', { x: number; y: number }[]>): void {
    const wrong = this.colour('--wrong');
    const second = this.colour('--ink-2');
    const accent = this.colour('--accent');
    const font = { family: this.font('--words'), size: 13 };
    const annotations: Record<string, AnnotationOptions> = {};
    this.plotted().events.forEach(({ atM, u95M, label, main, ghost }, n) => {
      const color = main ? wrong : second;
      if (main)
        annotations[`band${n}`] = {
          type: 'box',
          xMin: atM - u95M,
          xMax: atM + u95M,
          backgroundColor: this.colour('--wrong', 0.18),
          borderWidth: 0,
        };
      annotations[`line${n}`] = {
        type: 'line',
        xMin: atM,
        xMax: atM,
        borderColor: color,
        borderWidth: main ? 2 : 1,
        borderDash: ghost ? [2, 4] : main ? [] : [6, 4],
        label: {
          display: true,
          content: label,
          position: ghost ? 'start' : 'end',
          backgroundColor: 'transparent',
          color,
          font: { ...font, weight: main ? 'bold' : 'normal' },
          // Beside its line, on the side where there is room.
          xAdjust: (atM > 0.8 * this.lengthM() ? -1 : 1) * (8 + label.length * 3.4),
          yAdjust: n % 2 === 0 ? 0 : 16,
        },
      };
    });
    for (const [name, at] of [
      ['A', untracked(this.cursorM)],
      ['B', untracked(this.secondM)],
    ] as const) {
      if (at === null) continue;
      annotations[`cursor${name}`] = {
        type: 'line',
        xMin: at,
        xMax: at,
        borderColor: accent,
        borderWidth: name === 'A' ? 2 : 1,
        borderDash: name === 'A' ? [] : [3, 3],
      };
    }
    const options = chart.options.plugins?.annotation;
    if (options) options.annotations = annotations;
  }
}
