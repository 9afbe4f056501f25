import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  CHECK_NAMES,
  cureSpare,
  cureWords,
  findingHeadline,
  findingWords,
  type CableType,
  type PlanFinding,
  type UnitSystem,
} from '@near-spoke/core';

const MARKS = { fails: 'Wrong', close: 'Close', look: 'Look', fits: 'Fits' } as const;

/** What a planned link is held against: what is least first, with what would cure it. */
@Component({
  selector: 'ns-finding-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (line of lines(); track $index) {
        <li [class]="line.verdict">
          <p>
            <strong>{{ line.mark }}: {{ line.headline }}</strong>
          </p>
          <p class="small">{{ line.words }}</p>
          @if (line.cures.length > 0) {
            <p class="small cure-title">What would cure it</p>
            <ul class="cures small">
              @for (cure of line.cures; track $index) {
                <li>
                  <span>{{ cure.words }}</span><span class="figure">{{ cure.spare }}</span>
                </li>
              }
            </ul>
          }
        </li>
      }
    </ul>
    @if (fitting().length > 0) {
      <details>
        <summary class="small">
          {{ lines().length > 0 ? fitting().length + ' more checks' : 'All ' + fitting().length + ' checks' }}
          have room to spare
        </summary>
        <ul class="small fitting">
          @for (line of fitting(); track $index) {
            <li>
              <strong>{{ line.headline }}.</strong> {{ line.words }}
            </li>
          }
        </ul>
      </details>
    }
  `,
  styleUrl: './finding-list.scss',
})
export class FindingList {
  readonly findings = input.required<readonly PlanFinding[]>();
  readonly cables = input.required<readonly CableType[]>();
  readonly units = input.required<UnitSystem>();

  private readonly told = computed(() => {
    const reader = {
      units: this.units(),
      cableName: (id: string) => this.cables().find((cable) => cable.id === id)?.name ?? id,
    };
    return this.findings().map((finding) => ({
      verdict: finding.verdict,
      mark: MARKS[finding.verdict],
      headline: finding.verdict === 'look' ? CHECK_NAMES[finding.check] : findingHeadline(finding, reader),
      words: findingWords(finding, reader),
      cures: finding.cures.map((cure) => ({
        words: cureWords(cure, reader),
        spare: cureSpare(cure, finding, reader.units),
      })),
    }));
  });
  protected readonly lines = computed(() => this.told().filter(({ verdict }) => verdict !== 'fits'));
  protected readonly fitting = computed(() => this.told().filter(({ verdict }) => verdict === 'fits'));
}
