import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { BANDS, conductorPaint, upright, type Scene, type SceneShape } from '@near-spoke/core';
import { Wire } from './wire';

interface Sample {
  x: number;
  y: number;
  width: number;
  height: number;
  conductor: string;
}

/** Paints a scene of core in the theme's colours; on paper core paints the same. */
@Component({
  selector: 'ns-scene',
  imports: [NgTemplateOutlet, Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="viewBox()" role="img" [attr.aria-label]="scene().words">
      <g [attr.transform]="scene().turnDeg === 0 ? null : 'rotate(' + scene().turnDeg + ')'">
        @for (shape of scene().shapes; track $index) {
          @switch (shape.is) {
            @case ('outline') {
              <path [attr.d]="shape.d" [class]="shape.as" />
            }
            @case ('box') {
              <rect
                [attr.x]="shape.x"
                [attr.y]="shape.y"
                [attr.width]="shape.width"
                [attr.height]="shape.height"
                [attr.rx]="shape.round"
                [class]="shape.as"
              />
            }
            @case ('wire') {
              <g nsWire [d]="shape.d" [conductor]="shape.conductor" [width]="shape.width" />
            }
            @case ('sample') {
              <ng-container
                [ngTemplateOutlet]="painted"
                [ngTemplateOutletContext]="{ $implicit: sample(shape) }"
              />
            }
            @case ('contact') {
              <g
                class="tag"
                [class.slipped]="slipped().includes(shape.contact)"
                [class.touchable]="tappable()"
                [attr.transform]="at(shape)"
                (click)="tap.emit(shape.contact)"
              >
                <rect
                  class="slot"
                  [attr.x]="-shape.width / 2"
                  [attr.y]="-shape.height / 2"
                  [attr.width]="shape.width"
                  [attr.height]="shape.height"
                  rx="5"
                />
                <text class="contact" [attr.y]="shape.contactY">{{ shape.contact }}</text>
                @if (shape.sample; as of) {
                  <ng-container
                    [ngTemplateOutlet]="painted"
                    [ngTemplateOutletContext]="{ $implicit: sampleAt(of) }"
                  />
                }
                @if (shape.code; as code) {
                  <text class="code" [class.empty]="code.empty" [attr.y]="code.y">{{ code.words }}</text>
                }
              </g>
            }
            @case ('words') {
              <g [attr.transform]="at(shape)">
                <text [class]="shape.as" [attr.text-anchor]="shape.anchor">{{ shape.words }}</text>
              </g>
            }
          }
        }
      </g>
    </svg>
    <ng-template #painted let-parts>
      @for (part of parts; track $index) {
        <svg:rect
          [attr.x]="part.x"
          [attr.y]="part.y"
          [attr.width]="part.width"
          [attr.height]="part.height"
          [attr.fill]="part.fill"
          [attr.stroke]="part.fill === 'none' ? '#7d868b' : null"
        />
      }
    </ng-template>
    @if (told()) {
      <p class="quiet small">{{ scene().note }}</p>
    }
  `,
  styleUrl: './face.scss',
})
export class SceneView {
  readonly scene = input.required<Scene>();
  /** Contacts that are marked as wrong. */
  readonly slipped = input<readonly string[]>([]);
  readonly tappable = input(false);
  /** With how it is held, in words below. */
  readonly told = input(true);
  readonly tap = output<string>();

  protected readonly viewBox = computed(() => {
    const { x, y, width, height } = this.scene();
    return [x, y, width, height].join(' ');
  });

  protected at({ x, y }: Extract<SceneShape, { is: 'contact' | 'words' }>): string {
    return upright(x, y, this.scene().turnDeg);
  }

  /** A sample with its bands, and the line around it. */
  protected sample({
    x,
    y,
    width,
    height,
    conductor,
  }: Sample): (Omit<Sample, 'conductor'> & { fill: string })[] {
    const { base, band } = conductorPaint(conductor);
    const bands = band
      ? BANDS.at.map((at) => ({ x: x + at * width, y, width: BANDS.wide * width, height, fill: band }))
      : [];
    return [{ x, y, width, height, fill: base }, ...bands, { x, y, width, height, fill: 'none' }];
  }

  protected sampleAt(of: Omit<Sample, 'x'>): ReturnType<SceneView['sample']> {
    return this.sample({ ...of, x: -of.width / 2 });
  }
}
