import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Together } from './together';

/** That the connection is lost, or why what was told did not count. */
@Component({
  selector: 'ns-in-the-way',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!together.connected()) {
      <p role="status" class="small">
        The connection is lost. Nothing was lost with it: what you tell is sent once it is back.
      </p>
    }
    @if (together.trouble(); as trouble) {
      <p role="alert">{{ trouble }}</p>
    }
  `,
  styles: `
    /* Takes no room while nothing is. */
    :host {
      display: contents;
    }
    p {
      margin: 0;
    }
  `,
})
export class InTheWay {
  protected readonly together = inject(Together);
}
