import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { plugScene, type CableFrom, type OnContacts } from '@near-spoke/core';
import { SceneView } from './scene-view';

/** An 8-contact plug as the person holds it. */
@Component({
  selector: 'ns-plug-face',
  imports: [SceneView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ns-scene [scene]="scene()" [slipped]="slipped()" [tappable]="tappable()" (tap)="tap.emit($event)" />
  `,
  styleUrl: './scene-host.scss',
})
export class PlugFace {
  /** Conductor on each contact. */
  readonly order = input.required<OnContacts>();
  readonly latch = input<'down' | 'up'>('down');
  readonly cableFrom = input<CableFrom>('below');
  readonly slipped = input<readonly string[]>([]);
  /** Contacts of which nobody knows what lies there. */
  readonly unread = input<readonly string[]>([]);
  readonly tappable = input(false);
  readonly tap = output<string>();

  protected readonly scene = computed(() =>
    plugScene(this.order(), { latch: this.latch(), cableFrom: this.cableFrom(), unread: this.unread() }),
  );
}
