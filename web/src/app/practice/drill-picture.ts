import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { drawFace, layoutFor } from '@near-spoke/core';
import type { DrillPicture } from '@near-spoke/core/drills';

const PLUG = { pitch: 34, left: 21 };
const MAP = { near: 60, far: 240, top: 16, row: 22 };
const TRACE = { width: 320, height: 120 };

/** What a drill shows: a plug, a face, a map or a trace, without the numbers that are asked for. */
@Component({
  selector: 'ns-drill-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @switch (picture().shows) {
      @case ('plug') {
        <svg viewBox="0 0 300 150" role="img" [attr.aria-label]="words()">
          <rect x="6" y="10" width="288" height="90" rx="8" class="body" />
          @for (spot of plug(); track spot.n) {
            @if (spot.contacts) {
              <rect [attr.x]="spot.x - 6" y="16" width="12" height="34" rx="2" class="metal" />
            }
            <line [attr.x1]="spot.x" [attr.x2]="spot.x" y1="56" y2="98" class="wire" />
            @if (spot.asked) {
              <circle [attr.cx]="spot.x" cy="76" r="14" class="asked" />
              <text [attr.x]="spot.x" y="82">?</text>
            }
          }
          @if (latchUp()) {
            <rect x="112" y="10" width="76" height="62" rx="5" class="latch" />
            <text x="150" y="46" class="small">latch</text>
          }
          <rect x="96" y="100" width="108" height="46" rx="6" class="jacket" />
          <text x="150" y="128" class="small light">cable</text>
        </svg>
      }
      @case ('face') {
        @if (face(); as face) {
          <svg [attr.viewBox]="face.viewBox" role="img" [attr.aria-label]="words()">
            @if (face.drawing.outline) {
              <path [attr.d]="face.drawing.outline" class="shell" />
            }
            @if (face.drawing.key) {
              <path [attr.d]="face.drawing.key" class="key" />
            }
            @for (spot of face.drawing.contacts; track spot.contact) {
              <circle
                [attr.cx]="spot.xMm"
                [attr.cy]="spot.yMm"
                [attr.r]="face.drawing.contactMm"
                [class]="spot.contact === face.asked ? 'spot asked-spot' : 'spot'"
              />
              @if (spot.contact === face.asked) {
                <text
                  [attr.x]="spot.xMm"
                  [attr.y]="spot.yMm + face.drawing.contactMm * 0.4"
                  [style.font-size.px]="face.drawing.contactMm * 1.3"
                >
                  ?
                </text>
              }
            }
          </svg>
        }
      }
      @case ('map') {
        <svg viewBox="0 0 300 196" role="img" [attr.aria-label]="words()">
          @for (row of map(); track row.near) {
            <text x="30" [attr.y]="row.y + 5">{{ row.near }}</text>
            <text x="270" [attr.y]="row.y + 5">{{ row.near }}</text>
            @if (row.toY !== null) {
              <path
                [attr.d]="'M60 ' + row.y + 'C150 ' + row.y + ' 150 ' + row.toY + ' 240 ' + row.toY"
                [class]="row.toY === row.y ? 'path' : 'path crossed'"
              />
            } @else {
              <path [attr.d]="'M60 ' + row.y + 'H120'" class="path crossed" />
            }
          }
          <text x="30" y="194" class="small">near</text>
          <text x="270" y="194" class="small">far</text>
        </svg>
      }
      @case ('trace') {
        <svg viewBox="0 0 320 120" role="img" [attr.aria-label]="words()">
          <line x1="0" x2="320" y1="60" y2="60" class="level" />
          <path [attr.d]="trace()" class="trace" />
        </svg>
      }
    }
  `,
  styles: `
    svg {
      display: block;
      width: min(100%, 460px);
      max-height: 240px;
      margin: 0 auto;
    }
    text {
      font-family: var(--figures);
      font-size: 17px;
      text-anchor: middle;
      fill: var(--ink);
    }
    .small {
      font-size: 13px;
      fill: var(--ink-2);
    }
    .light {
      fill: #f5f4ef;
    }
    .body,
    .shell {
      fill: var(--film);
      stroke: var(--ink-2);
      stroke-width: 1.5;
    }
    .shell,
    .key,
    .spot {
      stroke-width: 0.2;
    }
    .key {
      fill: var(--ink-2);
    }
    .spot {
      fill: var(--sheet);
      stroke: var(--ink);
    }
    .asked-spot,
    .asked {
      fill: var(--accent-soft);
      stroke: var(--accent);
    }
    .metal {
      fill: #c9a24b;
    }
    .wire {
      stroke: var(--ink-2);
      stroke-width: 9;
    }
    .latch {
      fill: var(--rule);
      stroke: var(--ink-2);
    }
    .jacket {
      fill: #30383c;
    }
    .path {
      fill: none;
      stroke: var(--ink-2);
      stroke-width: 3;
    }
    .crossed {
      stroke: var(--wrong);
    }
    .level {
      stroke: var(--rule);
    }
    .trace {
      fill: none;
      stroke: var(--accent);
      stroke-width: 2;
    }
  `,
})
export class DrillPictureView {
  readonly picture = input.required<DrillPicture>();

  protected readonly latchUp = computed(() => {
    const picture = this.picture();
    return picture.shows === 'plug' && picture.latch === 'up';
  });
  protected readonly plug = computed(() => {
    const picture = this.picture();
    if (picture.shows !== 'plug') return [];
    return Array.from({ length: 8 }, (_, n) => ({
      n,
      x: PLUG.left + 10 + n * PLUG.pitch,
      contacts: picture.latch === 'down',
      asked: n === picture.place,
    }));
  });
  protected readonly face = computed(() => {
    const picture = this.picture();
    const layout = picture.shows === 'face' ? layoutFor(picture.layout) : null;
    if (picture.shows !== 'face' || !layout) return null;
    const drawing = drawFace(layout, picture.view);
    const { widthMm, heightMm } = drawing;
    return {
      drawing,
      asked: picture.contact,
      viewBox: `${-widthMm / 2} ${-heightMm / 2} ${widthMm} ${heightMm}`,
    };
  });
  protected readonly map = computed(() => {
    const picture = this.picture();
    if (picture.shows !== 'map') return [];
    const contacts = Object.keys(picture.map);
    const y = (contact: string): number => MAP.top + contacts.indexOf(contact) * MAP.row;
    return contacts.map((near) => {
      const far = picture.map[near] ?? null;
      return { near, y: y(near), toY: far === null ? null : y(far) };
    });
  });
  protected readonly trace = computed(() => {
    const picture = this.picture();
    if (picture.shows !== 'trace') return '';
    const most = Math.max(...picture.volts.map(Math.abs));
    return picture.volts
      .map((volt, n) => {
        const x = (n * TRACE.width) / (picture.volts.length - 1);
        const y = TRACE.height / 2 - (volt / most) * (TRACE.height / 2 - 8);
        return `${n === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`;
      })
      .join('');
  });
  /** For who cannot see it: what is drawn, and never what is asked. */
  protected readonly words = computed((): string => {
    const picture = this.picture();
    switch (picture.shows) {
      case 'plug':
        return `A plug from above, latch ${picture.latch}, cable towards you; place ${picture.place + 1} from the left is marked.`;
      case 'face': {
        const face = this.face();
        const spots = face?.drawing.contacts ?? [];
        const asked = spots.find(({ contact }) => contact === face?.asked);
        const row = [...new Set(spots.map(({ yMm }) => yMm))].sort((a, b) => a - b);
        const inRow = spots.filter(({ yMm }) => yMm === asked?.yMm).sort((a, b) => a.xMm - b.xMm);
        return asked
          ? `A face with ${spots.length} contacts; marked is number ${inRow.indexOf(asked) + 1} from the left in row ${row.indexOf(asked.yMm) + 1} from the top.`
          : '';
      }
      case 'map':
        return `A wire map: ${Object.entries(picture.map)
          .map(([near, far]) => `${near} to ${far ?? 'nothing'}`)
          .join(', ')}.`;
      case 'trace':
        return 'A trace: the launch at the left, then what comes back.';
    }
  });
}
