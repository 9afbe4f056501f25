import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import {
  colourOn,
  planSplice,
  typedNumber,
  wireName,
  type AdapterDesign,
  type SpliceJoint,
  type WorkedUpAdapter,
} from '@near-spoke/core';

const FIELDS = [
  ['oldJacket', 'Jacket of A’s half, mm', '5'],
  ['newJacket', 'Jacket of B’s half, mm', '5'],
  ['oldOver', 'A’s wires over insulation, mm', '1.2'],
  ['newOver', 'B’s wires over insulation, mm', '1.2'],
  ['oldArea', 'A’s copper, mm²', '0.14'],
  ['newArea', 'B’s copper, mm²', '0.14'],
] as const;
type Field = (typeof FIELDS)[number][0];

/** Two moulded halves spliced: colour to colour, staggered, sleeved in order. */
@Component({
  selector: 'ns-splice-plan',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Splice the two halves</h3>
    <div class="fields">
      @for (field of fields; track field[0]) {
        <label
          >{{ field[1] }}
          <input
            inputmode="decimal"
            [value]="typed()[field[0]] ?? field[2]"
            (input)="type(field[0], $any($event.target).value)"
        /></label>
      }
    </div>
    @if (plan(); as plan) {
      @for (words of plan.wrong; track words) {
        <p class="wrong">{{ words }}</p>
      }
      <svg
        [attr.viewBox]="'-40 0 ' + (plan.openMm + 80) + ' ' + height()"
        role="img"
        [attr.aria-label]="plan.joints.length + ' joints, staggered'"
      >
        <rect x="-40" y="0" width="40" [attr.height]="height()" class="jacket" />
        <rect [attr.x]="plan.openMm" y="0" width="40" [attr.height]="height()" class="jacket" />
        @for (each of plan.joints; track each.joint.name; let n = $index) {
          <path [attr.d]="'M0 ' + (n * 8 + 6) + 'H' + plan.openMm" class="core" />
          <rect [attr.x]="each.atMm - 11" [attr.y]="n * 8 + 3" width="22" height="6" rx="2" class="sleeve" />
        }
      </svg>
      <ol class="small">
        @for (step of plan.steps; track $index) {
          <li>{{ step }}</li>
        }
      </ol>
      @for (caution of plan.cautions; track caution) {
        <p class="small unsure">{{ caution }}</p>
      }
    } @else {
      <p class="wrong" role="alert">Give every size over 0.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
    .fields {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 12px;
    }
    label {
      display: grid;
      gap: 2px;
      font-size: 13px;
    }
    input {
      font: 400 15px var(--figures);
    }
    svg {
      display: block;
      width: 100%;
    }
    .jacket {
      fill: #30383c;
    }
    .core {
      stroke: var(--ink-2);
      stroke-width: 1.6;
    }
    .sleeve {
      fill: var(--sheet);
      stroke: var(--ink);
      stroke-width: 0.8;
    }
    ol {
      list-style: decimal;
      padding-left: 22px;
      display: grid;
      gap: 3px;
    }
  `,
})
export class SplicePlanView {
  readonly design = input.required<AdapterDesign>();
  readonly worked = input.required<WorkedUpAdapter>();
  protected readonly fields = FIELDS;
  protected readonly typed = signal<Partial<Record<Field, string>>>({});
  private readonly sizes = computed(() =>
    Object.fromEntries(FIELDS.map(([field, , usual]) => [field, typedNumber(this.typed()[field] ?? usual)])),
  );
  private readonly joints = computed((): SpliceJoint[] => {
    const [one, other] = this.design().ends;
    const { oldArea = 0, newArea = 0, oldOver = 0, newOver = 0 } = this.sizes();
    const { rows } = this.worked();
    return rows.flatMap(({ net }): SpliceJoint[] => {
      const colour = (id: string | undefined): string | null => {
        const placed = net.pins.find(({ end }) => end === id);
        return placed ? colourOn(this.design(), rows, placed) : null;
      };
      const [from, to] = [colour(one?.id), colour(other?.id)];
      if (!from || !to) return [];
      const volts = Math.max(0, ...net.pins.map(({ pin }) => pin.volts?.[1] ?? 0));
      return [
        {
          name: `${net.name} (${wireName(from)} to ${wireName(to)})`,
          oldAreaMm2: oldArea,
          newAreaMm2: newArea,
          oldOverMm: oldOver,
          newOverMm: newOver,
          volts,
        },
      ];
    });
  });
  protected readonly height = computed(() => this.joints().length * 8 + 4);
  protected readonly plan = computed(() => {
    const { oldJacket = 0, newJacket = 0 } = this.sizes();
    try {
      return planSplice(this.joints(), { oldMm: oldJacket, newMm: newJacket });
    } catch (error) {
      if (error instanceof RangeError) return null;
      throw error;
    }
  });

  protected type(field: Field, text: string): void {
    this.typed.update((typed) => ({ ...typed, [field]: text }));
  }
}
