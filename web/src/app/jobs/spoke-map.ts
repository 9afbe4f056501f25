import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Link } from '@near-spoke/contracts';
import {
  cableLengthFromM,
  cableLengthUnit,
  LINK_STAGES,
  PERMANENT_LINK_LIMIT_M,
  type UnitSystem,
} from '@near-spoke/core';
import { scaleLinear } from 'd3-scale';
import { StageShape } from '../drawing/stage-glyph';

const HUB = 34;
const RIM = 246;
/** Above this many links the ring has no room for every label. */
const LABELS_AT_MOST = 72;
const STROKE: Record<Link['stage'], string> = {
  'handed-over': 'var(--accent)',
  proved: 'var(--ink)',
  failed: 'var(--wrong)',
  'both-ends': 'var(--ink)',
  'one-end': 'var(--ink)',
  planned: 'var(--ink-2)',
};

/** A closet as a hub, each link a spoke drawn to length, in panel order, its stroke telling the stage. */
@Component({
  selector: 'ns-spoke-map',
  imports: [StageShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <figure>
      <svg viewBox="-318 -282 636 564" role="img" [attr.aria-label]="summary()">
        @for (ring of rings(); track ring.r) {
          <circle [attr.r]="ring.r" class="ring" [class.limit]="ring.limit" />
        }
        @for (spoke of spokes(); track spoke.link.id) {
          <g
            class="spoke"
            [class.chosen]="spoke.link.id === chosen()"
            (click)="open.emit(spoke.link)"
            (mouseenter)="point.emit(spoke.link)"
          >
            <title>{{ spoke.link.label }}, {{ spoke.link.far.outlet }}: {{ spoke.link.standing }}</title>
            <line
              class="guide"
              [attr.x1]="spoke.x0"
              [attr.y1]="spoke.y0"
              [attr.x2]="spoke.xRim"
              [attr.y2]="spoke.yRim"
            />
            <line
              [attr.x1]="spoke.x0"
              [attr.y1]="spoke.y0"
              [attr.x2]="spoke.x"
              [attr.y2]="spoke.y"
              [attr.stroke]="spoke.stroke"
              [attr.stroke-width]="thin() ? 1.5 : 4"
              [attr.stroke-dasharray]="spoke.dash"
            />
            @if (!thin() || spoke.link.stage === 'failed') {
              <g
                nsStageShape
                [stage]="spoke.link.stage"
                [attr.transform]="'translate(' + spoke.x + ' ' + spoke.y + ')'"
              />
            }
            @if (!thin()) {
              <text [attr.x]="spoke.xLabel" [attr.y]="spoke.yLabel" [attr.text-anchor]="spoke.anchor">
                {{ spoke.link.label }}
              </text>
            }
          </g>
        }
        @for (ring of rings(); track ring.r) {
          <text class="scale" [attr.y]="-ring.r + 14">{{ ring.name }}</text>
        }
        <circle [attr.r]="hubRadius" class="hub" />
        <text class="hub-name" y="5">{{ hub() }}</text>
      </svg>
      <figcaption>
        @for (stage of legend; track stage.id) {
          <span>
            <svg viewBox="-10 -10 20 20" width="20" height="20" aria-hidden="true">
              <g nsStageShape [stage]="stage.id" />
            </svg>
            {{ stage.name }}
          </span>
        }
      </figcaption>
    </figure>
  `,
  styleUrl: './spoke-map.scss',
})
export class SpokeMap {
  readonly links = input.required<readonly Link[]>();
  readonly hub = input.required<string>();
  readonly units = input<UnitSystem>('metric');
  readonly chosen = input<string | null>(null);
  readonly open = output<Link>();
  readonly point = output<Link>();

  protected readonly hubRadius = HUB;
  protected readonly legend = LINK_STAGES;
  protected readonly thin = computed(() => this.links().length > LABELS_AT_MOST);
  private readonly scale = computed(() => {
    const longest = Math.max(PERMANENT_LINK_LIMIT_M, ...this.links().map((link) => link.lengthM));
    return scaleLinear().domain([0, longest]).range([HUB, RIM]);
  });
  protected readonly rings = computed(() => {
    const scale = this.scale();
    return [30, 60, PERMANENT_LINK_LIMIT_M].map((m) => {
      const limit = m === PERMANENT_LINK_LIMIT_M;
      const figure = `${Math.round(cableLengthFromM(m, this.units()))} ${cableLengthUnit(this.units())}`;
      return { r: scale(m), limit, name: limit ? `${figure} limit` : figure };
    });
  });
  protected readonly spokes = computed(() => {
    const links = this.links();
    const scale = this.scale();
    return links.map((link, index) => {
      const angle = ((index + 0.5) / links.length) * 2 * Math.PI - Math.PI / 2;
      const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
      const r = scale(link.lengthM);
      const label = RIM + 16;
      return {
        link,
        x0: cos * HUB,
        y0: sin * HUB,
        x: cos * r,
        y: sin * r,
        xRim: cos * RIM,
        yRim: sin * RIM,
        xLabel: cos * label,
        yLabel: sin * label + 4,
        anchor: Math.abs(cos) < 0.2 ? 'middle' : cos > 0 ? 'start' : 'end',
        stroke: STROKE[link.stage],
        dash: link.stage === 'planned' ? '3 5' : link.stage === 'one-end' ? '9 5' : null,
      };
    });
  });
  protected readonly summary = computed(() => {
    const links = this.links();
    const counts = LINK_STAGES.map(({ id, name }) => ({
      name,
      count: links.filter((l) => l.stage === id).length,
    }));
    const told = counts.filter(({ count }) => count > 0).map(({ name, count }) => `${count} ${name}`);
    return `${links.length} links from ${this.hub()}: ${told.join(', ')}. The table beside lists them.`;
  });
}
