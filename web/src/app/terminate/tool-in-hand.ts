import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  untracked,
} from '@angular/core';
import { Preferences } from '../preferences/preferences';
import { judgeSize, STOPGAPS, type ToolNeed, type ToolType } from '@near-spoke/core';

/** What a person holds for a step: whether it is right, a stopgap, or ruins the part. */
export interface ToolAnswer {
  /** The step may go on. */
  fine: boolean;
  /** What stands in for the right tool; empty where nothing does. */
  stopgap: string;
}

const NOT_HERE = 'not here';
const HERE = 'here';

/** Asks which die, blade or adapter is in the tool, before it is pressed. */
@Component({
  selector: 'ns-tool-in-hand',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="ask">
      <label>
        {{ name() }} in your hand
        <select (change)="hold($any($event.target).value)">
          <option value="" [selected]="held() === ''">choose</option>
          @if (need().size === null) {
            <option [value]="here" [selected]="held() === here">it is here after all</option>
          }
          @for (size of sizes(); track size) {
            <option [value]="size" [selected]="held() === size">{{ size }}</option>
          }
          <option [value]="notHere" [selected]="held() === notHere">the right one is not here</option>
        </select>
      </label>
      <p role="status" class="small" [class.wrong]="wrong()" [class.unsure]="!answer().fine && !wrong()">
        {{ words() }}
      </p>
      @if (held() === notHere && stopgap().words; as words) {
        <label class="small stopgap">
          <input
            type="checkbox"
            [checked]="accepted()"
            (change)="accepted.set($any($event.target).checked)"
          />
          Use a stopgap: {{ words }} It stays on the record until the end is redone.
        </label>
      }
    </div>
  `,
  styles: `
    .ask {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 16px;
      padding: 6px 12px;
      border: 1px solid var(--rule-firm);
      border-radius: 8px;
    }
    label {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: center;
      font-weight: 600;
    }
    .stopgap {
      font-weight: 400;
      flex-wrap: nowrap;
      align-items: start;
    }
    input {
      width: 24px;
      height: 24px;
      flex: none;
    }
    select {
      font: inherit;
      min-height: 44px;
      min-width: 120px;
      padding: 0 8px;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--rule-firm);
      border-radius: 6px;
    }
  `,
})
export class ToolInHand {
  private readonly preferences = inject(Preferences);
  readonly need = input.required<ToolNeed>();
  readonly tools = input.required<readonly ToolType[]>();
  readonly answered = output<ToolAnswer>();

  protected readonly notHere = NOT_HERE;
  protected readonly here = HERE;
  protected readonly sizes = computed(() => [
    ...new Set(
      this.need().size === null
        ? []
        : this.tools().flatMap((t) => (t.kind === this.need().kind ? t.sizes : [])),
    ),
  ]);
  /** What was in the tool last time; it is judged at once, so yesterday's die is caught today. */
  protected readonly held = linkedSignal({
    source: this.need,
    computation: ({ kind }): string => {
      const last = untracked(this.preferences.inTool)[kind] ?? '';
      return untracked(this.sizes).includes(last) ? last : '';
    },
  });
  protected readonly accepted = linkedSignal({ source: this.held, computation: () => false });
  protected readonly stopgap = computed(() => STOPGAPS[this.need().kind]);
  protected readonly name = computed(() => {
    const words = {
      'hex crimp tool': 'Die',
      'pin crimp tool': 'Pin die',
      'compression tool': 'Adapter',
      'insertion tool': 'Blade',
    } as const;
    const kind = this.need().kind;
    if (this.need().size === null) return kind.charAt(0).toUpperCase() + kind.slice(1);
    return kind in words ? words[kind as keyof typeof words] : 'Cavity or size';
  });
  private readonly judged = computed(() => judgeSize(this.need(), this.held()));
  protected readonly wrong = computed(
    () => this.held() !== '' && this.held() !== NOT_HERE && !this.judged().right,
  );
  protected readonly answer = computed((): ToolAnswer => {
    if (this.held() === NOT_HERE) {
      const { words } = this.stopgap();
      return { fine: words !== null && this.accepted(), stopgap: this.accepted() ? (words ?? '') : '' };
    }
    return { fine: this.held() !== '' && this.judged().right, stopgap: '' };
  });
  protected readonly words = computed(() => {
    const { size } = this.need();
    if (this.held() === '')
      return size === null ? 'The kit has none.' : `This needs ${size}. Read the number on it.`;
    if (this.held() === HERE) return 'Good. Put it into the kit when there is time.';
    if (this.held() !== NOT_HERE) return this.judged().words;
    const { words, ruins } = this.stopgap();
    return words ? `What ruins it: ${ruins}` : `Nothing stands in for it. What ruins it: ${ruins}`;
  });

  constructor() {
    effect(() => this.answered.emit(this.answer()));
  }

  protected hold(size: string): void {
    this.held.set(size);
    if (size !== '' && size !== NOT_HERE && size !== HERE) this.preferences.putInTool(this.need().kind, size);
  }
}
