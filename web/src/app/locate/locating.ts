import { computed, inject, Injectable, signal } from '@angular/core';
import type { NewTrace, Problem, TraceHead, TraceTold } from '@near-spoke/contracts';
import {
  asEcho,
  averaged,
  contactPairsAt,
  fromBothEnds,
  intendedLink,
  onRoute,
  PLAN_KNOWN_TO,
  wholeLength,
  type Reading,
  type Trace,
  type TraceFileOptions,
  type TraceSetting,
  type Understood,
  NORMAL_95,
  traceSettingOf,
} from '@near-spoke/core';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { LinkFacts } from '../link/link-facts';
import type { HandPlace } from './hand-place';
import { readInWorker, type TraceAnswer, type TraceReply, type Tracing } from './tracing';

/** A kept trace has at most so many samples. */
const MOST_KEPT = 20_000;

/** A trace read from a file and not kept yet. */
export interface Draft {
  /** Of the record it becomes: kept for a retry, so that nothing is added twice. */
  id: string;
  file: File;
  understood: Understood;
  trace: Trace;
}

/** The traces of the link that is open, the one that is shown, and what it holds. */
@Injectable({ providedIn: 'root' })
export class Locating {
  private readonly api = inject(Api);
  private readonly facts = inject(LinkFacts);
  readonly traces = signal<readonly TraceHead[]>([]);
  /** The link that the traces are of, and the samples of those that were looked at. */
  private linkId = '';
  private readonly samples = new Map<string, Trace>();
  readonly shown = signal<TraceHead | null>(null);
  readonly draft = signal<Draft | null>(null);
  readonly answer = signal<TraceAnswer | null>(null);
  readonly progress = signal<{ share: number; words: string } | null>(null);
  readonly asked = signal<Extract<TraceReply, { say: 'asks' }> | null>(null);
  readonly trouble = signal('');
  readonly problem = signal<Problem | null>(null);
  private tracing: Tracing | null = null;

  /** Contact pairs that a trace can be taken on; a coax has one. */
  readonly pairs = computed((): string[] => {
    const expected = this.facts.expected();
    if (!expected) return [];
    const link = intendedLink(expected);
    return contactPairsAt(link, link.near).map((contacts) => contacts.join('-'));
  });
  /** The main event: what is to be opened, or the far end. */
  readonly main = computed(() => {
    const reading = this.answer()?.reading;
    return reading && reading.main !== null ? (reading.events[reading.main] ?? null) : null;
  });
  /** A place that was worked out without a trace, while it is being looked at. */
  readonly byHand = signal<HandPlace | null>(null);
  /** The main event on the strip, whose near end may be the other end of the measurement. */
  readonly onStrip = computed(() => {
    const hand = this.byHand();
    const main = hand ?? this.main();
    const link = this.facts.detail()?.link;
    if (!main || !link) return null;
    const fromFar = (hand?.from ?? this.shown()?.end) === 'far';
    return {
      atM: fromFar ? link.lengthM - main.distanceM : main.distanceM,
      u95M: main.u95M,
      kind: main.kind,
    };
  });
  /** The newest trace of the same pair from the other end, read as well. */
  private readonly opposite = signal<{ record: TraceHead; answer: TraceAnswer } | null>(null);
  private oppositeTracing: Tracing | null = null;
  /** The main event from both ends, where both have been measured. */
  readonly bothEnds = computed(() => {
    const [main, shown, opposite] = [this.main(), this.shown(), this.opposite()];
    const link = this.facts.detail()?.link;
    if (!main || !shown || !opposite || !link) return null;
    const { reading } = opposite.answer;
    const other = reading.main === null ? undefined : reading.events[reading.main];
    if (!other) return null;
    const own = ({ distanceM, budget }: typeof main): { distanceM: number; u95M: number } => ({
      distanceM,
      u95M: Math.hypot(budget.timingM, budget.leadM),
    });
    const [near, far] = shown.end === 'near' ? [own(main), own(other)] : [own(other), own(main)];
    const length = { lengthM: link.lengthM, deviationM: PLAN_KNOWN_TO * link.lengthM };
    const { velocityFactor, velocityU95 } = shown.told;
    const velocityRelative = velocityU95 / NORMAL_95 / velocityFactor;
    const whole = wholeLength(near, far, length, velocityRelative);
    return { ...fromBothEnds(near, far, length, velocityRelative), whole };
  });
  readonly stretches = computed(() => {
    const at = this.onStrip();
    const link = this.facts.detail()?.link;
    return at && link ? onRoute({ distanceM: at.atM, u95M: at.u95M }, link.route, link.lengthM) : [];
  });

  /** Reads what is kept of a link; shows its newest trace. */
  async open(linkId: string): Promise<void> {
    if (this.linkId === linkId) return;
    this.clear();
    this.linkId = linkId;
    try {
      const traces = await firstValueFrom(this.api.call('listTraces', { params: { linkId } }));
      if (this.linkId !== linkId) return;
      this.traces.set(traces);
      const [newest] = traces;
      if (newest) this.show(newest);
    } catch (error) {
      // Asked again when the room is opened again.
      this.linkId = '';
      this.problem.set(problemOf(error));
    }
  }

  show(record: TraceHead): void {
    this.draft.set(null);
    this.shown.set(record);
    this.readAs(record, record.told);
    this.readOpposite(record);
  }

