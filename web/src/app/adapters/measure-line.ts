import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { DecimalPipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import type { MeasuredLevels, TraceFileOptions } from '@near-spoke/core';
import { answered, NO_INTERVAL } from '../locate/answered';
import { measureInWorker, type LevelsReply, type SampleColumn } from './measuring';

/** Levels of one line, taken from samples. */
export interface LineMeasured {
  levels: MeasuredLevels;
}

const HEIGHT = 90;

/** High and low level, swing, edge time and shortest bit of a signal line, from an oscilloscope's file, its samples shown. */
@Component({
  selector: 'ns-measure-line',
  imports: [DecimalPipe, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label
      >Samples of {{ name() }} while it sends, CSV
      <input type="file" accept=".csv,.txt,.tsv,.json,text/plain" (change)="choose($event)" />
    </label>
    @if (share() !== null) {
      <p role="status" class="small">Reading, {{ share()! * 100 | number: '1.0-0' }} %</p>
    }
    @if (asked(); as asked) {
      <div class="row" role="alert">
        <p class="unsure">{{ asked.message }}</p>
        @for (choice of asked.choices; track choice) {
          <button matButton="outlined" (click)="answer(choice)">{{ choice }}</button>
        } @empty {
          <label
            >Interval, ns <input inputmode="decimal" (change)="answer($any($event.target).value)"
          /></label>
        }
      </div>
    }
    <p role="alert" class="wrong">{{ trouble() }}</p>
    @if (read(); as read) {
      <svg
        [attr.viewBox]="'0 0 ' + read.columns.length + ' ' + height"
        preserveAspectRatio="none"
        role="img"
        [attr.aria-label]="read.samples + ' samples between two levels'"
      >
        <path
          [attr.d]="
            'M0 ' +
            y(read.levels.highV) +
            'H' +
            read.columns.length +
            'M0 ' +
            y(read.levels.lowV) +
            'H' +
            read.columns.length
          "
          class="level"
        />
        <path [attr.d]="trace()" class="samples" />
      </svg>
      <dl>
        <dt>Low, high</dt>
        <dd>{{ read.levels.lowV | number: '1.2-2' }} V, {{ read.levels.highV | number: '1.2-2' }} V</dd>
        <dt>Edge, 10 to 90 %</dt>
        <dd>
          {{
            read.levels.edgeS === null
              ? 'faster than the samples'
              : (read.levels.edgeS * 1e9 | number: '1.0-1') + ' ns'
          }}
        </dd>
        <dt>Shortest bit</dt>
        <dd>
          @if (read.levels.shortestBitS; as bit) {
            {{ bit * 1e6 | number: '1.1-2' }} µs, about {{ 1 / bit | number: '1.0-0' }} bits a second
          } @else {
            fewer than two edges
          }
        </dd>
      </dl>
      <button matButton="filled" (click)="taken.emit({ levels: read.levels })">Take these levels</button>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    label {
      display: grid;
      gap: 3px;
      font-size: 14px;
    }
    svg {
      width: 100%;
      height: 110px;
      background: var(--film);
    }
    .samples {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.2;
      vector-effect: non-scaling-stroke;
    }
    .level {
      fill: none;
      stroke: var(--accent);
      stroke-width: 2;
      stroke-dasharray: 6 4;
      vector-effect: non-scaling-stroke;
    }
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 2px 14px;
      font-size: 15px;
    }
    dt {
      color: var(--ink-2);
    }
    dd {
      font-family: var(--figures);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    button {
      justify-self: start;
    }
  `,
})
export class MeasureLine {
  readonly name = input.required<string>();
  readonly taken = output<LineMeasured>();
  protected readonly height = HEIGHT;
  protected readonly share = signal<number | null>(null);
  protected readonly asked = signal<Extract<LevelsReply, { say: 'asks' }> | null>(null);
  protected readonly trouble = signal('');
  protected readonly read = signal<Extract<LevelsReply, { say: 'read' }> | null>(null);
  private file: File | null = null;
  private options: TraceFileOptions = {};
  private cancel: () => void = () => undefined;

  private readonly range = computed(() => {
    const columns: readonly SampleColumn[] = this.read()?.columns ?? [];
    const least = Math.min(...columns.map(({ leastV }) => leastV));
    const most = Math.max(...columns.map(({ mostV }) => mostV));
    return { least, span: most - least || 1 };
  });
  protected readonly trace = computed(() =>
    (this.read()?.columns ?? [])
      .map(({ leastV, mostV }, n) => `${n === 0 ? 'M' : 'L'}${n + 0.5} ${this.y(mostV)}V${this.y(leastV)}`)
      .join(''),
  );

  constructor() {
    inject(DestroyRef).onDestroy(() => this.cancel());
  }

  protected y(volts: number): number {
    const { least, span } = this.range();
    return HEIGHT - 6 - ((volts - least) / span) * (HEIGHT - 12);
  }

  protected choose(event: Event): void {
    const [file] = (event.target as HTMLInputElement).files ?? [];
    if (!file) return;
    this.file = file;
    this.options = {};
    this.start();
  }

  protected answer(text: string): void {
    const options = answered(this.options, this.asked()?.asks, text);
    if (!options) {
      this.trouble.set(NO_INTERVAL);
      return;
    }
    this.options = options;
    this.start();
  }

  private start(): void {
    if (!this.file) return;
    this.cancel();
    this.asked.set(null);
    this.trouble.set('');
    this.read.set(null);
    this.cancel = measureInWorker({ file: this.file, options: this.options }, (reply) => {
      this.share.set(reply.say === 'progress' ? reply.share : null);
      if (reply.say === 'bad') this.trouble.set(reply.message);
      if (reply.say === 'asks') this.asked.set(reply);
      if (reply.say === 'read') this.read.set(reply);
    });
  }
}
