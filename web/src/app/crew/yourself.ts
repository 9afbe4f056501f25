import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { OwnSession, Problem } from '@near-spoke/contracts';
import { firstValueFrom, type Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';

/** One's own passphrase, and where one is signed in. */
@Component({
  selector: 'ns-yourself',
  imports: [DatePipe, ReactiveFormsModule, MatButtonModule, MatFormFieldModule, MatInputModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-labelledby="yourself">
      <h2 id="yourself">Yourself</h2>
      @if (problem(); as problem) {
        <ns-problem-note [problem]="problem" />
      }
      <form [formGroup]="form" (ngSubmit)="change()">
        <mat-form-field>
          <mat-label>Your passphrase now</mat-label>
          <input
            matInput
            type="password"
            formControlName="old"
            autocomplete="current-password"
            maxlength="200"
          />
        </mat-form-field>
        <mat-form-field>
          <mat-label>New one, at least 12 characters</mat-label>
          <input
            matInput
            type="password"
            formControlName="next"
            autocomplete="new-password"
            maxlength="200"
          />
        </mat-form-field>
        <mat-form-field>
          <mat-label>The new one again</mat-label>
          <input
            matInput
            type="password"
            formControlName="again"
            autocomplete="new-password"
            maxlength="200"
          />
        </mat-form-field>
        <button matButton="filled" class="main-action" [disabled]="busy()">Change passphrase</button>
        <p class="small quiet" aria-live="polite">{{ said() || 'Your other sessions end with it.' }}</p>
      </form>
      <h3>Signed in</h3>
      <ul>
        @for (each of sessions(); track each.id) {
          <li>
            <span>
              since {{ each.begun | date: 'd MMM y, HH:mm' }}
              @if (each.here) {
                <strong>here</strong>
              } @else {
                elsewhere
              }
            </span>
            @if (!each.here) {
              <button matButton="outlined" (click)="end(each)" [disabled]="busy()">
                End it<span class="visually-hidden">: since {{ each.begun | date: 'd MMM y, HH:mm' }}</span>
              </button>
            }
          </li>
        }
      </ul>
    </section>
  `,
  styles: `
    section {
      padding: 18px;
      display: grid;
      gap: 10px;
    }
    form {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
      gap: 10px 12px;
      align-items: center;
    }
    form p {
      grid-column: 1 / -1;
    }
    ul {
      display: grid;
      gap: 6px;
    }
    li {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 12px;
      min-height: 40px;
    }
  `,
})
export class Yourself {
  private readonly api = inject(Api);
  protected readonly sessions = signal<readonly OwnSession[]>([]);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly busy = signal(false);
  protected readonly said = signal('');
  protected readonly form = inject(NonNullableFormBuilder).group({
    old: ['', Validators.required],
    next: ['', [Validators.required, Validators.minLength(12)]],
    again: ['', Validators.required],
  });

  constructor() {
    void this.attempt(this.api.call('ownSessions', {}));
  }

  protected async change(): Promise<void> {
    const { old, next, again } = this.form.getRawValue();
    this.said.set('');
    const wrong =
      old === ''
        ? 'Give the passphrase that you have now.'
        : next.length < 12
          ? 'The new one is too short: at least 12 characters. Four short words are easy to remember.'
          : next === again
            ? ''
            : 'The new one is not the same both times. Type it again.';
    if (wrong) {
      this.said.set(wrong);
      return;
    }
    if (!(await this.attempt(this.api.call('changeOwnPassphrase', { body: { old, next } })))) return;
    this.form.reset();
    this.said.set('Changed. Your other sessions have ended.');
  }

  protected end({ id }: OwnSession): void {
    void this.attempt(this.api.call('endOwnSession', { params: { sessionId: id } }));
  }

  /** Asks, and shows where one is signed in afterwards; answers whether it was done. */
  private async attempt(asked: Observable<OwnSession[]>): Promise<boolean> {
    this.problem.set(null);
    this.busy.set(true);
    try {
      this.sessions.set(await firstValueFrom(asked));
      return true;
    } catch (error) {
      this.problem.set(problemOf(error));
      return false;
    } finally {
      this.busy.set(false);
    }
  }
}
