import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { NewToldThing, TogetherState, TouchesByTwo } from '@near-spoke/contracts';
import type { Observable } from 'rxjs';
import { Api, HELPER_EVENTS, problemOf, togetherEvents } from '../api/api';
import { OPEN_EVENTS } from './open-events';

export type End = 'near' | 'far';
type Doing = NewToldThing['doing'];

/** What could not be sent is sent again after this long, under the same id: it counts once. */
const AGAIN_MS = 1500;

/** One cable proved by two: what both ends have come to, and what this one tells. */
@Injectable()
export class Together {
  private readonly api = inject(Api);
  private readonly openEvents = inject(OPEN_EVENTS);
  private readonly newest = signal<TogetherState | null>(null);
  readonly state = this.newest.asReadonly();
  /** The end that this device is at. */
  readonly end = signal<End>('near');
  readonly other = computed((): End => (this.end() === 'near' ? 'far' : 'near'));
  readonly connected = signal(true);
  /** What was told and is not heard of yet. */
  private readonly pending = signal<NewToldThing | null>(null);
  private readonly asking = signal(false);
  /** Something was told, or asked, and is not heard of yet. */
  readonly waiting = computed(() => this.asking() || this.pending() !== null);
  readonly trouble = signal('');
  private close: (() => void) | null = null;
  private again: ReturnType<typeof setTimeout> | undefined;
  private asHelper = false;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.leave());
  }

  /** Begins at a link, or goes on with what is begun there. */
  begin(linkId: string, end: End = this.end()): void {
    this.end.set(end);
    this.ask(
      this.api.call('beginTogether', { params: { linkId }, body: { id: crypto.randomUUID() } }),
      (state) => this.follow(state, togetherEvents(state.id)),
    );
  }

  /** Begins to tell unmarked conductors apart; whoever begins is at B, where they are read. */
  beginWires(count: number, hasReturn: boolean): void {
    this.end.set('far');
    this.ask(this.api.call('beginWires', { body: { id: crypto.randomUUID(), count, hasReturn } }), (state) =>
      this.follow(state, togetherEvents(state.id)),
    );
  }

  /** Begins to make a list of touches; whoever begins has the meter, at the near end. */
  beginTouches(list: Omit<TouchesByTwo, 'id'>): void {
    this.ask(this.api.call('beginTouches', { body: { id: crypto.randomUUID(), ...list } }), (state) =>
      this.follow(state, togetherEvents(state.id)),
    );
  }

  /** Goes on with what this device began before; says nothing where that is ended. */
  goOn(togetherId: string): void {
    this.api.call('readTogether', { params: { togetherId } }).subscribe({
      next: (state) => (state.ended ? undefined : this.follow(state, togetherEvents(state.id))),
      error: () => undefined,
    });
  }

  /** Comes to the other end by a code. */
  join(code: string, name: string, end: End): void {
    this.ask(this.api.call('joinAsHelper', { body: { code, name, end } }), (state) => this.help(state));
  }

  /** Goes on helping, where this device did before; says nothing where it did not. */
  resume(): void {
    this.api.call('readAsHelper', {}).subscribe({
      next: (state) => (state && !state.ended ? this.help(state) : undefined),
      error: () => undefined,
    });
  }

  /** Tells the other end what was done here. What comes too late is told so, and changes nothing. */
  tell(doing: Doing): void {
    const state = this.newest();
    if (!state || this.waiting()) return;
    this.trouble.set('');
    const told = { id: crypto.randomUUID(), end: this.end(), doing };
    this.pending.set(told);
    this.send(state.id, told);
  }

  /** Goes to an end, and says so. */
  goTo(end: End): void {
    this.end.set(end);
    this.tell({ does: 'came' });
  }

  /** Ends it for both. */
  finish(): void {
    const state = this.newest();
    if (!state || this.asHelper) return;
    this.leave();
    this.api.call('endTogether', { params: { togetherId: state.id } }).subscribe({ error: () => undefined });
  }

  /** Leaves it to the other end; it is gone on with by beginning again. */
  leave(): void {
    this.close?.();
    this.close = null;
    clearTimeout(this.again);
    this.pending.set(null);
    this.newest.set(null);
  }

  private help(state: TogetherState): void {
    this.asHelper = true;
    this.end.set(state.helper?.end ?? 'far');
    this.follow(state, HELPER_EVENTS);
  }

  private follow(state: TogetherState, address: string): void {
    this.trouble.set('');
    this.take(state);
    this.close?.();
    this.close = this.openEvents(address, {
      state: (newer) => this.take(newer),
      connected: (stands) => this.connected.set(stands),
    });
    this.tell({ does: 'came' });
  }

  /** Answers and events cross on their way: the one that more was told of is the newer. */
  private take(state: TogetherState): void {
    this.newest.update((known) => {
      if (known?.id !== state.id) return state;
      // What is ended stays so, and nothing is told after it.
      return known.ended || known.told > state.told ? known : state;
    });
    // It may be heard of by the events before it is answered.
    const pending = this.pending();
    if (pending && isPast(state, pending.doing)) this.pending.set(null);
  }

  private send(togetherId: string, body: NewToldThing): void {
    const sent = this.asHelper
      ? this.api.call('tellAsHelper', { body })
      : this.api.call('tellTogether', { params: { togetherId }, body });
    sent.subscribe({
      next: (state) => {
        this.heardOf(body);
        this.connected.set(true);
        this.take(state);
      },
      error: (error: unknown) => {
        const { status, detail } = problemOf(error);
        // No answer: whether it counted nobody knows, so it is sent again as the same.
        if (status === 0 || status === 503) {
          this.connected.set(false);
          this.again = setTimeout(() => this.send(togetherId, body), AGAIN_MS);
          return;
        }
        this.heardOf(body);
        this.trouble.set(detail);
      },
    });
  }

  private heardOf(body: NewToldThing): void {
    if (this.pending()?.id === body.id) this.pending.set(null);
  }

  private ask(what: Observable<TogetherState>, then: (state: TogetherState) => void): void {
    if (this.waiting()) return;
    this.asking.set(true);
    this.trouble.set('');
    what.subscribe({
      next: (state) => {
        this.asking.set(false);
        then(state);
      },
      error: (error: unknown) => {
        this.asking.set(false);
        this.trouble.set(problemOf(error).detail);
      },
    });
  }
}

/** Whether a state is one in which what was told has counted, or came too late. */
function isPast({ answers, wires }: TogetherState, doing: Doing): boolean {
  switch (doing.does) {
    case 'answered':
      return answers.length > doing.touch;
    case 'joined':
      return (wires?.joined ?? 0) > doing.round;
    case 'found':
      return (wires?.found.length ?? 0) > doing.round;
    default:
      return false;
  }
}

/** The contacts that one end touches or joins; none where the touch is at the other end alone. */
export function contactsAt(next: TogetherState['next'], end: End): readonly string[][] {
  if (!next) return [];
  const joined = end === 'far' && next.join.length > 0 ? [next.join] : [];
  return [...[next.from, next.to].flatMap((place) => (place.end === end ? [place.contacts] : [])), ...joined];
}