  /** Reads the trace that is shown once more, with what was answered of it. */
  readAs(record: TraceHead, told: TraceTold): void {
    this.begin();
    this.withSamples(
      record,
      this.linkId,
      () => this.shown()?.id === record.id && this.progress() !== null,
      (trace) => this.start({ ask: 'trace', trace, setting: this.settingOf(told) }),
    );
  }

  /** Goes on with the samples of a trace, of this link or another, once they are there and as long as they are wanted. */
  withSamples(record: TraceHead, linkId: string, wanted: () => boolean, then: (trace: Trace) => void): void {
    const open = this.linkId;
    const known = this.samples.get(record.id);
    if (known) {
      then(known);
      return;
    }
    this.api.call('readTrace', { params: { linkId, traceId: record.id } }).subscribe({
      next: ({ trace: { volts, ...rest } }) => {
        const trace = { ...rest, volts: Float64Array.from(volts) };
        if (this.linkId !== open) return;
        this.samples.set(record.id, trace);
        if (wanted()) then(trace);
      },
      error: (error: unknown) => {
        if (!wanted()) return;
        this.progress.set(null);
        this.problem.set(problemOf(error));
      },
    });
  }

  private readOpposite({ end, pair }: TraceHead): void {
    this.oppositeTracing?.cancel();
    this.opposite.set(null);
    const record = this.traces().find((trace) => trace.end !== end && trace.pair === pair);
    if (!record) return;
    const beside = this.shown()?.id;
    this.withSamples(
      record,
      this.linkId,
      () => this.shown()?.id === beside,
      (trace) => {
        const request = { ask: 'trace' as const, trace, setting: this.settingOf(record.told) };
        this.oppositeTracing = readInWorker(request, (reply) => {
          if (reply.say === 'read') this.opposite.set({ record, answer: reply.answer });
        });
      },
    );
  }

  /** Reads a file with what is told of it; nothing is kept until it is said so. */
  readFile(file: File, told: TraceTold, options: TraceFileOptions): void {
    this.shown.set(null);
    this.opposite.set(null);
    this.start({ ask: 'file', file, options, setting: this.settingOf(told) }, file);
  }

  /** What was read before goes. */
  private begin(): void {
    this.tracing?.cancel();
    this.answer.set(null);
    this.draft.set(null);
    this.asked.set(null);
    this.trouble.set('');
    this.progress.set({ share: 0, words: 'Reading the trace' });
  }

  private start(request: Parameters<typeof readInWorker>[0], file?: File): void {
    this.begin();
    this.tracing = readInWorker(request, (reply) => {
      if (reply.say === 'progress') {
        this.progress.set(reply);
        return;
      }
      // The first sight can be worked with, and is bettered by what follows.
      if (reply.say !== 'first') this.progress.set(null);
      if (reply.say === 'bad') this.trouble.set(reply.message);
      else if (reply.say === 'asks') this.asked.set(reply);
      else {
        this.answer.set(reply.answer);
        if (file && reply.understood)
          this.draft.set({
            id: this.draft()?.id ?? crypto.randomUUID(),
            file,
            understood: reply.understood,
            trace: reply.trace,
          });
      }
    });
  }

  /** Says why no trace was taken. */
  refuse(words: string): void {
    this.trouble.set(words);
  }

  cancel(): void {
    this.tracing?.cancel();
    this.progress.set(null);
  }

  /** Keeps the draft with its link. */
  async keep(told: TraceTold, where: Pick<NewTrace, 'end' | 'pair'>): Promise<boolean> {
    const draft = this.draft();
    if (!draft) return false;
    const { id, trace, file } = draft;
    const thin = averaged(trace, Math.ceil(trace.volts.length / MOST_KEPT));
    const body: NewTrace = {
      id,
      ...where,
      name: file.name.slice(0, 120),
      trace: {
        intervalS: thin.intervalS,
        startS: thin.startS,
        volts: Array.from(thin.volts, (volt) => Number(volt.toPrecision(6))),
      },
      told,
      unplugged: true,
    };
    try {
      const traces = await firstValueFrom(
        this.api.call('addTrace', { params: { linkId: this.linkId }, body }),
      );
      this.traces.set(traces);
      const { volts, ...rest } = body.trace;
      this.samples.set(id, { ...rest, volts: Float64Array.from(volts) });
      const kept = traces.find((one) => one.id === id);
      if (kept) this.show(kept);
      return true;
    } catch (error) {
      this.problem.set(problemOf(error));
      return false;
    }
  }

  /** What the trace says as a reading that Verify can weigh. */
  asReading(): Reading | null {
    const record = this.shown();
    const pair = record?.pair ?? this.pairs()[0];
    // All of it: an end seen behind a soft echo says as much as that echo.
    const echoes = (this.answer()?.reading.events ?? []).flatMap((event) => asEcho(event) ?? []);
    if (!record || !pair || echoes.length === 0) return null;
    return { instrument: 'pair-reflectometer', from: record.end, pairs: { [pair]: echoes } };
  }

  private settingOf(told: TraceTold): TraceSetting {
    return traceSettingOf(this.facts.cable(), told, this.facts.detail()?.link.lengthM);
  }

  private clear(): void {
    this.tracing?.cancel();
    this.oppositeTracing?.cancel();
    this.opposite.set(null);
    this.byHand.set(null);
    this.traces.set([]);
    this.samples.clear();
    this.shown.set(null);
    this.draft.set(null);
    this.answer.set(null);
    this.progress.set(null);
    this.asked.set(null);
    this.trouble.set('');
    this.problem.set(null);
  }
}
