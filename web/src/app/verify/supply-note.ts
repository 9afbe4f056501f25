import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { LinkDetail } from '@near-spoke/contracts';
import { supplyConcerns, supplyWords } from '@near-spoke/core';

/** What the newest reading of the supply says of the device planned on this link; nothing where none is, or none was taken. */
@Component({
  selector: 'ns-supply-note',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (words of concerns(); track words) {
      <p class="unsure">{{ words }}</p>
    }
  `,
})
export class SupplyNote {
  readonly detail = input.required<LinkDetail>();

  protected readonly concerns = computed((): string[] => {
    const { link, tests } = this.detail();
    const corrected = new Set(tests.map(({ corrects }) => corrects));
    const newest = tests.findLast(
      ({ id, reading }) => reading.instrument === 'power-tester' && !corrected.has(id),
    );
    const { power } = link.carries;
    if (!power || newest?.reading.instrument !== 'power-tester') return [];
    return supplyConcerns(power, newest.reading).map(supplyWords);
  });
}
