import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { DecimalPipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { TraceTold } from '@near-spoke/contracts';
import { typedWithin, type CableType, type CursorReading, type LinkEnd } from '@near-spoke/core';
import { Keys } from '../keys/keys';
import {
  CAPACITANCE_NAMES,
  placeOfCapacitance,
  placeOfResistance,
  placeOfTimes,
  RESISTANCE_NAMES,
  type HandPlace,
  type Worked,
} from './hand-place';
import { TimesFields } from './times-fields';
import { TRACE_FIELDS } from './trace-setting';

type Way = HandPlace['by'];

/** A planned length is good to this share, 95 %. */
const PLAN_U95 = 0.06;
const LENGTH = { what: 'Cable length', unit: 'metres', least: 0.1, most: 10_000 } as const;
const LENGTH_U95 = { what: 'How good the length is', unit: 'metres', least: 0, most: 1000 } as const;

/** Where a fault is, by times read off a screen or by a meter's figures: no file is needed. */
@Component({
  selector: 'ns-by-hand',
  imports: [
    DecimalPipe,
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    TimesFields,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './by-hand.html',
  styleUrls: ['./hand-fields.scss', './by-hand.scss'],
})
export class ByHand {
  readonly cable = input.required<CableType | null>();
  readonly pairs = input.required<readonly string[]>();
  readonly plannedM = input.required<number>();
  readonly velocity = input.required<{ velocityFactor: number; u95: number }>();
  readonly stretches = input<readonly { name: string; fromM: number; toM: number; probability: number }[]>(
    [],
  );
  readonly placed = output<HandPlace | null>();
  readonly kept = output<{ place: HandPlace; pair: string }>();
  readonly left = output();

  protected readonly way = signal<Way>('cursors');
  protected readonly from = signal<LinkEnd>('near');
  protected readonly turned = signal<'open' | 'short'>('open');
  protected readonly pair = linkedSignal(() => this.pairs()[0] ?? '');
  protected readonly dead = signal(false);
  protected readonly times = signal<CursorReading | null>(null);
  protected readonly velocityText = linkedSignal(() => this.velocity().velocityFactor.toFixed(3));
  protected readonly velocityU95 = linkedSignal(() => this.velocity().u95.toFixed(3));
  protected readonly lead = signal('0');
  protected readonly leadVelocity = signal('0.66');
  protected readonly length = linkedSignal(() => this.plannedM().toFixed(1));
  protected readonly lengthU95 = linkedSignal(() => (PLAN_U95 * this.plannedM()).toFixed(1));
  protected readonly farads = signal({ near: '', far: '', good: '', leads: '' });
  protected readonly ohms = signal({ near: '', far: '', good: '', leads: '' });
  protected readonly faradFields = Object.entries(CAPACITANCE_NAMES) as [
    keyof typeof CAPACITANCE_NAMES,
    string,
  ][];
  protected readonly ohmFields = Object.entries(RESISTANCE_NAMES) as [
    keyof typeof RESISTANCE_NAMES,
    string,
  ][];

  private readonly worked = computed((): Worked => {
    if (this.way() === 'cursors') {
      const told = this.told();
      return 'trouble' in told
        ? { place: null, trouble: told.trouble }
        : placeOfTimes(this.times(), this.cable(), told, { from: this.from(), turned: this.turned() });
    }
    const length = typedWithin(this.length(), LENGTH);
    const u95 = typedWithin(this.lengthU95(), LENGTH_U95);
    if (length.figure === null || u95.figure === null)
      return { place: null, trouble: [length.trouble, u95.trouble].filter(Boolean).join(' ') };
    const known = { lengthM: length.figure, u95M: u95.figure };
    return this.way() === 'capacitance'
      ? placeOfCapacitance(this.farads(), this.cable(), known)
      : placeOfResistance(this.ohms(), this.cable(), known);
  });
  protected readonly place = computed(() => this.worked().place);
  protected readonly trouble = computed(() => this.worked().trouble);

  constructor() {
    effect(() => this.placed.emit(this.place()));
    inject(Keys).use(
      [
        {
          key: 'Enter',
          words: 'keep the place as a reading',
          run: () => this.keep(),
          when: () => this.mayKeep(),
        },
        { key: 'Escape', words: 'leave times and meter', run: () => this.left.emit() },
      ],
      inject(DestroyRef),
    );
  }

  /** What was told of cable and lead, or in words what is wrong with it. */
  private readonly told = computed((): TraceTold | { trouble: string } => {
    const velocity = typedWithin(this.velocityText(), TRACE_FIELDS.velocity);
    const u95 = typedWithin(this.velocityU95(), TRACE_FIELDS.velocityU95);
    const lead = typedWithin(this.lead(), TRACE_FIELDS.lead);
    const leadVelocity = typedWithin(this.leadVelocity(), TRACE_FIELDS.leadVelocity);
    if (
      velocity.figure === null ||
      u95.figure === null ||
      lead.figure === null ||
      leadVelocity.figure === null
    )
      return {
        trouble: [velocity, u95, lead, leadVelocity]
          .map(({ trouble }) => trouble)
          .filter(Boolean)
          .join(' '),
      };
    return {
      velocityFactor: velocity.figure,
      velocityU95: u95.figure,
      impedanceOhm: this.cable()?.impedanceOhm ?? 100,
      leadM: lead.figure,
      leadVelocityFactor: leadVelocity.figure,
      shape: null,
    };
  });

  protected readonly mayKeep = computed(() => this.place() !== null && this.dead() && this.pair() !== '');

  protected keep(): void {
    const place = this.place();
    if (place && this.mayKeep()) this.kept.emit({ place, pair: this.pair() });
  }

  protected setFarad(key: keyof typeof CAPACITANCE_NAMES, text: string): void {
    this.farads.update((all) => ({ ...all, [key]: text }));
  }

  protected setOhm(key: keyof typeof RESISTANCE_NAMES, text: string): void {
    this.ohms.update((all) => ({ ...all, [key]: text }));
  }
}
