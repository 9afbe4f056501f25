import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  DestroyRef,
  ElementRef,
  input,
  linkedSignal,
  output,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { waysOn, type TerminationInput, type WayOn, type WorkCard } from '@near-spoke/core';
import { Keys } from '../keys/keys';

/** One operation a person says was done or was not. */
interface Told {
  id: string;
  title: string;
}

const COSTS = (way: WayOn): string =>
  [
    way.connectors === 0 ? 'no connector' : `${way.connectors} connector`,
    `${way.minutes} min`,
    ...(way.cableMm > 0 ? [`${Math.round(way.cableMm)} mm of cable`] : []),
  ].join(', ');

/** Something was left out or done too early: what can still be done, and what it costs. */
@Component({
  selector: 'ns-left-out',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 id="left-out-title" #title tabindex="-1">What has been done to this end?</h2>
    <p class="quiet small">
      Take the tick away from what was left out. Steps before the last one done count as done.
    </p>
    <ul class="told" aria-labelledby="left-out-title">
      @for (each of told(); track each.id) {
        <li>
          <label>
            <input type="checkbox" [checked]="done().has(each.id)" (change)="toggle(each.id)" />
            {{ each.title }}
          </label>
        </li>
      }
    </ul>
    <div role="status" class="answer">
      @let it = answer();
      @if (!it.goesOn) {
        <p>
          <strong class="wrong">{{ it.missing.join(', ') }} cannot go on any more.</strong> {{ it.why }}
        </p>
      }
      <ol>
        @for (way of it.ways; track way.kind; let first = $first) {
          <li>
            <div>
              <strong>{{ way.words }}</strong>
              <span class="small quiet">Costs {{ costs(way) }}.</span>
            </div>
            <button
              [matButton]="first ? 'filled' : 'outlined'"
              class="main-action"
              (click)="chosen.emit(way)"
            >
              Do this
            </button>
          </li>
        }
      </ol>
    </div>
    <button matButton (click)="left.emit()">Back to the card <kbd>Esc</kbd></button>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 8px;
    }
    .told {
      columns: 2;
      gap: 24px;
    }
    .told label {
      display: flex;
      gap: 10px;
      align-items: center;
      min-height: 36px;
      break-inside: avoid;
    }
    input {
      width: 24px;
      height: 24px;
      flex: none;
    }
    .answer {
      display: grid;
      gap: 8px;
      border-top: 1px solid var(--rule);
      padding-top: 10px;
    }
    .answer ol {
      display: grid;
      gap: 8px;
    }
    .answer li {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 14px;
      align-items: center;
      div {
        display: grid;
      }
    }
    @media (max-width: 700px) {
      .told {
        columns: 1;
      }
    }
  `,
})
export class LeftOut {
  readonly card = input.required<WorkCard>();
  readonly termination = input.required<TerminationInput>();
  /** How far the card was walked. */
  readonly at = input.required<number>();
  readonly chosen = output<WayOn>();
  readonly left = output<void>();
  protected readonly costs = COSTS;

  protected readonly told = computed((): Told[] => {
    const parts = this.termination().connector.parts;
    return this.card().steps.flatMap((step) =>
      step.operations.map((id) => {
        const part = parts.find((p) => id === `thread-${p.kind}`);
        return { id, title: step.verb === 'thread' ? `Thread the ${part?.name ?? id}` : step.title };
      }),
    );
  });
  protected readonly done = linkedSignal(
    () =>
      new Set(
        this.card()
          .steps.slice(0, this.at())
          .flatMap((step) => step.operations),
      ),
  );
  protected readonly answer = computed(() => waysOn(this.termination(), [...this.done()]));

  private readonly title = viewChild.required('title', { read: ElementRef<HTMLElement> });

  constructor() {
    afterNextRender(() => this.title().nativeElement.focus());
    inject(Keys).use(
      [{ key: 'Escape', words: 'back to the card', run: () => this.left.emit() }],
      inject(DestroyRef),
    );
  }

  protected toggle(id: string): void {
    this.done.update((done) => {
      const next = new Set(done);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }
}
