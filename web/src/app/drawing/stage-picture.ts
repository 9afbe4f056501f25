import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { StageDrawing } from '@near-spoke/core';

/** A level stage as its circuit, with the lead's own contacts at its edges. */
@Component({
  selector: 'ns-stage-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + drawing().width + ' ' + drawing().height"
      role="img"
      [attr.aria-label]="drawing().words"
    >
      @for (d of drawing().strokes; track $index) {
        <path [attr.d]="d" />
      }
      @for (dot of drawing().dots; track $index) {
        <circle [attr.cx]="dot[0]" [attr.cy]="dot[1]" r="3" />
      }
      @for (text of drawing().texts; track $index) {
        <text [attr.x]="text.x" [attr.y]="text.y" [attr.text-anchor]="text.anchor">{{ text.words }}</text>
      }
    </svg>
  `,
  styles: `
    svg {
      width: 100%;
      max-width: 520px;
      display: block;
    }
    path {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.4;
    }
    circle,
    text {
      fill: var(--ink);
    }
    text {
      font: 400 12px var(--words);
    }
  `,
})
export class StagePicture {
  readonly drawing = input.required<StageDrawing>();
}
