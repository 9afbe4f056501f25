import { DestroyRef, effect, inject, Injectable, InjectionToken, signal, untracked } from '@angular/core';
import type { Link, LinkDetail, NewTest, Problem } from '@near-spoke/contracts';
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
/** So many readings go to the server at once. */
const TOGETHER = 25;
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
  private readonly inCrew = this.store.selectSignal(sessionFeature.selectInCrew);
  private readonly under = signal(false);
  readonly busy = this.under.asReadonly();
  private readonly strange = signal(false);
  /** Whoever is signed in at the server is another, or nobody: nothing is sent until this person signs in. */
  readonly wantsSignIn = this.strange.asReadonly();
  private readonly againMs = inject(SEND_AGAIN_MS);
  /** Readings that were in a company of which one was refused. */
  private readonly alone = new Set<number>();
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
    const under = new Map<Promise<boolean>, readonly Waiting[]>();
    let goesOn = true;
    for (;;) {
      const lanes = new Set([...under.values()].flatMap((some) => some.map(({ lane }) => lane)));
      const some = goesOn && under.size < AT_ONCE ? this.next(lanes) : [];
      if (some.length > 0) under.set(this.sendSome(some), some);
      else if (under.size === 0) return;
      else {
        const [which, went] = await Promise.race(
          [...under.keys()].map(async (sent) => [sent, await sent] as const),
        );
        under.delete(which);
        goesOn &&= went;
      }
    }
  }

  /**
   * The oldest that nothing lies before, neither what was refused nor what is under way; where it is a reading, with others of
   * the same job of which that is true too.
   */
  private next(under: ReadonlySet<string>): Waiting[] {
    const held = new Set<string>(under);
    const some: Waiting[] = [];
    for (const one of this.field.waiting()) {
      // A round begins before what is read in it.
      if (one.id === 'beginRound' && !one.refused) return some.length > 0 || under.size > 0 ? some : [one];
      if (!one.refused && !held.has(one.lane)) {
        const [first] = some;
        if (!first && !this.goesWithOthers(one)) return [one];
        if (!first || (this.goesWithOthers(one) && one.jobId === first.jobId)) some.push(one);
        if (some.length === TOGETHER) break;
      }
      held.add(one.lane);
    }
    return some;
  }

  private goesWithOthers({ id, jobId, sequence }: Waiting): boolean {
    return id === 'addTest' && jobId !== undefined && !this.alone.has(sequence);
  }

  /** Whether the server knows this person here; it tells the token of the session as well. */
  private async isMe(): Promise<boolean> {
    try {
      const session = await firstValueFrom(this.api.send('session', {}));
      // Another page of this browser may have gone on in another crew: nothing goes there from here.
      const me =
        session.state === 'signed-in' &&
        session.crew.id === this.crew()?.id &&
        session.inCrew === this.inCrew();
      this.strange.set(!me);
      if (me) this.store.dispatch(SessionEvents.sessionKnown({ session }));
      return me;
    } catch {
      return false;
    }
  }

  /** What was refused for good; null where it may pass by itself, or nobody here is known: then nothing goes on. */
  private refusalIn(error: unknown): Problem | null {
    if (!(error instanceof ApiProblem)) return null;
    const { problem } = error;
    if (problem.status === 401) this.strange.set(true);
    return problem.status === 401 || isPassing(problem.status) ? null : problem;
  }

  /** Readings of several links go together: all are kept, or none. Whether to go on with the next. */
  private async sendSome(some: readonly Waiting[]): Promise<boolean> {
    const [first] = some;
    if (!first || some.length === 1) return first ? this.sendOne(first) : true;
    try {
      const params = { jobId: first.jobId ?? '' };
      const tests = some.map(({ lane, body }) => ({ linkId: lane, test: body as NewTest }));
      const sent = this.api.send('addTests', { params, body: { tests, answer: 'records' } });
      const { records = [] } = await firstValueFrom(sent.pipe(timeout(NO_ANSWER_MS)));
      const became = new Map(records.map((detail) => [detail.link.id, detail]));
      for (const one of some) {
        const detail = became.get(one.lane);
        if (detail) {
          await this.field.sent(one, detail);
          this.show(one, detail);
        } else this.alone.add(one.sequence);
      }
      return true;
    } catch (error) {
      const problem = this.refusalIn(error);
      if (!problem) return false;
      // One of them cannot be kept, and so none was: each by itself tells why.
      for (const { sequence } of some) this.alone.add(sequence);
      return true;
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
      const problem = this.refusalIn(error);
      if (!problem) return false;
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
