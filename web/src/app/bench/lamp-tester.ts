import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import {
  blindnessInWords,
  designLampTester,
  expectTold,
  typedNumber,
  type LampResistor,
  type LampReturn,
  type LampTester,
} from '@near-spoke/core';

const FIELDS = [
  { id: 'supplyV', name: 'Supply, V', first: '9' },
  { id: 'lampDropV', name: 'The lamp drops, V', first: '2' },
  { id: 'lampMa', name: 'Its current, mA', first: '10' },
  { id: 'pairs', name: 'Pairs', first: '4' },
  { id: 'loopOhm', name: 'Longest loop, ohm', first: '25' },
] as const;
type Field = (typeof FIELDS)[number]['id'];

/** What such a tester is mostly used on: what it cannot see is computed for that. */
const FOUR_PAIR = expectTold({
  cable: 'cat6-u',
  scheme: 'T568B',
  lengthM: 30,
  near: 'jack-punched',
  far: 'jack-punched',
});

/** A lamp tester of one's own: the resistor, what it draws, how it is wired, and what it will not see. */
@Component({
  selector: 'ns-lamp-tester',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>A lamp tester of your own</h2>
    @for (field of fields; track field.id) {
      <label
        >{{ field.name }}
        <input inputmode="decimal" [value]="given()[field.id]" (input)="set(field.id, $event)"
      /></label>
    }
    <label
      >Way back
      <select [value]="returns()" (change)="chooseReturns($event)">
        @for (each of wayBack; track each) {
          <option [value]="each">{{ each }}</option>
        }
      </select></label
    >
    <label
      >Resistor
      <select [value]="resistor()" (change)="chooseResistor($event)">
        @for (each of resistors; track each) {
          <option [value]="each">{{ each }}</option>
        }
      </select></label
    >
    <div role="status">
      @if (answer().why; as why) {
        <p class="wrong">{{ why }}</p>
      } @else if (answer().tester; as tester) {
        <dl>
          <dt>{{ resistor() === 'each lamp' ? 'Resistor for each lamp' : 'Resistor in the supply' }}</dt>
          <dd>{{ tester.resistorOhm }} ohm, {{ tester.resistorMw.toFixed(0) }} mW</dd>
          <dt>Current, short and longest loop</dt>
          <dd>{{ tester.fullMa.toFixed(1) }}, {{ tester.longestMa.toFixed(1) }} mA</dd>
          @if (resistor() !== 'each lamp') {
            <dt>Each lamp, all of them lit</dt>
            <dd>{{ tester.litMa.at(-1)?.toFixed(1) }} mA: dimmer than alone</dd>
          }
          <dt>Too dim to trust from</dt>
          <dd>{{ tester.doubtfulOhm }} ohm</dd>
          <dt>Light from 500 mAh</dt>
          <dd>{{ tester.hours.toFixed(0) }} h</dd>
        </dl>
        <ol class="small">
          @for (line of tester.wiring; track line) {
            <li>{{ line }}</li>
          }
        </ol>
        <details>
          <summary>Making it, in this order</summary>
          <ol class="small">
            @for (line of tester.making; track line) {
              <li>{{ line }}</li>
            }
          </ol>
        </details>
        <p class="small">
          Prove it: on a cord you know to be good every lamp lights.
          @if (tester.shows; as cord) {
            Then on one made wrong on purpose, {{ cord.exchanged.join(' and ') }} exchanged at its far plug:
            the {{ cord.dark.length > 1 ? 'lamps' : 'lamp' }} of {{ cord.dark.join(' and ') }} stay dark.
          }
          @if (tester.passes; as cord) {
            A cord with {{ cord.exchanged.join(' and ') }} exchanged it passes.
          }
        </p>
        <p class="small unsure">It will not see: {{ blind(tester) }}.</p>
        <p class="small quiet">Only on dead, unplugged cables.</p>
      }
    </div>
  `,
  styleUrl: './fields.scss',
  styles: `
    label:has(select) {
      grid-template-columns: 1fr 200px;
    }
    details ol {
      list-style: decimal;
      padding-left: 20px;
    }
    summary {
      cursor: pointer;
      min-height: 32px;
    }
  `,
})
export class LampTesterDesigner {
  protected readonly fields = FIELDS;
  protected readonly given = signal<Readonly<Record<Field, string>>>(
    Object.fromEntries(FIELDS.map((f) => [f.id, f.first])) as Record<Field, string>,
  );
  protected readonly wayBack: readonly LampReturn[] = ['pair by pair', 'one for all'];
  protected readonly resistors: readonly LampResistor[] = ['each lamp', 'one in the supply'];
  protected readonly returns = signal<LampReturn>('pair by pair');
  protected readonly resistor = signal<LampResistor>('each lamp');
  protected readonly answer = computed((): { tester: LampTester | null; why: string } => {
    const given = this.given();
    const figure = (id: Field): number => typedNumber(given[id]);
    const blank = FIELDS.find((field) => !Number.isFinite(figure(field.id)));
    if (blank) return { tester: null, why: `${blank.name}: give a figure.` };
    try {
      const parts = Object.fromEntries(FIELDS.map((f) => [f.id, figure(f.id)])) as Record<Field, number>;
      const kind = { returns: this.returns(), resistor: this.resistor() };
      return { tester: designLampTester({ ...parts, ...kind }, FOUR_PAIR), why: '' };
    } catch (error) {
      if (error instanceof RangeError) return { tester: null, why: error.message };
      throw error;
    }
  });

  protected set(field: Field, event: Event): void {
    const { value } = event.target as HTMLInputElement;
    this.given.update((given) => ({ ...given, [field]: value }));
  }

  protected chooseReturns(event: Event): void {
    this.returns.set((event.target as HTMLSelectElement).value as LampReturn);
  }

  protected chooseResistor(event: Event): void {
    this.resistor.set((event.target as HTMLSelectElement).value as LampResistor);
  }

  protected blind(tester: LampTester): string {
    return blindnessInWords(tester.blindTo);
  }
}
