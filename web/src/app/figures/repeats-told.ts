import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import type { CrewWorkmanship } from '@near-spoke/contracts';
import { repeatWords, type Repeat } from '@near-spoke/core/workmanship';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Asking } from '../ui/asking';

/** What repeats in a hand, a tool or a lot, told to a lead once: what it rests on, and what helps. */
@Component({
  selector: 'ns-repeats-told',
  imports: [MatButtonModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asking.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    @for (one of shown(); track one.repeat.key) {
      <section class="sheet" [attr.aria-label]="one.words.headline">
        <h2>{{ one.words.headline }}</h2>
        <p class="small quiet">{{ one.words.rests }}</p>
        <p>{{ one.words.help }}</p>
        <button matButton="outlined" [disabled]="asking.busy()" (click)="seen(one.repeat)">
          I see to it
        </button>
      </section>
    }
  `,
  styles: `
    section {
      display: grid;
      gap: 6px;
      justify-items: start;
      padding: 16px 20px;
      margin-bottom: 12px;
      border-left: 6px solid var(--accent);
    }
    h2 {
      font-size: 18px;
    }
  `,
})
export class RepeatsTold {
  private readonly api = inject(Api);
  protected readonly asking = new Asking();
  private readonly read = rxResource({ stream: () => this.api.call('workmanship', {}) });
  private readonly made = linkedSignal((): CrewWorkmanship | null =>
    this.read.hasValue() ? this.read.value() : null,
  );
  protected readonly shown = computed(() => {
    const made = this.made();
    return (made?.repeats ?? [])
      .filter(({ key }) => made?.told.includes(key))
      .map((repeat) => ({ repeat, words: repeatWords(repeat) }));
  });

  protected seen({ key, count }: Repeat): void {
    this.asking.ask(this.api.call('tellRepeat', { body: { key, count } }), (made) => this.made.set(made));
  }
}
