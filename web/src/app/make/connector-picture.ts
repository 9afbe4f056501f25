import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { assign, USUAL_CHOICES, type CableType, type ConnectorType } from '@near-spoke/core';
import { FinishedEnd } from '../drawing/finished-end';
import { PlugFace } from '../drawing/plug-face';
import { WiredFace } from '../drawing/wired-face';

/** What a connector looks like once this cable is in it. */
@Component({
  selector: 'ns-connector-picture',
  imports: [FinishedEnd, PlugFace, WiredFace],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @switch (shows()) {
      @case ('plug') {
        <ns-plug-face [order]="order()" latch="down" cableFrom="below" [slipped]="[]" />
      }
      @case ('end') {
        <ns-finished-end [connector]="connector()" />
      }
      @default {
        <ns-wired-face [connector]="connector()" [order]="order()" [told]="false" />
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      align-items: center;
      pointer-events: none;
    }
  `,
})
export class ConnectorPicture {
  readonly connector = input.required<ConnectorType>();
  readonly cable = input.required<CableType>();
  protected readonly order = computed(() => assign(this.cable(), this.connector(), USUAL_CHOICES));
  protected readonly shows = computed(() => {
    const { face } = this.connector();
    if (face === 'plug-8') return 'plug';
    return face === 'coax' || face === 'joint' ? 'end' : 'face';
  });
}
