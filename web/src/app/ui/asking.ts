import { signal, untracked } from '@angular/core';
import type { Problem } from '@near-spoke/contracts';
import type { Observable } from 'rxjs';
import { problemOf } from '../api/api';

/** One thing asked of the server at a time, and what stands in its way. */
export class Asking {
  private readonly asked = signal(false);
  private readonly failed = signal<Problem | null>(null);
  readonly busy = this.asked.asReadonly();
  /** Why the last one was refused; null since something was kept. */
  readonly problem = this.failed.asReadonly();

  /** Asks, unless an answer is still awaited. */
  ask<T>(what: Observable<T>, kept: (answer: T) => void): void {
    // An effect that asks does not ask again because it was refused.
    if (untracked(this.asked)) return;
    this.asked.set(true);
    this.failed.set(null);
    what.subscribe({
      next: (answer) => {
        this.asked.set(false);
        kept(answer);
      },
      error: (error: unknown) => {
        this.asked.set(false);
        this.failed.set(problemOf(error));
      },
    });
  }
}
