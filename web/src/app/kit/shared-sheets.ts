import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { SharedSheet } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { jobsFeature } from '../jobs/jobs.state';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { KitShelf, type KindedSheet } from './kit-shelf';

/** Sheets that crews of this installation show each other: one's own by choice, others' to take over. */
@Component({
  selector: 'ns-shared-sheets',
  imports: [MatButtonModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (isLead() || others().length > 0) {
      <section class="sheet" aria-labelledby="shared-sheets">
        <h3 id="shared-sheets">Other crews here</h3>
        @if (asking.problem(); as problem) {
          <ns-problem-note [problem]="problem" />
        }
        @if (isLead()) {
          @if (own(); as own) {
            <p class="small">They see version {{ own.version }} of this sheet.</p>
            @if (own.version !== version()) {
              <button matButton="outlined" [disabled]="asking.busy()" (click)="share()">
                Show them version {{ version() }}
              </button>
            }
            <button matButton="outlined" [disabled]="asking.busy()" (click)="unshare()">
              Show it no longer
            </button>
          } @else {
            <button matButton="outlined" [disabled]="asking.busy()" (click)="share()">
              Let them see this sheet
            </button>
          }
        }
        @if (others().length > 0) {
          <ul class="small" aria-label="Sheets of other crews">
            @for (each of others(); track each.crew + each.id) {
              <li>
                <span
                  ><strong>{{ each.sheet.name }}</strong
                  >, version {{ each.version }} of {{ each.crew }}</span
                >
                @if (mayWork()) {
                  <button matButton="outlined" [disabled]="shelf.busy()" (click)="take(each)">
                    {{ words(each)
                    }}<span class="visually-hidden">: {{ each.sheet.name }} of {{ each.crew }}</span>
                  </button>
                }
              </li>
            }
          </ul>
        }
      </section>
    }
  `,
  styles: `
    section {
      padding: 14px 16px;
    }
    section,
    ul {
      display: grid;
      gap: 8px;
      justify-items: start;
    }
    li {
      display: grid;
      gap: 4px;
      justify-items: start;
    }
  `,
})
export class SharedSheets {
  private readonly api = inject(Api);
  protected readonly shelf = inject(KitShelf);
  /** The sheet that is open, as it is kept. */
  readonly open = input.required<KindedSheet>();
  readonly version = input.required<number>();

  private readonly store = inject(Store);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly isLead = this.store.selectSignal(sessionFeature.selectIsLead);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly asking = new Asking();
  private readonly shared = signal<readonly SharedSheet[]>([]);
  protected readonly own = computed(() => {
    const { kind, sheet } = this.open();
    return this.shared().find((one) => one.own && one.kind === kind && one.id === sheet.id);
  });
  protected readonly others = computed(() =>
    this.shared().filter(({ own, kind }) => !own && kind === this.open().kind),
  );

  constructor() {
    // Who cannot ask just now has no other crews' sheets: the kit itself is there.
    this.api
      .call('listSharedSheets', {})
      .subscribe({ next: (all) => this.shared.set(all), error: () => undefined });
  }

  /** Which version of one's own it comes after; none where one has no such sheet. */
  private before({ kind, id }: SharedSheet): number {
    return this.kit()?.versions[kind][id] ?? 0;
  }

  protected words(one: SharedSheet): string {
    const before = this.before(one);
    return before === 0 ? 'Take over' : `Take over, as our version ${before + 1}`;
  }

  protected take(one: SharedSheet): void {
    void this.shelf.save({ kind: one.kind, sheet: one.sheet } as KindedSheet, this.before(one));
  }

  protected share(): void {
    const { kind, sheet } = this.open();
    this.asking.ask(this.api.call('shareSheet', { body: { kind, id: sheet.id } }), (all) =>
      this.shared.set(all),
    );
  }

  protected unshare(): void {
    const { kind, sheet } = this.open();
    this.asking.ask(this.api.call('unshareSheet', { params: { kind, typeId: sheet.id } }), (all) =>
      this.shared.set(all),
    );
  }
}
