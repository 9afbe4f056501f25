import { DestroyRef, effect, inject, Injectable, InjectionToken, signal, untracked } from '@angular/core';
import type { Link, LinkDetail } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { firstValueFrom, timeout } from 'rxjs';
import { Api, ApiProblem } from '../api/api';
import { Reach } from '../api/reach';
import { JobEvents } from '../jobs/jobs.state';
import { LinkEvents } from '../link/link.state';
import { sessionFeature, SessionEvents } from '../session/session.state';
import { Field } from './field';
import type { Waiting } from './field-store';
import { onlyChanged } from './unlike-fields';

/** A server that is busy, or failed, is asked again after so long. */
export const SEND_AGAIN_MS = new InjectionToken<number>('send again', {
  providedIn: 'root',
  factory: () => 5000,
});
const NO_ANSWER_MS = 60_000;
/** So many links are sent of at once; of one link one record after another. */
const AT_ONCE = 4;
const LOCK = 'near-spoke-sending';

/** Answers after which the same may be sent again, and is. */
const isPassing = (status: number): boolean => status === 0 || status === 429 || status >= 500;

/** Whether a plan says all that a change of it says. */
const isThere = ({ version: _, ...change }: Record<string, unknown>, plan: Link): boolean =>
  Object.keys(onlyChanged(change, plan)).length === 0;

/**
 * Sends what waits in the order in which it was done, of a few links side by side: each is taken from the device only once the
 * server has it, and brings its own id, so that it is there once however often it is sent. What is refused holds up its own
 * link alone.
 */
@Injectable({ providedIn: 'root' })
export class Sending {
  private readonly api = inject(Api);
  private readonly field = inject(Field);
  private readonly reach = inject(Reach);
  private readonly store = inject(Store);
  private readonly crew = this.store.selectSignal(sessionFeature.selectCrew);
  private readonly under = signal(false);
  readonly busy = this.under.asReadonly();
  private readonly strange = signal(false);
  /** Whoever is signed in at the server is another, or nobody: nothing is sent until this person signs in. */
  readonly wantsSignIn = this.strange.asReadonly();
  private readonly againMs = inject(SEND_AGAIN_MS);
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.timer !== null && clearTimeout(this.timer));
    effect(() => {
      const here = this.crew();
      untracked(() => {
        this.strange.set(false);
        if (here) void this.field.look();
      });
    });
    effect(() => {
      const here = this.crew() !== null && this.reach.awaySince() === null;
      // A page that was opened without a server has no token of its session yet.
      const due = this.field.ahead().size > 0 || this.api.forgeryToken === '';
      if (here && due) untracked(() => void this.send());
    });
  }

  /** Sends what can be sent now; another page of this device that is at it already is left to it. */
  async send(): Promise<void> {
    if (this.under()) return;
    this.under.set(true);
    try {
      // Without a safe connection a browser has no locks: what is sent twice is kept once.
      const locks = (navigator as { locks?: LockManager }).locks;
      if (locks)
        await locks.request(LOCK, { ifAvailable: true }, (lock) => (lock ? this.sendAll() : undefined));
      else await this.sendAll();
    } finally {
      this.under.set(false);
    }
    if (this.field.ahead().size > 0 && this.reach.awaySince() === null && !this.strange()) this.again();
  }

  private again(): void {
    this.timer ??= setTimeout(() => {
      this.timer = null;
      void this.send();
    }, this.againMs);
  }

  private async sendAll(): Promise<void> {
    await this.field.look();
    if (this.field.ahead().size === 0 && this.api.forgeryToken !== '') return;
    if (!(await this.isMe())) return;
    const under = new Map<string, Promise<boolean>>();
    let goesOn = true;
    for (;;) {
      const one = goesOn && under.size < AT_ONCE ? this.next(under) : undefined;
      if (one) under.set(one.lane, this.sendOne(one));
      else if (under.size === 0) return;
      else {
        const [lane, went] = await Promise.race(
          [...under].map(async ([lane, sent]) => [lane, await sent] as const),
        );
        under.delete(lane);
        goesOn &&= went;
      }
    }
  }

  /** The oldest that nothing lies before: neither what was refused, nor what is under way. */
  private next(under: ReadonlyMap<string, unknown>): Waiting | undefined {
    const held = new Set<string>();
    for (const one of this.field.waiting()) {
      // A round begins before what is read in it.
      if (one.id === 'beginRound' && !one.refused) return under.size === 0 ? one : undefined;
      if (one.refused) held.add(one.lane);
      else if (!held.has(one.lane) && !under.has(one.lane)) return one;
    }
    return undefined;
  }

  /** Whether the server knows this person here; it tells the token of the session as well. */
  private async isMe(): Promise<boolean> {
    try {
      const session = await firstValueFrom(this.api.send('session', {}));
      const me = session.state === 'signed-in' && session.crew.id === this.crew()?.id;
      this.strange.set(!me);
      if (me) this.store.dispatch(SessionEvents.sessionKnown({ session }));
      return me;
    } catch {
      return false;
    }
  }

  /** Whether to go on with the next. */
  private async sendOne(one: Waiting): Promise<boolean> {
    try {
      const { id, params, body } = one;
      const answer = await firstValueFrom(this.api.send(id, { params, body }).pipe(timeout(NO_ANSWER_MS)));
      await this.field.sent(one, answer);
      this.show(one, answer);
      return true;
    } catch (error) {
      const problem = error instanceof ApiProblem ? error.problem : null;
      if (!problem || isPassing(problem.status)) return false;
      if (problem.status === 401) {
        this.strange.set(true);
        return false;
      }
      const there = one.id === 'changeLink' ? (problem.current as Link | undefined) : undefined;
      // It may have arrived before, and its answer been lost: then the plan says already what was wanted.
      if (problem.status === 409 && there && isThere(one.body as Record<string, unknown>, there)) {
        await this.field.sent(one, there);
        this.show(one, there);
      } else await this.field.refuse(one, problem);
      return true;
    }
  }

  /** Screens that show the link show what the server made of it, once nothing more of it waits. */
  private show({ id, lane }: Waiting, answer: unknown): void {
    if (this.field.waiting().some((one) => one.lane === lane)) return;
    if (id === 'changeLink') this.store.dispatch(JobEvents.linkChanged({ link: answer as Link }));
    else if (id !== 'beginRound' && id !== 'addTrace') {
      const detail = answer as LinkDetail;
      this.store.dispatch(LinkEvents.detailRead({ detail }));
      this.store.dispatch(JobEvents.linkChanged({ link: detail.link }));
    }
  }
}
