import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { InTheWay } from './in-the-way';
import { Together } from './together';

const LETTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];

/** Names to begin with: letters, and from the 27th on two of them. */
const someNames = (count: number): string[] =>
  Array.from({ length: count }, (_, i) =>
    i < LETTERS.length
      ? (LETTERS[i] as string)
      : `${LETTERS[Math.floor(i / LETTERS.length) - 1]}${LETTERS[i % LETTERS.length]}`,
  );

/** Unmarked conductors told apart by two: A joins, B says which beep, round by round. */
@Component({
  selector: 'ns-wires-by-two',
  imports: [FormsModule, MatButtonModule, MatFormFieldModule, MatInputModule, InTheWay],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (wires(); as wires) {
      <p class="quiet small" role="status">{{ others() }}</p>
      <ns-in-the-way />
      @if (wires.told; as told) {
        <h3>Every conductor is known</h3>
        <ol class="names" aria-label="Number at A and name at B">
          @for (line of told; track line.number) {
            <li>
              <span class="figure">{{ line.number }}</span> is <strong>{{ line.name }}</strong>
            </li>
          }
        </ol>
        <p class="quiet">Undo every join, and mark both ends before you leave.</p>
      } @else if (wires.mistake) {
        <p role="alert">{{ wires.mistake }}</p>
      } @else if (wires.names === null) {
        @if (atA()) {
          <h3>Number them 1 to {{ wires.count }} at your end</h3>
          <p>Any order will do. The other end gives each a name meanwhile.</p>
        } @else {
          <h3>Give each of the {{ wires.count }} a name at your end</h3>
          <mat-form-field>
            <mat-label>Names, parted by spaces</mat-label>
            <textarea matInput name="names" rows="3" spellcheck="false" [(ngModel)]="names"></textarea>
          </mat-form-field>
          <button matButton="filled" class="main-action" [disabled]="together.waiting()" (click)="name()">
            These are their names
          </button>
        }
      } @else if (wires.round; as round) {
        <p class="small quiet">Round {{ wires.found.length + 1 }} of {{ wires.rounds }}</p>
        @if (atA()) {
          @if (wires.joined > wires.found.length) {
            <h3>Leave them joined</h3>
            <p>The other end looks which beep.</p>
          } @else {
            <h3>Undo all joins, then join these {{ to() }}</h3>
            <p class="figure join" aria-live="polite">{{ round.join.join('  ') }}</p>
            <button matButton="filled" class="main-action" [disabled]="together.waiting()" (click)="joined()">
              Joined and proved
            </button>
          }
        } @else if (wires.joined > wires.found.length) {
          <h3>Which beep {{ with() }}?</h3>
          <div class="chips" role="group" aria-label="Those that beep">
            @for (one of wires.names; track one) {
              <button
                matButton="outlined"
                [class.beeps]="beeping().includes(one)"
                [attr.aria-pressed]="beeping().includes(one)"
                (click)="toggle(one)"
              >
                {{ one }}
              </button>
            }
          </div>
          <button matButton="filled" class="main-action" [disabled]="together.waiting()" (click)="found()">
            {{ beepWords() }}
          </button>
        } @else {
          <h3>Wait: the other end is joining</h3>
          <p>It says so here when they are joined.</p>
        }
      }
      @if (missing(); as trouble) {
        <p role="alert">{{ trouble }}</p>
      }
      @if (wires.found.length > 0) {
        <button matButton [disabled]="together.waiting()" (click)="from(wires.found.length - 1)">
          Do round {{ wires.found.length }} again
        </button>
        @if (wires.mistake) {
          <button matButton="filled" class="main-action" [disabled]="together.waiting()" (click)="from(0)">
            Begin the rounds again
          </button>
        }
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
    }
    h3,
    p {
      margin: 0;
    }
    .join {
      font-size: 30px;
      line-height: 1.4;
      font-weight: 700;
      padding: 12px 16px;
      border: 2px solid var(--ink);
      border-radius: var(--round);
      white-space: pre-wrap;
    }
    /* Nothing moves under a finger that taps one after the other. */
    .chips {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(56px, 1fr));
      gap: 8px;
    }
    .chips button {
      min-width: 0;
      min-height: 48px;
      padding: 0 4px;
    }
    .chips button.beeps {
      background: var(--accent);
      color: var(--sheet);
    }
    .names {
      columns: 8em auto;
      padding: 0;
      list-style: none;
    }
  `,
})
export class WiresByTwo {
  protected readonly together = inject(Together);
  protected readonly wires = computed(() => this.together.state()?.wires ?? null);
  protected readonly atA = computed(() => this.together.end() === 'near');
  // Figures of their own: whatever else the other end tells leaves what was typed and tapped here as it is.
  private readonly count = computed(() => this.wires()?.count ?? 0);
  private readonly round = computed(() => this.wires()?.found.length ?? 0);
  protected readonly names = linkedSignal({
    source: this.count,
    computation: (count) => someNames(count).join(' '),
  });
  /** Chosen anew for each round. */
  protected readonly beeping = linkedSignal<number, readonly string[]>({
    source: this.round,
    computation: () => [],
  });
  protected readonly missing = signal('');
  protected readonly others = computed(() => {
    const people = this.together.state()?.people[this.together.other()] ?? [];
    const end = this.atA() ? 'B' : 'A';
    return people.length > 0 ? `${people.join(' and ')} at ${end}.` : `Nobody has come to ${end} yet.`;
  });
  protected readonly to = computed(() => {
    const to = this.wires()?.round?.to;
    return to === 'return' ? 'to the return' : to === 'second' ? 'to number 2' : 'to each other';
  });
  protected readonly with = computed(() => {
    const wires = this.wires();
    if (wires?.round?.to === 'return') return 'with the return';
    return wires?.round?.to === 'second' && wires.serving
      ? `with ${wires.serving}`
      : 'with each other (two do)';
  });

  protected readonly beepWords = computed(() => {
    const count = this.beeping().length;
    return count === 0 ? 'None beeps' : `${count} ${count === 1 ? 'beeps' : 'beep'}, the others do not`;
  });

  protected toggle(name: string): void {
    this.beeping.update((all) => (all.includes(name) ? all.filter((one) => one !== name) : [...all, name]));
  }

  protected name(): void {
    const names = this.names()
      .split(/[\s,;]+/)
      .filter((word) => word !== '');
    const count = this.wires()?.count ?? 0;
    const twice = names.find((one, i) => names.indexOf(one) !== i);
    this.missing.set(
      twice !== undefined
        ? `${twice} is written twice: each conductor has a name of its own.`
        : names.length !== count
          ? `There are ${count} conductors, and ${names.length} names.`
          : '',
    );
    if (this.missing() === '') this.together.tell({ does: 'named', names });
  }

  protected joined(): void {
    this.together.tell({ does: 'joined', round: this.wires()?.found.length ?? 0 });
  }

  protected found(): void {
    this.together.tell({
      does: 'found',
      round: this.wires()?.found.length ?? 0,
      names: [...this.beeping()],
    });
  }

  /** Goes through the rounds again, from one on. */
  protected from(round: number): void {
    this.together.tell({ does: 'took-back', touch: round });
  }
}
