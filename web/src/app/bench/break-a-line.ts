import { DecimalPipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { TraceTold } from '@near-spoke/contracts';
import {
  brokenLine,
  LINE_FAULTS,
  lineOf,
  NO_SCOPE,
  planLaunch,
  roundTripS,
  seededRandom,
  snapTo,
  type CableType,
  type LineFault,
  type LineFaultKind,
  type Load,
  traceSettingOf,
  EVENT_WORDS,
} from '@near-spoke/core';
import { TracePlot, type SnapAsked } from '../drawing/trace-plot';
import { axisOf, metres, plotTrace } from '../locate/plotted';
import { readInWorker, type SimulatedBench, type TraceAnswer, type Tracing } from '../locate/tracing';

const KINDS = Object.entries(LINE_FAULTS).map(([id, { name, words }]) => ({
  id: id as LineFaultKind,
  name,
  words,
}));
const LOADS = [
  { id: 'open', name: 'open' },
  { id: 'short', name: 'shorted' },
  { id: 'matched', name: 'closed by its impedance' },
] as const;
type LoadName = (typeof LOADS)[number]['id'];
/** An eight-bit oscilloscope of three volts: its noise and its steps. */
const QUIET = { noiseV: 0.004, quantumV: 0.0118, offsetV: 0 };
/** A guess this near has found it: half a metre, or a hundredth of the line. */
const NEAR = { m: 0.5, share: 0.01 };
const MOST_SAMPLES = 4000;
/** Time for a hand to stop moving a slider before the trace is worked out, ms. */
const SETTLES_MS = 60;

/** A line to break and watch: what each fault does to a trace, or one to find. */
@Component({
  selector: 'ns-break-a-line',
  imports: [DecimalPipe, MatButtonModule, TracePlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './break-a-line.html',
  styleUrl: './line-bench.scss',
  styles: `
    .plot {
      --plot-height: 250px;
      padding: 4px 10px;
    }
    .three {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 1fr);
      gap: 14px;
      margin-top: 14px;
      align-items: start;
    }
    .slide {
      grid-template-columns: 1fr auto;
    }
    .slide input {
      grid-column: 1 / -1;
      min-height: 30px;
    }
    .arithmetic {
      padding: 2px 12px 4px;
    }
    .kinds {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 6px;
    }
    .kinds button {
      font: inherit;
      font-size: 15px;
      min-height: 40px;
      padding: 0 6px;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--ink-2);
      border-radius: 6px;
    }
    [aria-pressed='true'] {
      background: var(--accent-soft) !important;
      border: 2px solid var(--accent) !important;
    }
    @media (max-width: 1080px) {
      .three {
        grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      }
    }
  `,
})
export class BreakALine {
  readonly cables = input.required<readonly CableType[]>();
  protected readonly kinds = KINDS;
  protected readonly loads = LOADS;
  protected readonly words = EVENT_WORDS;
  protected readonly metres = metres;
  protected readonly cableId = signal('');
  protected readonly cable = computed(
    () => this.cables().find(({ id }) => id === this.cableId()) ?? this.cables()[0] ?? null,
  );
  protected readonly lengthM = signal(60);
  protected readonly load = signal<LoadName>('open');
  protected readonly shape = signal<'pulse' | 'step'>('pulse');
  protected readonly noisy = signal(true);
  protected readonly kind = signal<LineFaultKind | null>('poor');
  protected readonly placeShare = signal(0.4);
  protected readonly severity = signal(0.5);
  protected readonly readerShown = signal(true);
  /** A fault that nobody has told yet. */
  protected readonly hidden = signal<LineFault | null>(null);
  protected readonly guess = signal<LineFaultKind | null>(null);
  protected readonly revealed = signal(false);
  protected readonly playing = computed(() => this.hidden() !== null);
  protected readonly cursorM = signal<number | null>(null);
  protected readonly secondM = signal<number | null>(0);
  protected readonly answer = signal<TraceAnswer | null>(null);
  private readonly seed = signal(1);
  private tracing: Tracing | null = null;

  private readonly fault = computed((): LineFault | null => {
    const hidden = this.hidden();
    if (hidden) return hidden;
    const kind = this.kind();
    return kind && { kind, atM: this.placeShare() * this.lengthM(), severity: this.severity() };
  });
  private readonly launch = computed(() => {
    const cable = this.cable();
    return (
      cable &&
      planLaunch({ line: lineOf(cable), lengthM: this.lengthM(), reflection: 0.05, noiseShare: 0.005 })
    );
  });
  protected readonly told = computed((): TraceTold | null => {
    const cable = this.cable();
    return (
      cable && {
        velocityFactor: cable.velocityFactor,
        velocityU95: 0,
        impedanceOhm: cable.impedanceOhm,
        leadM: 0,
        leadVelocityFactor: 0.66,
        shape: this.shape(),
      }
    );
  });
  private readonly bench = computed((): SimulatedBench | null => {
    const [cable, launch, fault] = [this.cable(), this.launch(), this.fault()];
    if (!cable || !launch) return null;
    const loads: Record<LoadName, Load> = {
      open: 'open',
      short: 'short',
      matched: { ohm: cable.impedanceOhm },
    };
    const launchS = 3 * (launch.widthS + launch.riseS);
    const intervalS = Math.max(launch.intervalS, (launch.recordS + launchS) / MOST_SAMPLES);
    const { widthS, riseS } = launch;
    return {
      network: {
        source: {
          shape: this.shape(),
          volts: 2,
          widthS,
          riseS,
          edge: 'smooth',
          impedanceOhm: cable.impedanceOhm,
        },
        scope: NO_SCOPE,
        ...brokenLine(lineOf(cable), this.lengthM(), fault ? [fault] : [], loads[this.load()]),
      },
      sampling: { intervalS, samples: Math.ceil((launch.recordS + launchS) / intervalS), launchS },
      imperfections: this.noisy() ? QUIET : { noiseV: 0, quantumV: 0, offsetV: 0 },
      seed: this.seed(),
    };
  });
  protected readonly plotted = computed(() => {
    const [answer, told] = [this.answer(), this.told()];
    const events = this.playing() ? this.revealed() : this.readerShown();
    return answer && told ? plotTrace(answer, told, this.whole(), { events }) : null;
  });
  private readonly whole = computed(() => ({ lengthM: this.lengthM(), fromFar: false }));
  protected readonly arithmetic = computed(() => {
    const [at, told] = [this.cursorM(), this.told()];
    if (at === null || !told) return null;
    return { ns: 1e9 * roundTripS(at, told.velocityFactor), velocityFactor: told.velocityFactor, atM: at };
  });
  /** What the kind that is chosen does, in words. */
  protected readonly does = computed(() => {
    const kind = this.kind();
    return kind ? LINE_FAULTS[kind].words : 'nothing is wrong with it';
  });
  protected readonly verdict = computed(() => {
    const [hidden, at, guess] = [this.hidden(), this.cursorM(), this.guess()];
    if (!hidden || at === null || !guess || !this.revealed()) return null;
    const offM = at - hidden.atM;
    const near = Math.abs(offM) <= Math.max(NEAR.m, NEAR.share * this.lengthM());
    // Two kinds that draw the same trace are as good as each other.
    const alike = LINE_FAULTS[guess].shows.some((shows) => LINE_FAULTS[hidden.kind].shows[0] === shows);
    return {
      near,
      alike,
      offM,
      name: LINE_FAULTS[hidden.kind].name,
      words: LINE_FAULTS[hidden.kind].words,
      atM: hidden.atM,
    };
  });

  constructor() {
    let waiting: ReturnType<typeof setTimeout> | undefined;
    effect(() => {
      const [bench, cable, told] = [this.bench(), this.cable(), this.told()];
      if (!bench || !told) return;
      untracked(() => {
        clearTimeout(waiting);
        waiting = setTimeout(() => {
          this.tracing?.cancel();
          const request = { ask: 'simulated', bench, setting: traceSettingOf(cable, told) } as const;
          this.tracing = readInWorker(request, (reply) => {
            if (reply.say === 'read') this.answer.set(reply.answer);
          });
        }, SETTLES_MS);
      });
    });
    inject(DestroyRef).onDestroy(() => {
      clearTimeout(waiting);
      this.tracing?.cancel();
    });
  }

  protected snap({ cursor, to }: SnapAsked): void {
    const [answer, told] = [this.answer(), this.told()];
    if (!answer || !told) return;
    const place = cursor === 'A' ? this.cursorM : this.secondM;
    const { placeOf, timeOf } = axisOf(answer, told, this.whole());
    const found = snapTo(answer.seen, timeOf(place() ?? 0), to);
    if (found !== null) place.set(Math.max(0, placeOf(found)));
  }

  /** Breaks the line somewhere, somehow; the person finds it. */
  protected breakIt(): void {
    const seed = crypto.getRandomValues(new Uint32Array(1))[0] ?? 1;
    const random = seededRandom(seed);
    const kind = KINDS[Math.floor(random() * KINDS.length)]?.id ?? 'open';
    this.hidden.set({
      kind,
      atM: this.lengthM() * (0.15 + 0.7 * random()),
      severity: 0.35 + 0.65 * random(),
    });
    this.seed.set(seed % 100_000);
    this.guess.set(null);
    this.revealed.set(false);
    this.cursorM.set(this.lengthM() / 2);
  }

  protected stopPlaying(): void {
    this.hidden.set(null);
    this.revealed.set(false);
  }
}
