import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { layRibbon, NoRibbon, ribbonConductors, type RibbonJob } from '@near-spoke/core';
import { Wire } from '../drawing/wire';

const STEP = 30;
const HEIGHT = 120;

/** A ribbon between its two connectors: the order in which its wires are laid, with the fewest crossings. */
@Component({
  selector: 'ns-ribbon-lay',
  imports: [Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (lay(); as lay) {
      <h3>
        Lay the ribbon: {{ lay.crossings }} {{ lay.crossings === 1 ? 'crossing' : 'crossings' }},
        {{ lay.rounds.length }} deep{{ lay.turned ? ', far connector pressed on turned over' : '' }}
      </h3>
      <svg
        [attr.viewBox]="'-8 -22 ' + (width() + 16) + ' ' + (height + 44)"
        role="img"
        [attr.aria-label]="words()"
      >
        @for (wire of wires(); track wire.from) {
          <g nsWire [d]="wire.d" [conductor]="wire.conductor" [width]="8" />
        }
        @for (contact of job().near; track contact; let n = $index) {
          <text [attr.x]="n * step + step / 2" y="-8">{{ contact }}</text>
        }
        @for (place of places(); track $index; let n = $index) {
          <text [attr.x]="n * step + step / 2" [attr.y]="height + 18">{{ place }}</text>
        }
      </svg>
      <p class="small quiet">
        Above {{ nearName() }}, below {{ farName() }}, marked edge at the left.
        {{ words() }}
      </p>
    } @else {
      <p class="unsure small">{{ wrong() }}</p>
    }
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-height: 170px;
    }
    text {
      font: 700 13px var(--figures);
      fill: var(--ink);
      text-anchor: middle;
    }
  `,
})
export class RibbonLay {
  readonly job = input.required<RibbonJob>();
  readonly nearName = input('');
  readonly farName = input('');
  protected readonly step = STEP;
  protected readonly height = HEIGHT;
  private readonly laid = computed(() => {
    try {
      return { lay: layRibbon(this.job()), wrong: '' };
    } catch (error) {
      if (error instanceof NoRibbon) return { lay: null, wrong: error.message };
      throw error;
    }
  });
  protected readonly lay = computed(() => this.laid().lay);
  protected readonly wrong = computed(() => this.laid().wrong);
  protected readonly width = computed(() => STEP * Math.max(this.job().near.length, this.job().far.length));
  /** Far contacts from the ribbon's marked edge on. */
  protected readonly places = computed(() =>
    this.lay()?.turned ? this.job().far.toReversed() : [...this.job().far],
  );
  protected readonly wires = computed(() => {
    const colours = ribbonConductors(this.job().near.length);
    return (this.lay()?.order ?? []).flatMap((conductor, place) => {
      if (conductor === null) return [];
      const [x, to] = [conductor * STEP + STEP / 2, place * STEP + STEP / 2];
      return [
        {
          from: conductor,
          conductor: colours[conductor]?.id ?? 'GY',
          d: `M${x} 0V18C${x} ${HEIGHT / 2} ${to} ${HEIGHT / 2} ${to} ${HEIGHT - 18}V${HEIGHT}`,
        },
      ];
    });
  });
  protected readonly words = computed(() => {
    const lay = this.lay();
    if (!lay) return '';
    const one = (list: readonly number[]): string => list.map((n) => n + 1).join(', ');
    const stay = lay.dead.filter((conductor) => !lay.peeled.includes(conductor));
    return [
      `Conductors in the far connector from the edge: ${lay.order.map((n) => (n === null ? 'none' : n + 1)).join(' ')}.`,
      stay.length > 0 ? `Joined to nothing, left in for strength: ${one(stay)}.` : '',
      lay.peeled.length > 0
        ? `Joined to nothing and without a place, peeled off before the far connector: ${one(lay.peeled)}.`
        : '',
    ]
      .filter((words) => words !== '')
      .join(' ');
  });
}
