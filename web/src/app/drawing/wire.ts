import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { conductorPaint, WIRE_BANDS, WIRE_EDGE } from '@near-spoke/core';

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
  readonly edge = input(WIRE_EDGE);
  protected readonly paint = computed(() => conductorPaint(this.conductor()));
  protected readonly dash = computed(() => WIRE_BANDS.map((times) => times * this.width()).join(' '));
}
