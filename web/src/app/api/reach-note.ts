import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Reach } from './reach';

/** Says since when the server does not answer, and when it does again. */
@Component({
  selector: 'ns-reach-note',
  imports: [DatePipe, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div aria-live="polite">
      @if (reach.awaySince(); as since) {
        <p class="away">
          <span
            ><strong>No answer from the server since {{ since | date: 'HH:mm' }}.</strong> What you typed
            stays here. Nothing is recorded until it answers: this looks again by itself.</span
          >
          <button matButton="outlined" [disabled]="reach.busy()" (click)="reach.ask()">Look now</button>
        </p>
      } @else if (reach.back()) {
        <p>
          <span><strong>The server answers again.</strong> What was refused meanwhile: do it once more.</span>
          <button matButton="outlined" (click)="reach.seen()">Good</button>
        </p>
      }
    </div>
  `,
  styles: `
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 16px;
      align-items: center;
      justify-content: space-between;
      margin: 8px 24px 0;
      padding: 8px 14px;
      border: 1px solid var(--rule);
      border-radius: var(--round);
      background: var(--accent-soft);
    }
    .away {
      border-color: var(--wrong);
      background: var(--wrong-soft);
    }
    button {
      min-height: 44px;
    }
  `,
})
export class ReachNote {
  protected readonly reach = inject(Reach);
}
