import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import { huntPair, typedNumber, type PairHunt } from '@near-spoke/core';

const FIRST = ['blue', 'orange', 'green', 'brown'];

/** Which pair carries the telephone line: a voltage across each candidate, and the answer. */
@Component({
  selector: 'ns-pair-hunt',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Find the telephone pair</h2>
    <p class="unsure small">
      {{ hunt()?.caution ?? 'A line rings with about 90 V: do not hold both wires.' }}
    </p>
    <p class="small quiet">
      DC volts across each pair, plus lead on the white wire. Leave out what you have not measured.
    </p>
    @for (pair of pairs(); track pair) {
      <label
        ><span
          >{{ pair }}
          @if (odd(pair)) {
            <span class="small wrong">left out: write volts as a figure, minus and all</span>
          } @else if (says(pair); as words) {
            <span class="small quiet">{{ words }}</span>
          }
        </span>
        <input
          inputmode="decimal"
          [value]="volts()[pair] ?? ''"
          (input)="set(pair, $event)"
          [attr.aria-label]="pair + ', volts'"
      /></label>
    }
    <button type="button" class="more" (click)="more()">One more pair</button>
    <p role="status">
      @if (hunt(); as hunt) {
        <strong>{{ hunt.words }}</strong>
      }
    </p>
    <p class="small quiet">Everything up to the demarcation point belongs to the line’s provider.</p>
  `,
  styles: `
    .more {
      font: inherit;
      min-height: 40px;
      color: var(--accent);
      background: none;
      border: 1px solid var(--rule);
      border-radius: 6px;
      cursor: pointer;
    }
  `,
  styleUrl: './fields.scss',
})
export class PairHuntBench {
  protected readonly pairs = signal<readonly string[]>(FIRST);
  protected readonly volts = signal<Readonly<Record<string, string>>>({});
  protected readonly hunt = computed((): PairHunt | null => {
    const given = this.pairs().flatMap((pair) => {
      const volts = typedNumber(this.volts()[pair] ?? '');
      return Number.isNaN(volts) ? [] : [{ pair, volts }];
    });
    return given.length > 0 ? huntPair(given) : null;
  });

  protected set(pair: string, event: Event): void {
    const { value } = event.target as HTMLInputElement;
    this.volts.update((volts) => ({ ...volts, [pair]: value }));
  }

  protected more(): void {
    this.pairs.update((pairs) => [...pairs, `pair ${pairs.length + 1}`]);
  }

  /** Something is written there that is no voltage. */
  protected odd(pair: string): boolean {
    const text = this.volts()[pair]?.trim() ?? '';
    return text !== '' && Number.isNaN(typedNumber(text));
  }

  protected says(pair: string): string {
    return this.hunt()?.verdicts.find((verdict) => verdict.pair === pair)?.words ?? '';
  }
}
