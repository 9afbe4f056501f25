import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  checkAdapter,
  mend,
  placeWords,
  type AdapterDesign,
  type RuleFinding,
  type SuggestedJoin,
  type WorkedUpAdapter,
} from '@near-spoke/core';
import { SaveTable } from '../ui/save-table';

const GLYPHS = { wrong: '▲', unsure: '◐', note: '·' } as const;
const NAMES = { wrong: 'Wrong', unsure: 'Unsure', note: 'Note' } as const;

/** What the signals suggest and what the rules say; each finding shows its contacts, and mends itself where only one way is right. */
@Component({
  selector: 'ns-rule-list',
  imports: [MatButtonModule, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (suggested().length > 0 && editable()) {
      <section aria-labelledby="suggested-title">
        <h2 id="suggested-title">The signals suggest</h2>
        <ul>
          @for (each of suggested(); track key(each)) {
            <li>
              <button type="button" class="line" (click)="shown.emit(placesOf(each))">
                <span class="figure">{{ placesOf(each).join(' – ') }}</span>
                <span class="small quiet">{{ each.because }}</span>
              </button>
              <button matButton (click)="join.emit([each])">Join</button>
            </li>
          }
        </ul>
        <button matButton="outlined" class="all" (click)="join.emit(suggested())">
          Join all {{ suggested().length }}
        </button>
      </section>
    }
    <section aria-labelledby="rules-title">
      <h2 id="rules-title">{{ title() }}</h2>
      <ul>
        @for (each of told(); track each.finding.words) {
          <li class="finding" [class]="each.finding.severity">
            <button type="button" class="line" (click)="shown.emit(each.finding.contacts)">
              <span class="what">
                <span aria-hidden="true">{{ glyphs[each.finding.severity] }}</span>
                {{ names[each.finding.severity] }}
              </span>
              {{ each.finding.words }}
              <span class="small quiet">{{ each.finding.remedy }}</span>
            </button>
            @if (each.mended; as mended) {
              <button matButton="outlined" (click)="mendIt.emit(mended.design)">Do that</button>
              @if (mended.did !== each.finding.remedy) {
                <span class="small quiet">{{ mended.did }}</span>
              }
            }
          </li>
        }
      </ul>
      @if (notes().length > 0) {
        <details>
          <summary>{{ notes().length }} to know</summary>
          <ul>
            @for (each of notes(); track each.words) {
              <li>
                <button type="button" class="line" (click)="shown.emit(each.contacts)">
                  {{ each.words }} <span class="small quiet">{{ each.remedy }}</span>
                </button>
              </li>
            }
          </ul>
        </details>
      }
    </section>
    @if (worked()?.margins; as margins) {
      @if (margins.length > 0) {
        <details>
          <summary>
            Margins of {{ margins.length }} {{ margins.length === 1 ? 'signal' : 'signals' }}, V
          </summary>
          <table #saved>
            <thead>
              <tr>
                <th>From, to</th>
                <th>High</th>
                <th>Low</th>
                <th>Supply fallen</th>
              </tr>
            </thead>
            <tbody>
              @for (each of margins; track words(each.from) + words(each.to)) {
                <tr>
                  <td class="figure">{{ words(each.from) }} {{ words(each.to) }}</td>
                  <td class="figure">{{ each.nominal.highV.toFixed(2) }}</td>
                  <td class="figure">{{ each.nominal.lowV.toFixed(2) }}</td>
                  <td class="figure">
                    {{ each.sagged.highV.toFixed(2) }}
                    <span class="small quiet">at {{ (each.sagged.share * 100).toFixed(0) }} %</span>
                  </td>
                </tr>
              }
            </tbody>
          </table>
          <ns-save-table [table]="saved" name="Level margins" />
        </details>
      }
    }
    @if (worked(); as worked) {
      @if (worked.noWires) {
        <p class="unsure">{{ worked.noWires }}</p>
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 14px;
      align-content: start;
    }
    section {
      display: grid;
      gap: 8px;
    }
    ul {
      display: grid;
      gap: 6px;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 4px;
      align-items: center;
    }
    .finding {
      grid-template-columns: minmax(0, 1fr);
      justify-items: start;
      border-left: 5px solid var(--rule);
      padding-left: 10px;
      &.wrong {
        border-color: var(--wrong);
        color: var(--ink);
      }
      &.unsure {
        border-color: var(--unsure);
        color: var(--ink);
      }
    }
    .line {
      display: grid;
      gap: 1px;
      font: inherit;
      font-size: 15px;
      line-height: 1.3;
      color: var(--ink);
      background: none;
      border: 0;
      padding: 3px 0;
      min-height: 28px;
      text-align: left;
      cursor: pointer;
    }
    .what {
      font-weight: 700;
    }
    .wrong .what {
      color: var(--wrong);
    }
    .unsure .what {
      color: var(--unsure);
    }
    .all {
      justify-self: start;
    }
    th {
      text-align: left;
      font-size: 13px;
      font-weight: 400;
      color: var(--ink-2);
    }
    td {
      padding-right: 10px;
    }
    summary {
      cursor: pointer;
      min-height: 28px;
    }
    details ul {
      margin-top: 6px;
    }
  `,
})
export class RuleList {
  readonly design = input.required<AdapterDesign>();
  readonly worked = input.required<WorkedUpAdapter | null>();
  readonly suggested = input<readonly SuggestedJoin[]>([]);
  readonly editable = input(true);
  readonly shown = output<readonly string[]>();
  readonly join = output<readonly SuggestedJoin[]>();
  readonly mendIt = output<AdapterDesign>();

  protected readonly glyphs = GLYPHS;
  protected readonly names = NAMES;
  protected readonly words = placeWords;
  private readonly findings = computed((): readonly RuleFinding[] => this.worked()?.findings ?? []);
  protected readonly told = computed(() => {
    const told = this.findings().filter(({ severity }) => severity !== 'note');
    if (!this.editable()) return told.map((finding) => ({ finding, mended: null }));
    const [design, before] = [this.design(), checkAdapter(this.design())];
    return told.map((finding) => ({ finding, mended: mend(design, finding, before) }));
  });
  protected readonly notes = computed(() => this.findings().filter(({ severity }) => severity === 'note'));
  protected readonly title = computed(() => {
    const told = this.told();
    if (this.design().joins.length === 0) return 'Nothing is joined yet';
    if (told.length === 0) return 'No rule speaks against it';
    const wrong = told.filter(({ finding }) => finding.severity === 'wrong').length;
    return wrong > 0 ? `${wrong} wrong, ${told.length - wrong} unsure` : `${told.length} unsure`;
  });

  protected placesOf({ join: { from, to } }: SuggestedJoin): string[] {
    return [placeWords(from), placeWords(to)];
  }

  protected key(each: SuggestedJoin): string {
    return this.placesOf(each).join();
  }
}
