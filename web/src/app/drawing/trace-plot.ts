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
import Annotation from 'chartjs-plugin-annotation';
import Zoom from 'chartjs-plugin-zoom';
import { onThemeChange } from './theme-change';
import { linesOf, marksOf, scalesOf, type Ink, type PlottedTrace } from './trace-chart';

Chart.register(LineController, LineElement, PointElement, LinearScale, Decimation, Annotation, Zoom);

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
  /** How long the line of the drawn trace is. */
  private drawnM = NaN;

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
    const unthemed = onThemeChange(() => this.draw());
    inject(DestroyRef).onDestroy(() => {
      observer.disconnect();
      unthemed();
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

  /** Tokens as the page shows them now: a canvas knows none. */
  private readonly ink: Ink = {
    colour: (token, opacity = 1) => {
      const probe = document.createElement('span');
      probe.style.color = `var(${token})`;
      this.host.append(probe);
      const { color } = getComputedStyle(probe);
      probe.remove();
      return opacity === 1 ? color : color.replace(/^rgb\((.*)\)$/, `rgba($1, ${opacity})`);
    },
    font: (token) => getComputedStyle(this.host).getPropertyValue(token).trim(),
  };

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
    const range = this.closeUp();
    this.chart.resetZoom('none');
    Object.assign(x, this.bounds());
    this.chart.update('none');
    this.look(range);
  }

  /** What is looked at closely, in metres; null for the whole line. */
  private closeUp(): { min: number; max: number } | null {
    const x = this.chart?.scales['x'];
    return x && this.chart?.isZoomedOrPanned() ? { min: x.min, max: x.max } : null;
  }

  private look(range: { min: number; max: number } | null): void {
    if (range) this.chart?.zoomScale('x', range, 'none');
    this.moved();
  }

  private draw(): void {
    const plotted = this.plotted();
    // A trace is drawn again as soon as more is known of it: whoever looks at a place goes on looking there.
    const bounds = this.bounds();
    const range = this.drawnM === this.lengthM() ? this.closeUp() : null;
    this.drawnM = this.lengthM();
    this.chart?.destroy();
    this.chart = new Chart(this.canvas().nativeElement, {
      type: 'line',
      data: { datasets: linesOf(plotted, this.ink) },
      options: {
        animation: false,
        maintainAspectRatio: false,
        // The handles stand where the axis is.
        onResize: () => this.view.update((count) => count + 1),
        parsing: false,
        normalized: true,
        events: ['click', 'mousemove'],
        onClick: ({ x }) => {
          const at = x === null ? undefined : this.chart?.scales['x']?.getValueForPixel(x);
          if (at !== undefined) this.placeOf(this.active()).set(Math.max(0, at));
        },
        layout: { padding: 0, autoPadding: false },
        scales: scalesOf(bounds, this.ink),
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
    untracked(() => this.look(range));
  }

  private annotate(chart: Chart<'line', { x: number; y: number }[]>): void {
    const options = chart.options.plugins?.annotation;
    const cursors = { A: untracked(this.cursorM), B: untracked(this.secondM) };
    if (options) options.annotations = marksOf(this.plotted(), cursors, this.lengthM(), this.ink);
  }
}
