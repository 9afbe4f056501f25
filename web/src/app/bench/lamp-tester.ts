import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import {
  blindnessInWords,
  designLampTester,
  expectTold,
  typedNumber,
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
    <div role="status">
      @if (answer().why; as why) {
        <p class="wrong">{{ why }}</p>
      } @else if (answer().tester; as tester) {
        <dl>
          <dt>Resistor for each lamp</dt>
          <dd>{{ tester.resistorOhm }} ohm, {{ tester.resistorMw.toFixed(0) }} mW</dd>
          <dt>Current, short and longest loop</dt>
          <dd>{{ tester.fullMa.toFixed(1) }}, {{ tester.longestMa.toFixed(1) }} mA</dd>
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
        <p class="small unsure">It will not see: {{ blind(tester) }}.</p>
        <p class="small quiet">Only on dead, unplugged cables. Try it on a cord you know to be good.</p>
      }
    </div>
  `,
  styleUrl: './fields.scss',
})
export class LampTesterDesigner {
  protected readonly fields = FIELDS;
  protected readonly given = signal<Readonly<Record<Field, string>>>(
    Object.fromEntries(FIELDS.map((f) => [f.id, f.first])) as Record<Field, string>,
  );
  protected readonly answer = computed((): { tester: LampTester | null; why: string } => {
    const given = this.given();
    const figure = (id: Field): number => typedNumber(given[id]);
    const blank = FIELDS.find((field) => !Number.isFinite(figure(field.id)));
    if (blank) return { tester: null, why: `${blank.name}: give a figure.` };
    try {
      const parts = Object.fromEntries(FIELDS.map((f) => [f.id, figure(f.id)])) as Record<Field, number>;
      return { tester: designLampTester(parts, FOUR_PAIR), why: '' };
    } catch (error) {
      if (error instanceof RangeError) return { tester: null, why: error.message };
      throw error;
    }
  });

  protected set(field: Field, event: Event): void {
    const { value } = event.target as HTMLInputElement;
    this.given.update((given) => ({ ...given, [field]: value }));
  }

  protected blind(tester: LampTester): string {
    return blindnessInWords(tester.blindTo);
  }
}
