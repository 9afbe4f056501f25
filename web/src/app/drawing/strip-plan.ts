import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { formatStripLength, type StripPlan, type UnitSystem } from '@near-spoke/core';
import { Wire } from './wire';

const PX_PER_MM = 4.6;
const END_X = 296;
const COLOURS = ['WH-OG', 'OG', 'WH-GN', 'GN', 'WH-BU', 'BU', 'WH-BN', 'BN'];

/** Strip lengths to scale, measured from the cable's end at the right. */
@Component({
  selector: 'ns-strip-plan',
  imports: [Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 304 112" role="img" [attr.aria-label]="words()">
      <rect x="0" y="14" [attr.width]="jacketX()" height="44" rx="3" class="jacket" />
      @for (wire of wires(); track wire.code) {
        <g nsWire [d]="wire.d" [conductor]="wire.code" [width]="4.4" />
      }
      <g class="measure" transform="translate(0 74)">
        <path [attr.d]="'M' + jacketX() + ' -5V5M' + jacketX() + ' 0H296M296 -5V5'" />
        <text [attr.x]="(jacketX() + 296) / 2" y="16">jacket off {{ figure(plan().jacketMm) }}</text>
      </g>
      @if (plan().trimMm; as trim) {
        <path class="cut" [attr.d]="'M' + cutX() + ' 6V66'" />
        <text class="cut-words" x="300" y="108">cut {{ figure(trim) }} from the jacket</text>
      }
    </svg>
    <p class="small quiet">
      {{
        plan().source === 'typical'
          ? 'Typical figures: the sheet in the bag wins.'
          : 'From the sheet in the bag.'
      }}
    </p>
  `,
  styles: `
    svg {
      width: 100%;
      display: block;
    }
    .jacket {
      fill: #30383c;
      stroke: var(--rule-firm);
    }
    .measure path {
      stroke: var(--ink-2);
      fill: none;
    }
    text {
      font: 500 13px var(--figures);
      fill: var(--ink);
      text-anchor: middle;
    }
    .cut-words {
      text-anchor: end;
      fill: var(--wrong);
    }
    .cut {
      stroke: var(--wrong);
      stroke-width: 2;
      stroke-dasharray: 4 3;
    }
  `,
})
export class StripPlanPicture {
  readonly plan = input.required<StripPlan>();
  readonly units = input<UnitSystem>('metric');
  protected readonly jacketX = computed(() => END_X - this.plan().jacketMm * PX_PER_MM);
  protected readonly cutX = computed(() => this.jacketX() + (this.plan().trimMm ?? 0) * PX_PER_MM);
  protected readonly wires = computed(() =>
    COLOURS.map((code, i) => ({ code, d: `M${this.jacketX()} ${17.5 + i * 5.3}H${END_X}` })),
  );
  protected readonly words = computed(() => {
    const { jacketMm, trimMm } = this.plan();
    const cut = trimMm === null ? '' : `, conductors cut ${this.figure(trimMm)} from the jacket`;
    return `Strip plan: jacket off ${this.figure(jacketMm)}${cut}.`;
  });

  protected figure(mm: number): string {
    return formatStripLength(mm, this.units());
  }
}
