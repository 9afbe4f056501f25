import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { CableType, CardStep, ConnectorType, UnitSystem, WorkCard } from '@near-spoke/core';
import { ConnectorFront } from '../drawing/connector-front';
import { FinishedEnd } from '../drawing/finished-end';
import { JackSlots } from '../drawing/jack-slots';
import { PlugFace } from '../drawing/plug-face';
import { StripPlanPicture } from '../drawing/strip-plan';
import { ThreadedParts } from '../drawing/threaded-parts';
import { WiredFace } from '../drawing/wired-face';
import { Keys } from '../keys/keys';
import { Preferences } from '../preferences/preferences';

/** The thing in the hand at one step, turned as the person holds it. */
@Component({
  selector: 'ns-step-picture',
  imports: [
    MatButtonModule,
    ConnectorFront,
    PlugFace,
    JackSlots,
    StripPlanPicture,
    ThreadedParts,
    WiredFace,
    FinishedEnd,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="picture">
      @switch (shows()) {
        @case ('front') {
          <ns-connector-front
            [order]="card().order"
            [latch]="preferences.latch()"
            [jack]="connector().kind === 'jack'"
          />
        }
        @case ('plug') {
          <ns-plug-face
            [order]="card().order"
            [latch]="preferences.latch()"
            [cableFrom]="preferences.cableFrom()"
            [slipped]="slipped()"
          />
        }
        @case ('slots') {
          <ns-jack-slots [connector]="connector()" [order]="card().order" />
        }
        @case ('face') {
          <ns-wired-face [connector]="connector()" [order]="card().order" [slipped]="slipped()" />
        }
        @case ('end') {
          <ns-finished-end class="big" [connector]="connector()" />
        }
        @case ('thread') {
          <ns-threaded-parts class="big" [told]="false" [verdicts]="card().threaded" />
        }
        @case ('lay-out') {
          <ul class="lay-out">
            @for (part of card().parts; track part) {
              <li>{{ part }}</li>
            }
            @for (tool of card().tools; track tool.words) {
              <li class="quiet">{{ tool.words }}</li>
            }
          </ul>
        }
        @default {
          <ns-strip-plan class="big" [plan]="card().strip" [cable]="cable()" [units]="units()" />
        }
      }
    </div>
    @if (turnable()) {
      <div class="hold no-print">
        @if (isPlug() || shows() === 'front') {
          <button matButton="outlined" (click)="preferences.turnLatch()">
            Latch {{ preferences.latch() === 'down' ? 'up' : 'down' }} <kbd>T</kbd>
          </button>
        }
        <button matButton="outlined" (click)="preferences.turnFace()">
          {{ preferences.face() === 'rear' ? 'Front' : 'Wiring side' }} <kbd>F</kbd>
        </button>
        @if (isPlug() && shows() === 'plug') {
          <select
            aria-label="Where the cable comes from"
            class="from"
            [value]="preferences.cableFrom()"
            (change)="preferences.holdCable($any($event.target).value)"
          >
            <option value="below">cable towards me</option>
            <option value="left">cable in my left hand</option>
            <option value="right">cable in my right hand</option>
          </select>
        }
      </div>
    }
  `,
  styleUrl: './step-picture.scss',
})
export class StepPictureView {
  protected readonly preferences = inject(Preferences);
  readonly card = input.required<WorkCard>();
  readonly step = input.required<CardStep>();
  readonly connector = input.required<ConnectorType>();
  readonly cable = input.required<CableType>();
  readonly units = input<UnitSystem>('metric');
  readonly slipped = input<readonly string[]>([]);

  protected readonly isPlug = computed(() => this.connector().face === 'plug-8');
  constructor() {
    inject(Keys).use(
      [
        {
          key: 'f',
          words: 'front (mating) or wiring side',
          run: () => this.preferences.turnFace(),
          when: () => this.turnable(),
        },
        {
          key: 't',
          words: 'turn the plug over',
          run: () => this.preferences.turnLatch(),
          when: () => this.turnable(),
        },
      ],
      inject(DestroyRef),
    );
  }

  private readonly showsContacts = computed(() =>
    ['face', 'slots', 'finished'].includes(this.step().picture),
  );
  /** Only the 8-contact plug and jack have a mating face that is drawn apart. */
  protected readonly turnable = computed(
    () => this.showsContacts() && ['plug-8', 'slots'].includes(this.connector().face),
  );
  protected readonly shows = computed(() => {
    const { picture } = this.step();
    if (picture === 'thread' || picture === 'strip' || picture === 'lay-out') return picture;
    if (this.turnable() && this.preferences.face() === 'mating') return 'front';
    if (this.isPlug()) return 'plug';
    if (this.card().slots) return 'slots';
    return ['coax', 'joint'].includes(this.connector().face) ? 'end' : 'face';
  });
}
