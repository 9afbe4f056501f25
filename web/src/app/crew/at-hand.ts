import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import type { InstrumentsAtHand } from '@near-spoke/contracts';
import { INSTRUMENTS, TO_OWN, type InstrumentClass } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';

const PROVES = {
  map: 'proves the map',
  loops: 'proves loops only',
  nothing: 'tells more, proves nothing',
} as const;

/** Which instruments the crew has: the next look is chosen among them. */
@Component({
  selector: 'ns-at-hand',
  imports: [MatButtonModule, MatCheckboxModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-labelledby="at-hand">
      <h2 id="at-hand">Instruments at hand</h2>
      @if (problem(); as problem) {
        <ns-problem-note [problem]="problem" />
      }
      @if (kept(); as kept) {
        <p class="quiet">
          {{
            kept.owned === null
              ? 'Nobody has said yet, so Verify may ask for a look with any of them.' +
                (isLead() ? ' Tick what the crew has and keep it.' : '')
              : 'Verify asks for looks with these only, and with eyes and hands.'
          }}
        </p>
        @if (isLead()) {
          <div class="all">
            @for (one of all; track one.id) {
              <mat-checkbox [checked]="chosen().has(one.id)" (change)="toggle(one.id)">
                {{ one.name }} <span class="quiet small">{{ proves[one.proves] }}</span>
              </mat-checkbox>
            }
          </div>
          <div class="row">
            <button
              matButton="filled"
              class="main-action"
              [disabled]="!worthKeeping() || busy()"
              (click)="keep()"
            >
              Keep it
            </button>
            @if (!worthKeeping()) {
              <span class="quiet small">{{ told() || 'Nothing changed yet.' }}</span>
            }
          </div>
        } @else if (kept.owned !== null) {
          <p>{{ names() || 'None: eyes and hands.' }}</p>
        }
      }
    </section>
  `,
  styles: `
    section {
      padding: 18px;
      display: grid;
      gap: 10px;
    }
    .all {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(min(320px, 100%), 1fr));
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      align-items: center;
    }
  `,
})
export class AtHand {
  private readonly api = inject(Api);
  protected readonly isLead = inject(Store).selectSignal(sessionFeature.selectIsLead);
  protected readonly all = TO_OWN.map((id) => INSTRUMENTS[id]);
  protected readonly proves = PROVES;
  protected readonly kept = signal<InstrumentsAtHand | null>(null);
  protected readonly chosen = signal<ReadonlySet<InstrumentClass>>(new Set());
  private readonly asking = new Asking();
  protected readonly problem = this.asking.problem;
  protected readonly busy = this.asking.busy;
  protected readonly told = signal('');
  protected readonly changed = computed(() => {
    const before = new Set(this.kept()?.owned ?? TO_OWN);
    const now = this.chosen();
    return now.size !== before.size || [...now].some((one) => !before.has(one));
  });
  /** Also where all is ticked and nobody has said so. */
  protected readonly worthKeeping = computed(() => this.changed() || this.kept()?.owned === null);
  protected readonly names = computed(() =>
    (this.kept()?.owned ?? []).map((one) => INSTRUMENTS[one].name).join('; '),
  );

  constructor() {
    this.asking.ask(this.api.call('readAtHand', {}), (kept) => this.show(kept));
  }

  protected toggle(one: InstrumentClass): void {
    this.told.set('');
    this.chosen.update((before) => {
      const after = new Set(before);
      if (!after.delete(one)) after.add(one);
      return after;
    });
  }

  protected keep(): void {
    const owned = TO_OWN.filter((one) => this.chosen().has(one));
    const body = { owned, version: this.kept()?.version ?? 0 };
    this.asking.ask(this.api.call('keepAtHand', { body }), (kept) => {
      this.show(kept);
      this.told.set('Kept. Links that want a look were judged again.');
    });
  }

  private show(kept: InstrumentsAtHand): void {
    this.kept.set(kept);
    this.chosen.set(new Set(kept.owned ?? TO_OWN));
  }
}
