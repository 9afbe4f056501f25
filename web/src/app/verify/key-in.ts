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
import { MatButtonModule } from '@angular/material/button';
import {
  contactPairsAt,
  INSTRUMENTS,
  intendedLink,
  type InstrumentClass,
  type LampReading,
  type LinkExpectation,
  type Reading,
} from '@near-spoke/core';
import { Keys } from '../keys/keys';
import { Preferences } from '../preferences/preferences';
import {
  arrives,
  back,
  isComplete,
  keyedReading,
  nowhere,
  several,
  startKeying,
  straight,
  type KeyedMap,
} from './keying';

const KEYABLE = [
  'coded-mapper-crosstalk',
  'coded-mapper',
  'stepping-lamps',
  'lamp-pairs',
  'lamps-one-return',
] as const;
type Keyable = (typeof KEYABLE)[number];

/** Keys a reading in without a mouse: each near contact in order, press where it arrives. */
@Component({
  selector: 'ns-key-in',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './key-in.html',
  styleUrl: './key-in.scss',
})
export class KeyIn {
  private readonly preferences = inject(Preferences);
  readonly expected = input.required<LinkExpectation>();
  readonly taken = output<Reading>();
  readonly left = output<void>();

  protected readonly keyable = KEYABLE;
  protected readonly names = INSTRUMENTS;
  protected readonly instrument = signal<Keyable>(
    KEYABLE.find((k) => k === this.preferences.instrument()) ?? 'coded-mapper',
  );
  private readonly link = computed(() => intendedLink(this.expected()));
  protected readonly contacts = computed(() => Object.keys(this.link().near));
  protected readonly pairs = computed(() =>
    contactPairsAt(this.link(), this.link().near).map((pair) => pair.join('-')),
  );
  private readonly keyed = signal<KeyedMap | null>(null);
  protected readonly map = computed(() => this.keyed() ?? startKeying(this.contacts()));
  protected readonly complete = computed(() => isComplete(this.map()));
  protected readonly splits = signal<readonly string[]>([]);
  protected readonly dark = signal<readonly string[]>([]);
  /** The lamp tester that is keyed in, where it is one. */
  protected readonly lamps = computed((): LampReading['instrument'] | null => {
    const instrument = this.instrument();
    return instrument === 'lamp-pairs' || instrument === 'lamps-one-return' ? instrument : null;
  });
  protected readonly ready = computed(() => this.lamps() !== null || this.complete());

  constructor() {
    const contact = (key: string) => ({
      key: key.toLowerCase(),
      words: key === '1' ? 'it arrives at that contact (1 to 8, S, C, A, B)' : '',
      run: () => this.arrives(key),
      when: () => this.lamps() === null && this.contacts().includes(key),
    });
    inject(Keys).use(
      [
        ...['1', '2', '3', '4', '5', '6', '7', '8', 'S', 'C', 'a', 'b'].map(contact),
        { key: '0', words: 'it arrives nowhere', run: () => this.change(nowhere) },
        { key: '+', words: 'it arrives at one more place', run: () => this.change(several) },
        { key: '=', words: 'all the rest straight', run: () => this.change(straight) },
        { key: 'Backspace', words: 'back one', run: () => this.change(back) },
        { key: 'Enter', words: 'save the reading', run: () => this.save(), when: () => this.ready() },
        { key: 'Escape', words: 'leave without saving', run: () => this.left.emit() },
      ],
      inject(DestroyRef),
    );
  }

  protected arrives(far: string): void {
    this.change((map) => arrives(map, far));
  }

  protected change(step: (map: KeyedMap) => KeyedMap): void {
    this.keyed.set(step(this.map()));
  }

  /** Begins with every contact straight; for the one-key case. */
  allStraight(): void {
    this.change(straight);
  }

  protected readonly steps = { nowhere, several, straight, back };

  protected choose(instrument: InstrumentClass): void {
    this.instrument.set(instrument as Keyable);
    this.preferences.useInstrument(instrument);
  }

  protected answerFor(contact: string): string {
    const reached = this.map().arrivals[contact];
    if (!reached) return '';
    return reached.length > 0 ? reached.join('+') : 'nowhere';
  }

  protected toggle(list: typeof this.splits, pair: string): void {
    list.update((pairs) => (pairs.includes(pair) ? pairs.filter((p) => p !== pair) : [...pairs, pair]));
  }

  protected save(): void {
    if (!this.ready()) return;
    const instrument = this.instrument();
    const lamps = Object.fromEntries(this.pairs().map((pair) => [pair, !this.dark().includes(pair)]));
    this.taken.emit(
      instrument === 'lamp-pairs' || instrument === 'lamps-one-return'
        ? { instrument, lamps }
        : keyedReading(this.map(), instrument, this.splits()),
    );
  }
}
