import { HttpErrorResponse, HttpResponse, type HttpInterceptorFn } from '@angular/common/http';
import { DestroyRef, inject, Injectable, InjectionToken, signal } from '@angular/core';
import { ADDRESSES } from '@near-spoke/contracts/addresses';
import { tap } from 'rxjs';

/** What keeps the pages for when there is no network lets such requests pass: it would answer them itself. */
const TO_THE_SERVER = { 'ngsw-bypass': 'true' };

/** A network that holds a question back for longer is none. */
const LONGEST_MS = 8000;

/** Asks the server whether it is there: true where anything at all answers. */
export const KNOCK = new InjectionToken<() => Promise<boolean>>('knock', {
  providedIn: 'root',
  factory: () => () =>
    fetch(ADDRESSES.health.path, {
      headers: TO_THE_SERVER,
      cache: 'no-store',
      signal: AbortSignal.timeout(LONGEST_MS),
    }).then(
      () => true,
      () => false,
    ),
});
/** It is asked for again after so long. */
export const KNOCK_EVERY_MS = new InjectionToken<number>('knock every', {
  providedIn: 'root',
  factory: () => 4000,
});

/** Whether the server is reached: told by every request, and asked for again by itself while it is not. */
@Injectable({ providedIn: 'root' })
export class Reach {
  private readonly knock = inject(KNOCK);
  private readonly every = inject(KNOCK_EVERY_MS);
  private timer: ReturnType<typeof setTimeout> | null = null;
  private readonly since = signal<Date | null>(null);
  /** Since when nothing answers; null while it does. */
  readonly awaySince = this.since.asReadonly();
  private readonly came = signal(false);
  /** It was away, and answers again. */
  readonly back = this.came.asReadonly();
  private readonly looking = signal(false);
  readonly busy = this.looking.asReadonly();

  constructor() {
    // A device without a network may be the server itself: it is asked, not believed.
    const ask = (): void => void this.ask();
    for (const change of ['offline', 'online']) addEventListener(change, ask);
    inject(DestroyRef).onDestroy(() => {
      for (const change of ['offline', 'online']) removeEventListener(change, ask);
      this.stop();
    });
  }

  /** Something did not reach it. */
  lost(): void {
    this.came.set(false);
    if (this.since() === null) this.since.set(new Date());
    this.again();
  }

  /** Something was answered, if only by a refusal. */
  reached(): void {
    if (this.since() === null) return;
    this.stop();
    this.since.set(null);
    this.came.set(true);
  }

  /** Asks now whether it is there. */
  async ask(): Promise<void> {
    if (this.looking()) return;
    this.stop();
    this.looking.set(true);
    const there = await this.knock();
    this.looking.set(false);
    if (there) this.reached();
    else this.lost();
  }

  /** That it is back has been read. */
  seen(): void {
    this.came.set(false);
  }

  private again(): void {
    this.timer ??= setTimeout(() => {
      this.timer = null;
      void this.ask();
    }, this.every);
  }

  private stop(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
  }
}

/** Every request tells whether the server was reached. */
export const tellReach: HttpInterceptorFn = (request, next) => {
  const reach = inject(Reach);
  return next(request.clone({ setHeaders: TO_THE_SERVER })).pipe(
    tap({
      next: (event) => {
        if (event instanceof HttpResponse) reach.reached();
      },
      error: (error: unknown) => {
        if (error instanceof HttpErrorResponse && error.status === 0) reach.lost();
        else reach.reached();
      },
    }),
  );
};
