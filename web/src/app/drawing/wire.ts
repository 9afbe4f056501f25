import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { insulation, insulationOf, SCREEN } from '@near-spoke/core';

const PLAIN = { base: '#b9bec1', band: null };
const METAL: Record<string, { base: string; band: string | null }> = {
  [SCREEN]: { base: '#b9bec1', band: '#8b9196' },
  CENTRE: { base: '#c98a4b', band: null },
  SHELL: PLAIN,
};

/** How a conductor is painted: base and band. */
export function paintOf(conductor: string): { base: string; band: string | null } {
  const metal = METAL[conductor];
  if (metal) return metal;
  try {
    const { base, band } = insulation(conductor);
    return { base: base.paint, band: band?.paint ?? null };
  } catch {
    return PLAIN;
  }
}

/** Letter code for a conductor, as printed beside its colour. */
export function codeOf(conductor: string | null): string {
  if (conductor === null) return 'none';
  return { [SCREEN]: 'screen', CENTRE: 'centre', SHELL: 'shell' }[conductor] ?? insulationOf(conductor);
}

/** A length of insulated conductor along a path, bands and all. For use inside an SVG. */
@Component({
  // eslint-disable-next-line @angular-eslint/component-selector -- an SVG group must stay an SVG group
  selector: '[nsWire]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg:path [attr.d]="d()" fill="none" stroke="#7d868b" [attr.stroke-width]="width() + edge()" />
    <svg:path [attr.d]="d()" fill="none" [attr.stroke]="paint().base" [attr.stroke-width]="width()" />
    @if (paint().band; as band) {
      <svg:path
        [attr.d]="d()"
        fill="none"
        [attr.stroke]="band"
        [attr.stroke-width]="width()"
        [attr.stroke-dasharray]="dash()"
      />
    }
  `,
})
export class Wire {
  readonly d = input.required<string>();
  readonly conductor = input.required<string>();
  readonly width = input(9);
  /** How far its outline goes beyond it, both sides together. */
  readonly edge = input(1.4);
  protected readonly paint = computed(() => paintOf(this.conductor()));
  protected readonly dash = computed(() => `${this.width() * 1.2} ${this.width() * 1.7}`);
}
