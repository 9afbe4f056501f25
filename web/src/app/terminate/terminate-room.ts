import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  untracked,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import { endDone, type LinkEnd } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { attemptCardAddress, cardAddress } from '../api/api';
import { LinkFacts } from '../link/link-facts';
import { LinkEvents, linkFeature } from '../link/link.state';
import { sessionFeature } from '../session/session.state';
import { EndCard, type EndRecord } from './end-card';

/** The work card of either end of the link that is open, and the record of how it went. */
@Component({
  selector: 'ns-terminate-room',
  imports: [EndCard],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './terminate-room.html',
  styleUrl: './terminate-room.scss',
})
export class TerminateRoom {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
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
  protected readonly tools = computed(() => this.facts.kit()?.tools ?? []);
  protected readonly key = computed(() => `${this.detail().link.id} ${this.side()}`);
  protected readonly doneBefore = computed(() => endDone(this.detail(), this.side()));
  protected readonly attempts = computed(() =>
    this.detail().terminations.filter((t) => t.side === this.side()),
  );
  private readonly card = viewChild.required(EndCard);
  private attemptId = crypto.randomUUID();
  /** What is being recorded; the room goes on only when the server has kept it. */
  private asked: { side: LinkEnd; outcome: 'good' | 'spoiled' } | null = null;

  constructor() {
    effect(() => {
      if (this.kept() === 'termination') untracked(() => this.goOn());
    });
  }

  protected choose(side: LinkEnd): void {
    this.side.set(side);
  }

  protected record(end: EndRecord): void {
    const connector = this.connector();
    if (!connector || this.busy()) return;
    this.asked = { side: this.side(), outcome: end.outcome };
    const attempt = {
      id: this.attemptId,
      side: this.side(),
      connectorTypeId: connector.id,
      ...end,
      ...this.versions(),
    };
    this.store.dispatch(LinkEvents.terminationDone({ linkId: this.detail().link.id, attempt }));
  }

  /** After a record: the other end if it is open, else the meter; after a spoiled one, from the top. */
  private goOn(): void {
    const kept = this.asked;
    if (!kept) return;
    this.asked = null;
    this.attemptId = crypto.randomUUID();
    this.card().again();
    const other: LinkEnd = kept.side === 'near' ? 'far' : 'near';
    const { id: linkId, jobId } = this.detail().link;
    if (kept.outcome === 'spoiled') return;
    if (endDone(this.detail(), other)) void this.router.navigate(['/jobs', jobId, 'links', linkId, 'verify']);
    else this.side.set(other);
  }

  /** The sheets this card was made from. */
  private versions(): { connectorVersion?: number; cableVersion?: number } {
    const versions = this.facts.kit()?.versions;
    const { cableTypeId } = this.detail().link;
    return {
      connectorVersion: versions?.connector[this.connector()?.id ?? ''],
      cableVersion: versions?.cable[cableTypeId],
    };
  }

  protected readonly printAddress = computed(() => cardAddress(this.detail().link.id, this.side()));
  protected attemptAddress(attemptId: string): string {
    return attemptCardAddress(this.detail().link.id, attemptId);
  }
}
