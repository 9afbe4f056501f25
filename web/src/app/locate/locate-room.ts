import { DatePipe, DecimalPipe, PercentPipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router } from '@angular/router';
import type { TraceTold } from '@near-spoke/contracts';
import {
  echoDistanceM,
  roundTripS,
  unitOf,
  type LinkEnd,
  type TraceEvent,
  type TraceFileOptions,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { ProblemNote } from '../drawing/problem-note';
import { TracePlot, type PlottedTrace } from '../drawing/trace-plot';
import { Keys } from '../keys/keys';
import { LinkFacts } from '../link/link-facts';
import { LinkEvents } from '../link/link.state';
import { sessionFeature } from '../session/session.state';
import { Locating } from './locating';

const KIND_WORDS: Readonly<Record<TraceEvent['kind'], string>> = {
  open: 'open',
  short: 'short',
  'series-resistance': 'resistance in the way',
  'wet-or-shunt': 'wet, or a path across',
  'low-section': 'wet or crushed stretch',
  'high-section': 'split or pulled apart',
  joint: 'joint',
  stub: 'branch',
  'matched-end': 'matched end',
  ghost: 'ghost',
};
/** Metres to the decimetre, without a minus before nought. */
const metres = (value: number): string => (Math.abs(value) < 0.05 ? 0 : value).toFixed(1);
/** A catalogue's velocity factor is good to about this, as half width of 95 %. */
const TYPICAL_U95 = 0.024;
/** One that was measured and typed in is better, and not exact. */
const TYPED_U95 = 0.006;

/** Where a reflection is: on the trace, on the strip, on the route, and how sure that is. */
@Component({
  selector: 'ns-locate-room',
  imports: [
    DatePipe,
    DecimalPipe,
    PercentPipe,
    MatButtonModule,
    MatProgressBarModule,
    ProblemNote,
    TracePlot,
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
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly words = KIND_WORDS;
  protected readonly metres = metres;
  protected readonly detail = computed(
    () => this.facts.detail() as NonNullable<ReturnType<typeof this.facts.detail>>,
  );
  protected readonly reading = computed(() => this.locating.answer()?.reading ?? null);
  protected readonly cursorM = signal<number | null>(null);
  protected readonly residualShown = signal(false);
  protected readonly profileShown = signal(false);
  protected readonly sheetShown = signal(false);
  protected readonly importing = signal(false);
  protected readonly unplugged = signal(false);
  private readonly fileInput = viewChild<ElementRef<HTMLInputElement>>('file');
  private file: File | null = null;
  private readonly options = signal<TraceFileOptions>({});

  /** What a person tells of a trace that is read in; begins with what is known of the cable. */
  protected readonly end = signal<LinkEnd>('near');
  protected readonly pair = signal<string | null>(null);
  protected readonly velocity = signal('');
  protected readonly lead = signal('0');
  protected readonly leadVelocity = signal('0.66');

  protected readonly fromFar = computed(() => (this.locating.shown()?.end ?? this.end()) === 'far');
  protected readonly coax = computed(() => this.facts.cable()?.family === 'coax');

  protected readonly plotted = computed((): PlottedTrace | null => {
    const answer = this.locating.answer();
    if (!answer) return null;
    const { seen, modelV, launchAtS, launchV, levelV, reading, profile, nominalOhm } = answer;
    const told = this.told();
    const record = this.locating.shown();
    const { leadM, leadVelocityFactor, velocityFactor } = record?.told ?? told;
    const leadS = roundTripS(leadM, leadVelocityFactor);
    const linkM = this.detail().link.lengthM;
    const far = this.fromFar();
    const placeOf = (distanceM: number): number => (far ? linkM - distanceM : distanceM);
    const atM = (n: number): number =>
      placeOf(echoDistanceM(seen.startS + n * seen.intervalS - launchAtS - leadS, velocityFactor));
    const series = (volts: (n: number) => number): { x: number; y: number }[] => {
      const points = Array.from(seen.volts, (_, n) => ({ x: atM(n), y: volts(n) / Math.abs(launchV) }));
      return far ? points.reverse() : points;
    };
    return {
      points: series((n) => (seen.volts[n] ?? 0) - levelV),
      residual: this.residualShown() ? series((n) => (seen.volts[n] ?? 0) - (modelV[n] ?? 0)) : null,
      profile: this.profileShown()
        ? Array.from(profile.ohm, (ohm, n) => ({
            x: placeOf(echoDistanceM(n * profile.layerS - leadS, velocityFactor)),
            y: ohm / nominalOhm - 1,
          }))
            .filter(({ y }) => Number.isFinite(y))
            .sort((one, other) => one.x - other.x)
        : null,
      events: reading.events.map((event, n) => ({
        atM: placeOf(event.distanceM),
        u95M: event.u95M,
        main: n === reading.main,
        ghost: event.kind === 'ghost',
        label: event.kind === 'ghost' ? 'ghost' : `${KIND_WORDS[event.kind]}, ${metres(event.distanceM)} m`,
      })),
    };
  });

  /** The arithmetic at the cursor, written out. */
  protected readonly arithmetic = computed(() => {
    const at = this.cursorM();
    if (at === null) return null;
    const { leadM, leadVelocityFactor, velocityFactor } = this.locating.shown()?.told ?? this.told();
    const distanceM = this.fromFar() ? this.detail().link.lengthM - at : at;
    const leadNs = 1e9 * roundTripS(leadM, leadVelocityFactor);
    const ns = 1e9 * roundTripS(distanceM, velocityFactor) + leadNs;
    return { ns, leadNs, velocityFactor, distanceM };
  });

  protected readonly headline = computed(() => {
    const main = this.locating.main();
    const reading = this.reading();
    if (!reading) return this.locating.trouble() ? 'The trace could not be read' : 'No trace yet';
    if (!main) return 'Matched end, or beyond sight';
    const kind = KIND_WORDS[main.kind];
    return `${kind[0]?.toUpperCase() ?? ''}${kind.slice(1)} at ${metres(main.distanceM)} m`;
  });

  constructor() {
    effect(() => {
      const { id } = this.detail().link;
      untracked(() => void this.locating.open(id));
    });
    effect(() => {
      const cable = this.facts.cable();
      if (cable) untracked(() => this.velocity.set(String(cable.velocityFactor)));
    });
    const idle = (): boolean => !this.importing() && !this.sheetShown();
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
          key: 'v',
          words: 'hand what was located to Verify',
          run: () => this.handToVerify(),
          when: () => idle() && this.mayWork() && this.reading() !== null,
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

  protected readonly told = computed((): TraceTold => {
    const cable = this.facts.cable();
    const velocityFactor = Number(this.velocity()) || cable?.velocityFactor || 0.7;
    const typical = velocityFactor === cable?.velocityFactor;
    return {
      velocityFactor,
      velocityU95: typical ? TYPICAL_U95 : TYPED_U95,
      impedanceOhm: cable?.impedanceOhm ?? 75,
      leadM: Number(this.lead()) || 0,
      leadVelocityFactor: Number(this.leadVelocity()) || 0.66,
      shape: null,
    };
  });

  protected startImport(): void {
    this.importing.set(true);
    this.unplugged.set(false);
    this.pair.set(this.coax() ? null : (this.locating.pairs()[0] ?? null));
    setTimeout(() => this.fileInput()?.nativeElement.focus());
  }

  protected choose(event: Event): void {
    const [file] = (event.target as HTMLInputElement).files ?? [];
    if (!file) return;
    this.file = file;
    this.options.set({});
    this.readAgain();
  }

  /** Reads the chosen file with what is told now. */
  protected readAgain(): void {
    if (this.file) this.locating.readFile(this.file, this.told(), this.options());
  }

  protected answerQuestion(text: string): void {
    const asks = this.locating.asked()?.asks;
    if (asks === 'channel') this.options.update((given) => ({ ...given, channel: text }));
    else if (asks === 'time unit')
      this.options.update((given) => ({ ...given, timeUnitS: unitOf(text)?.factor ?? 1 }));
    else {
      const intervalS = Number(text.replace(',', '.')) * 1e-9;
      if (!(intervalS > 0)) return;
      this.options.update((given) => ({ ...given, intervalS }));
    }
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
    if (!reading) return;
    const test = {
      id: crypto.randomUUID(),
      source: 'instrument' as const,
      instrumentName: 'reflectometer trace',
      reading,
      unplugged: true as const,
    };
    this.store.dispatch(LinkEvents.readingTaken({ linkId: this.detail().link.id, test }));
    const { jobId, id } = this.detail().link;
    void this.router.navigate(['/jobs', jobId, 'links', id, 'verify']);
  }

  protected inputText(event: Event): string {
    return (event.target as HTMLInputElement | HTMLSelectElement).value;
  }
}
