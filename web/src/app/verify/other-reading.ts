import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  checkReading,
  contactPairsAt,
  intendedLink,
  type CapacitanceReading,
  type EchoEvent,
  type LinkEnd,
  type LinkExpectation,
  type PowerReading,
  type Reading,
} from '@near-spoke/core';
import { Preferences } from '../preferences/preferences';
import { FaradsReading } from './farads-reading';
import { FedReading } from './fed-reading';

type Kind =
  | 'wiggle'
  | 'pair-reflectometer'
  | 'capacitance-meter'
  | 'dc-voltage'
  | 'power-tester'
  | 'tone-probe'
  | 'ohmmeter';

const KINDS: readonly { id: Kind; name: string }[] = [
  { id: 'wiggle', name: 'Wiggling' },
  { id: 'pair-reflectometer', name: 'Reflectometer' },
  { id: 'ohmmeter', name: 'Ohmmeter' },
  { id: 'capacitance-meter', name: 'Capacitance' },
  { id: 'dc-voltage', name: 'DC volts' },
  { id: 'power-tester', name: 'Power' },
  { id: 'tone-probe', name: 'Tone and probe' },
];

/** Readings that are few figures: what flickered, how far an echo came from, ohms, volts, where a tone was heard. */
@Component({
  selector: 'ns-other-reading',
  imports: [MatButtonModule, FaradsReading, FedReading],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './other-reading.html',
  styleUrl: './other-reading.scss',
})
export class OtherReading {
  protected readonly preferences = inject(Preferences);
  readonly expected = input.required<LinkExpectation>();
  readonly taken = output<Reading>();
  readonly left = output<void>();

  /** A supply feeds eight contacts. */
  protected readonly kinds = computed(() =>
    KINDS.filter(
      ({ id }) =>
        id !== 'power-tester' || Object.keys(this.link().near).filter((c) => c !== 'S').length === 8,
    ),
  );
  protected readonly sides: readonly LinkEnd[] = ['near', 'far'];
  protected readonly kind = signal<Kind>('wiggle');
  protected readonly end = signal<LinkEnd>('far');
  protected readonly marked = signal<ReadonlySet<string>>(new Set());
  protected readonly figures = signal<Readonly<Record<string, string>>>({});
  protected readonly echoes = signal<Readonly<Record<string, EchoEvent['kind']>>>({});
  protected readonly feedVolts = signal('48');
  protected readonly fed = signal<Omit<PowerReading, 'end'> | null>(null);
  protected readonly farads = signal<CapacitanceReading['nF'] | string>('Measure at least one pair.');
  private readonly link = computed(() => intendedLink(this.expected()));
  protected readonly contacts = computed(() => Object.keys(this.link()[this.end()]));
  protected readonly pairs = computed(() => contactPairsAt(this.link(), this.link()[this.end()]));
  protected readonly pairNames = computed(() => this.pairs().map((pair) => pair.join('-')), {
    equal: (a, b) => a.join() === b.join(),
  });
  protected readonly lengthM = computed(() => this.expected().lengthM);

  /** The reading as it stands, or what is still missing. */
  protected readonly draft = computed((): { reading: Reading | null; problem: string } => {
    const made = this.make();
    if (typeof made === 'string') return { reading: null, problem: made };
    const [problem] = checkReading(this.expected(), made);
    return { reading: problem ? null : made, problem: problem?.message ?? '' };
  });

  protected choose(kind: Kind): void {
    this.kind.set(kind);
    this.marked.set(new Set());
    this.figures.set({});
    this.fed.set(null);
  }

  protected mark(name: string): void {
    this.marked.update((marked) => {
      const next = new Set(marked);
      if (!next.delete(name)) next.add(name);
      return next;
    });
  }

  protected setFigure(name: string, event: Event): void {
    const { value } = event.target as HTMLInputElement;
    this.figures.update((figures) => ({ ...figures, [name]: value }));
  }

  protected setEcho(name: string, event: Event): void {
    const { value } = event.target as HTMLSelectElement;
    this.echoes.update((echoes) => ({ ...echoes, [name]: value as EchoEvent['kind'] }));
  }

  protected save(): void {
    const { reading } = this.draft();
    if (reading) this.taken.emit(reading);
  }

  private figure(name: string): number | null {
    const text = (this.figures()[name] ?? '').trim().replace(',', '.');
    const value = Number(text);
    return text === '' || !Number.isFinite(value) ? null : value;
  }

  private make(): Reading | string {
    const end = this.end();
    const there: LinkEnd = end === 'near' ? 'far' : 'near';
    switch (this.kind()) {
      case 'wiggle':
        return { instrument: 'wiggle', end, flickers: this.contacts().filter((c) => this.marked().has(c)) };
      case 'pair-reflectometer': {
        const pairs: Record<string, EchoEvent[]> = {};
        for (const [a, b] of this.pairs()) {
          const name = `${a}-${b}`;
          const distanceM = this.figure(name);
          if (distanceM === null) return `Give the distance on ${name}, in metres; the far end is one too.`;
          pairs[name] = [{ kind: this.echoes()[name] ?? 'open', distanceM }];
        }
        return { instrument: 'pair-reflectometer', from: end, pairs };
      }
      case 'ohmmeter': {
        const asked = this.contacts().filter((c) => (this.figures()[c] ?? '').trim() !== '');
        if (asked.length === 0) return 'Give the ohms of at least one path; write - for an open loop.';
        const wrong = asked.find((c) => this.figure(c) === null && this.figures()[c]?.trim() !== '-');
        if (wrong !== undefined) return `${wrong}: write ohms, or - for an open loop.`;
        return {
          instrument: 'ohmmeter',
          touches: asked.map((c) => ({
            from: { end: 'near', contacts: [c] },
            to: { end: 'far', contacts: [c] },
            closed: this.figure(c) !== null,
            ohm: this.figure(c),
          })),
        };
      }
      case 'dc-voltage': {
        const feed = Number(this.feedVolts().replace(',', '.'));
        if (!Number.isFinite(feed)) return 'Give the volts that feed the other end.';
        const across = this.pairs().flatMap((contacts) => {
          const volts = this.figure(contacts.join('-'));
          return volts === null ? [] : [{ contacts, volts }];
        });
        if (across.length === 0) return 'Give the volts across at least one pair.';
        const first = contactPairsAt(this.link(), this.link()[there])[0] ?? ['a', 'b'];
        return { instrument: 'dc-voltage', end, feed: { contacts: first, volts: feed }, across };
      }
      case 'power-tester': {
        const fed = this.fed();
        return fed ? { ...fed, end } : 'Say of both sets of pairs what the tester shows.';
      }
      case 'capacitance-meter': {
        const nF = this.farads();
        return typeof nF === 'string' ? nF : { instrument: 'capacitance-meter', end, nF };
      }
      case 'tone-probe': {
        const on = this.pairs()[0] ?? ['1', '2'];
        const heard = Object.keys(this.link()[there]).filter((c) => this.marked().has(c));
        return { instrument: 'tone-probe', end, tones: [{ on, heard }] };
      }
    }
  }

  protected readonly heardAt = computed(() =>
    Object.keys(this.link()[this.end() === 'near' ? 'far' : 'near']),
  );
}
