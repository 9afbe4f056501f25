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
  /** Impedance by its nominal value, less one; null where it is not asked for. */
  profile: { x: number; y: number }[] | null;
  events: { atM: number; u95M: number; label: string; main: boolean; ghost: boolean }[];
}

/** Pixels from the strip's left edge to its near end, and from its far end to the right edge. */
const END_PX = 142;

/**
 * The trace under the strip, on the strip's own axis: what stands under a stretch of the route is in
 * it. Arrow keys move the cursor, with Shift in larger steps.
 */
@Component({
  selector: 'ns-trace-plot',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      class="plot"
      tabindex="0"
      role="slider"
      aria-label="Cursor on the trace, metres from the near end"
      [attr.aria-valuemin]="0"
      [attr.aria-valuemax]="lengthM()"
      [attr.aria-valuenow]="cursorM() ?? 0"
      (keydown)="move($event)"
    >
      <canvas #canvas></canvas>
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
    }
  `,
})
export class TracePlot {
  readonly plotted = input.required<PlottedTrace>();
  readonly lengthM = input.required<number>();
  readonly cursorM = model<number | null>(null);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private chart: Chart<'line', { x: number; y: number }[]> | null = null;

  private readonly step = computed(() => this.lengthM() / 600);

  constructor() {
    effect(() => this.draw());
    effect(() => {
      this.cursorM();
      if (this.chart) {
        this.annotate(this.chart);
        this.chart.update('none');
      }
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

  protected move(event: KeyboardEvent): void {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (way === undefined) return;
    event.preventDefault();
    const from = this.cursorM() ?? this.lengthM() / 2;
    this.cursorM.set(Math.max(0, from + way * this.step() * (event.shiftKey ? 10 : 1)));
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
    const perPx = this.lengthM() / Math.max(40, width - 2 * END_PX);
    return { min: -END_PX * perPx, max: this.lengthM() + END_PX * perPx };
  }

  private fit(): void {
    const x = this.chart?.options.scales?.['x'];
    if (!this.chart || !x) return;
    Object.assign(x, this.bounds());
    this.chart.update('none');
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
          if (at !== undefined) this.cursorM.set(Math.max(0, at));
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
            pan: { enabled: true, mode: 'x' },
            zoom: { wheel: { enabled: true, modifierKey: 'ctrl' }, pinch: { enabled: true }, mode: 'x' },
          },
          annotation: { annotations: {} },
        },
      },
    });
    this.annotate(this.chart);
    this.chart.update('none');
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
          xAdjust: 8 + label.length * 3.4,
          yAdjust: n % 2 === 0 ? 0 : 16,
        },
      };
    });
    const cursor = this.cursorM();
    if (cursor !== null)
      annotations['cursor'] = {
        type: 'line',
        xMin: cursor,
        xMax: cursor,
        borderColor: accent,
        borderWidth: 2,
      };
    const options = chart.options.plugins?.annotation;
    if (options) options.annotations = annotations;
  }
}
