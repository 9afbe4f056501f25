import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { LINK_STAGES, type LinkStage } from '@near-spoke/core';

export const stageName = (stage: LinkStage): string => LINK_STAGES.find((s) => s.id === stage)?.name ?? stage;

/** A stage told by shape first: the inside of an SVG, centred on the origin, radius 8. */
@Component({
  // eslint-disable-next-line @angular-eslint/component-selector -- an SVG group must stay an SVG group
  selector: '[nsStageShape]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @switch (stage()) {
      @case ('handed-over') {
        <svg:rect x="-7.5" y="-7.5" width="15" height="15" rx="2.5" fill="var(--accent)" />
        <svg:path d="M-3.8 .2 -1 3 4 -3.2" fill="none" stroke="var(--on-accent)" stroke-width="2.2" />
      }
      @case ('proved') {
        <svg:circle r="7.5" fill="var(--ink)" />
        <svg:path d="M-3.8 .2 -1 3 4 -3.2" fill="none" stroke="var(--sheet)" stroke-width="2.2" />
      }
      @case ('failed') {
        <svg:path
          d="M0 -8.5 8.6 7 -8.6 7Z"
          fill="var(--wrong)"
          stroke="var(--wrong)"
          stroke-width="1.6"
          stroke-linejoin="round"
        />
        <svg:path d="M0 -3.6V2M0 4.2V5.4" stroke="var(--on-wrong)" stroke-width="2" />
      }
      @case ('both-ends') {
        <svg:circle r="7" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
        <svg:circle r="2.6" fill="var(--ink)" />
      }
      @case ('one-end') {
        <svg:circle r="7" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
        <svg:path d="M0 -7A7 7 0 0 0 0 7Z" fill="var(--ink)" />
      }
      @default {
        <svg:circle
          r="7"
          fill="var(--sheet)"
          stroke="var(--ink-2)"
          stroke-width="1.8"
          stroke-dasharray="3 2.5"
        />
      }
    }
  `,
})
export class StageShape {
  readonly stage = input.required<LinkStage>();
}

/** The same shape as an element of a page, named for those who do not see it. */
@Component({
  selector: 'ns-stage-glyph',
  imports: [StageShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="-10 -10 20 20" width="20" height="20" role="img" [attr.aria-label]="name()">
      <g nsStageShape [stage]="stage()" />
    </svg>
  `,
  styles: ':host { display: inline-flex }',
})
export class StageGlyph {
  readonly stage = input.required<LinkStage>();
  protected readonly name = computed(() => stageName(this.stage()));
}
