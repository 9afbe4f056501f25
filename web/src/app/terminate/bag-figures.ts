import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { stripToleranceMm, type ConnectorType, type StripFigures, type UnitSystem } from '@near-spoke/core';
import { ProblemNote } from '../drawing/problem-note';
import { KitShelf } from '../kit/kit-shelf';

const MM_PER_INCH = 25.4;
const STRIP_NAMES: Record<Exclude<keyof StripFigures, 'toleranceMm'>, string> = {
  jacketMm: 'Jacket off, from the end',
  screenMm: 'Screen off, from the end',
  insulationMm: 'Dielectric or insulation off, from the end',
  trimMm: 'Left beyond the jacket',
};

interface Figure {
  key: string;
  name: string;
  mm: number;
}

/** Asks for the figures of the sheet in the bag, and keeps them for next time. */
@Component({
  selector: 'ns-bag-figures',
  imports: [MatButtonModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>What does the sheet in the bag say?</h2>
    <p class="quiet small">
      In {{ unit() }}. Kept as the next version of {{ connector().name }}; cards already made stay as they
      were.
    </p>
    @if (shelf.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    <form (submit)="save($event)">
      @for (figure of figures(); track figure.key) {
        <label>
          {{ figure.name }}
          <input
            type="number"
            min="0"
            step="any"
            required
            [value]="shown(figure.mm)"
            (input)="change(figure.key, $any($event.target).value)"
          />
        </label>
      }
      <div class="row">
        <button matButton="filled" class="main-action" [disabled]="shelf.busy() || !valid()">
          Keep these figures
        </button>
        <button matButton type="button" class="main-action" (click)="left.emit()">Leave it</button>
      </div>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 10px;
      max-width: 460px;
    }
    label {
      display: grid;
      grid-template-columns: 1fr 120px;
      gap: 12px;
      align-items: center;
    }
    input {
      font: 500 17px var(--figures);
      min-height: 44px;
      padding: 0 10px;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--rule-firm);
      border-radius: 6px;
    }
    .row {
      display: flex;
      gap: 10px;
    }
  `,
})
export class BagFigures {
  protected readonly shelf = inject(KitShelf);
  readonly connector = input.required<ConnectorType>();
  readonly units = input<UnitSystem>('metric');
  readonly left = output<void>();

  protected readonly unit = computed(() => (this.units() === 'metric' ? 'millimetres' : 'inches'));
  protected readonly figures = computed((): Figure[] => {
    const { strip, parts } = this.connector();
    const cuts = (Object.keys(STRIP_NAMES) as (keyof typeof STRIP_NAMES)[]).flatMap((key) =>
      strip[key] === null || (key === 'jacketMm' && strip[key] === 0)
        ? []
        : [{ key, name: STRIP_NAMES[key], mm: strip[key] }],
    );
    const bores = parts.map((part, i) => ({
      key: `bore-${i}`,
      name: `Bore of the ${part.name}`,
      mm: part.boreMm,
    }));
    const give = {
      key: 'toleranceMm',
      name: 'Each length may be off by',
      mm: stripToleranceMm(this.connector()),
    };
    return [...cuts, ...(cuts.length > 0 ? [give] : []), ...bores];
  });
  /** What was typed, by figure, in millimetres. */
  private readonly typed = linkedSignal({
    source: this.connector,
    computation: (): Readonly<Record<string, number>> => ({}),
  });
  protected readonly valid = computed(() => Object.values(this.typed()).every((mm) => mm > 0));

  protected shown(mm: number): number {
    return Math.round((this.units() === 'metric' ? mm : mm / MM_PER_INCH) * 1000) / 1000;
  }

  protected change(key: string, text: string): void {
    const value = text.trim() === '' ? Number.NaN : Number(text);
    const mm = this.units() === 'metric' ? value : value * MM_PER_INCH;
    this.typed.update((all) => ({ ...all, [key]: mm }));
  }

  protected async save(event: Event): Promise<void> {
    event.preventDefault();
    const connector = this.connector();
    const typed = this.typed();
    const lengths = Object.fromEntries(
      Object.entries(connector.strip).map(([key, mm]) => [key, mm === null ? null : (typed[key] ?? mm)]),
    ) as unknown as StripFigures;
    const strip: StripFigures = {
      ...lengths,
      ...(typed['toleranceMm'] === undefined ? {} : { toleranceMm: typed['toleranceMm'] }),
    };
    const parts = connector.parts.map((part, i) => {
      const boreMm = typed[`bore-${i}`] ?? part.boreMm;
      // The wall stays as it was: a wider bore makes a wider part.
      return { ...part, boreMm, outsideMm: part.outsideMm - part.boreMm + boreMm };
    });
    const kept = await this.shelf.save({
      kind: 'connector',
      sheet: { ...connector, strip, parts, source: 'sheet' },
    });
    if (kept) this.left.emit();
  }
}
