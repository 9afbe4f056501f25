import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { heldOrder, PLUG_8P, type CableFrom } from '@near-spoke/core';
import { codeOf, Wire } from './wire';

/** Drawn pitch and sizes, in picture units. */
const PITCH = 48;
const HALF = PITCH * 3.5;

/**
 * An 8-contact plug as the person holds it: seen from above, latch down or up, cable from below,
 * from the left hand or from the right. Turning the picture never changes which contact is which.
 */
@Component({
  selector: 'ns-plug-face',
  imports: [Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="side() ? '-215 -215 430 430' : '-215 -215 430 405'"
      role="img"
      [attr.aria-label]="summary()"
    >
      <g [attr.transform]="'rotate(' + angle() + ')'">
        <rect
          x="-212"
          y="-190"
          width="424"
          height="196"
          rx="12"
          class="body"
          [class.latch-up]="latch() === 'up'"
        />
        @if (latch() === 'up') {
          <rect x="-52" y="-190" width="104" height="150" rx="8" class="latch" />
        }
        @for (wire of wires(); track wire.contact) {
          <g nsWire [d]="wire.d" [conductor]="wire.conductor" [width]="22" />
          @if (latch() === 'down') {
            <rect [attr.x]="wire.x - 7" y="-182" width="14" height="46" rx="2" class="metal" />
          }
          <g
            class="tag"
            [class.slipped]="slipped().includes(wire.contact)"
            [class.touchable]="tappable()"
            [attr.transform]="'translate(' + wire.x + ' -56) rotate(' + -angle() + ')'"
            (click)="tap.emit(wire.contact)"
          >
            <rect x="-22.5" y="-20" width="45" height="40" rx="5" />
            <text class="contact" y="-3">{{ wire.contact }}</text>
            <text class="code" y="13">{{ wire.code }}</text>
          </g>
        }
        <rect x="-94" y="92" width="188" height="86" rx="9" class="jacket" />
        <text class="jacket-words" [attr.transform]="'translate(0 138) rotate(' + -angle() + ')'">
          jacket
        </text>
      </g>
    </svg>
    <p class="quiet small">
      {{ latch() === 'down' ? 'Latch down, contacts up' : 'Latch up: the order reads 8 to 1' }};
      {{ cableFrom() === 'below' ? 'cable towards you' : 'cable from your ' + cableFrom() + ' hand' }}.
    </p>
  `,
  styleUrl: './face.scss',
  styles: `
    .body {
      fill: color-mix(in srgb, var(--film) 60%, transparent);
      stroke: var(--ink-2);
      stroke-width: 2;
      stroke-dasharray: 7 5;
    }
    .latch {
      fill: var(--rule);
      stroke: var(--ink-2);
    }
    .tag rect {
      fill: var(--sheet);
      stroke: var(--ink);
      stroke-width: 1.4;
    }
    .tag.touchable {
      cursor: pointer;
    }
    .tag.slipped rect {
      stroke: var(--wrong);
      stroke-width: 4;
    }
    .code {
      text-anchor: middle;
    }
  `,
})
export class PlugFace {
  /** Conductor on each contact. */
  readonly order = input.required<readonly { contact: string; conductor: string | null }[]>();
  readonly latch = input<'down' | 'up'>('down');
  readonly cableFrom = input<CableFrom>('below');
  readonly slipped = input<readonly string[]>([]);
  /** Contacts of which nobody knows what lies there. */
  readonly unread = input<readonly string[]>([]);
  readonly tappable = input(false);
  readonly tap = output<string>();

  protected readonly side = computed(() => this.cableFrom() !== 'below');
  protected readonly angle = computed(() => ({ below: 0, left: 90, right: -90 })[this.cableFrom()]);
  protected readonly wires = computed(() => {
    // The picture is drawn with the cable below and turned as a whole, so the order across it is that of "below".
    const across = heldOrder(PLUG_8P, this.latch(), 'below');
    return across.map((contact, i) => {
      const conductor = this.order().find((line) => line.contact === contact)?.conductor ?? null;
      const x = i * PITCH - HALF;
      const gather = (i - 3.5) * 20;
      return {
        contact,
        x,
        conductor: conductor ?? 'none',
        code: this.codeAt(contact),
        d: conductor === null ? '' : `M${x} -130V-10C${x} 40 ${gather} 40 ${gather} 96`,
      };
    });
  });
  protected readonly summary = computed(
    () =>
      `Plug, latch ${this.latch()}, ${this.side() ? 'from the top' : 'from the left'}: ` +
      heldOrder(PLUG_8P, this.latch(), this.cableFrom())
        .map((contact) => `${contact} ${this.codeAt(contact)}`)
        .join(', '),
  );

  private codeAt(contact: string): string {
    if (this.unread().includes(contact)) return '?';
    return codeOf(this.order().find((line) => line.contact === contact)?.conductor ?? null);
  }
}
