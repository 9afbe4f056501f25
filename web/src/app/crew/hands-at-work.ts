import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import type { CrewHands as SaidHands } from '@near-spoke/contracts';
import { USUAL_HANDS, type Hands } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { CrewHands } from '../adapters/crew-hands';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { NumberField } from '../ui/number-field';

const FIGURES: readonly { id: keyof Hands; words: string; most?: number }[] = [
  { id: 'bothS', words: 'Both probes set down anew' },
  { id: 'oneS', words: 'One probe to another contact' },
  { id: 'besideS', words: 'One probe to the contact beside' },
  { id: 'turnS', words: 'More, to another connector' },
  { id: 'answerS', words: 'An answer, heard and given' },
  { id: 'clipS', words: 'A clip put on and taken off' },
  { id: 'walkS', words: 'A walk to the other end', most: 3600 },
];

/** What touching costs the hands of this crew: the touches of a proof are put into order by it. */
@Component({
  selector: 'ns-hands-at-work',
  imports: [MatButtonModule, NumberField, ProblemNote, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-labelledby="hands-at-work">
      <h2 id="hands-at-work">Hands and probes</h2>
      @if (asking.problem(); as problem) {
        <ns-problem-note [problem]="problem" />
      }
      <p class="quiet">
        The touches that prove a lead are put into the order that costs hands the least. These are the seconds
        it reckons with{{
          kept()?.hands ? '' : ': the usual figures, for needle probes on small connectors'
        }}. What they are to each other counts, not how large they are.
      </p>
      @if (isLead()) {
        <form [formGroup]="form" (submit)="$event.preventDefault(); keep(now())">
          <div class="all">
            @for (one of figures; track one.id) {
              <ns-number-field
                [formControlName]="one.id"
                [label]="one.words"
                unit="s"
                [least]="0.1"
                [most]="one.most ?? 120"
              />
            }
          </div>
          <div class="row">
            <button
              matButton="filled"
              class="main-action"
              type="submit"
              [disabled]="!changed() || form.invalid || asking.busy()"
            >
              Keep them
            </button>
            @if (kept()?.hands) {
              <button matButton="outlined" type="button" [disabled]="asking.busy()" (click)="keep(null)">
                The usual figures again
              </button>
            }
            <span class="quiet small" role="status">{{ changed() ? '' : told() }}</span>
          </div>
        </form>
      } @else {
        <ul>
          @for (one of figures; track one.id) {
            <li>{{ one.words }}: {{ now()[one.id] }} s</li>
          }
        </ul>
      }
    </section>
  `,
  styles: `
    section,
    form {
      display: grid;
      gap: 10px;
    }
    section {
      padding: 18px;
    }
    .all {
      display: grid;
      gap: 10px;
      grid-template-columns: repeat(auto-fill, minmax(min(220px, 100%), 1fr));
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      align-items: center;
    }
  `,
})
export class HandsAtWork {
  private readonly api = inject(Api);
  private readonly crewHands = inject(CrewHands);
  protected readonly isLead = inject(Store).selectSignal(sessionFeature.selectIsLead);
  protected readonly figures = FIGURES;
  protected readonly asking = new Asking();
  protected readonly kept = signal<SaidHands | null>(null);
  protected readonly told = signal('');
  protected readonly form = inject(NonNullableFormBuilder).group<Record<keyof Hands, number | null>>({
    ...USUAL_HANDS,
  });
  private readonly typed = toSignal(this.form.valueChanges);
  /** The figures as they stand in the form; one that is left empty is as it was. */
  protected readonly now = computed((): Hands => {
    this.typed();
    const before = this.kept()?.hands ?? USUAL_HANDS;
    const given = this.form.getRawValue();
    return Object.fromEntries(FIGURES.map(({ id }) => [id, given[id] ?? before[id]])) as unknown as Hands;
  });
  protected readonly changed = computed(() => {
    const before = this.kept()?.hands ?? USUAL_HANDS;
    const now = this.now();
    return this.kept() !== null && FIGURES.some(({ id }) => now[id] !== before[id]);
  });

  constructor() {
    this.asking.ask(this.api.call('readHands', {}), (kept) => this.show(kept));
  }

  protected keep(hands: Hands | null): void {
    const body = { hands: hands && { ...hands }, version: this.kept()?.version ?? 0 };
    this.asking.ask(this.api.call('keepHands', { body }), (kept) => {
      this.show(kept);
      this.crewHands.take(kept);
      this.told.set('Kept. Proofs that begin now are ordered by them.');
    });
  }

  private show(kept: SaidHands): void {
    this.kept.set(kept);
    this.form.setValue({ ...(kept.hands ?? USUAL_HANDS) });
  }
}
