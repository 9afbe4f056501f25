import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import {
  BadMetering,
  LOOP_LAYOUTS,
  loopMeaning,
  loopReadings,
  statesAt,
  typedQuantity,
  type LoopReadings,
  type LoopState,
  type SupervisedLoop,
} from '@near-spoke/core';
import { SaveTable } from '../ui/save-table';

const FIELDS = [
  { id: 'end', name: 'Resistor at the end', quantity: 'resistance', usual: '4.7 kohm', when: 1 },
  { id: 'alarm', name: 'Across the alarm contact', quantity: 'resistance', usual: '4.7 kohm', when: 3 },
  { id: 'fault', name: 'Across the fault contact', quantity: 'resistance', usual: '2.2 kohm', when: 4 },
  { id: 'length', name: 'Cable, panel to detector', quantity: 'length', usual: '30 m', when: 0 },
] as const;
type FieldId = (typeof FIELDS)[number]['id'];

interface Meaning {
  states: readonly LoopState[];
  words: string;
}
const meant = (loop: SupervisedLoop, ohm: number): Meaning => ({
  states: statesAt(loop, ohm),
  words: loopMeaning(loop, ohm),
});

/** What a meter must read on an alarm, fire or access loop in each state, and what a reading can mean. */
@Component({
  selector: 'ns-supervised-loop',
  imports: [SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Meter a supervised loop</h2>
    <p class="unsure small">
      Panel off, its battery unplugged; tell whoever receives its alarms first. Fire and lift loops only with
      permission.
    </p>
    <label
      ><span>Built as</span>
      <select
        #built
        [value]="layout()"
        (change)="layout.set(layouts[built.selectedIndex] ?? 'two resistors')"
      >
        @for (each of layouts; track each) {
          <option [value]="each" [selected]="each === layout()">{{ each }}</option>
        }
      </select></label
    >
    <label
      ><span>Contact at rest</span>
      <select #rest (change)="closed.set(rest.selectedIndex === 0)">
        <option [selected]="closed()">closed (NC)</option>
        <option [selected]="!closed()">open (NO)</option>
      </select></label
    >
    @for (field of fields(); track field.id) {
      <label
        ><span>{{ field.name }}</span>
        <input #box [value]="typed()[field.id]" (input)="type(field.id, box.value)" />
      </label>
    }
    <label
      ><span>The end’s resistor lies</span>
      <select #at (change)="atPanel.set(at.selectedIndex === 1)">
        <option [selected]="!atPanel()">behind the last detector</option>
        <option [selected]="atPanel()">in the panel</option>
      </select></label
    >
    <label
      ><span>The meter reads</span>
      <input #reads placeholder="2.35 kohm, or open" [value]="reading()" (input)="reading.set(reads.value)"
    /></label>
    @if (trouble()) {
      <p class="wrong small" role="alert">{{ trouble() }}</p>
    }
    @if (answer(); as answer) {
      <table #saved>
        <caption class="visually-hidden">
          What a meter reads in each state
        </caption>
        <tbody>
          @for (line of answer.readings; track line.state) {
            <tr [class.now]="nowStates().includes(line.state)">
              <th scope="row">{{ line.state }}</th>
              <td class="figure">
                {{
                  line.mostOhm === Infinity ? 'no reading' : ohms(line.leastOhm) + ' to ' + ohms(line.mostOhm)
                }}
              </td>
            </tr>
          }
        </tbody>
      </table>
      <ns-save-table [table]="saved" name="Loop states" />
      <div role="status">
        @if (now(); as now) {
          <p>
            <strong>It is {{ now.words }}.</strong>
          </p>
        }
        @for (states of answer.alike; track $index) {
          <p class="small quiet">Read alike: {{ states.join(', ') }}.</p>
        }
        @for (warning of answer.warnings; track warning) {
          <p class="unsure small">{{ warning }}</p>
        }
      </div>
    }
  `,
  styleUrl: './fields.scss',
  styles: `
    table {
      width: 100%;
      border-collapse: collapse;
      margin-top: 8px;
    }
    th {
      text-align: left;
      font-weight: 400;
    }
    th,
    td {
      padding: 4px 6px 4px 0;
      border-bottom: 1px solid var(--rule);
      white-space: nowrap;
    }
    td {
      text-align: right;
    }
    .now {
      background: var(--accent-soft);
      th {
        font-weight: 600;
      }
    }
    label {
      grid-template-columns: 1fr 270px;
    }
  `,
})
export class SupervisedLoopBench {
  protected readonly Infinity = Infinity;
  protected readonly layouts = LOOP_LAYOUTS;
  protected readonly layout = signal<SupervisedLoop['layout']>('two resistors');
  protected readonly closed = signal(true);
  protected readonly atPanel = signal(false);
  protected readonly typed = signal<Readonly<Record<FieldId, string>>>({
    end: '4.7 kohm',
    alarm: '4.7 kohm',
    fault: '2.2 kohm',
    length: '30 m',
  });
  protected readonly reading = signal('');

  protected readonly fields = computed(() => {
    const place = LOOP_LAYOUTS.indexOf(this.layout());
    return FIELDS.filter(({ when }) => when <= place);
  });

  private readonly told = computed((): { loop: SupervisedLoop | null; trouble: string } => {
    const figures: Partial<Record<FieldId, number>> = {};
    for (const { id, name, quantity } of this.fields()) {
      const { figure, trouble } = typedQuantity(this.typed()[id], quantity, name);
      if (figure === null) return { loop: null, trouble };
      figures[id] = figure;
    }
    const loop: SupervisedLoop = {
      layout: this.layout(),
      contact: this.closed() ? 'closed at rest' : 'open at rest',
      endOhm: figures.end ?? 4700,
      alarmOhm: figures.alarm ?? 4700,
      faultOhm: figures.fault ?? 2200,
      lengthM: figures.length ?? 30,
      awg: 24,
      tolerance: 0.05,
      endAt: this.atPanel() ? 'the panel' : 'the detector',
    };
    return { loop, trouble: '' };
  });

  private readonly worked = computed(
    (): { answer: LoopReadings | null; now: Meaning | null; trouble: string } => {
      const { loop, trouble } = this.told();
      if (!loop) return { answer: null, now: null, trouble };
      const text = this.reading().trim();
      try {
        const answer = loopReadings(loop);
        if (text === '') return { answer, now: null, trouble: '' };
        if (/^(open|ol)$/i.test(text)) return { answer, now: meant(loop, Infinity), trouble: '' };
        const read = typedQuantity(text, 'resistance', 'The meter’s reading');
        return read.figure === null
          ? { answer, now: null, trouble: read.trouble }
          : { answer, now: meant(loop, read.figure), trouble: '' };
      } catch (error) {
        if (error instanceof BadMetering) return { answer: null, now: null, trouble: error.message };
        throw error;
      }
    },
  );
  protected readonly answer = computed(() => this.worked().answer);
  protected readonly now = computed(() => this.worked().now);
  protected readonly nowStates = computed(() => this.now()?.states ?? []);
  protected readonly trouble = computed(() => this.worked().trouble);

  protected type(id: FieldId, text: string): void {
    this.typed.update((typed) => ({ ...typed, [id]: text }));
  }

  protected ohms(ohm: number): string {
    return ohm >= 1000 ? `${(ohm / 1000).toFixed(2)} kΩ` : `${ohm.toFixed(ohm < 10 ? 1 : 0)} Ω`;
  }
}
