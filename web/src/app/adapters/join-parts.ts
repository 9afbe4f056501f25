import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  INLINE_KINDS,
  joinsAt,
  partWords,
  placeWords,
  typedNumber,
  type AdapterDesign,
  type InlineKind,
  type InlinePart,
  type Join,
  type PinPlace,
} from '@near-spoke/core';

const MOST_PARTS = 6;

/** Joins of the contact in hand, and the parts in the way of each. */
@Component({
  selector: 'ns-join-parts',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ title() }}</h2>
    @for (join of joins(); track words(join)) {
      <section>
        <p>
          <span class="figure">{{ words(join) }}</span>
          <button matButton (click)="part(join)">Part them</button>
        </p>
        <ul>
          @for (each of join.parts; track $index; let n = $index) {
            <li>{{ told(each) }} <button matButton (click)="takeOut(join, n)">Take it out</button></li>
          }
        </ul>
        @if (adding() === words(join)) {
          <form (submit)="add($event, join)">
            <label
              >Part
              <select (change)="kind.set($any($event.target).value)">
                @for (each of kinds; track each) {
                  <option [value]="each" [selected]="each === kind()">{{ each }}</option>
                }
              </select></label
            >
            @if (kind() === 'resistor') {
              <label
                >Ohm <input inputmode="decimal" [value]="ohm()" (input)="ohm.set($any($event.target).value)"
              /></label>
            }
            @if (kind() === 'battery') {
              <label
                >Cells
                <input inputmode="numeric" [value]="count()" (input)="count.set($any($event.target).value)"
              /></label>
              <label
                >Volts, new
                <input inputmode="decimal" [value]="fresh()" (input)="fresh.set($any($event.target).value)"
              /></label>
              <label
                >Volts at its end
                <input inputmode="decimal" [value]="spent()" (input)="spent.set($any($event.target).value)"
              /></label>
            }
            <label
              >In words <input maxlength="120" [value]="text()" (input)="text.set($any($event.target).value)"
            /></label>
            <p class="wrong" role="alert">{{ wrong() }}</p>
            <button matButton="filled" type="submit" [disabled]="wrong() !== ''">
              Put it in, at {{ join.to.end }}
            </button>
          </form>
        } @else if (join.parts.length < most) {
          <button matButton="outlined" (click)="adding.set(words(join))">Put a part in</button>
        }
      </section>
    } @empty {
      <p class="small quiet">Joined to nothing. Pick its mate, or drag to it.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      border-bottom: 1px solid var(--rule);
      padding-bottom: 12px;
    }
    section {
      display: grid;
      gap: 6px;
      justify-items: start;
    }
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }
    label {
      display: grid;
      gap: 2px;
      font-size: 14px;
    }
    input,
    select {
      font: 400 15px var(--words);
      min-height: 36px;
    }
    form > p,
    form > button {
      grid-column: 1 / -1;
    }
  `,
})
export class JoinParts {
  readonly design = input.required<AdapterDesign>();
  readonly place = input.required<PinPlace>();
  readonly changed = output<AdapterDesign>();
  protected readonly kinds = INLINE_KINDS;
  protected readonly most = MOST_PARTS;
  protected readonly told = partWords;
  protected readonly joins = computed(() => joinsAt(this.design(), this.place()));
  protected readonly title = computed(() => {
    const { end, contact } = this.place();
    const pin = this.design()
      .ends.find(({ id }) => id === end)
      ?.pins.find((each) => each.contact === contact);
    return `${placeWords(this.place())} ${pin?.signal ?? ''}`;
  });
  protected readonly adding = signal('');
  protected readonly kind = signal<InlineKind>('resistor');
  protected readonly ohm = signal('');
  protected readonly count = signal('2');
  protected readonly fresh = signal('1.6');
  protected readonly spent = signal('0.9');
  protected readonly text = signal('');
  protected readonly wrong = computed(() => {
    if (this.kind() === 'resistor' && !(typedNumber(this.ohm()) > 0)) return 'Give its ohm, over 0.';
    if (this.kind() !== 'battery') return '';
    const [count, fresh, spent] = [this.count(), this.fresh(), this.spent()].map(typedNumber);
    if (!Number.isInteger(count) || !count || count < 1) return 'Give a whole number of cells.';
    if (!fresh || !spent || !(fresh > 0 && spent > 0)) return 'Give the volts of one cell, over 0.';
    return spent > fresh ? 'A cell at its end gives no more than a new one.' : '';
  });

  protected words({ from, to }: Join): string {
    return `${placeWords(from)} to ${placeWords(to)}`;
  }

  protected add(event: Event, join: Join): void {
    event.preventDefault();
    if (this.wrong() !== '') return;
    const kind = this.kind();
    const made: InlinePart = {
      kind,
      words: this.text().trim(),
      ...(kind === 'resistor' ? { ohm: typedNumber(this.ohm()) } : {}),
      ...(kind === 'battery'
        ? {
            cells: {
              count: typedNumber(this.count()),
              freshV: typedNumber(this.fresh()),
              endV: typedNumber(this.spent()),
            },
          }
        : {}),
    };
    this.adding.set('');
    this.text.set('');
    this.replace(join, [...join.parts, made]);
  }

  protected takeOut(join: Join, n: number): void {
    this.replace(
      join,
      join.parts.filter((_, m) => m !== n),
    );
  }

  protected part(join: Join): void {
    const design = this.design();
    this.changed.emit({ ...design, joins: design.joins.filter((each) => each !== join) });
  }

  private replace(join: Join, parts: readonly InlinePart[]): void {
    const design = this.design();
    this.changed.emit({
      ...design,
      joins: design.joins.map((each) => (each === join ? { ...join, parts } : each)),
    });
  }
}
