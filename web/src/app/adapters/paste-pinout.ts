import { ChangeDetectionStrategy, Component, computed, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { readPinout, type Pin } from '@near-spoke/core';

/** A table pasted from a sheet: read as it is typed, taken only whole. */
@Component({
  selector: 'ns-paste-pinout',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label
      >A line per contact: number, signal, what it does, volts of a supply
      <textarea
        rows="9"
        [value]="text()"
        (input)="text.set($any($event.target).value)"
        placeholder="1  GND  ground&#10;2  TXD  out&#10;3  RXD  in&#10;4  VCC  supply in  4.5 to 5.5"
      ></textarea>
    </label>
    @if (text().trim() !== '') {
      <ul role="status" class="small">
        @for (problem of read().problems; track problem.line) {
          <li class="wrong">Line {{ problem.line }}: {{ problem.words }}</li>
        }
      </ul>
      <button
        matButton="filled"
        class="main-action"
        [disabled]="read().problems.length > 0"
        (click)="taken.emit(read().pins)"
      >
        Take {{ read().pins.length }} contacts
      </button>
    }
  `,
  styles: `
    :host,
    label {
      display: grid;
      gap: 8px;
    }
    textarea {
      font: 400 15px/1.5 var(--figures);
      padding: 8px 10px;
      color: var(--ink);
      background: var(--film);
      border: 1px solid var(--ink-2);
      border-radius: 6px;
      resize: vertical;
    }
    button {
      justify-self: start;
    }
  `,
})
export class PastePinout {
  readonly taken = output<readonly Pin[]>();
  protected readonly text = signal('');
  protected readonly read = computed(() => readPinout(this.text()));
}
