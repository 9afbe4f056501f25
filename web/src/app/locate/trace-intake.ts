import { traceSettingOf } from '@near-spoke/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { DecimalPipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { TraceTold } from '@near-spoke/contracts';
import type { CableType, CursorReading, TraceFileOptions } from '@near-spoke/core';
import { problemOf } from '../api/api';
import { answered, NO_INTERVAL } from './answered';
import { BenchOscilloscope, type ClippedLine } from './bench-oscilloscope';
import { TimesFields } from './times-fields';
import { readInWorker, type TraceAnswer, type TraceReply, type Tracing } from './tracing';

/** A trace that was read, with its name. */
export interface ReadTrace {
  name: string;
  answer: TraceAnswer;
}

/** One trace read from a file or taken now: what was understood is said, what was not is asked. */
@Component({
  selector: 'ns-trace-intake',
  imports: [DecimalPipe, MatButtonModule, MatProgressBarModule, TimesFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <label
        >{{ label() }}
        <input type="file" accept=".csv,.txt,.tsv,.s1p,.json,text/plain" (change)="choose($event)" />
      </label>
      @if (clipped() && scope.scope()?.connected) {
        <button matButton="outlined" [disabled]="busy()" (click)="take()">Take it now</button>
      }
    </div>
    @if (progress(); as progress) {
      <p role="status" class="small">
        {{ progress.words }}
        <mat-progress-bar [value]="progress.share * 100" aria-label="How far the reading is" />
      </p>
    }
    @if (asked(); as asked) {
      <div class="row" role="alert">
        <p class="unsure">{{ asked.message }}</p>
        @for (choice of asked.choices; track choice) {
          <button matButton="outlined" (click)="answerQuestion(choice)">{{ choice }}</button>
        } @empty {
          <label
            >Interval, ns <input inputmode="decimal" (change)="answerQuestion($any($event.target).value)"
          /></label>
        }
      </div>
    }
    <div role="alert">
      @if (trouble()) {
        <p class="wrong">{{ trouble() }}</p>
      }
    </div>
    @if (mayType()) {
      <details>
        <summary>No file: type the times off the screen</summary>
        <ns-times-fields (times)="timed.emit($event)" />
      </details>
    }
    @if (understood(); as read) {
      <p class="small quiet" role="status">
        {{ name() }}: {{ read.samples }} samples every {{ read.intervalS * 1e9 | number: '1.2-3' }} ns,
        {{ read.time }}. {{ read.notes.join(' ') }}
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 6px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 12px;
      align-items: end;
    }
    label {
      display: grid;
      gap: 3px;
      font-size: 14px;
      min-width: 0;
    }
    summary {
      padding: 10px 0;
      min-height: 44px;
      font-weight: 600;
      color: var(--accent);
      cursor: pointer;
    }
    input {
      font: inherit;
      color: inherit;
      max-width: 100%;
      min-height: 40px;
    }
  `,
})
export class TraceIntake {
  protected readonly scope = inject(BenchOscilloscope);
  readonly label = input('Its trace');
  readonly cable = input.required<CableType | null>();
  readonly told = input.required<TraceTold>();
  /** What an oscilloscope on the network may be clipped on; null where it cannot take this one. */
  readonly clipped = input<ClippedLine | null>(null);
  /** Whether times that were read by eye will do in place of a file. */
  readonly mayType = input(false);
  readonly timed = output<CursorReading | null>();
  readonly read = output<ReadTrace>();
  /** What the trace was taken through, where the instrument says so. */
  readonly leadTold = output<{ lengthM: number; velocityFactor: number }>();
  protected readonly progress = signal<{ share: number; words: string } | null>(null);
  protected readonly asked = signal<Extract<TraceReply, { say: 'asks' }> | null>(null);
  protected readonly trouble = signal('');
  protected readonly understood = signal<Extract<TraceReply, { say: 'read' }>['understood']>(null);
  protected readonly name = signal('');
  protected readonly taking = signal(false);
  protected readonly busy = computed(() => this.taking() || this.progress() !== null);
  private file: File | null = null;
  private options: TraceFileOptions = {};
  private tracing: Tracing | null = null;

  constructor() {
    void this.scope.look();
    inject(DestroyRef).onDestroy(() => this.tracing?.cancel());
    // What is told of the lead or the cable changes what the trace says.
    effect(() => {
      this.told();
      this.cable();
      untracked(() => this.readAgain());
    });
  }

  protected choose(event: Event): void {
    const [file] = (event.target as HTMLInputElement).files ?? [];
    if (file) this.open(file);
  }

  protected async take(): Promise<void> {
    const clipped = this.clipped();
    if (!clipped) return;
    this.taking.set(true);
    this.trouble.set('');
    try {
      const { file, taken } = await this.scope.take(clipped);
      this.leadTold.emit(taken.lead);
      this.open(file);
    } catch (error) {
      this.trouble.set(problemOf(error).detail);
    } finally {
      this.taking.set(false);
    }
  }

  protected answerQuestion(text: string): void {
    const options = answered(this.options, this.asked()?.asks, text);
    if (!options) {
      this.trouble.set(NO_INTERVAL);
      return;
    }
    this.options = options;
    this.readAgain();
  }

  private open(file: File): void {
    this.file = file;
    this.options = {};
    this.readAgain();
  }

  private readAgain(): void {
    const { file, options } = this;
    if (!file) return;
    this.tracing?.cancel();
    this.asked.set(null);
    this.trouble.set('');
    this.understood.set(null);
    this.name.set(file.name);
    const request = {
      ask: 'file',
      file,
      options,
      setting: traceSettingOf(this.cable(), this.told()),
    } as const;
    this.tracing = readInWorker(request, (reply) => {
      if (reply.say === 'progress') {
        this.progress.set(reply);
        return;
      }
      if (reply.say === 'first') return;
      this.progress.set(null);
      if (reply.say === 'bad') this.trouble.set(reply.message);
      else if (reply.say === 'asks') this.asked.set(reply);
      else {
        this.understood.set(reply.understood);
        this.read.emit({ name: file.name, answer: reply.answer });
      }
    });
  }
}
