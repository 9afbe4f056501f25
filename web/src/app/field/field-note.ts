import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { Reach } from '../api/reach';
import { Field } from './field';
import { KEPT_PAGES } from './kept-pages';
import { Sending } from './sending';

/** Says since when the server does not answer, what waits on this device meanwhile, and what became of it. */
@Component({
  selector: 'ns-field-note',
  imports: [DatePipe, RouterLink, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div aria-live="polite">
      @if (reach.awaySince(); as since) {
        <p class="alone">
          <span
            ><strong>No answer from the server since {{ since | date: 'HH:mm' }}.</strong>
            @if (count() > 0) {
              {{ count() === 1 ? 'One record waits' : count() + ' records wait' }} on this device, and
              {{ count() === 1 ? 'is sent by itself' : 'are sent by themselves' }}.
              <a routerLink="/waiting">What waits</a>
            } @else {
              Cards, readings and notes go on, and wait on this device.
            }
          </span>
          <button matButton="outlined" [disabled]="reach.busy()" (click)="reach.ask()">Look now</button>
        </p>
      } @else if (field.refused().length > 0) {
        <p class="wrong-note">
          <span
            ><strong>{{
              field.refused().length === 1
                ? 'The server did not take one record.'
                : 'The server did not take ' + field.refused().length + ' records.'
            }}</strong>
            It is still here: a person has to decide.</span
          >
          <a matButton="outlined" routerLink="/waiting">Look at it</a>
        </p>
      } @else if (sending.wantsSignIn()) {
        <p class="wrong-note">
          <span
            ><strong>{{ count() === 1 ? 'One record waits' : count() + ' records wait' }} to be sent.</strong>
            The session is over: sign in again, and it goes on. Nothing is lost by that.</span
          >
          <a matButton="outlined" routerLink="/sign-in">Sign in</a>
        </p>
      } @else if (count() > 0) {
        <p>
          <span
            ><strong>Sending what waited:</strong> {{ count() }} left.
            <a routerLink="/waiting">What waits</a></span
          >
        </p>
      } @else if (field.unlike().length > 0) {
        <p class="wrong-note">
          <span
            ><strong>All is sent.</strong>
            {{
              field.unlike().length === 1
                ? 'One verdict of this device is another at the server.'
                : field.unlike().length + ' verdicts of this device are others at the server.'
            }}</span
          >
          <a matButton="outlined" routerLink="/waiting">Compare them</a>
        </p>
      } @else if (reach.back()) {
        <p>
          <span><strong>The server answers again.</strong> All that waited here is sent.</span>
          <button matButton="outlined" (click)="reach.seen()">Good</button>
        </p>
      }
      @if (newer()) {
        <p>
          <span
            ><strong>A newer version of this application is here.</strong> What waits on this device stays and
            is sent by it.</span
          >
          <button matButton="outlined" (click)="load()">Load it</button>
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
    .alone {
      border: 1px dashed var(--unsure);
      background: var(--sheet);
    }
    .wrong-note {
      border-color: var(--wrong);
      background: var(--wrong-soft);
    }
    .mat-mdc-outlined-button {
      min-height: 44px;
    }
  `,
})
export class FieldNote {
  protected readonly reach = inject(Reach);
  protected readonly field = inject(Field);
  protected readonly sending = inject(Sending);
  protected readonly count = computed(() => this.field.waiting().length);
  protected readonly newer = signal(false);

  constructor() {
    inject(KEPT_PAGES)
      .pipe(takeUntilDestroyed(inject(DestroyRef)))
      .subscribe(() => this.newer.set(true));
  }

  protected load(): void {
    location.reload();
  }
}
