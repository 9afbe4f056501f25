import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import { chooseShrink, typedNumber, type ShrinkChoice } from '@near-spoke/core';
import { SaveTable } from '../ui/save-table';

/** Which tube passes over the biggest thing and grips the smallest, and how much to cut. */
@Component({
  selector: 'ns-heat-shrink',
  imports: [SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Heat-shrink for a joint</h2>
    <label>
      Biggest thing it must pass over, mm
      <input inputmode="decimal" [value]="over()" (input)="over.set($any($event.target).value)" />
    </label>
    <label>
      Smallest thing it must grip, mm
      <input inputmode="decimal" [value]="grip()" (input)="grip.set($any($event.target).value)" />
    </label>
    <label>
      Length to cover, mm
      <input inputmode="decimal" [value]="cover()" (input)="cover.set($any($event.target).value)" />
    </label>
    <div role="status">
      @if (answer().why; as why) {
        <p class="wrong">{{ why }}</p>
      } @else if (answer().choices.length === 0) {
        <p>No tube does both: shrink a second one inside, or wind self-amalgamating tape first.</p>
      } @else {
        <table #saved>
          <thead>
            <tr>
              <th scope="col">Tube</th>
              <th scope="col">Shrinks to</th>
              <th scope="col">Passes by</th>
              <th scope="col">Cut</th>
            </tr>
          </thead>
          <tbody>
            @for (choice of answer().choices; track $index; let first = $first) {
              <tr [class.best]="first">
                <th scope="row">{{ choice.tube.suppliedMm }} mm, {{ choice.tube.ratio }}</th>
                <td>{{ choice.tube.recoveredMm.toFixed(1) }} mm</td>
                <td>{{ choice.passesByMm.toFixed(1) }} mm</td>
                <td>{{ choice.cutMm }} mm</td>
              </tr>
            }
          </tbody>
        </table>
        <ns-save-table [table]="saved" name="Tubes" />
      }
    </div>
    <p class="small quiet">
      Snuggest first. It goes on before the joint is made. Cut longer than you cover: tube loses up to a tenth
      of its length. Typical sizes: the reel’s label wins.
    </p>
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
    label {
      display: grid;
      grid-template-columns: 1fr 96px;
      gap: 12px;
      align-items: center;
    }
    input {
      font: 500 16px var(--figures);
      min-height: 44px;
      min-width: 0;
      padding: 0 10px;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--rule-firm);
      border-radius: 6px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: 15px;
    }
    th,
    td {
      text-align: left;
      font-weight: 400;
      padding: 5px 6px 5px 0;
      border-bottom: 1px solid var(--rule);
      font-variant-numeric: tabular-nums;
    }
    .best th,
    .best td {
      font-weight: 700;
    }
  `,
})
export class HeatShrink {
  protected readonly over = signal('4.0');
  protected readonly grip = signal('2.9');
  protected readonly cover = signal('30');
  protected readonly answer = computed((): { choices: readonly ShrinkChoice[]; why: string } => {
    const given = {
      passOverMm: typedNumber(this.over()),
      gripMm: typedNumber(this.grip()),
      coverMm: typedNumber(this.cover()),
    };
    if (Object.values(given).some((mm) => !(mm > 0)))
      return { choices: [], why: 'Give all three as lengths over 0 mm.' };
    if (given.gripMm > given.passOverMm)
      return {
        choices: [],
        why: 'What it grips cannot be bigger than what it passes over: exchange the two.',
      };
    return { choices: chooseShrink(given).slice(0, 6), why: '' };
  });
}
