import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import {
  buildCard,
  endDone,
  formatStripLength,
  type CardStep,
  type LinkEnd,
  type WorkCard,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { ConnectorFront } from '../drawing/connector-front';
import { JackSlots } from '../drawing/jack-slots';
import { PlugFace } from '../drawing/plug-face';
import { StripPlanPicture } from '../drawing/strip-plan';
import { ThreadedParts } from '../drawing/threaded-parts';
import { Keys } from '../keys/keys';
import { LinkFacts } from '../link/link-facts';
import { LinkEvents, linkFeature } from '../link/link.state';
import { Preferences } from '../preferences/preferences';
import { sessionFeature } from '../session/session.state';

/** The work card of one end: one step at a time or whole, and the record of how it went. */
@Component({
  selector: 'ns-terminate-room',
  imports: [MatButtonModule, ConnectorFront, PlugFace, JackSlots, StripPlanPicture, ThreadedParts],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './terminate-room.html',
  styleUrl: './terminate-room.scss',
})
export class TerminateRoom {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  protected readonly preferences = inject(Preferences);
  protected readonly facts = inject(LinkFacts);
  /** Which end, from the address; the first open one where nothing is said. */
  readonly end = input<string>();

  protected readonly detail = computed(
    () => this.facts.detail() as NonNullable<ReturnType<typeof this.facts.detail>>,
  );
  protected readonly busy = this.store.selectSignal(linkFeature.selectBusy);
  private readonly kept = this.store.selectSignal(linkFeature.selectKept);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  private readonly address = computed(() => `${this.detail().link.id} ${this.end() ?? ''}`);
  /** Chosen anew for another link or address only: a record that comes in turns nobody's card over. */
  protected readonly side = linkedSignal({
    source: this.address,
    computation: (): LinkEnd => {
      const asked = untracked(this.end);
      if (asked === 'near' || asked === 'far') return asked;
      return endDone(untracked(this.detail), 'near') ? 'far' : 'near';
    },
  });
  protected readonly place = computed(() => {
    const { near, far } = this.detail().link;
    return this.side() === 'near'
      ? `${near.hub}, ${near.panel} port ${near.port}`
      : `${far.outlet}, ${far.room}`;
  });
  protected readonly connector = computed(() =>
    this.side() === 'near' ? this.facts.near() : this.facts.far(),
  );
  protected readonly card = computed((): { card: WorkCard | null; why: string } => {
    const [cable, connector] = [this.facts.cable(), this.connector()];
    if (!cable || !connector) return { card: null, why: '' };
    try {
      return { card: buildCard({ cable, connector, scheme: this.detail().scheme }), why: '' };
    } catch (error) {
      return { card: null, why: error instanceof RangeError ? error.message : String(error) };
    }
  });
  protected readonly steps = computed((): readonly CardStep[] => this.card().card?.steps ?? []);
  /** The step in hand; one past the last is the record. */
  protected readonly at = linkedSignal({ source: this.side, computation: () => 0 });
  protected readonly step = computed(() => this.steps()[this.at()] ?? null);
  /** Steps at which the order is read back against the card. */
  protected readonly readBack = computed(() =>
    ['arrange', 'insert', 'slide'].includes(this.step()?.id ?? ''),
  );
  protected readonly recording = computed(() => this.at() >= this.steps().length);
  protected readonly spoiled = signal(0);
  protected readonly doneBefore = computed(() => endDone(this.detail(), this.side()));
  protected readonly attempts = computed(() =>
    this.detail().terminations.filter((t) => t.side === this.side()),
  );
  private attemptId = crypto.randomUUID();
  /** What is being recorded; the room goes on only when the server has kept it. */
  private asked: { side: LinkEnd; outcome: 'good' | 'spoiled' } | null = null;

  constructor() {
    effect(() => {
      if (this.kept() === 'termination') untracked(() => this.goOn());
    });
    const works = (): boolean => this.mayWork();
    inject(Keys).use(
      [
        {
          key: 'PageDown',
          words: 'next step; at the end, record it as good',
          run: () => this.forward(),
          when: works,
        },
        {
          key: 'Enter',
          words: 'next step; at the end, record it as good',
          run: () => this.forward(),
          when: works,
        },
        { key: 'PageUp', words: 'back one step', run: () => this.back() },
        { key: 'w', words: 'whole card or one step', run: () => this.preferences.toggleWholeCard() },
        { key: 'f', words: 'front (mating) or wiring side', run: () => this.preferences.turnFace() },
        { key: 't', words: 'turn the plug over', run: () => this.preferences.turnLatch() },
        {
          key: 'x',
          words: 'one connector spoiled',
          run: () => this.spoiled.update((n) => n + 1),
          when: works,
        },
      ],
      inject(DestroyRef),
    );
  }

  protected forward(): void {
    if (this.recording()) this.record('good');
    else this.at.update((at) => at + 1);
  }

  protected back(): void {
    this.at.update((at) => Math.max(0, at - 1));
  }

  protected choose(side: LinkEnd): void {
    this.side.set(side);
  }

  protected figure(mm: number): string {
    return formatStripLength(mm, this.detail().units);
  }

  protected record(outcome: 'good' | 'spoiled'): void {
    const connector = this.connector();
    if (!connector || this.busy()) return;
    this.asked = { side: this.side(), outcome };
    const attempt = {
      id: this.attemptId,
      side: this.side(),
      connectorTypeId: connector.id,
      outcome,
      connectorsSpoiled: outcome === 'spoiled' ? Math.max(1, this.spoiled()) : this.spoiled(),
    };
    this.store.dispatch(LinkEvents.terminationDone({ linkId: this.detail().link.id, attempt }));
  }

  /** After a record: the other end if it is open, else the meter; after a spoiled one, from the top. */
  private goOn(): void {
    const kept = this.asked;
    if (!kept) return;
    this.asked = null;
    this.attemptId = crypto.randomUUID();
    this.spoiled.set(0);
    const other: LinkEnd = kept.side === 'near' ? 'far' : 'near';
    const { id: linkId, jobId } = this.detail().link;
    if (kept.outcome === 'spoiled') this.at.set(0);
    else if (endDone(this.detail(), other))
      void this.router.navigate(['/jobs', jobId, 'links', linkId, 'verify']);
    else {
      this.side.set(other);
      this.at.set(0);
    }
  }

  protected print(): void {
    if (!this.preferences.wholeCard()) this.preferences.toggleWholeCard();
    setTimeout(() => window.print());
  }
}
