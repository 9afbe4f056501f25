import { DatePipe, DecimalPipe, PercentPipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { Router } from '@angular/router';
import type { TraceTold } from '@near-spoke/contracts';
import {
  askAbout,
  furtherLook,
  lossWords,
  roundTripS,
  snapTo,
  takenWith,
  typedLoss,
  typedWithin,
  type FarEnd,
  type LinkEnd,
  type Reading,
  type TraceFileOptions,
  EVENT_WORDS,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { problemOf } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import type { PlottedTrace } from '../drawing/trace-chart';
import { TracePlot, type SnapAsked } from '../drawing/trace-plot';
import { Keys } from '../keys/keys';
import { LinkFacts } from '../link/link-facts';
import { LinkEvents } from '../link/link.state';
import { sessionFeature } from '../session/session.state';
import { ReelsStore, velocityWords } from '../reels/reels-store';
import { answered, NO_INTERVAL } from './answered';
import { BenchOscilloscope } from './bench-oscilloscope';
import { ByHand } from './by-hand';
import { Comparing } from './comparing';
import { asHandReading, type HandPlace } from './hand-place';
import { Locating } from './locating';
import { axisOf, metres, plotTrace } from './plotted';
import { TRACE_FIELDS } from './trace-setting';
import { SaveTable } from '../ui/save-table';

/** How a change is called. */
const CHANGE_WORDS = { new: 'New', gone: 'Gone', changed: 'Changed' } as const;
/** Beside a like line nothing has come or gone: it is here, or there. */
const LIKE_WORDS = { new: 'Only here', gone: 'Only in the good one', changed: 'Otherwise here' } as const;

/** Where a reflection is: on the trace, on the strip, on the route, and how sure that is. */
@Component({
  selector: 'ns-locate-room',
  imports: [
    DatePipe,
    DecimalPipe,
    PercentPipe,
    MatButtonModule,
    MatFormFieldModule,
    MatProgressBarModule,
    MatSelectModule,
    ByHand,
    ProblemNote,
    TracePlot,
    SaveTable,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './locate-room.html',
  styleUrl: './locate-room.scss',
})
export class LocateRoom {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  protected readonly facts = inject(LinkFacts);
  protected readonly locating = inject(Locating);
  protected readonly bench = inject(BenchOscilloscope);
  private readonly reels = inject(ReelsStore);
  protected readonly comparing = inject(Comparing);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly words = EVENT_WORDS;
  protected readonly changeWords = computed(() => (this.comparing.with()?.like ? LIKE_WORDS : CHANGE_WORDS));
  protected readonly metres = metres;
  protected readonly detail = computed(
    () => this.facts.detail() as NonNullable<ReturnType<typeof this.facts.detail>>,
  );
  protected readonly reading = computed(() => this.locating.answer()?.reading ?? null);
  protected readonly cursorM = signal<number | null>(null);
  protected readonly secondM = signal<number | null>(0);
  /** Where the room last put the cursor, and for which trace. */
  private cursorBegan: { of: string | undefined; atM: number } | null = null;
  protected readonly residualShown = signal(false);
  protected readonly profileShown = signal(false);
  protected readonly sheetShown = signal(false);
  protected readonly importing = signal(false);
  protected readonly byHandShown = signal(false);
  protected readonly unplugged = signal(false);
  protected readonly taking = signal(false);
  private readonly fileInput = viewChild<ElementRef<HTMLInputElement>>('file');
  private file: File | null = null;
  private readonly options = signal<TraceFileOptions>({});

  /** What a person tells of a trace that is read in; begins with what is known of the cable. */
  protected readonly end = signal<LinkEnd>('near');
  protected readonly pair = signal<string | null>(null);
  protected readonly velocity = signal('');
  protected readonly velocityU95 = signal('');
  protected readonly lead = signal('0');
  protected readonly leadVelocity = signal('0.66');
  protected readonly loss = signal('');
  protected readonly farEnd = signal<FarEnd | undefined>(undefined);

  /** The velocity that is known of this link's cable, of its reel where its draw was entered. */
  private readonly known = computed(() => {
    const cable = this.facts.cable();
    return cable && this.reels.velocityOf(cable, this.reels.reelOf(this.detail().link.id));
  });
  protected readonly velocityKnown = computed(() => {
    const { velocityFactor, u95 } = this.known() ?? { velocityFactor: 0.7, u95: 0.1 };
    return { velocityFactor, u95 };
  });
  protected readonly further = furtherLook;
  protected readonly velocityFrom = computed(() => {
    const known = this.known();
    if (!known) return '';
    return this.velocity() === known.velocityFactor.toFixed(3) ? velocityWords(known) : 'typed in';
  });

  protected readonly fromFar = computed(() => (this.locating.shown()?.end ?? this.end()) === 'far');
  protected readonly coax = computed(() => this.facts.cable()?.family === 'coax');

  private readonly line = computed(() => ({
    lengthM: this.detail().link.lengthM,
    fromFar: this.fromFar(),
  }));
  /** What the trace that is shown was told, or is being told. */
  private readonly toldNow = computed(() => this.locating.shown()?.told ?? this.told());

  protected readonly plotted = computed((): PlottedTrace | null => {
    const answer = this.locating.answer();
    if (!answer) return null;
    return plotTrace(answer, this.toldNow(), this.line(), {
      residual: this.residualShown(),
      profile: this.profileShown(),
      difference: this.comparing.difference()?.share ?? null,
    });
  });

  /** What is compared with, as the list of choices has it. */
  protected readonly chosen = computed(() => {
    const id = this.comparing.with()?.record.id;
    return this.comparing.others().find(({ record }) => record.id === id) ?? null;
  });
  /** Events that what is compared with has as well: the line's own. */
  protected readonly sharedWith = computed(() => new Set(this.comparing.difference()?.shared));

  /** The arithmetic at the cursors, written out. */
  protected readonly arithmetic = computed(() => {
    const [at, from] = [this.cursorM(), this.secondM()];
    if (at === null) return null;
    const { leadM, leadVelocityFactor, velocityFactor } = this.toldNow();
    const { lengthM, fromFar } = this.line();
    const distanceM = fromFar ? lengthM - at : at;
    const leadNs = 1e9 * roundTripS(leadM, leadVelocityFactor);
    const ns = 1e9 * roundTripS(distanceM, velocityFactor) + leadNs;
    const apartM = from === null ? null : Math.abs(at - from);
    return {
      ns,
      leadNs,
      velocityFactor,
      distanceM,
      apartM,
      apartNs: apartM === null ? null : 1e9 * roundTripS(apartM, velocityFactor),
    };
  });

  protected readonly headline = computed(() => {
    const main = this.locating.main();
    const reading = this.reading();
    if (!reading && this.locating.progress()) return 'Reading the trace';
    if (!reading) return this.locating.trouble() ? 'The trace could not be read' : 'No trace yet';
    if (!main) return 'Matched end, or beyond sight';
    const kind = EVENT_WORDS[main.kind];
    return `${kind[0]?.toUpperCase() ?? ''}${kind.slice(1)} at ${metres(main.distanceM)} m`;
  });

  constructor() {
    effect(() => {
      const { id } = this.detail().link;
      untracked(() => {
        void this.locating.open(id);
        this.comparing.lookFor(id);
      });
    });
    void this.bench.look();
    void this.reels.load();
    effect(() => {
      const known = this.known();
      if (!known) return;
      untracked(() => {
        this.velocity.set(known.velocityFactor.toFixed(3));
        this.velocityU95.set(known.u95.toFixed(3));
        const cable = this.facts.cable();
        const loss = cable && this.reels.lossOf(cable, this.reels.reelOf(this.detail().link.id));
        // What the cable's own sheet says is reckoned with anyway.
        this.loss.set(loss?.figure ? lossWords(loss.loss ?? []) : '');
      });
    });
    // The cursor begins where the reading lies, so that its arithmetic can be followed; where a hand has put it
    // meanwhile, it stays while the same trace is read more closely.
    effect(() => {
      const at = this.locating.onStrip();
      const of = this.locating.byHand() ? 'hand' : (this.locating.shown() ?? this.locating.draft())?.id;
      if (!at) return;
      untracked(() => {
        const begun = this.cursorBegan;
        if (begun && begun.of === of && begun.atM !== this.cursorM()) return;
        this.cursorBegan = { of, atM: at.atM };
        this.cursorM.set(at.atM);
      });
    });
    const idle = (): boolean => !this.importing() && !this.sheetShown() && !this.byHandShown();
    inject(Keys).use(
      [
        {
          key: 'p',
          words: 'show the sheet that says where to open',
          run: () => this.showSheet(),
          when: () => idle() && this.locating.main() !== null,
        },
        {
          key: 'i',
          words: 'read a trace in',
          run: () => this.startImport(),
          when: () => idle() && this.mayWork(),
        },
        {
          key: 't',
          words: 'place it by times off a screen, or by a meter',
          run: () => this.byHandShown.set(true),
          when: () => idle() && this.mayWork(),
        },
        {
          key: 'v',
          words: 'hand what was located to Verify',
          run: () => this.handToVerify(),
          when: () => idle() && this.mayWork() && this.locating.asReading() !== null,
        },
        {
          key: 'c',
          words: 'compare with an earlier trace or a good line, or stop comparing',
          run: () =>
            this.comparing.compareWith(this.comparing.with() ? null : (this.comparing.others()[0] ?? null)),
          when: () => idle() && this.comparing.others().length > 0,
        },
        {
          key: 'Escape',
          words: 'put the sheet away',
          run: () => this.sheetShown.set(false),
          when: () => this.sheetShown(),
        },
      ],
      inject(DestroyRef),
    );
  }

  protected readonly figures = computed(() => ({
    velocity: typedWithin(this.velocity(), TRACE_FIELDS.velocity),
    velocityU95: typedWithin(this.velocityU95(), TRACE_FIELDS.velocityU95),
    lead: typedWithin(this.lead(), TRACE_FIELDS.lead),
    leadVelocity: typedWithin(this.leadVelocity(), TRACE_FIELDS.leadVelocity),
  }));
  /** What is wrong with the figures that are typed: nothing is read with others in their place. */
  protected readonly mistyped = computed(() =>
    [...Object.values(this.figures()), typedLoss(this.loss())]
      .flatMap(({ trouble }) => trouble || [])
      .join(' '),
  );

  protected readonly told = computed((): TraceTold => {
    const { velocity, velocityU95, lead, leadVelocity } = this.figures();
    const known = this.known();
    return {
      velocityFactor: velocity.figure ?? known?.velocityFactor ?? 0.7,
      velocityU95: velocityU95.figure ?? known?.u95 ?? 0,
      impedanceOhm: this.facts.cable()?.impedanceOhm ?? 75,
      leadM: lead.figure ?? 0,
      leadVelocityFactor: leadVelocity.figure ?? 0.66,
      shape: null,
      ...(this.typedLoss() ? { loss: this.typedLoss() } : {}),
      ...(this.farEnd() ? { farEnd: this.farEnd() } : {}),
    };
  });
  private readonly typedLoss = computed(() => typedLoss(this.loss()).loss);
  /** What the trace alone leaves open, one thing at a time; of a kept trace it is asked as well, and read again with the answer. */
  protected readonly question = computed(() => {
    const reading = this.reading();
    if (!reading || this.locating.progress() !== null) return null;
    const told = this.answered() ?? this.toldNow();
    return askAbout(reading, {
      farEnd: told.farEnd,
      lossKnown: told.loss ? 'measured' : this.facts.cable() !== null,
    });
  });
  /** What was answered for a trace that is kept: it is read with that, and its record stays as it is. */
  protected readonly answered = linkedSignal({
    source: this.locating.shown,
    computation: (): TraceTold | null => null,
  });

  protected answer(told: Pick<TraceTold, 'farEnd' | 'loss'>): void {
    const shown = this.locating.shown();
    if (shown) {
      const answered = { ...shown.told, ...this.answered(), ...told };
      this.answered.set(answered);
      this.locating.readAs(shown, answered);
      return;
    }
    if (told.farEnd) this.farEnd.set(told.farEnd);
    if (told.loss) this.loss.set(lossWords(told.loss));
    this.readAgain();
  }

  protected answerLoss(text: string): void {
    const { loss, trouble } = typedLoss(text);
    this.lossTrouble.set(trouble);
    if (loss) this.answer({ loss });
  }
  protected readonly lossTrouble = signal('');

  protected startImport(): void {
    this.importing.set(true);
    this.unplugged.set(false);
    this.pair.set(this.coax() ? null : (this.locating.pairs()[0] ?? null));
    setTimeout(() => this.fileInput()?.nativeElement.focus());
  }

  protected choose(event: Event): void {
    const [file] = (event.target as HTMLInputElement).files ?? [];
    if (file) this.openFile(file);
  }

  private openFile(file: File): void {
    this.file = file;
    this.options.set({});
    this.readAgain();
  }

  /** Takes a trace with the oscilloscope that is clipped on, and reads it as a file would be. */
  protected async take(): Promise<void> {
    const cable = this.facts.cable();
    if (!cable) return;
    this.taking.set(true);
    try {
      const { id, lengthM } = this.detail().link;
      const pair = this.coax() ? null : this.pair();
      const { file, taken } = await this.bench.take({ lineId: id, end: this.end(), pair, cable, lengthM });
      this.lead.set(String(taken.lead.lengthM));
      this.leadVelocity.set(String(taken.lead.velocityFactor));
      this.openFile(file);
    } catch (error) {
      this.locating.refuse(problemOf(error).detail);
    } finally {
      this.taking.set(false);
    }
  }

  protected snap({ cursor, to }: SnapAsked): void {
    const answer = this.locating.answer();
    if (!answer) return;
    const place = cursor === 'A' ? this.cursorM : this.secondM;
    const { placeOf, timeOf } = axisOf(answer, this.toldNow(), this.line());
    const found = snapTo(answer.seen, timeOf(place() ?? 0), to);
    if (found !== null) place.set(Math.max(0, placeOf(found)));
  }

  /** Reads the chosen file with what is told now. */
  protected readAgain(): void {
    if (this.file && !this.mistyped()) this.locating.readFile(this.file, this.told(), this.options());
  }

  protected answerQuestion(text: string): void {
    const options = answered(this.options(), this.locating.asked()?.asks, text);
    if (!options) {
      this.locating.refuse(NO_INTERVAL);
      return;
    }
    this.options.set(options);
    this.readAgain();
  }

  protected async keep(): Promise<void> {
    const kept = await this.locating.keep(this.told(), {
      end: this.end(),
      pair: this.coax() ? null : this.pair(),
    });
    if (kept) this.importing.set(false);
  }

  protected leaveImport(): void {
    this.importing.set(false);
    this.locating.cancel();
    const [newest] = this.locating.traces();
    if (newest) this.locating.show(newest);
  }

  protected showSheet(): void {
    this.sheetShown.set(true);
  }

  protected print(): void {
    window.print();
  }

  protected handToVerify(): void {
    const reading = this.locating.asReading();
    if (reading) this.keepReading(reading, 'reflectometer trace', '');
  }

  protected leaveByHand(): void {
    this.byHandShown.set(false);
    this.locating.byHand.set(null);
  }

  protected keepByHand({ place, pair }: { place: HandPlace; pair: string }): void {
    const reading = asHandReading(place, pair);
    this.leaveByHand();
    this.keepReading(reading, takenWith(reading), place.arithmetic);
  }

  /** Gives a reading to Verify, with the sum that it rests on. */
  private keepReading(reading: Reading, instrumentName: string, note: string): void {
    const test = { id: crypto.randomUUID(), instrumentName, reading, note, unplugged: true as const };
    this.store.dispatch(LinkEvents.readingTaken({ linkId: this.detail().link.id, test }));
    const { jobId, id } = this.detail().link;
    void this.router.navigate(['/jobs', jobId, 'links', id, 'verify']);
  }

  protected inputText(event: Event): string {
    return (event.target as HTMLInputElement | HTMLSelectElement).value;
  }
}
