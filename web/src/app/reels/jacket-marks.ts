import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import {
  BadMarks,
  formatCableLength,
  lengthByMarks,
  type MarkedLength,
  type MarkUnit,
} from '@near-spoke/core';
import { Preferences } from '../preferences/preferences';

/** A length as its jacket's marks tell it, and the marks in words. */
export interface ToldByMarks extends MarkedLength {
  words: string;
}

/** A length from the figures printed along a cable: one where it begins, one where it ends. */
@Component({
  selector: 'ns-jacket-marks',
  imports: [MatButtonModule, MatButtonToggleModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!open()) {
      <button matButton type="button" (click)="open.set(true)">By the marks on its jacket</button>
    } @else {
      <div class="marks" role="group" aria-label="Marks on the jacket">
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>Mark at one end</mat-label>
          <input #one matInput inputmode="decimal" autocomplete="off" (input)="first.set(one.value)" />
        </mat-form-field>
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>Mark at the other</mat-label>
          <input #two matInput inputmode="decimal" autocomplete="off" (input)="second.set(two.value)" />
        </mat-form-field>
        <mat-button-toggle-group
          aria-label="Marks count"
          hideSingleSelectionIndicator
          [value]="unit()"
          (change)="unit.set($event.value)"
        >
          <mat-button-toggle value="m">metres</mat-button-toggle>
          <mat-button-toggle value="ft">feet</mat-button-toggle>
        </mat-button-toggle-group>
        <p role="status" [class.wrong]="read().problem !== ''">{{ read().problem || said() }}</p>
        <button matButton="outlined" type="button" [disabled]="!read().told" (click)="take()">
          Take this length
        </button>
      </div>
    }
  `,
  styles: `
    .marks {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
    }
    mat-form-field {
      flex: 1 1 130px;
    }
    p {
      flex-basis: 100%;
      margin: 0;
    }
    .wrong {
      color: var(--wrong);
    }
  `,
})
export class JacketMarks {
  private readonly units = inject(Preferences).units;
  readonly told = output<ToldByMarks>();

  protected readonly open = signal(false);
  protected readonly first = signal('');
  protected readonly second = signal('');
  protected readonly unit = linkedSignal<MarkUnit>(() => (this.units() === 'metric' ? 'm' : 'ft'));
  protected readonly read = computed((): { told: MarkedLength | null; problem: string } => {
    const [first, second] = [this.first().trim(), this.second().trim()];
    if (first === '' || second === '') return { told: null, problem: '' };
    try {
      return { told: lengthByMarks(first, second, this.unit()), problem: '' };
    } catch (error) {
      if (!(error instanceof BadMarks)) throw error;
      return { told: null, problem: error.message };
    }
  });
  protected readonly said = computed(() => {
    const { told } = this.read();
    if (!told) return 'Their difference is the length, whichever way they count.';
    const length = (metres: number): string =>
      formatCableLength(metres, this.unit() === 'm' ? 'metric' : 'imperial');
    return `${length(told.lengthM)}, give or take ${length(told.u95M)}${told.wentOver ? '; the counter went over between them' : ''}.`;
  });

  protected take(): void {
    const { told } = this.read();
    if (!told) return;
    this.told.emit({
      ...told,
      words: `marks ${this.first().trim()} to ${this.second().trim()} ${this.unit()}`,
    });
    this.open.set(false);
    this.first.set('');
    this.second.set('');
  }
}
