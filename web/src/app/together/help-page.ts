import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Mark } from '../drawing/mark';
import { Speaking } from '../hearing/speaking';
import { Keys } from '../keys/keys';
import { Tones } from '../preferences/tones';
import { OtherEnd } from './other-end';
import { contactsAt, Together, type End } from './together';
import { WiresByTwo } from './wires-by-two';

/** For somebody at the other end, without an account: the code, then one touch after the other. */
@Component({
  selector: 'ns-help-page',
  imports: [
    FormsModule,
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatInputModule,
    Mark,
    OtherEnd,
    WiresByTwo,
  ],
  providers: [Together],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <header><ns-mark [size]="32" /> <strong>Near Spoke</strong></header>
      @if (together.state(); as state) {
        <section class="sheet" aria-labelledby="help-title">
          <p class="quiet small">
            {{ state.label }}{{ state.wires ? '' : ', ' + together.end() + ' end' + place(state.ends) }}. With
            {{ state.startedBy }}.
          </p>
          @if (!state.ended) {
            <p class="small caution">
              <strong>Care:</strong> nothing plugged in or live at your end, and nobody else working on the
              cable.
            </p>
          }
          @if (state.ended) {
            <h1 id="help-title" tabindex="-1">It is done</h1>
            <p>The other end has ended it. What was answered is kept there. Thank you.</p>
            <button matButton="outlined" class="main-action" (click)="together.leave()">
              Help with another
            </button>
          } @else if (state.wires) {
            <h1 id="help-title">{{ together.end() === 'near' ? 'You are at A' : 'You are at B' }}</h1>
            <ns-wires-by-two />
          } @else if (state.next; as next) {
            <h1 id="help-title">{{ title() }}</h1>
            @for (contacts of mine(); track $index) {
              <p class="figure touch" [class.place]="state.list?.over === 'remote'" aria-live="polite">
                {{ contacts.join(' + ') }}
              </p>
            } @empty {
              <p>This touch is made at the {{ together.other() }} end alone. The next may be yours.</p>
            }
            @if (next.sweep && next.to.end === together.end()) {
              <p class="small">One after the other, and not all at once.</p>
            }
            <ns-other-end />
            @if (state.list?.over === 'remote') {
              <p class="quiet small">
                {{ state.answers.length }} of {{ state.list?.touches }} are read. The next one comes by itself
                once this is read at the other end.
              </p>
            } @else {
              <div class="row">
                <button
                  matButton="filled"
                  class="main-action grow"
                  [disabled]="together.waiting()"
                  (click)="answer(true)"
                >
                  It beeps <kbd>Page Down</kbd>
                </button>
                <button
                  matButton="outlined"
                  class="main-action grow"
                  [disabled]="together.waiting()"
                  (click)="answer(false)"
                >
                  Silent <kbd>Page Up</kbd>
                </button>
              </div>
              <p class="quiet small">
                Whoever has the beeper answers. Touch {{ state.answers.length + 1 }}; it
                {{ next.should ? 'should beep' : 'should be silent' }}.
              </p>
            }
          } @else {
            <h1 id="help-title" tabindex="-1">
              {{ state.list ? 'All is touched' : 'The whole map is known' }}
            </h1>
            <p>{{ state.answers.length }} touches. It is saved at the other end.</p>
            <ns-other-end />
          }
          @if (!state.wires && !state.ended && state.list?.over !== 'remote') {
            <button matButton [disabled]="state.answers.length === 0 || together.waiting()" (click)="undo()">
              Take the last answer back <kbd>Backspace</kbd>
            </button>
          }
        </section>
      } @else {
        <form class="sheet" (ngSubmit)="join()">
          <h1>Help at the other end</h1>
          <p class="quiet">The other end shows six letters. No account is needed.</p>
          <mat-form-field>
            <mat-label>Code</mat-label>
            <input
              matInput
              name="code"
              required
              maxlength="12"
              autocomplete="off"
              autocapitalize="characters"
              spellcheck="false"
              [(ngModel)]="typed"
            />
          </mat-form-field>
          <mat-form-field>
            <mat-label>Your name</mat-label>
            <input matInput name="name" required maxlength="40" autocomplete="name" [(ngModel)]="name" />
          </mat-form-field>
          <mat-button-toggle-group name="end" aria-label="The end that you are at" [(ngModel)]="end">
            <mat-button-toggle value="near">Near end</mat-button-toggle>
            <mat-button-toggle value="far">Far end</mat-button-toggle>
          </mat-button-toggle-group>
          @if (together.trouble(); as trouble) {
            <p role="alert">{{ trouble }}</p>
          }
          <button matButton="filled" class="main-action" [disabled]="together.waiting()">
            Come to this end
          </button>
          @if (missing(); as words) {
            <p class="small" role="status">{{ words }}</p>
          }
        </form>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 560px;
      margin: 0 auto;
      padding: 16px;
      display: grid;
      gap: 16px;
    }
    header {
      display: flex;
      align-items: center;
      gap: 10px;
    }
    section,
    form {
      padding: 18px 20px;
      display: grid;
      gap: 14px;
    }
    h1,
    p {
      margin: 0;
    }
    .caution {
      border-left: 5px solid var(--unsure);
      padding-left: 10px;
    }
    mat-button-toggle-group {
      justify-self: start;
    }
    .touch {
      font-size: 64px;
      line-height: 1.1;
      font-weight: 700;
      padding: 14px 18px;
      border: 2px solid var(--ink);
      border-radius: var(--round);
      overflow-wrap: anywhere;
    }
    .place {
      font-size: 34px;
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
export class HelpPage {
  protected readonly together = inject(Together);
  private readonly tones = inject(Tones);
  private readonly otherEnd = viewChild(OtherEnd);
  /** From the address, where a symbol was read. */
  readonly code = input<string>();
  protected readonly typed = linkedSignal(() => this.code() ?? '');
  protected readonly name = signal('');
  protected readonly end = signal<End>('far');
  protected readonly missing = signal('');
  protected readonly mine = computed(() =>
    contactsAt(this.together.state()?.next ?? null, this.together.end()),
  );

  constructor() {
    this.together.resume();
    const speaking = inject(Speaking);
    effect(() => {
      const mine = this.mine();
      if (mine.length > 0) speaking.say(mine.map((contacts) => contacts.join(', ')).join(', and '));
    });
    const asked = (): boolean => !!this.together.state()?.next;
    // Where a tester reads, its end answers.
    const answers = (): boolean => asked() && this.together.state()?.list?.over !== 'remote';
    const until = inject(DestroyRef);
    until.onDestroy(() => speaking.hush());
    inject(Keys).use(
      [
        { key: 'PageDown', words: 'it beeps', run: () => this.answer(true), when: answers },
        { key: 'PageUp', words: 'it stays silent', run: () => this.answer(false), when: answers },
        { key: 'o', words: 'my probe is on', run: () => this.otherEnd()?.on(), when: asked },
        { key: 'c', words: 'call the other end', run: () => this.otherEnd()?.call(), when: asked },
        { key: 'Backspace', words: 'take the last answer back', run: () => this.undo(), when: answers },
      ],
      until,
    );
  }

  /** What hands at this end do. */
  protected readonly title = computed(() => {
    const state = this.together.state();
    const next = state?.next;
    if (!next) return '';
    const [here, list] = [this.mine().length > 0, state.list];
    if (!list) return here ? 'Put your lead on' : 'Keep your lead off';
    if (list.over === 'remote') return 'Plug the remote in at';
    if (this.together.end() === 'near') return here ? 'Put the meter on' : 'Keep the meter off';
    if (next.from.end === 'far' && next.to.end === 'far') return 'The meter is wanted at your end: touch';
    if (next.join.length > 0) return 'Join these, and nothing else';
    return here ? 'Hold the known conductor to' : 'Join nothing';
  });

  protected place(ends: { near: string; far: string }): string {
    const place = ends[this.together.end()].trim();
    return place === '' ? '' : ` at ${place}`;
  }

  protected join(): void {
    const [code, name] = [this.typed().trim(), this.name().trim()];
    this.missing.set(code === '' ? 'Give the code first.' : name === '' ? 'Give your name first.' : '');
    if (this.missing() === '') this.together.join(code, name, this.end());
  }

  protected answer(closed: boolean): void {
    const state = this.together.state();
    if (!state?.next || this.together.waiting()) return;
    this.together.tell({ does: 'answered', touch: state.answers.length, closed });
    if (closed === state.next.should || state.next.why === 'search') this.tones.right();
    else this.tones.wrong();
  }

  protected undo(): void {
    const state = this.together.state();
    if (state && state.answers.length > 0)
      this.together.tell({ does: 'took-back', touch: state.answers.length - 1 });
  }
}
