import { ChangeDetectionStrategy, Component, computed, input, model, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { FunctionTrial } from '@near-spoke/contracts';

const MOST = 40;

/** What has to happen once the thing is connected: lines that a person writes, each tried and answered. */
@Component({
  selector: 'ns-function-test',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>What it has to do once it is connected</h3>
    @if (lines().length > 0) {
      <ol>
        @for (line of lines(); track $index; let n = $index) {
          <li>
            <span [class.wrong]="line.does === false">{{ line.what }}</span>
            <span class="row" role="group" [attr.aria-label]="line.what">
              <button
                matButton="outlined"
                type="button"
                [attr.aria-pressed]="line.does === true"
                (click)="answer(n, true)"
              >
                {{ line.does === true ? '● Does' : 'Does' }}
              </button>
              <button
                matButton="outlined"
                type="button"
                [attr.aria-pressed]="line.does === false"
                (click)="answer(n, false)"
              >
                {{ line.does === false ? '▲ Does not' : 'Does not' }}
              </button>
              <button
                matButton
                type="button"
                [attr.aria-label]="'Leave out: ' + line.what"
                (click)="leaveOut(n)"
              >
                Leave out
              </button>
            </span>
          </li>
        }
      </ol>
    }
    <form class="row" (submit)="$event.preventDefault(); add()">
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>When I do this, that happens</mat-label>
        <input #box matInput maxlength="120" [value]="typed()" (input)="typed.set(box.value)" />
      </mat-form-field>
      <button matButton="outlined" type="submit" [disabled]="!canAdd()">Add it</button>
    </form>
    @if (lines().length === 0 && before().length > 0) {
      <button matButton type="button" (click)="takeBefore()">
        As the last one: {{ before().join('; ') }}
      </button>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      width: 100%;
    }
    ol {
      display: grid;
      gap: 4px;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 4px 12px;
      align-items: center;
      border-bottom: 1px solid var(--rule);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
    }
    mat-form-field {
      flex: 1 1 240px;
      max-width: 420px;
    }
    [aria-pressed='true'] {
      background: var(--accent-soft);
    }
    @media (max-width: 700px) {
      li {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class FunctionTest {
  readonly lines = model.required<readonly FunctionTrial[]>();
  /** What the last one of its kind had to do. */
  readonly before = input<readonly string[]>([]);
  protected readonly typed = signal('');
  protected readonly canAdd = computed(() => this.typed().trim() !== '' && this.lines().length < MOST);

  protected add(): void {
    if (!this.canAdd()) return;
    const what = this.typed().trim();
    this.lines.update((lines) => [...lines, { what, does: null }]);
    this.typed.set('');
  }

  protected takeBefore(): void {
    this.lines.set(this.before().map((what) => ({ what, does: null })));
  }

  /** An answer given again is taken back. */
  protected answer(n: number, does: boolean): void {
    this.lines.update((lines) =>
      lines.map((line, i) => (i === n ? { ...line, does: line.does === does ? null : does } : line)),
    );
  }

  protected leaveOut(n: number): void {
    this.lines.update((lines) => lines.filter((_, i) => i !== n));
  }
}
