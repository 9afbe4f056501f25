import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { slotsScene, type ConnectorType, type OnContacts } from '@near-spoke/core';
import { SceneView } from './scene-view';

/** A jack's two rows of slots as the wiring label shows them; slots are not in contact order. */
@Component({
  selector: 'ns-jack-slots',
  imports: [SceneView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ns-scene [scene]="scene()" />`,
  styleUrl: './scene-host.scss',
})
export class JackSlots {
  readonly connector = input.required<Pick<ConnectorType, 'slots'>>();
  readonly order = input.required<OnContacts>();

  protected readonly scene = computed(() => slotsScene(this.connector(), this.order()));
}
