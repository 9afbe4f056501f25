import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { conductorPaint, drawFace, type ContactId, type ContactLayout, type View } from '@near-spoke/core';

/** A connector's face, mating or wiring side, with its contacts where they are; it turns over when its face changes. */
@Component({
  selector: 'ns-connector-face',
  imports: [NgTemplateOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (face() === 'rear') {
      <ng-container [ngTemplateOutlet]="picture" />
    } @else {
      <ng-container [ngTemplateOutlet]="picture" />
    }
    <ng-template #picture>
      <svg [attr.viewBox]="viewBox()" role="img" [attr.aria-label]="drawing().words" class="turn">
        @if (drawing().outline) {
          <path [attr.d]="drawing().outline" class="shell" [class.rear]="face() === 'rear'" />
        }
        @if (drawing().key) {
          <path [attr.d]="drawing().key" class="key" />
        }
        @for (spot of spots(); track spot.contact) {
          <g
            [attr.transform]="'translate(' + spot.xMm + ' ' + spot.yMm + ')'"
            [class.lit]="lit().includes(spot.contact)"
            [class.bad]="bad().includes(spot.contact)"
            [class.dead]="known() && !known()!.includes(spot.contact)"
            (click)="touched.emit(spot.contact)"
          >
            @if (spot.paint; as paint) {
              <circle [attr.r]="drawing().contactMm * 1.12" [attr.fill]="paint.base" class="wire" />
              @if (paint.band; as band) {
                <path
                  [attr.d]="
                    'M' +
                    -drawing().contactMm * 1.12 +
                    ' 0A' +
                    drawing().contactMm * 1.12 +
                    ' ' +
                    drawing().contactMm * 1.12 +
                    ' 0 0 0 ' +
                    drawing().contactMm * 1.12 +
                    ' 0Z'
                  "
                  [attr.fill]="band"
                />
              }
            }
            <circle
              class="contact"
              [class.hollow]="layout().gender === 'socket'"
              [attr.r]="drawing().contactMm * (spot.paint ? 0.78 : 0.95)"
            />
            <text
              [attr.font-size]="drawing().contactMm * (spot.contact.length > 2 ? 0.72 : 1.02)"
              [attr.y]="drawing().contactMm * 0.36"
            >
              {{ spot.contact }}
            </text>
          </g>
        }
      </svg>
    </ng-template>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
      perspective: 900px;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    .turn {
      animation: turn 0.32s ease-out;
    }
    @keyframes turn {
      from {
        transform: rotateY(86deg);
      }
    }
    .shell {
      fill: var(--film);
      stroke: var(--ink);
      stroke-width: 0.22;
    }
    .shell.rear {
      stroke-dasharray: 0.9 0.5;
    }
    .key {
      fill: var(--rule);
      stroke: var(--ink);
      stroke-width: 0.18;
    }
    .wire {
      stroke: #7d868b;
      stroke-width: 0.1;
    }
    .contact {
      fill: var(--sheet);
      stroke: var(--ink);
      stroke-width: 0.14;
    }
    .contact.hollow {
      stroke-width: 0.32;
    }
    text {
      font-family: var(--figures);
      font-weight: 700;
      fill: var(--ink);
      text-anchor: middle;
    }
    g.dead .contact {
      stroke-dasharray: 0.4 0.3;
    }
    g.lit .contact {
      fill: var(--accent-soft);
      stroke: var(--accent);
      stroke-width: 0.3;
    }
    g.bad .contact {
      stroke: var(--wrong);
      stroke-width: 0.3;
    }
  `,
})
export class ConnectorFace {
  readonly layout = input.required<ContactLayout>();
  readonly face = input<View['face']>('mating');
  readonly latch = input<View['latch']>('down');
  /** Contacts that are picked out, and those that something is wrong with. */
  readonly lit = input<readonly ContactId[]>([]);
  readonly bad = input<readonly ContactId[]>([]);
  /** Contacts that the pinout speaks of; null where it is not asked. */
  readonly known = input<readonly ContactId[] | null>(null);
  /** Insulation of the conductor on each contact. */
  readonly wired = input<Readonly<Record<ContactId, string>>>({});
  readonly touched = output<ContactId>();

  protected readonly drawing = computed(() =>
    drawFace(this.layout(), { face: this.face(), latch: this.latch() }),
  );
  protected readonly viewBox = computed(() => {
    const { widthMm, heightMm } = this.drawing();
    return `${-widthMm / 2} ${-heightMm / 2} ${widthMm} ${heightMm}`;
  });
  protected readonly spots = computed(() =>
    this.drawing().contacts.map((place) => {
      const wire = this.wired()[place.contact];
      return { ...place, paint: wire === undefined ? null : conductorPaint(wire) };
    }),
  );
}
