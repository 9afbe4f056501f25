import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { ConnectorType } from '@near-spoke/core';

/**
 * A finished end that has no face to show: a coax plug or a joint in line, cable at the left. Parts
 * stand where they end up, so that a ferrule short of the body or a sleeve beside its joint is seen.
 */
@Component({
  selector: 'ns-finished-end',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 304 120" role="img" [attr.aria-label]="words()">
      @if (joint()) {
        <rect y="44" width="104" height="26" class="jacket" />
        <rect x="200" y="44" width="104" height="26" class="jacket" />
        <rect x="104" y="52" width="96" height="10" class="metal" />
        <rect x="84" y="36" width="136" height="42" rx="12" class="ring" />
        <text x="152" y="104">{{ partName() || connector().name }}</text>
      } @else {
        <rect y="38" width="126" height="40" class="jacket" />
        @if (ferrule()) {
          <path d="M112 32H170V84H112ZM112 46H170M112 70H170" class="metal" />
          <text x="141" y="106">ferrule</text>
        } @else {
          <rect x="112" y="34" width="58" height="48" rx="5" class="metal" />
          <text x="141" y="106">{{ sleeve() }}</text>
        }
        <rect x="170" y="26" width="76" height="64" rx="4" class="metal" />
        <path d="M182 26V90M194 26V90M206 26V90" class="knurl" />
        <rect x="246" y="36" width="34" height="44" rx="3" class="shell" />
        <rect x="246" y="55" width="42" height="6" rx="2" class="pin" />
        <text x="224" y="16">body</text>
        <text x="290" y="104">{{ pinName() }}</text>
      }
    </svg>
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
    .metal {
      fill: #b9bec1;
      stroke: #6b7478;
      stroke-width: 1.4;
    }
    .knurl {
      stroke: #6b7478;
      fill: none;
    }
    .shell {
      fill: var(--film);
      stroke: #6b7478;
      stroke-width: 1.4;
    }
    .pin {
      fill: #c9a44c;
      stroke: #5d4a17;
    }
    .ring {
      fill: var(--accent-soft);
      fill-opacity: 0.7;
      stroke: var(--accent);
      stroke-width: 2.4;
    }
    text {
      font: 400 13px var(--words);
      fill: var(--ink);
      text-anchor: middle;
    }
    text:last-of-type {
      text-anchor: end;
    }
  `,
})
export class FinishedEnd {
  readonly connector = input.required<ConnectorType>();
  protected readonly joint = computed(() => this.connector().group === 'splice');
  protected readonly ferrule = computed(() => this.connector().parts.some((p) => p.kind === 'ferrule'));
  protected readonly partName = computed(() => this.connector().parts[0]?.name ?? '');
  protected readonly sleeve = computed(() =>
    this.connector().recipe === 'coax-compression' ? 'sleeve, driven home' : 'thread in the jacket',
  );
  protected readonly pinName = computed(() =>
    this.connector().tools.some((t) => t.kind === 'pin crimp tool') ? 'pin' : 'centre, 1 to 3 mm out',
  );
  protected readonly words = computed(() =>
    this.joint()
      ? `Finished joint: both cables meet under the ${this.partName() || 'connector'}.`
      : `Finished plug: jacket, ${this.ferrule() ? 'ferrule against the body' : this.sleeve()}, body, ${this.pinName()}.`,
  );
}
