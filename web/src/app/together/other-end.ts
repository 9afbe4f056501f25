import { ChangeDetectionStrategy, Component, computed, effect, inject, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Tones } from '../preferences/tones';
import { InTheWay } from './in-the-way';
import { contactsAt, Together } from './together';

/** What the other end is doing just now, and what this one tells it besides answers. */
@Component({
  selector: 'ns-other-end',
  imports: [MatButtonModule, InTheWay],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status" [class.ready]="theirOn()" [class.called]="called()">
      <strong>{{ words() }}</strong>
      @if (called()) {
        <span class="call">They call you.</span>
      }
    </p>
    <ns-in-the-way />
    @if (together.state()?.next) {
      <div class="row">
        @if (hasHands()) {
          <button
            matButton="outlined"
            class="main-action grow"
            [disabled]="mineOn() || together.waiting() || !mine()"
            (click)="on()"
          >
            {{ onWords() }}
            <kbd>O</kbd>
          </button>
        }
        <button matButton="outlined" class="main-action" [disabled]="together.waiting()" (click)="call()">
          Call them <kbd>C</kbd>
        </button>
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
    p[role='status'] {
      margin: 0;
    }
    .ready strong::before {
      content: '● ';
      color: var(--good, currentColor);
    }
    .called {
      outline: 2px solid var(--accent);
      padding: 8px 12px;
      border-radius: var(--round);
    }
    .call {
      margin-left: 0.5em;
    }
    .row {
      display: flex;
      gap: 10px;
      flex-wrap: wrap;
    }
    .grow {
      flex: 1;
    }
  `,
})
export class OtherEnd {
  protected readonly together = inject(Together);
  private readonly tones = inject(Tones);
  private readonly state = this.together.state;
  protected readonly mine = computed(
    () => contactsAt(this.state()?.next ?? null, this.together.end()).length > 0,
  );
  /** Whether this end does something by hand; a tester reads by itself. */
  protected readonly hasHands = computed(
    () => this.state()?.list?.over !== 'remote' || this.together.end() === 'far',
  );
  protected readonly onWords = computed(() => {
    if (!this.mine()) return 'Nothing to touch at your end';
    const far = this.together.end() === 'far';
    if (far && this.state()?.list?.over === 'remote')
      return this.mineOn() ? 'The remote is in' : 'I have plugged it in';
    const joins = far && (this.state()?.next?.join.length ?? 0) > 0;
    if (joins) return this.mineOn() ? 'They are joined' : 'I have joined them';
    return this.mineOn() ? 'Your probe is on' : 'My probe is on';
  });
  private readonly theirs = computed(() => contactsAt(this.state()?.next ?? null, this.together.other()));
  protected readonly mineOn = computed(() => this.state()?.on[this.together.end()] === true);
  protected readonly theirOn = computed(() => this.state()?.on[this.together.other()] === true);
  protected readonly called = computed(() => this.state()?.calls === this.together.other());
  protected readonly words = computed(() => {
    const state = this.state();
    const end = this.together.other();
    if (!state) return '';
    const people = state.people[end];
    if (people.length === 0) return `Nobody has come to the ${end} end yet.`;
    const who = people.join(' and ');
    if (!state.next)
      return `${who} at the ${end} end: ${state.list ? 'all is touched' : 'the map is known'}.`;
    const touch = this.theirs()
      .map((contacts) => contacts.join(' + '))
      .join(', and ');
    if (touch === '') return `${who} at the ${end} end: nothing to touch there.`;
    return this.theirOn()
      ? `${who} at the ${end} end is on ${touch}.`
      : `${who} at the ${end} end: goes to ${touch}.`;
  });

  constructor() {
    effect(() => {
      if (!this.called()) return;
      untracked(() => this.tones.verdict(undefined));
      // Felt in a pocket, where the device can.
      if ('vibrate' in navigator) navigator.vibrate([200, 100, 200]);
    });
  }

  on(): void {
    const state = this.state();
    if (state && this.mine() && !this.mineOn())
      this.together.tell({ does: 'on', touch: state.answers.length });
  }

  call(): void {
    this.together.tell({ does: 'called' });
  }
}
