import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Problem } from '@near-spoke/contracts';
import {
  diagnose,
  expectTold,
  INSTRUMENTS,
  repairFor,
  toldWords,
  type Diagnosis,
  type InstrumentClass,
  type LinkEnd,
  type MendPlace,
  type Reading,
  type ToldFault,
} from '@near-spoke/core';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';

const PLANS = [
  {
    name: 'Unscreened, jack to plug',
    cable: 'cat6-u',
    near: 'jack-punched',
    far: 'plug-closed',
    lengthM: 32,
  },
  {
    name: 'Screened, outdoor plug',
    cable: 'cat6-f-outdoor',
    near: 'jack-punched-screened',
    far: 'plug-outdoor',
    lengthM: 70,
  },
  { name: 'Coax, compression F', cable: 'rg6', near: 'coax-f', far: 'coax-f', lengthM: 25 },
] as const;
const LOOKS: readonly { instrument: InstrumentClass; end: LinkEnd; name: string }[] = [
  { instrument: 'lamp-pairs', end: 'near', name: 'Lamps' },
  { instrument: 'coded-mapper', end: 'near', name: 'Mapper' },
  { instrument: 'coded-mapper-crosstalk', end: 'near', name: 'Mapper with crosstalk' },
  { instrument: 'pair-reflectometer', end: 'near', name: 'Reflectometer' },
  { instrument: 'wiggle', end: 'near', name: 'Wiggle near' },
  { instrument: 'wiggle', end: 'far', name: 'Wiggle far' },
  { instrument: 'eye', end: 'near', name: 'Near colours' },
  { instrument: 'eye', end: 'far', name: 'Far colours' },
];
const PLACES: readonly { id: MendPlace; name: string }[] = [
  { id: 'near', name: 'near end' },
  { id: 'far', name: 'far end' },
  { id: 'cable', name: 'cable' },
  { id: 'unplug', name: 'unplug equipment' },
  { id: 'outlet', name: 'other outlet' },
];

/** "Break this link for me": a simulated link to practise on, with looks that cost minutes and an answer. */
@Component({
  selector: 'ns-practice',
  imports: [MatButtonModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './practice.html',
  styleUrl: './fields.scss',
  styles: `
    .looks button,
    .places button {
      font: inherit;
      min-height: 44px;
      padding: 0 12px;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--ink-2);
      border-radius: 6px;
      cursor: pointer;
    }
    li::first-letter {
      text-transform: uppercase;
    }
    [aria-pressed='true'] {
      background: var(--accent-soft) !important;
      border: 2px solid var(--accent) !important;
    }
  `,
})
export class Practice {
  private readonly api = inject(Api);
  protected readonly plans = PLANS;
  protected readonly looks = LOOKS;
  protected readonly places = PLACES;
  protected readonly words = toldWords;
  protected readonly plan = signal(0);
  protected readonly count = signal(1);
  protected readonly noise = signal(false);
  protected readonly practiceId = signal<string | null>(null);
  protected readonly readings = signal<readonly Reading[]>([]);
  protected readonly answer = signal<ReadonlySet<MendPlace>>(new Set());
  protected readonly truth = signal<readonly ToldFault[] | null>(null);
  protected readonly hint = signal(false);
  protected readonly busy = signal(false);
  protected readonly problem = signal<Problem | null>(null);

  private readonly chosen = computed(() => PLANS[this.plan()] ?? PLANS[0]);
  private readonly told = computed(() => {
    const { cable, near, far, lengthM } = this.chosen();
    return { cable, near, far, lengthM, scheme: 'T568B' as const };
  });
  protected readonly minutes = computed(() =>
    this.readings().reduce((sum, { instrument }) => sum + INSTRUMENTS[instrument].minutes, 0),
  );
  protected readonly diagnosis = computed((): Diagnosis | null =>
    this.readings().length > 0 ? diagnose(expectTold(this.told()), this.readings()) : null,
  );
  /** What each reading shows, in words and without any judgement of why. */
  protected readonly seen = computed(() =>
    this.readings().map((reading) => {
      const { headline } = diagnose(expectTold(this.told()), [reading]);
      return { name: INSTRUMENTS[reading.instrument].name, headline };
    }),
  );
  /** Places where the truth asks for work. */
  protected readonly needed = computed((): ReadonlySet<MendPlace> => {
    const places = (this.truth() ?? []).map((fault): MendPlace => {
      if (fault.kind === 'plugged-in') return 'unplug';
      if (fault.kind === 'other-outlet') return 'outlet';
      return 'end' in fault && fault.end !== undefined ? fault.end : 'cable';
    });
    return new Set(places);
  });
  protected readonly right = computed(() => {
    const [needed, answer] = [this.needed(), this.answer()];
    return needed.size === answer.size && [...needed].every((place) => answer.has(place));
  });
  protected readonly bestWork = computed(() => repairFor([...this.needed()], expectTold(this.told())).words);

  protected start(): Promise<void> {
    return this.ask(async () => {
      const seed = crypto.getRandomValues(new Uint32Array(1))[0] ?? 1;
      const body = { count: this.count(), seed: seed % 2 ** 31, noise: this.noise(), plan: this.told() };
      const { practiceId } = await firstValueFrom(this.api.call('beginPractice', { body }));
      this.practiceId.set(practiceId);
      this.readings.set([]);
      this.answer.set(new Set());
      this.truth.set(null);
      this.hint.set(false);
    });
  }

  protected take(instrument: InstrumentClass, end: LinkEnd): Promise<void> {
    const practiceId = this.practiceId();
    if (!practiceId) return Promise.resolve();
    return this.ask(async () => {
      const { reading } = await firstValueFrom(
        this.api.call('readPractice', { params: { practiceId }, body: { instrument, end } }),
      );
      this.readings.update((readings) => [...readings, reading]);
    });
  }

  protected mark(place: MendPlace): void {
    this.answer.update((answer) => {
      const next = new Set(answer);
      if (!next.delete(place)) next.add(place);
      return next;
    });
  }

  protected reveal(): Promise<void> {
    const practiceId = this.practiceId();
    if (!practiceId) return Promise.resolve();
    return this.ask(async () => {
      const { faults } = await firstValueFrom(this.api.call('revealPractice', { params: { practiceId } }));
      this.truth.set(faults);
    });
  }

  private async ask(work: () => Promise<void>): Promise<void> {
    this.busy.set(true);
    this.problem.set(null);
    try {
      await work();
    } catch (error) {
      this.problem.set(problemOf(error));
    } finally {
      this.busy.set(false);
    }
  }
}
