import { DatePipe, DecimalPipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { TraceTold } from '@near-spoke/contracts';
import {
  BadCursors,
  knownPiece,
  lineOf,
  lossAt,
  lossPointOf,
  pieceByCursors,
  UNKNOWN_LOSS,
  type CursorReading,
  type LineFigures,
  type LossPoint,
  NoVelocity,
  roundTripS,
  typedNumber,
  typedWithin,
  velocityOf,
  type CableType,
  type KnownPiece,
  type Velocity,
  LEAD_TAPED_M,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { DelayPlot } from '../drawing/delay-plot';
import { ProblemNote } from '../drawing/problem-note';
import { TraceIntake, type ReadTrace } from '../locate/trace-intake';
import { BY_EYE, TRACE_FIELDS } from '../locate/trace-setting';
import { ReelsStore, velocityWords } from '../reels/reels-store';
import { sessionFeature } from '../session/session.state';

/** One piece: its taped length and its trace. */
interface Piece {
  key: number;
  length: string;
  read: ReadTrace | null;
  /** Times off a screen, which are meant where there are any. */
  times: CursorReading | null;
}

/** What a piece's length field asks for: a shorter one tells nothing, a longer one no reel holds. */
const PIECE = { unit: 'metres', least: 0.1, most: 10_000 } as const;
/** A velocity this much off what the traces were read with has them read again. */
const READ_AGAIN_FROM = 0.004;

/** Velocity factor from one piece of known length, or from several, with the arithmetic written out. */
@Component({
  selector: 'ns-measure-velocity',
  imports: [DatePipe, DecimalPipe, MatButtonModule, DelayPlot, ProblemNote, TraceIntake],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './measure-velocity.html',
  styleUrl: './line-bench.scss',
})
export class MeasureVelocity {
  protected readonly shelf = inject(ReelsStore);
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);
  protected readonly words = velocityWords;
  readonly cables = input.required<readonly CableType[]>();
  readonly reelId = input<string | null>(null);

  protected readonly chosenReel = linkedSignal(() => this.reelId() ?? '');
  protected readonly reel = computed(
    () => this.shelf.reels().find(({ id }) => id === this.chosenReel()) ?? null,
  );
  protected readonly cableId = linkedSignal(() => this.reel()?.cableTypeId ?? this.cables()[0]?.id ?? '');
  protected readonly cable = computed(() => this.cables().find(({ id }) => id === this.cableId()) ?? null);
  protected readonly reels = computed(() =>
    this.shelf.reels().filter(({ cableTypeId }) => cableTypeId === this.cableId()),
  );
  protected readonly lot = linkedSignal(() => this.reel()?.lot ?? '');
  protected readonly lead = signal('0');
  protected readonly leadVelocity = signal('0.66');
  protected readonly pieces = signal<readonly Piece[]>([{ key: 0, length: '', read: null, times: null }]);
  /** What the traces are read with: what is known, then what they themselves gave. */
  private readonly readWith = linkedSignal(() => this.known()?.velocityFactor ?? 0.7);
  protected readonly known = computed(() => {
    const cable = this.cable();
    return cable && this.shelf.velocityOf(cable, this.reel());
  });
  private readonly figures = computed(() => ({
    lead: typedWithin(this.lead(), TRACE_FIELDS.lead),
    leadVelocity: typedWithin(this.leadVelocity(), TRACE_FIELDS.leadVelocity),
  }));
  /** What is wrong with the figures that are typed; no answer is given with others in their place. */
  private readonly mistyped = computed(() =>
    [
      ...Object.values(this.figures()).map(({ trouble }) => trouble),
      ...this.pieces().map(({ length }, n) =>
        length.trim() === '' ? '' : typedWithin(length, { ...PIECE, what: `Piece ${n + 1}` }).trouble,
      ),
    ]
      .filter(Boolean)
      .join(' '),
  );
  protected readonly told = computed((): TraceTold => ({
    velocityFactor: this.readWith(),
    velocityU95: 0,
    impedanceOhm: this.cable()?.impedanceOhm ?? 75,
    leadM: this.figures().lead.figure ?? 0,
    leadVelocityFactor: this.figures().leadVelocity.figure ?? 0.66,
    shape: null,
  }));
  private readonly line = computed((): LineFigures => {
    const cable = this.cable();
    const velocityFactor = this.readWith();
    return cable ? lineOf(cable, { velocityFactor }) : { impedanceOhm: 75, velocityFactor, ...UNKNOWN_LOSS };
  });
  /** Pieces with their delays; those without length or trace are left out. */
  protected readonly measured = computed(() => {
    const measured: { name: string; piece: KnownPiece }[] = [];
    for (const { length, read, times } of this.pieces()) {
      const lengthM = typedNumber(length);
      if (!(read || times) || !(lengthM > 0)) continue;
      const name = times ? BY_EYE : (read?.name ?? '');
      try {
        const piece = times
          ? pieceByCursors(times, this.line(), lengthM)
          : read && knownPiece(read.answer.reading, lengthM);
        if (piece) measured.push({ name, piece });
      } catch (error) {
        if (!(error instanceof NoVelocity || error instanceof BadCursors)) throw error;
        return { pieces: [], why: `${name}: ${error.message}` };
      }
    }
    return { pieces: measured, why: '' };
  });
  protected readonly result = computed((): { velocity: Velocity | null; why: string } => {
    const mistyped = this.mistyped();
    if (mistyped) return { velocity: null, why: mistyped };
    const { pieces, why } = this.measured();
    if (why || pieces.length === 0) return { velocity: null, why };
    const { leadM, leadVelocityFactor } = this.told();
    const lead = {
      delayS: roundTripS(leadM, leadVelocityFactor),
      deviationS: roundTripS(LEAD_TAPED_M, leadVelocityFactor),
    };
    try {
      return {
        velocity: velocityOf(
          pieces.map(({ piece }) => piece),
          lead,
        ),
        why: '',
      };
    } catch (error) {
      if (error instanceof NoVelocity) return { velocity: null, why: error.message };
      throw error;
    }
  });
  /** What the longest of the traced pieces lost, dB per 100 m where its launch says most. */
  protected readonly loss = computed((): LossPoint | null => {
    const traced = this.pieces()
      .flatMap(({ length, read, times }) => (read && !times ? [{ lengthM: typedNumber(length), read }] : []))
      .sort((a, b) => b.lengthM - a.lengthM);
    const loss = traced[0]?.read.answer.reading.loss;
    return loss && this.result().velocity ? lossPointOf(loss, this.line()) : null;
  });
  protected readonly typicalDb = computed(() => lossAt(this.line(), this.loss()?.mhz ?? 100));
  protected readonly plotted = computed(() =>
    this.measured().pieces.map(({ piece }) => ({ lengthM: piece.lengthM, delayNs: piece.delayS * 1e9 })),
  );
  protected readonly kept = signal('');
  /** Of the record to be kept: the same for a retry, so that nothing is added twice, and another for other figures. */
  private readonly id = linkedSignal<string>(() => {
    for (const told of [this.result, this.cableId, this.lot, this.reel]) told();
    return crypto.randomUUID();
  });
  protected readonly abs = Math.abs;

  constructor() {
    effect(() => {
      const found = this.result().velocity?.velocityFactor;
      if (found === undefined) return;
      untracked(() => {
        if (Math.abs(found - this.readWith()) > READ_AGAIN_FROM) this.readWith.set(found);
      });
    });
  }

  protected setLength(key: number, length: string): void {
    this.change(key, { length });
  }

  protected setRead(key: number, read: ReadTrace): void {
    this.change(key, { read });
  }

  protected setTimes(key: number, times: CursorReading | null): void {
    if (this.pieces().some((piece) => piece.key === key && piece.times !== times))
      this.change(key, { times });
  }

  private change(key: number, change: Partial<Piece>): void {
    this.kept.set('');
    this.pieces.update((all) => all.map((piece) => (piece.key === key ? { ...piece, ...change } : piece)));
  }

  protected addPiece(): void {
    this.pieces.update((all) => [
      ...all,
      { key: Math.max(...all.map(({ key }) => key)) + 1, length: '', read: null, times: null },
    ]);
  }

  protected dropPiece(key: number): void {
    this.pieces.update((all) => all.filter((piece) => piece.key !== key));
  }

  protected chooseReel(id: string): void {
    this.chosenReel.set(id);
  }

  protected async keep(): Promise<void> {
    const [{ velocity }, loss] = [this.result(), this.loss()];
    if (!velocity) return;
    const kept = await this.shelf.keepVelocity({
      id: this.id(),
      cableTypeId: this.cableId(),
      lot: this.lot(),
      reelId: this.reel()?.id ?? null,
      velocityFactor: Number(velocity.velocityFactor.toFixed(4)),
      u95: Math.max(0.0001, Number(velocity.u95.toFixed(4))),
      pieces: this.measured().pieces.map(({ name, piece }) => ({
        name: name.slice(0, 120),
        lengthM: piece.lengthM,
        delayNs: piece.delayS * 1e9,
      })),
      loss: loss && [loss],
    });
    if (!kept) return;
    this.id.set(crypto.randomUUID());
    this.kept.set(`Kept for ${this.reel()?.name ?? (this.lot() ? `lot ${this.lot()}` : 'this cable')}.`);
  }
}
