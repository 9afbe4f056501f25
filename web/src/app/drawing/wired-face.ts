import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { wiringFace, type ConnectorType } from '@near-spoke/core';
import { codeOf, paintOf } from './wire';

const BOX = { width: 62, height: 54 };
const COLUMNS = 5;

/**
 * Contacts with the conductors that go on them, as the person wiring sees them: where the
 * connector's geometry is known each stands in its place, otherwise they are listed in order.
 */
@Component({
  selector: 'ns-wired-face',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="viewBox()" role="img" [attr.aria-label]="summary()">
      @if (placed()) {
        <rect
          [attr.x]="frame().x"
          [attr.y]="frame().y"
          [attr.width]="frame().width"
          [attr.height]="frame().height"
          rx="14"
          class="body"
        />
      }
      @for (spot of spots(); track spot.contact) {
        <g
          [attr.transform]="'translate(' + spot.x + ' ' + spot.y + ')'"
          [class.slipped]="slipped().includes(spot.contact)"
        >
          <rect x="-27" y="-23" width="54" height="46" rx="6" class="tag" />
          <text class="contact" y="-6">{{ spot.contact }}</text>
          @if (spot.conductor) {
            <rect x="-21" y="0" width="42" height="8" [attr.fill]="spot.paint.base" stroke="#7d868b" />
            @if (spot.paint.band; as band) {
              <path d="M-15 0h9v8h-9zM5 0h9v8h-9z" [attr.fill]="band" />
            }
            <text class="code" y="19">{{ spot.code }}</text>
          } @else {
            <text class="code empty" y="12">empty</text>
          }
        </g>
      }
    </svg>
    @if (told()) {
      <p class="quiet small">{{ note() }}</p>
    }
  `,
  styleUrl: './face.scss',
  styles: `
    .body {
      fill: var(--film);
      stroke: var(--ink);
      stroke-width: 2;
    }
    .tag {
      fill: var(--sheet);
      stroke: var(--ink);
      stroke-width: 1.2;
    }
    .slipped .tag {
      stroke: var(--wrong);
      stroke-width: 4;
    }
    .contact {
      font-size: 15px;
    }
    .code {
      text-anchor: middle;
      font-size: 11px;
    }
    .empty {
      fill: var(--ink-2);
    }
  `,
})
export class WiredFace {
  readonly connector = input.required<Pick<ConnectorType, 'face' | 'contacts' | 'group'>>();
  readonly order = input.required<readonly { contact: string; conductor: string | null }[]>();
  readonly slipped = input<readonly string[]>([]);
  /** With how it is seen, in words below. */
  readonly told = input(true);

  protected readonly placed = computed(() => wiringFace(this.connector().face) !== null);
  protected readonly spots = computed(() => {
    const on = new Map(this.order().map((line) => [line.contact, line.conductor]));
    const places = wiringFace(this.connector().face);
    const dress = (contact: string, x: number, y: number) => {
      const conductor = on.get(contact) ?? null;
      return { contact, x, y, conductor, code: codeOf(conductor), paint: paintOf(conductor ?? 'none') };
    };
    if (places) {
      const step = nearest(places.map((p) => [p.xMm, p.yMm]));
      const scale = (BOX.width + 4) / step;
      return places.map(({ contact, xMm, yMm }) => dress(contact, xMm * scale, -yMm * scale));
    }
    const listed = this.order();
    const columns = listed.length > 12 ? 10 : COLUMNS;
    return listed.map(({ contact }, i) =>
      dress(contact, (i % columns) * (BOX.width + 2), Math.floor(i / columns) * BOX.height),
    );
  });
  protected readonly frame = computed(() => {
    const xs = this.spots().map((s) => s.x);
    const ys = this.spots().map((s) => s.y);
    const [left, top] = [Math.min(...xs) - 42, Math.min(...ys) - 38];
    return { x: left, y: top, width: Math.max(...xs) + 42 - left, height: Math.max(...ys) + 38 - top };
  });
  protected readonly viewBox = computed(() => {
    const { x, y, width, height } = this.frame();
    return `${x - 4} ${y - 4} ${width + 8} ${height + 8}`;
  });
  protected readonly note = computed(() => {
    const { face, group } = this.connector();
    if (face === 'plug-6') return 'Latch down, contacts up, cable towards you.';
    if (face === 'ribbon-10') return 'From the cable side, keyway down, conductor 1 at contact 1.';
    if (group === 'ribbon') return 'From the cable side, conductor 1 at contact 1.';
    if (group === 'solder cup')
      return 'Solder side, the mirror of the mating face. The numbers moulded beside the cups win.';
    if (face === 'block') return 'In counting order, tip before ring.';
    return 'In contact order.';
  });
  protected readonly summary = computed(
    () =>
      `Contacts: ${this.spots()
        .map((s) => `${s.contact} ${s.conductor ? s.code : 'empty'}`)
        .join(', ')}`,
  );
}

/** The least distance between two places, so that no two boxes overlap. */
function nearest(points: readonly (readonly [number, number])[]): number {
  let least = Infinity;
  points.forEach(([x, y], i) => {
    for (const [a, b] of points.slice(i + 1)) {
      // Boxes are wider than high: a step down counts for more than a step aside.
      least = Math.min(least, Math.max(Math.abs(x - a), Math.abs(y - b) * (BOX.width / BOX.height)));
    }
  });
  return least === Infinity ? 1 : least;
}
