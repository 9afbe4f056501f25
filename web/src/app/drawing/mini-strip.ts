import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { EndPicture, LinkPicture } from '@near-spoke/core';
import { Wire } from './wire';

const WIDTH = 250;
const LEFT = 20;
const RIGHT = WIDTH - 20;
const ZONE = 52;
const PITCH = 7;

/**
 * A link under one explanation, small: near end left, far end right. Only what the explanation says is
 * drawn, so a break of unknown place is a gap in the middle, marked as such.
 */
@Component({
  selector: 'ns-mini-strip',
  imports: [Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + width + ' ' + height()" role="img" [attr.aria-label]="name()">
      <rect class="end" x="2" y="1" width="17" [attr.height]="height() - 2" rx="3" />
      <rect class="end" [attr.x]="width - 19" y="1" width="17" [attr.height]="height() - 2" rx="3" />
      @for (wire of wires(); track wire.conductor) {
        <g nsWire [d]="wire.d" [conductor]="wire.conductor" [width]="4" />
      }
      @for (mark of marks(); track $index) {
        <line class="mark" [attr.x1]="mark.x" [attr.x2]="mark.x" y1="0" [attr.y2]="height()" />
      }
      @if (unplaced()) {
        <text class="unknown" [attr.x]="width / 2" [attr.y]="height() / 2 + 4">?</text>
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      width: 100%;
      height: auto;
      display: block;
    }
    .end {
      fill: var(--film);
      stroke: var(--ink-2);
    }
    .mark {
      stroke: var(--wrong);
      stroke-width: 2;
      stroke-dasharray: 3 3;
    }
    .unknown {
      font: 700 15px var(--figures);
      text-anchor: middle;
      fill: var(--wrong);
      stroke: var(--sheet);
      stroke-width: 4px;
      paint-order: stroke;
    }
  `,
})
export class MiniStrip {
  readonly picture = input.required<LinkPicture>();
  readonly lengthM = input.required<number>();
  readonly name = input('');

  protected readonly width = WIDTH;
  private readonly rows = computed(() => this.picture().rows.map((row, i) => ({ ...row, y: 7 + i * PITCH })));
  protected readonly height = computed(() => this.rows().length * PITCH + 6);
  private readonly xAt = (atM: number | null): number =>
    atM === null ? WIDTH / 2 : LEFT + ZONE + Math.min(1, atM / this.lengthM()) * (RIGHT - LEFT - 2 * ZONE);

  protected readonly wires = computed(() => {
    const { near, far, cable } = this.picture();
    return this.rows().map((row) => {
      const cuts = cable.breaks.filter((b) => b.conductor === row.conductor).map((b) => this.xAt(b.atM));
      const stops = [LEFT + ZONE, ...cuts.flatMap((x) => [x - 7, x + 7]), RIGHT - ZONE];
      const body = stops.reduce((d, x, i) => d + (i % 2 === 0 ? `M${x} ${row.y}` : `H${x}`), '');
      return {
        conductor: row.conductor,
        d: `${this.toEnd(near, row, LEFT)}${body}${this.toEnd(far, row, RIGHT)}`,
      };
    });
  });
  protected readonly marks = computed(() => {
    const { cable } = this.picture();
    const places = [...cable.breaks, ...cable.joins, ...cable.disturbances].map((p) => p.atM);
    return [...new Set(places)].filter((atM) => atM !== null).map((atM) => ({ x: this.xAt(atM) }));
  });
  protected readonly unplaced = computed(() => {
    const { cable } = this.picture();
    return [...cable.breaks, ...cable.joins].some((p) => p.atM === null);
  });

  /** From the cable's row to the contact it lies on; short of it where it does not touch. */
  private toEnd(end: EndPicture, row: { conductor: string; y: number }, edge: number): string {
    const line = end.lines.find((l) => l.conductor === row.conductor);
    const to = this.rows().find((r) => r.contact === line?.contact)?.y;
    if (!line || to === undefined) return '';
    const inner = edge === LEFT ? LEFT + ZONE : RIGHT - ZONE;
    const half = (edge + inner) / 2;
    const start = line.seated ? edge : edge + (edge === LEFT ? 10 : -10);
    return `M${start} ${to}C${half} ${to} ${half} ${row.y} ${inner} ${row.y}`;
  }
}
