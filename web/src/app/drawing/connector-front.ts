import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { lookAt, PLUG_8P, SOCKET_8P } from '@near-spoke/core';
import { codeOf, paintOf } from './wire';

const SCALE = 47;

/** The mating face of an 8-contact plug or jack: what the other connector sees. */
@Component({
  selector: 'ns-connector-front',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="-230 -150 460 300" role="img" [attr.aria-label]="summary()">
      <g [attr.transform]="latch() === 'up' ? 'rotate(180)' : null">
        <path class="body" [class.socket]="jack()" d="M-212 -120H212V96H70V134H-70V96H-212Z" />
      </g>
      @for (place of places(); track place.contact) {
        <g [attr.transform]="'translate(' + place.x + ' ' + (latch() === 'down' ? -70 : 70) + ')'">
          <rect x="-8" [attr.y]="latch() === 'down' ? -44 : -2" width="16" height="46" rx="2" class="metal" />
        </g>
        <g [attr.transform]="'translate(' + place.x + ' ' + (latch() === 'down' ? 26 : -26) + ')'">
          <rect x="-22" y="-32" width="44" height="9" [attr.fill]="place.paint.base" stroke="#7d868b" />
          @if (place.paint.band; as band) {
            <path d="M-14 -32h9v9h-9zM6 -32h9v9h-9z" [attr.fill]="band" />
          }
          <rect class="tag" x="-22" y="-20" width="44" height="42" rx="5" />
          <text class="contact" y="-2">{{ place.contact }}</text>
          <text class="code" y="15">{{ place.code }}</text>
        </g>
      }
    </svg>
    <p class="quiet small">
      Looking into the {{ jack() ? 'jack' : 'plug' }} from the front, {{ jack() ? 'latch notch' : 'latch' }}
      {{ latch() }}.
    </p>
  `,
  styleUrl: './face.scss',
  styles: `
    .body {
      fill: var(--film);
      stroke: var(--ink);
      stroke-width: 2;
    }
    .body.socket {
      fill: color-mix(in srgb, var(--rule) 60%, var(--sheet));
    }
    .tag {
      fill: var(--sheet);
      stroke: var(--ink);
      stroke-width: 1.4;
    }
    .code {
      text-anchor: middle;
    }
  `,
})
export class ConnectorFront {
  readonly order = input.required<readonly { contact: string; conductor: string | null }[]>();
  readonly latch = input<'down' | 'up'>('down');
  readonly jack = input(false);

  protected readonly places = computed(() =>
    lookAt(this.jack() ? SOCKET_8P : PLUG_8P, { face: 'mating', latch: this.latch() })
      .map(({ contact, xMm }) => {
        const conductor = this.order().find((line) => line.contact === contact)?.conductor ?? null;
        return { contact, x: xMm * SCALE, code: codeOf(conductor), paint: paintOf(conductor ?? 'none') };
      })
      .sort((a, b) => a.x - b.x),
  );
  protected readonly summary = computed(
    () =>
      `Mating face of the ${this.jack() ? 'jack' : 'plug'}, latch ${this.latch()}, from the left: ` +
      this.places()
        .map(({ contact, code }) => `${contact} ${code}`)
        .join(', '),
  );
}
