import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { conductorPaint, conductorsOf, type CableType } from '@near-spoke/core';

/** A disc of the section, in millimetres from the middle. */
interface Disc {
  x: number;
  y: number;
  radius: number;
  fill: string;
  band: string | null;
}

const MOST_DRAWN = 50;
const PAIRS_IN_A_RING = 4;
/** What a screen takes of the jacket's inside, drawn. */
const SCREEN_MM = 0.25;

/** A cable cut across, to scale: jacket, screens, and every conductor in its colour. */
@Component({
  selector: 'ns-cable-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="viewBox()" role="img" [attr.aria-label]="words()">
      @if (ribbon()) {
        @for (disc of discs(); track $index) {
          <circle
            [attr.cx]="disc.x"
            [attr.cy]="disc.y"
            [attr.r]="disc.radius"
            [attr.fill]="disc.fill"
            class="edge"
          />
        }
      } @else {
        <circle [attr.r]="cable().jacketMm / 2" class="jacket" />
        <circle [attr.r]="inside()" class="inside" />
        @for (screen of screens(); track $index) {
          <circle [attr.r]="screen.radius" [class]="screen.layer" />
        }
        @for (disc of discs(); track $index) {
          <circle
            [attr.cx]="disc.x"
            [attr.cy]="disc.y"
            [attr.r]="disc.radius"
            [attr.fill]="disc.fill"
            class="edge"
          />
          @if (disc.band; as band) {
            <path [attr.d]="half(disc)" [attr.fill]="band" />
          }
          <circle [attr.cx]="disc.x" [attr.cy]="disc.y" [attr.r]="copper(disc.radius)" class="copper" />
        }
      }
    </svg>
    @if (told()) {
      <p class="small quiet">{{ words() }}</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
      justify-items: center;
    }
    svg {
      width: min(100%, 240px);
    }
    .jacket {
      fill: #30383c;
    }
    .inside {
      fill: var(--film);
    }
    .foil,
    .braid {
      fill: none;
      stroke: #b9bec1;
      stroke-width: 0.14px;
    }
    .braid {
      stroke: #7d868b;
      stroke-dasharray: 0.3 0.12;
    }
    .edge {
      stroke: #7d868b;
      stroke-width: 0.05px;
    }
    .copper {
      fill: #c98a4b;
    }
  `,
})
export class CableSection {
  readonly cable = input.required<CableType>();
  /** With what it shows, in words below. */
  readonly told = input(true);

  protected readonly ribbon = computed(() => this.cable().family === 'ribbon');
  protected readonly inside = computed(() => (this.cable().jacketMm / 2) * 0.86);
  protected readonly screens = computed(() =>
    this.cable().screens.map((layer, i) => ({ layer, radius: this.inside() - SCREEN_MM * (i + 0.5) })),
  );
  protected readonly discs = computed((): Disc[] => {
    const cable = this.cable();
    if (cable.family === 'coax') {
      const radius = (cable.dielectricMm ?? cable.jacketMm * 0.6) / 2;
      return [{ x: 0, y: 0, radius, fill: '#fdfcf7', band: null }];
    }
    const wires = conductorsOf(cable)
      .filter((w) => w.id !== 'SCREEN')
      .slice(0, MOST_DRAWN)
      .map((w) => conductorPaint(w.id));
    const radius = (cable.conductorMm ?? cable.jacketMm / 4) / 2;
    if (this.ribbon()) {
      const pitch = radius * 2;
      return wires.map((paint, i) => ({
        x: (i - (wires.length - 1) / 2) * pitch,
        y: 0,
        radius,
        fill: paint.base,
        band: null,
      }));
    }
    const within = this.inside() - SCREEN_MM * cable.screens.length;
    const places =
      cable.pairs > 0 && cable.pairs <= PAIRS_IN_A_RING
        ? placePairs(cable.pairs, radius, within)
        : place(wires.length, radius, within);
    return places.map(([x, y], i) => {
      const paint = wires[i] ?? { base: '#b9bec1', band: null };
      return { x, y, radius, fill: paint.base, band: paint.band };
    });
  });
  protected readonly viewBox = computed(() => {
    const half = this.cable().jacketMm / 2 + 0.3;
    if (!this.ribbon()) return `${-half} ${-half} ${half * 2} ${half * 2}`;
    const width = Math.max(1, this.discs().length) * (this.discs()[0]?.radius ?? 1) * 2 + 1;
    return `${-width / 2} -1.5 ${width} 3`;
  });
  protected readonly words = computed(() => {
    const { conductors, pairs, jacketMm, screens, family } = this.cable();
    const inside =
      family === 'coax'
        ? 'a centre in its dielectric'
        : pairs > 0
          ? `${pairs} pairs`
          : `${conductors} conductors`;
    const screened = screens.length > 0 ? `, ${screens.join(' and ')}` : '';
    return `Cut across, to scale: ${jacketMm} mm over all, ${inside}${screened}.`;
  });

  protected copper(radius: number): number {
    const { bareMm } = this.cable();
    return bareMm === null ? radius * 0.5 : bareMm / 2;
  }

  protected half({ x, y, radius }: Disc): string {
    return `M${x} ${y - radius}A${radius} ${radius} 0 0 1 ${x} ${y + radius}Z`;
  }
}

/** Places for discs in rings from the outside in, so that they lie beside each other. */
function place(count: number, radius: number, within: number): [number, number][] {
  const places: [number, number][] = [];
  let ring = within - radius;
  while (places.length < count && ring > radius * 0.2) {
    const fits = Math.max(1, Math.floor(Math.PI / Math.asin(Math.min(1, radius / ring))));
    const here = Math.min(fits, count - places.length);
    for (let i = 0; i < here; i++) {
      const angle = (2 * Math.PI * i) / here - Math.PI / 2;
      places.push([ring * Math.cos(angle), ring * Math.sin(angle)]);
    }
    ring -= radius * 2.05;
  }
  while (places.length < count) places.push([0, 0]);
  return places;
}

/** Pairs in a ring round the middle, the two of each side by side. */
function placePairs(pairs: number, radius: number, within: number): [number, number][] {
  const ring = pairs === 1 ? 0 : Math.min((2 * radius) / Math.sin(Math.PI / pairs), within - radius * 1.5);
  return Array.from({ length: pairs }, (_, i): [number, number][] => {
    const angle = (2 * Math.PI * i) / pairs - Math.PI / 4;
    const [x, y] = [ring * Math.cos(angle), ring * Math.sin(angle)];
    // Across the way to the middle.
    const [dx, dy] = [-Math.sin(angle) * radius, Math.cos(angle) * radius];
    return [
      [x - dx, y - dy],
      [x + dx, y + dy],
    ];
  }).flat();
}
