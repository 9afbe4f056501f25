import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  conductorsOf,
  formatStripLength,
  SCREEN,
  type CableType,
  type StripPlan,
  type UnitSystem,
} from '@near-spoke/core';
import { Wire } from './wire';

const FOUR_PAIRS = {
  family: 'balanced',
  pairs: 4,
  conductors: 8,
  screened: false,
  colours: undefined,
} as const;
const END_X = 296;
const TOP = 14;
const HEIGHT = 44;
/** The drawing grows no larger than this, and shrinks so that some whole jacket is always seen. */
const MOST_PX_PER_MM = 9;
const JACKET_SEEN_PX = 46;
/** Wires of a cable that has more are drawn as far as they can be told apart. */
const MOST_WIRES = 12;
const WIRE_PX = 4.4;
const LINE_PX = 19;

/** Strip lengths to scale, measured from the cable's end at the right. */
@Component({
  selector: 'ns-strip-plan',
  imports: [Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (plan().cuts.length > 0) {
      <svg [attr.viewBox]="'0 0 304 ' + height()" role="img" [attr.aria-label]="words()">
        <rect
          x="0"
          [attr.y]="top"
          [attr.width]="jacketX()"
          [attr.height]="bodyHeight"
          rx="3"
          class="jacket"
        />
        @if (coax(); as coax) {
          <rect
            [attr.x]="jacketX()"
            y="20"
            [attr.width]="coax.screenX - jacketX()"
            height="32"
            class="braid"
          />
          <path [attr.d]="coax.weave" class="weave" />
          <rect
            [attr.x]="coax.screenX"
            y="25"
            [attr.width]="coax.dielectricX - coax.screenX"
            height="22"
            class="dielectric"
          />
          <rect
            [attr.x]="coax.dielectricX"
            y="32"
            [attr.width]="endX - coax.dielectricX"
            height="8"
            class="centre"
          />
        } @else {
          @for (wire of wires(); track wire.code) {
            <g nsWire [d]="wire.d" [conductor]="wire.code" [width]="wire.px" />
            @if (wire.bare) {
              <path [attr.d]="wire.bare" class="bare" [attr.stroke-width]="wire.px * 0.7" />
            }
          }
        }
        @for (bared of bares(); track bared.layer) {
          <text class="bares" [attr.x]="bared.x" y="10">{{ figure(bared.baresMm) }}</text>
        }
        @for (line of lines(); track line.layer; let i = $index) {
          <g class="measure" [attr.transform]="'translate(0 ' + (74 + i * lineHeight) + ')'">
            <path [attr.d]="'M' + line.x + ' -5V5M' + line.x + ' 0H' + endX + 'M' + endX + ' -5V5'" />
            <text [attr.x]="line.x - 6" y="5">{{ line.layer }} {{ figure(line.fromEndMm) }}</text>
          </g>
        }
        @if (cut(); as cut) {
          <path class="cut" [attr.d]="'M' + cut.x + ' 6V66'" />
          <text class="cut-words" x="300" [attr.y]="height() - 4">
            cut {{ figure(cut.mm) }} from the jacket
          </text>
        }
      </svg>
    } @else {
      <p class="small">Nothing is stripped for this connector.</p>
    }
    <p class="small quiet">
      {{
        plan().source === 'typical'
          ? 'Typical figures: the sheet in the bag wins.'
          : 'From the sheet in the bag.'
      }}
      @if (plan().cuts.length > 0) {
        {{ give() }}
      }
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
    .braid {
      fill: #b9bec1;
      stroke: #7d868b;
    }
    .weave {
      stroke: #7d868b;
      fill: none;
    }
    .dielectric {
      fill: #fdfcf7;
      stroke: #7d868b;
    }
    .centre {
      fill: #c98a4b;
      stroke: #7a4a2a;
    }
    .bare {
      stroke: #c98a4b;
    }
    .measure path {
      stroke: var(--ink-2);
      fill: none;
    }
    text {
      font: 500 13px var(--figures);
      fill: var(--ink);
      text-anchor: end;
    }
    .bares {
      font-size: 11px;
      fill: var(--ink-2);
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
  /** Whose wires are seen; four pairs where it is not known. */
  readonly cable =
    input<Pick<CableType, 'family' | 'pairs' | 'conductors' | 'screened' | 'colours'>>(FOUR_PAIRS);
  readonly units = input<UnitSystem>('metric');
  protected readonly endX = END_X;
  protected readonly top = TOP;
  protected readonly bodyHeight = HEIGHT;
  protected readonly lineHeight = LINE_PX;
  private readonly pxPerMm = computed(() =>
    Math.min(MOST_PX_PER_MM, (END_X - JACKET_SEEN_PX - 60) / Math.max(1, this.plan().jacketMm)),
  );
  private readonly at = (fromEndMm: number): number => END_X - fromEndMm * this.pxPerMm();
  protected readonly jacketX = computed(() => this.at(this.plan().jacketMm));
  protected readonly lines = computed(() =>
    this.plan().cuts.map((cut) => ({ ...cut, x: this.at(cut.fromEndMm) })),
  );
  /** How much of each layer stands bare, told over it where there is more than one. */
  protected readonly bares = computed(() => {
    const { cuts } = this.plan();
    if (cuts.length < 2) return [];
    return cuts
      .filter((cut) => cut.baresMm > 0)
      .map((cut) => ({ ...cut, x: this.at(cut.fromEndMm - cut.baresMm / 2) }));
  });
  protected readonly height = computed(
    () => 74 + this.lines().length * LINE_PX + (this.plan().trimMm === null ? 0 : LINE_PX),
  );
  protected readonly cut = computed(() => {
    const { trimMm, jacketMm } = this.plan();
    return trimMm === null ? null : { mm: trimMm, x: this.at(jacketMm - trimMm) };
  });
  protected readonly coax = computed(() => {
    const dielectric = this.plan().cuts.find((cut) => cut.layer === 'dielectric');
    if (!dielectric) return null;
    const screen = this.plan().cuts.find((cut) => cut.layer === 'screen') ?? dielectric;
    const screenX = this.at(screen.fromEndMm);
    const strands = Math.max(1, Math.floor((screenX - this.jacketX()) / 8));
    const weave = Array.from({ length: strands }, (_, i) => {
      const x = this.jacketX() + i * 8;
      return `M${x} 20l8 32M${x + 8} 20l-8 32`;
    }).join('');
    return { screenX, dielectricX: this.at(dielectric.fromEndMm), weave };
  });
  protected readonly wires = computed(() => {
    const bared = this.plan().cuts.find((cut) => cut.layer === 'insulation');
    const stop = bared ? this.at(bared.fromEndMm) : END_X;
    const codes = conductorsOf(this.cable()).flatMap(({ id }) => (id === SCREEN ? [] : [id]));
    const seen = codes.slice(0, MOST_WIRES);
    const pitch = HEIGHT / seen.length;
    return seen.map((code, i) => {
      const y = TOP + pitch * (i + 0.5);
      return {
        code,
        px: Math.min(2 * WIRE_PX, pitch * 0.83),
        d: `M${this.jacketX()} ${y}H${stop}`,
        bare: bared ? `M${stop} ${y}H${END_X}` : null,
      };
    });
  });
  protected readonly words = computed(() => {
    const { cuts, trimMm } = this.plan();
    const named = cuts
      .map((cut) => `${cut.layer} off ${this.figure(cut.fromEndMm)}, baring ${this.figure(cut.baresMm)}`)
      .join('; ');
    const cut = trimMm === null ? '' : `, conductors cut ${this.figure(trimMm)} from the jacket`;
    return `Strip plan from the cable’s end: ${named}${cut}.`;
  });

  /** What each length may be off. */
  protected readonly give = computed(() => {
    const { toleranceMm } = this.plan();
    return `Each length may be off by ${formatStripLength(toleranceMm, this.units(), Math.min(toleranceMm, 1))}.`;
  });

  protected figure(mm: number): string {
    return formatStripLength(mm, this.units(), this.plan().toleranceMm);
  }
}
