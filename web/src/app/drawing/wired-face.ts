import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { wiredScene, type ConnectorType, type OnContacts } from '@near-spoke/core';
import { SceneView } from './scene-view';

/** Contacts with the conductors that go on them, as the person wiring sees them. */
@Component({
  selector: 'ns-wired-face',
  imports: [SceneView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ns-scene [scene]="scene()" [slipped]="slipped()" [told]="told()" />`,
  styleUrl: './scene-host.scss',
})
export class WiredFace {
  readonly connector = input.required<Pick<ConnectorType, 'face' | 'group'>>();
  readonly order = input.required<OnContacts>();
  readonly slipped = input<readonly string[]>([]);
  /** With how it is seen, in words below. */
  readonly told = input(true);

  protected readonly scene = computed(() => wiredScene(this.connector(), this.order()));
}
