import { formatDate } from '@angular/common';
import { computed, inject, Injectable, linkedSignal, LOCALE_ID, signal } from '@angular/core';
import type { GoodTrace, TraceHead } from '@near-spoke/contracts';
import { compareTraces, plannedLength, traceSettingOf } from '@near-spoke/core';
import { Api } from '../api/api';
import { LinkFacts } from '../link/link-facts';
import { Locating } from './locating';
import { readInWorker, type TraceAnswer, type Tracing } from './tracing';

/** A trace to compare with: an earlier one of the pair, or one of a like line that is good. */
export interface Other {
  record: TraceHead;
  /** Of a like line: its link, and that one's length. */
  like: { linkId: string; lengthM: number } | null;
  words: string;
  day: string;
}

/** The trace that the one that is shown is compared with, and what both say together. */
@Injectable({ providedIn: 'root' })
export class Comparing {
  private readonly api = inject(Api);
  private readonly facts = inject(LinkFacts);
  private readonly locating = inject(Locating);
  private readonly locale = inject(LOCALE_ID);
  /** Of another trace, another comparison. */
  private readonly other = linkedSignal<TraceHead | null, (Other & { answer: TraceAnswer | null }) | null>({
    source: this.locating.shown,
    computation: () => null,
  });
  private tracing: Tracing | null = null;
  /** Traces of other links of this cable that are in order, and the link that they were looked for of. */
  private readonly good = signal<{ of: string; traces: readonly GoodTrace[] }>({ of: '', traces: [] });
  readonly with = computed((): Other | null => this.other());

  /** What the trace that is shown can be compared with, the likeliest first: its own line before, then like lines. */
  readonly others = computed((): Other[] => {
    const [shown, link] = [this.locating.shown(), this.facts.detail()?.link];
    if (!shown || !link) return [];
    const sameEnd = this.locating.traces().filter(({ id, end }) => id !== shown.id && end === shown.end);
    const earlier = sameEnd.filter(({ pair, at }) => pair === shown.pair && at <= shown.at);
    const day = ({ at }: TraceHead): string => formatDate(at, 'd MMM yyyy', this.locale);
    const handedOver = this.facts.detail()?.handovers.at(-1)?.at;
    const handover = handedOver ? earlier.find(({ at }) => at <= handedOver) : undefined;
    const first = handover ?? earlier.at(-1);
    const pairs = sameEnd.filter(({ pair }) => pair !== shown.pair);
    const { of, traces } = this.good();
    return [
      ...(first
        ? [
            {
              record: first,
              like: null,
              words: `the ${handover ? 'handover' : 'first'} trace`,
              day: day(first),
            },
          ]
        : []),
      ...earlier
        .filter((record) => record !== first)
        .map((record) => ({ record, like: null, words: record.name, day: day(record) })),
      ...pairs
        .filter(({ pair }, n) => pairs.findIndex((each) => each.pair === pair) === n)
        .map((record) => ({
          record,
          like: { linkId: link.id, lengthM: link.lengthM },
          words: `pair ${record.pair ?? ''} of this link`,
          day: day(record),
        })),
      ...(of === link.id ? traces : []).map(({ linkId, label, lengthM, ...record }) => ({
        record,
        like: { linkId, lengthM },
        words: `${record.pair ? `${label}, pair ${record.pair}` : label}, in order`,
        day: day(record),
      })),
    ];
  });

  /** What the two say together; null while the other is still being read. */
  readonly difference = computed(() => {
    const [now, other, link] = [this.locating.answer(), this.other(), this.facts.detail()?.link];
    if (!now || !other?.answer || !link) return null;
    const asRead = ({ seen, ...read }: TraceAnswer) => ({ ...read, trace: seen });
    return compareTraces(asRead(now), asRead(other.answer), {
      like: other.like !== null,
      planned: plannedLength(link.lengthM),
    });
  });

  /** Looks for good lines of the cable. Where they cannot be asked for, as without a network, there are none. */
  lookFor(linkId: string): void {
    this.api.call('goodTraces', { params: { linkId } }).subscribe({
      next: (traces) => this.good.set({ of: linkId, traces }),
      error: () => this.good.set({ of: linkId, traces: [] }),
    });
  }

  /** Compares the trace that is shown with another; null ends it. */
  compareWith(other: Other | null): void {
    this.tracing?.cancel();
    this.other.set(other && { ...other, answer: null });
    const link = this.facts.detail()?.link;
    if (!other || !link) return;
    const { record, like } = other;
    const wanted = (): boolean => this.other()?.record.id === record.id;
    this.locating.withSamples(record, like?.linkId ?? link.id, wanted, (trace) => {
      const setting = traceSettingOf(this.facts.cable(), record.told, like?.lengthM ?? link.lengthM);
      this.tracing = readInWorker({ ask: 'trace', trace, setting }, (reply) => {
        if (!wanted()) return;
        if (reply.say === 'read') this.other.set({ ...other, answer: reply.answer });
        if (reply.say === 'bad') {
          this.other.set(null);
          this.locating.trouble.set(`The other trace: ${reply.message}`);
        }
      });
    });
  }
}
