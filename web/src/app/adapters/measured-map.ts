import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import {
  heardOfMap,
  suspectsOf,
  type AdapterDesign,
  type Suspect,
  type WorkedUpAdapter,
} from '@near-spoke/core';

/** A map that a mapper or a meter gave, against the one that was meant: the mistake is named. */
@Component({
  selector: 'ns-measured-map',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="small quiet">
      For each contact of {{ near().id }}: which of {{ far().id }} it reaches; nothing for none.
    </p>
    <div class="fields">
      @for (pin of near().pins; track pin.contact) {
        <label
          ><span class="figure">{{ pin.contact }}</span>
          <input
            maxlength="30"
            [attr.aria-label]="near().id + ' ' + pin.contact + ' reaches'"
            [value]="typed()[pin.contact] ?? ''"
            (input)="type(pin.contact, $any($event.target).value)"
        /></label>
      }
    </div>
    <div role="status">
      @if (unknown()) {
        <p class="wrong">{{ far().id }} has no contact {{ unknown() }}.</p>
      } @else if (any()) {
        @if (right()) {
          <p>It is the map that was meant.</p>
        } @else {
          @for (suspect of suspects(); track suspect.words) {
            <p class="wrong">{{ suspect.words }}</p>
          } @empty {
            <p class="wrong">No one mistake gives this map.</p>
          }
        }
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(92px, 1fr));
      gap: 6px 12px;
    }
    label {
      display: grid;
      grid-template-columns: 30px minmax(0, 1fr);
      gap: 6px;
      align-items: center;
      font-weight: 700;
    }
    input {
      font: 400 15px var(--figures);
      min-height: 36px;
    }
  `,
})
export class MeasuredMap {
  readonly design = input.required<AdapterDesign>();
  readonly worked = input.required<WorkedUpAdapter>();
  protected readonly typed = signal<Readonly<Record<string, string>>>({});
  protected readonly near = computed(() => this.endAt(0));
  protected readonly far = computed(() => this.endAt(1));
  private readonly map = computed(
    () =>
      new Map(
        Object.entries(this.typed()).map(([contact, text]) => [
          contact,
          text.split(/[\s,]+/).filter((each) => each !== ''),
        ]),
      ),
  );
  protected readonly any = computed(() => [...this.map().values()].some(({ length }) => length > 0));
  protected readonly unknown = computed(() => {
    const known = this.far().pins.map(({ contact }) => contact);
    return [...this.map().values()].flat().find((contact) => !known.includes(contact)) ?? '';
  });
  private readonly heard = computed(() =>
    heardOfMap(this.worked().nets, this.near().id, this.far().id, this.map()),
  );
  protected readonly right = computed(() =>
    this.heard().every(({ touch, beeped }) => beeped === (touch.should === 'beep')),
  );
  protected readonly suspects = computed((): Suspect[] =>
    suspectsOf(this.worked().nets, this.heard(), this.design().ends),
  );

  protected type(contact: string, text: string): void {
    this.typed.update((typed) => ({ ...typed, [contact]: text }));
  }

  private endAt(n: number): AdapterDesign['ends'][number] {
    const end = this.design().ends[n];
    if (!end) throw new RangeError('An adapter has two ends at least.');
    return end;
  }
}
