import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { PartVerdict } from '@near-spoke/core';

const FIRST_X = 44;
const PITCH = 72;
const SHORTEST = 200;

/** What must be on the cable before its end is opened, as a picture and with the reason. */
@Component({
  selector: 'ns-threaded-parts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (first().length > 0) {
      <svg
        [attr.viewBox]="'0 0 ' + (jacketEnd() + 104) + ' 76'"
        role="img"
        [attr.aria-label]="'On the jacket, from the cable: ' + names()"
      >
        <rect y="20" [attr.width]="jacketEnd()" height="24" class="jacket" />
        <rect [attr.x]="jacketEnd()" y="25" width="94" height="14" class="core" />
        @for (part of first(); track $index; let i = $index) {
          <g [attr.transform]="'translate(' + (firstX + i * pitch) + ' 0)'">
            <rect y="11" width="50" height="42" rx="6" class="ring" />
            <text x="25" y="70">{{ part.name }}</text>
          </g>
        }
      </svg>
    } @else {
      <p class="small">Nothing has to be on the jacket before it is opened.</p>
    }
    @for (verdict of told() ? verdicts() : []; track $index) {
      @if (verdict.when !== 'any time' || !compact()) {
        <p class="small" [class.wrong]="verdict.when === 'never'">{{ verdict.words }}</p>
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    .jacket {
      fill: #30383c;
      stroke: var(--rule-firm);
    }
    .core {
      fill: var(--rule);
    }
    .ring {
      fill: var(--accent-soft);
      stroke: var(--accent);
      stroke-width: 2.4;
    }
    text {
      font: 400 13px var(--words);
      fill: var(--ink);
      text-anchor: middle;
    }
  `,
})
export class ThreadedParts {
  /** Without the parts that may go on at any time. */
  readonly compact = input(false);
  /** With the reasons beside the picture. */
  readonly told = input(true);
  readonly verdicts = input.required<readonly PartVerdict[]>();
  protected readonly first = computed(() =>
    this.verdicts()
      .filter((v) => v.when === 'first')
      .map((v) => v.part)
      // Nearest the connector stands nearest the end, at the right.
      .reverse(),
  );
  protected readonly firstX = FIRST_X;
  protected readonly pitch = PITCH;
  /** Every ring lies on the jacket, however many there are. */
  protected readonly jacketEnd = computed(() => Math.max(SHORTEST, FIRST_X + this.first().length * PITCH));
  protected readonly names = computed(() =>
    this.first()
      .map((part) => part.name)
      .join(', '),
  );
}
