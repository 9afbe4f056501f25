import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { TraceTold, VelocityRecord } from '@near-spoke/contracts';
import {
  BadCursors,
  farEndOf,
  lineOf,
  placeByCursors,
  typedWithin,
  type CableType,
  type CursorPlace,
  type CursorReading,
  type KnownVelocity,
  type TraceEvent,
  LEAD_TAPED_M,
} from '@near-spoke/core';
import { TraceIntake, type ReadTrace } from '../locate/trace-intake';
import { BY_EYE, TRACE_FIELDS } from '../locate/trace-setting';
import { velocityWords, type StandingReel } from './reels-store';

/** A length on a reel, as it was measured. */
export interface ReelMeasured {
  lengthM: number;
  u95M: number;
  velocityFactor: number;
  name: string;
}

/** Nobody knows yet how long it is: a trace long enough for most reels. */
const UNKNOWN_M = 300;

/** Measures what is left on a reel by the echo of its inner end. */
@Component({
  selector: 'ns-measure-reel',
  imports: [DecimalPipe, MatButtonModule, TraceIntake],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Measure what is left</h3>
    <ol class="small">
      <li>Nothing is plugged in; both ends of the cable are bare and nothing touches.</li>
      <li>
        Clip the pulser on the outer end{{ balanced() ? ', on one pair' : '' }}; leave the inner end open.
      </li>
    </ol>
    <label
      >Lead, metres
      <input inputmode="decimal" [value]="lead()" (change)="lead.set($any($event.target).value)"
    /></label>
    <ns-trace-intake
      label="The trace"
      [cable]="cable()"
      [told]="told()"
      [clipped]="clipped()"
      (leadTold)="leadFrom($event)"
      [mayType]="true"
      (read)="read.set($event)"
      (timed)="times.set($event)"
    />
    @if (leadTyped().trouble) {
      <p class="wrong" role="alert">{{ leadTyped().trouble }}</p>
    } @else if (byTimes().trouble) {
      <p class="wrong" role="alert">{{ byTimes().trouble }}</p>
    } @else if (read() || times()) {
      @if (end(); as end) {
        <p class="answer" role="status">
          <strong class="figure">{{ end.distanceM | number: '1.1-2' }} m</strong> are on it, give or take
          {{ end.u95M | number: '1.1-2' }}&nbsp;m
        </p>
        <p class="small quiet">
          Velocity {{ velocity().velocityFactor | number: '1.3-3' }}, {{ from() }}, makes
          {{ end.budget.velocityM | number: '1.1-2' }} m of it, timing
          {{ end.budget.timingM | number: '1.2-2' }} m, lead {{ end.budget.leadM | number: '1.2-2' }} m.
        </p>
        @if (byTimes().place; as place) {
          <p class="figure small">{{ place.arithmetic }}</p>
        }
        <button matButton="filled" class="main-action" [disabled]="busy()" (click)="enter(end)">
          Enter it in the ledger
        </button>
      } @else {
        <p class="wrong" role="alert">
          No open end is seen. Leave the inner end open, or take a longer record with a wider pulse.
        </p>
      }
    }
    <button matButton (click)="left.emit()">Leave it <kbd>Esc</kbd></button>
  `,
  styles: `
    ol {
      list-style: decimal;
      padding-left: 18px;
    }
    label {
      display: grid;
      grid-template-columns: 1fr 100px;
      align-items: center;
      gap: 10px;
      font-size: 14px;
    }
    input {
      font: 500 16px var(--figures);
      min-height: 44px;
      min-width: 0;
      padding: 0 10px;
      color: var(--ink);
      background: var(--film);
      border: 1px solid var(--ink-2);
      border-radius: 6px;
    }
    .answer strong {
      font-size: 24px;
    }
  `,
})
export class MeasureReel {
  readonly reel = input.required<StandingReel>();
  readonly cable = input.required<CableType>();
  readonly velocity = input.required<KnownVelocity<VelocityRecord>>();
  readonly busy = input(false);
  readonly measured = output<ReelMeasured>();
  readonly left = output();
  protected readonly lead = signal('0');
  protected readonly leadTyped = computed(() => typedWithin(this.lead(), TRACE_FIELDS.lead));
  private readonly leadVelocity = signal(0.66);
  protected readonly read = signal<ReadTrace | null>(null);
  protected readonly times = signal<CursorReading | null>(null);
  protected readonly balanced = computed(() => this.cable().family !== 'coax');
  protected readonly from = computed(() => velocityWords(this.velocity()));
  protected readonly told = computed((): TraceTold => {
    const { velocityFactor, u95 } = this.velocity();
    return {
      velocityFactor,
      velocityU95: u95,
      impedanceOhm: this.cable().impedanceOhm,
      leadM: this.leadTyped().figure ?? 0,
      leadVelocityFactor: this.leadVelocity(),
      shape: null,
    };
  });
  protected readonly clipped = computed(() => ({
    lineId: this.reel().reel.id,
    end: 'near' as const,
    pair: null,
    cable: this.cable(),
    lengthM: this.reel().standing.leftM ?? UNKNOWN_M,
  }));
  /** By the times that were typed: they are meant where there are any. */
  protected readonly byTimes = computed((): { place: CursorPlace | null; trouble: string } => {
    const times = this.times();
    if (!times) return { place: null, trouble: '' };
    const { velocityFactor, velocityU95, leadM, leadVelocityFactor } = this.told();
    const lead = { lengthM: leadM, velocityFactor: leadVelocityFactor, deviationM: LEAD_TAPED_M };
    try {
      return {
        place: placeByCursors(times, lineOf(this.cable(), { velocityFactor }), velocityU95, lead),
        trouble: '',
      };
    } catch (error) {
      if (error instanceof BadCursors) return { place: null, trouble: error.message };
      throw error;
    }
  });
  /** The last end that echoes: what is behind it cannot be on the reel. */
  protected readonly end = computed(
    (): Pick<TraceEvent, 'distanceM' | 'u95M' | 'budget'> | null =>
      this.byTimes().place ?? farEndOf(this.read()?.answer.reading.events ?? []),
  );

  protected leadFrom({ lengthM, velocityFactor }: { lengthM: number; velocityFactor: number }): void {
    this.lead.set(String(lengthM));
    this.leadVelocity.set(velocityFactor);
  }

  protected enter({ distanceM, u95M }: { distanceM: number; u95M: number }): void {
    this.measured.emit({
      lengthM: Number(Math.max(0, distanceM).toFixed(2)),
      u95M: Number(u95M.toFixed(3)),
      velocityFactor: this.velocity().velocityFactor,
      name: this.byTimes().place ? BY_EYE : (this.read()?.name.slice(0, 120) ?? ''),
    });
  }
}
