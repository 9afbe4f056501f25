import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatTabsModule } from '@angular/material/tabs';
import { repeatWords, slipName, type GroupKind, type WorkGroup } from '@near-spoke/core/workmanship';
import { Api, problemOf } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { SaveTable } from '../ui/save-table';

const KINDS: readonly { id: GroupKind; name: string; head: string }[] = [
  { id: 'person', name: 'By person', head: 'Person' },
  { id: 'connector', name: 'By connector', head: 'Connector' },
  { id: 'tool', name: 'By tool', head: 'Tool' },
  { id: 'lot', name: 'By lot', head: 'Lot' },
];

/** The crew's work over all jobs: what was right at the first test, what it cost, how long ends take, and what repeats. */
@Component({
  selector: 'ns-crew-work',
  imports: [DecimalPipe, MatTabsModule, ProblemNote, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './crew-work.html',
  styleUrl: './crew-work.scss',
})
export class CrewWork {
  private readonly api = inject(Api);
  private readonly read = rxResource({ stream: () => this.api.call('workmanship', {}) });
  protected readonly made = computed(() => (this.read.hasValue() ? this.read.value() : null));
  protected readonly problem = computed(() => {
    const wrong = this.read.error();
    return wrong ? problemOf(wrong) : null;
  });
  /** Names in the order of the alphabet: nobody is ranked. */
  protected readonly kinds = computed(() =>
    KINDS.map((kind) => ({
      ...kind,
      groups: (this.made()?.groups ?? [])
        .filter((group) => group.kind === kind.id)
        .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
    })).filter(({ groups }) => groups.length > 0),
  );
  protected readonly repeats = computed(() => (this.made()?.repeats ?? []).map(repeatWords));

  protected share({ right }: WorkGroup): string {
    return right.of === 0 ? '' : `${Math.round(100 * (right.count / right.of))} %`;
  }

  protected span({ right }: WorkGroup): string {
    const [low, high] = [right.low, right.high].map((share) => Math.round(100 * share));
    return right.of === 0 ? 'none tested' : `${low} to ${high} %`;
  }

  protected slips({ slips }: WorkGroup): string {
    return slips.map(({ slip, count }) => `${slipName(slip)} (${count})`).join(', ');
  }
}
