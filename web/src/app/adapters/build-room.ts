import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  linkedSignal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  conductorPaint,
  buildPlan,
  layoutFor,
  stagesDrawn,
  wireName,
  type AdapterDesign,
  type BuildStep,
  type WorkedUpAdapter,
} from '@near-spoke/core';
import { ConnectorFace } from '../drawing/connector-face';
import { StagePicture } from '../drawing/stage-picture';
import { Keys } from '../keys/keys';
import { SplicePlanView } from './splice-plan';

const PLACE = 'near-spoke.build.';

function readTicks(key: string): readonly string[] {
  try {
    const ticks: unknown = JSON.parse(localStorage.getItem(PLACE + key) ?? '[]');
    return Array.isArray(ticks) ? ticks.filter((each) => typeof each === 'string') : [];
  } catch {
    return [];
  }
}

/** Building: closed rings first, then joint by joint, each ticked as it is done; ticks stay in this browser. */
@Component({
  selector: 'ns-build-room',
  imports: [MatButtonModule, ConnectorFace, SplicePlanView, StagePicture],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './build-room.html',
  styleUrl: './build-room.scss',
})
export class BuildRoom {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly design = input.required<AdapterDesign>();
  readonly worked = input.required<WorkedUpAdapter>();
  /** What the ticks belong to: adapter and version. */
  readonly key = input.required<string>();

  protected readonly steps = computed(() => buildPlan(this.design(), this.worked()));
  protected readonly done = linkedSignal(() => readTicks(this.key()));
  /** The first step that is not ticked. */
  protected readonly next = computed(() => this.steps().find(({ id }) => !this.done().includes(id)) ?? null);
  protected readonly left = computed(() => this.steps().filter(({ id }) => !this.done().includes(id)).length);
  protected readonly end = computed(
    () => this.design().ends.find(({ id }) => id === this.next()?.end) ?? this.design().ends[0] ?? null,
  );
  protected readonly layout = computed(() => layoutFor(this.end()?.layout ?? null));
  protected readonly lit = computed(() => {
    const contact = this.next()?.contact;
    return contact ? [contact] : [];
  });
  /** Colours of the joints that are done at this end, and of the one in hand. */
  protected readonly wired = computed(() =>
    Object.fromEntries(
      this.steps().flatMap(({ id, end, contact, colour }): [string, string][] =>
        contact && colour && end === this.end()?.id && (this.done().includes(id) || id === this.next()?.id)
          ? [[contact, colour]]
          : [],
      ),
    ),
  );
  protected readonly stages = computed(() => stagesDrawn(this.design()));
  protected readonly moulded = computed(() => {
    const [one, other] = this.design().ends;
    return [one, other].every((end) => end?.pins.some(({ colour }) => colour !== undefined));
  });
  protected readonly name = wireName;

  constructor() {
    inject(Keys).use(
      [
        {
          key: 'PageDown',
          words: 'done, on to the next',
          run: () => this.tickNext(),
          when: () => this.next() !== null,
        },
        {
          key: 'PageUp',
          words: 'the last was not done',
          run: () => this.untickLast(),
          when: () => this.done().length > 0,
        },
      ],
      inject(DestroyRef),
    );
  }

  protected paint(colour: string): string {
    return conductorPaint(colour).base;
  }

  protected band(colour: string): string | null {
    return conductorPaint(colour).band;
  }

  protected toggle(step: BuildStep): void {
    const done = this.done();
    this.keep(done.includes(step.id) ? done.filter((id) => id !== step.id) : [...done, step.id]);
  }

  protected tickNext(): void {
    const next = this.next();
    if (next) this.keep([...this.done(), next.id]);
    queueMicrotask(() =>
      this.host.nativeElement.querySelector('.here')?.scrollIntoView({ block: 'nearest' }),
    );
  }

  protected untickLast(): void {
    this.keep(this.done().slice(0, -1));
  }

  protected again(): void {
    this.keep([]);
  }

  private keep(done: readonly string[]): void {
    this.done.set(done);
    try {
      localStorage.setItem(PLACE + this.key(), JSON.stringify(done));
    } catch {
      // Full or forbidden: ticks live in this page alone.
    }
  }
}
