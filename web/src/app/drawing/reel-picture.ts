import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** Radii by the flange's: the barrel that cable is wound on, and a full winding. */
const BARREL = 0.34;
const FULL = 0.93;

/** A drum or a box with what is left on it: the winding is as thick as so much cable makes it. */
@Component({
  selector: 'ns-reel-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="-1.1 -1.1 2.2 2.2" role="img" [attr.aria-label]="words()">
      @if (kind() === 'box') {
        <rect x="-1" y="-1" width="2" height="2" rx="0.08" class="flange" />
      } @else {
        <circle r="1" class="flange" />
      }
      <circle [attr.r]="radius()" class="wound" />
      @for (turn of turns(); track $index) {
        <circle [attr.r]="turn" class="turn" />
      }
      <circle [attr.r]="barrel" class="flange" />
      @if (kind() === 'drum') {
        <circle r="0.1" class="bore" />
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    .flange {
      fill: var(--film);
      stroke: var(--ink-2);
      stroke-width: 0.05;
    }
    .wound {
      fill: var(--ink-2);
      opacity: 0.55;
    }
    .turn {
      fill: none;
      stroke: var(--sheet);
      stroke-width: 0.025;
    }
    .bore {
      fill: var(--ink-2);
    }
  `,
})
export class ReelPicture {
  readonly kind = input.required<'drum' | 'box'>();
  /** What is left by what it held, 0 to 1; null where nobody knows. */
  readonly share = input.required<number | null>();
  protected readonly barrel = BARREL;

  /** The cross-section of the winding is as its length: area, not radius, goes with the share. */
  protected readonly radius = computed(() => {
    const share = Math.min(1, Math.max(0, this.share() ?? 0));
    return Math.sqrt(BARREL ** 2 + share * (FULL ** 2 - BARREL ** 2));
  });
  protected readonly turns = computed(() => {
    const count = Math.floor((this.radius() - BARREL) / 0.09);
    return Array.from({ length: Math.max(0, count) }, (_, n) => BARREL + 0.09 * (n + 1));
  });
  protected readonly words = computed(() => {
    const share = this.share();
    const name = this.kind() === 'drum' ? 'A drum' : 'A box';
    return share === null ? `${name}, nobody knows how full` : `${name}, ${Math.round(100 * share)} % left`;
  });
}
