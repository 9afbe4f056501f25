import { ChangeDetectionStrategy, Component, computed, input, linkedSignal } from '@angular/core';
import { buildCard, checkFit, type CableType, type ConnectorType, type WorkCard } from '@near-spoke/core';
import { StripPlanPicture } from '../drawing/strip-plan';
import { ThreadedParts } from '../drawing/threaded-parts';

/** What a connector's figures come to on a cable, drawn while they are typed. */
@Component({
  selector: 'ns-sheet-preview',
  imports: [StripPlanPicture, ThreadedParts],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label>
      On
      <select (change)="cableId.set($any($event.target).value)">
        @for (cable of cables(); track cable.id) {
          <option [value]="cable.id" [selected]="cable.id === cableId()">{{ cable.name }}</option>
        }
      </select>
    </label>
    @if (card(); as card) {
      <ns-strip-plan [plan]="card.strip" [cable]="cable()!" />
      <ns-threaded-parts [verdicts]="card.threaded" />
      <h3>Fits</h3>
      <ul class="small">
        @for (check of card.fit; track check.what) {
          <li [class.wrong]="check.verdict === 'does not fit'" [class.unsure]="check.verdict === 'unknown'">
            {{ check.verdict === 'fits' ? '✓' : check.verdict === 'unknown' ? '?' : '✗' }} {{ check.words }}
          </li>
        }
      </ul>
      <h3>Order</h3>
      <ol class="small">
        @for (step of card.steps; track step.id; let i = $index) {
          <li>{{ i + 1 }}. {{ step.title }}</li>
        }
      </ol>
    } @else {
      <p class="small quiet">The drawing waits until every figure makes sense.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 10px;
      align-content: start;
    }
    label {
      display: flex;
      gap: 10px;
      align-items: center;
      font-weight: 600;
    }
    select {
      font: inherit;
      font-weight: 400;
      min-height: 40px;
      flex: 1;
      min-width: 0;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--rule-firm);
      border-radius: 6px;
    }
  `,
})
export class SheetPreview {
  readonly connector = input.required<ConnectorType>();
  readonly cables = input.required<readonly CableType[]>();
  /** The draft is whole: it may be computed with. */
  readonly whole = input(true);

  protected readonly cableId = linkedSignal({
    source: () => ({ id: this.connector().id, cables: this.cables() }),
    computation: (_, previous?: { value: string; source: { id: string } }): string => {
      if (previous && previous.source.id === this.connector().id && previous.value !== '')
        return previous.value;
      const fits = (cable: CableType): boolean =>
        checkFit(cable, this.connector()).every((check) => check.verdict !== 'does not fit');
      return (this.cables().find(fits) ?? this.cables()[0])?.id ?? '';
    },
  });
  protected readonly cable = computed(() => this.cables().find((c) => c.id === this.cableId()));
  protected readonly card = computed((): WorkCard | null => {
    const cable = this.cable();
    if (!cable || !this.whole()) return null;
    try {
      return buildCard({ cable, connector: this.connector() });
    } catch {
      return null;
    }
  });
}
