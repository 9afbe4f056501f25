import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { SlotLine } from '@near-spoke/core';
import { codeOf, Wire } from './wire';

/** A jack's two rows of slots as the wiring label shows them; slots are not in contact order. */
@Component({
  selector: 'ns-jack-slots',
  imports: [Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'-230 ' + (top() - 10) + ' 460 ' + (205 - top())"
      role="img"
      [attr.aria-label]="summary()"
    >
      <rect x="-96" [attr.y]="top()" width="192" [attr.height]="112 - top()" rx="10" class="body" />
      <rect x="-34" y="120" width="68" height="70" rx="7" class="jacket" />
      <text class="jacket-words" y="158">jacket</text>
      @for (slot of slots(); track slot.contact) {
        @if (slot.conductor; as conductor) {
          <g nsWire [d]="slot.d" [conductor]="conductor" [width]="9" />
        }
        <rect [attr.x]="slot.x - 26" [attr.y]="slot.y - 19" width="52" height="38" rx="4" class="slot" />
        <text class="contact" [attr.x]="slot.x" [attr.y]="slot.y + 6">{{ slot.contact }}</text>
        <text class="code" [attr.x]="slot.xCode" [attr.y]="slot.y + 5" [attr.text-anchor]="slot.anchor">
          {{ slot.code }}
        </text>
      }
    </svg>
    <p class="quiet small">Cable side down. Typical order: the label on the one in your hand wins.</p>
  `,
  styleUrl: './face.scss',
  styles: `
    .body {
      fill: var(--film);
      stroke: var(--ink);
      stroke-width: 2;
    }
    .slot {
      fill: var(--sheet);
      stroke: var(--ink);
      stroke-width: 1.4;
    }
    .code {
      font: 600 16px var(--figures);
      fill: var(--ink);
    }
  `,
})
export class JackSlots {
  readonly left = input.required<readonly SlotLine[]>();
  readonly right = input.required<readonly SlotLine[]>();

  protected readonly slots = computed(() => [...this.row(this.left(), -1), ...this.row(this.right(), 1)]);
  /** The body is as high as its longer row. */
  protected readonly top = computed(
    () => 80 - (Math.max(this.left().length, this.right().length) - 1) * 62 - 34,
  );
  protected readonly summary = computed(() => {
    const say = (lines: readonly SlotLine[]): string =>
      lines
        .map((l) =>
          l.conductor === null
            ? `contact ${l.contact} empty`
            : `${codeOf(l.conductor)} to contact ${l.contact}`,
        )
        .join(', ');
    return `Jack slots from the cable side. Left: ${say(this.left())}. Right: ${say(this.right())}.`;
  });

  private row(lines: readonly SlotLine[], side: -1 | 1) {
    return lines.map((line, place) => {
      const x = side * 62;
      const y = 80 - place * 62;
      // The lowest slot turns out first, so its wire runs outermost and crosses no other.
      const root = side * (31 - place * 8);
      return {
        ...line,
        x,
        y,
        xCode: side * 158,
        anchor: side < 0 ? 'end' : 'start',
        code: line.conductor === null ? 'empty' : codeOf(line.conductor),
        // From the jacket up the middle, then out through the slot to the waste side.
        d: `M${root} 124V${y + 24}Q${root} ${y} ${side * 34} ${y}H${side * 148}`,
      };
    });
  }
}
