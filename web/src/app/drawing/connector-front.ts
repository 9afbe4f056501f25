import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { frontScene, type OnContacts } from '@near-spoke/core';
import { SceneView } from './scene-view';

/** The mating face of an 8-contact plug or jack: what the other connector sees. */
@Component({
  selector: 'ns-connector-front',
  imports: [SceneView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ns-scene [scene]="scene()" />`,
  styleUrl: './scene-host.scss',
})
export class ConnectorFront {
  readonly order = input.required<OnContacts>();
  readonly latch = input<'down' | 'up'>('down');
  readonly jack = input(false);

  protected readonly scene = computed(() =>
    frontScene(this.order(), { latch: this.latch(), jack: this.jack() }),
  );
}
