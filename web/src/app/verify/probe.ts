import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  fewestTouches,
  isSurprise,
  linkProofCost,
  namedBy,
  probeMap,
  touchesOf,
  type AskedTouch,
  type ContactGroup,
  type LinkEnd,
  type LinkExpectation,
  type ProbeWay,
  type Reading,
} from '@near-spoke/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { CrewHands } from '../adapters/crew-hands';
import { ListenPanel } from '../hearing/listen-panel';
import { Speaking } from '../hearing/speaking';
import { Keys } from '../keys/keys';
import { Preferences } from '../preferences/preferences';
import { Tones } from '../preferences/tones';
import { CodeSign } from '../together/code-sign';
import { OtherEnd } from '../together/other-end';
import { Together } from '../together/together';

/** Leads a beeper through the fewest touches that prove a map: one key for each answer. */
@Component({
  selector: 'ns-probe',
  imports: [MatButtonModule, MatButtonToggleModule, ListenPanel, CodeSign, OtherEnd],
  providers: [Together],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet" aria-labelledby="probe-title">
      <p class="quiet small">
        Beeper, one person at each end. Touch {{ answers().length + 1 }} of about
        {{ fewest().paths + fewest().isolation }}: {{ fewest().paths }} for the paths and
        {{ fewest().isolation }} for all shorts together. Every pair by itself would be
        {{ fewest().allPairs }}.
      </p>
      @if (answers().length === 0 && !together.state()) {
        <mat-button-toggle-group
          aria-label="How you meter"
          [value]="way()"
          (change)="preferences.proveWith($event.value === 'clips' ? 'gangs' : 'probes')"
        >
          <mat-button-toggle value="probes">Two probes, {{ cost('probes') }}</mat-button-toggle>
          <mat-button-toggle value="clips">Clips, {{ cost('clips') }}</mat-button-toggle>
        </mat-button-toggle-group>
      }
      @if (together.state()?.ended) {
        <h2 id="probe-title" tabindex="-1">It was saved at the other end</h2>
        <p role="status">
          {{ answers().length }} touches, kept as one reading. Open the link anew to see it.
        </p>
      } @else if (touch(); as touch) {
        <h2 id="probe-title">{{ why(touch) }}</h2>
        <div class="leads" aria-live="polite">
          <div>
            <span class="quiet small">
              {{ overFrom(touch) ? 'this one over these, one by one' : 'one lead' }}, {{ touch.from.end }} end
            </span>
            <strong class="figure">{{ gang(touch.from, overFrom(touch)) }}</strong>
          </div>
          <div>
            <span class="quiet small">
              {{ touch.sweep && !overFrom(touch) ? 'the other over these, one by one' : 'other lead' }},
              {{ touch.to.end }} end
            </span>
            <strong class="figure">{{ gang(touch.to, touch.sweep) }}</strong>
          </div>
        </div>
        @if (together.state()) {
          <ns-other-end />
        }
        @if (named(); as trouble) {
          <p role="status" class="wrong">
            <strong>Named: {{ trouble }}.</strong>
            <button matButton (click)="save()">Save what is known <kbd>Enter</kbd></button>
          </p>
        }
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
      } @else {
        <h2 id="probe-title" tabindex="-1">
          {{ state().step === 'proved' ? 'The map is proved' : 'The whole map is known' }}
        </h2>
        <p role="status">
          {{ answers().length }} touches.
          {{
            state().step === 'proved'
              ? 'Every contact reaches its place, and no two are joined.'
              : 'It is not the map that was meant: save it, and it will be judged.'
          }}
        </p>
        <button matButton="filled" class="main-action" (click)="save()">
          Save the reading <kbd>Enter</kbd>
        </button>
      }
      <div class="row">
        <button matButton [disabled]="answers().length === 0" (click)="undo()">
          Take the last answer back <kbd>Backspace</kbd>
        </button>
        <button matButton (click)="left.emit()">Leave without saving <kbd>Esc</kbd></button>
      </div>
      @if (linkId(); as linkId) {
        <div class="together">
          @if (together.state()) {
            <ns-code-sign />
          } @else {
            <button
              matButton="outlined"
              class="main-action"
              [disabled]="together.waiting() || answers().length > 0"
              (click)="together.begin(linkId)"
            >
              Show it at the other end too
            </button>
            <p class="small quiet">
              {{
                answers().length > 0
                  ? 'Take the answers back first: both ends begin together.'
                  : 'A helper sees on their own phone what to touch, and you see when they are on it.'
              }}
            </p>
            @if (together.trouble(); as trouble) {
              <p role="alert">{{ trouble }}</p>
            }
          }
        </div>
      }
      <ns-listen-panel
        class="listen"
        [asks]="touch() !== null"
        (answered)="answer($event)"
        (takenBack)="undo()"
      />
    </section>
  `,
  styles: `
    section {
      padding: 18px 22px;
      display: grid;
      gap: 14px;
    }
    .leads {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 14px;
      > div {
        display: grid;
        gap: 4px;
        padding: 14px 18px;
        border: 2px solid var(--ink);
        border-radius: var(--round);
      }
      strong {
        font-size: 34px;
        line-height: 1.15;
        overflow-wrap: anywhere;
      }
    }
    mat-button-toggle-group {
      justify-self: start;
      flex-wrap: wrap;
    }
    .row {
      display: flex;
      gap: 10px;
      flex-wrap: wrap;
    }
    .grow {
      flex: 1;
    }
    .together {
      display: grid;
      gap: 10px;
      > button {
        justify-self: start;
      }
    }
    .together,
    .listen {
      border-top: 1px solid var(--rule);
      padding-top: 12px;
    }
  `,
})
export class Probe {
  private readonly tones = inject(Tones);
  private readonly crewHands = inject(CrewHands);
  protected readonly preferences = inject(Preferences);
  readonly expected = input.required<LinkExpectation>();
  /** A reading, and the id that it is kept under however often it is saved. */
  readonly taken = output<{ reading: Reading; id: string }>();
  readonly left = output<void>();

  /** Where the link is, if another end can be asked along. */
  readonly linkId = input<string | null>(null);
  /** The end at which this person comes to a proof that is going on; null where they begin one. */
  readonly comesTo = input<LinkEnd | null>(null);

  protected readonly together = inject(Together);
  private readonly otherEnd = viewChild(OtherEnd);
  private readonly own = signal<readonly boolean[]>([]);
  /** For a retry the same, so that nothing is added twice, and another for other answers. */
  private readonly id = linkedSignal<string>(() => {
    this.own();
    return crypto.randomUUID();
  });
  /** Answers of this device, or of both ends. */
  protected readonly answers = computed(() => this.together.state()?.answers ?? this.own());
  /** Two ends that are shown one proof use probes, whatever either device likes. */
  protected readonly way = computed((): ProbeWay => {
    const clips = this.preferences.proofWay() === 'gangs' && !this.together.state();
    return clips ? 'clips' : 'probes';
  });
  protected readonly costs = computed(() => ({
    probes: linkProofCost(this.expected(), 'probes', this.crewHands.hands() ?? undefined),
    clips: linkProofCost(this.expected(), 'clips', this.crewHands.hands() ?? undefined),
  }));
  private readonly made = computed(() => touchesOf(this.expected(), this.answers(), this.way()));
  protected readonly state = computed(() => probeMap(this.expected(), this.answers(), this.way()));
  protected readonly touch = computed(() => {
    const state = this.state();
    return state.step === 'touch' ? state.touch : null;
  });
  /** What is wrong, as soon as that is beyond reasonable doubt: the rest need not be touched. */
  protected readonly named = computed(() => {
    const { touches, surprised } = this.made();
    return surprised ? namedBy(this.expected(), touches) : null;
  });
  protected readonly fewest = computed(() => fewestTouches(this.expected(), this.way()));

  constructor() {
    const asking = (): boolean => this.touch() !== null;
    const shared = (): boolean => asking() && this.together.state() !== null;
    effect(() => {
      const [linkId, end] = [this.linkId(), this.comesTo()];
      if (linkId !== null && end !== null) untracked(() => this.together.begin(linkId, end));
    });
    const speaking = inject(Speaking);
    effect(() => {
      const touch = this.touch();
      if (touch) speaking.say(`${spoken(touch.from)}, to ${spoken(touch.to)}`);
    });
    inject(DestroyRef).onDestroy(() => speaking.hush());
    inject(Keys).use(
      [
        { key: 'PageDown', words: 'it beeps', run: () => this.answer(true), when: asking },
        { key: 'PageUp', words: 'it stays silent', run: () => this.answer(false), when: asking },
        { key: 'Backspace', words: 'take the last answer back', run: () => this.undo() },
        {
          key: 'Enter',
          words: 'save the reading',
          run: () => this.save(),
          when: () => !asking() || this.named() !== null,
        },
        { key: 'o', words: 'my probe is on', run: () => this.otherEnd()?.on(), when: shared },
        { key: 'c', words: 'call the other end', run: () => this.otherEnd()?.call(), when: shared },
        { key: 'Escape', words: 'leave without saving', run: () => this.left.emit() },
      ],
      inject(DestroyRef),
    );
  }

  protected answer(closed: boolean): void {
    const touch = this.touch();
    if (!touch || this.together.waiting()) return;
    if (this.together.state()) this.together.tell({ does: 'answered', touch: this.answers().length, closed });
    else this.own.update((answers) => [...answers, closed]);
    if (isSurprise(touch, closed)) this.tones.wrong();
    else this.tones.right();
  }

  protected undo(): void {
    const last = this.answers().length - 1;
    if (last < 0 || this.together.waiting()) return;
    if (this.together.state()) this.together.tell({ does: 'took-back', touch: last });
    else this.own.update((answers) => answers.slice(0, -1));
  }

  protected save(): void {
    const state = this.together.state();
    if (state?.ended || (this.touch() !== null && this.named() === null)) return;
    const reading: Reading = { instrument: 'beeper', touches: [...this.made().touches] };
    // Whoever of two saves it, it is the same reading; it ends the proof once it is kept, and not before.
    this.taken.emit({ reading, id: state?.id ?? this.id() });
  }

  /** Contacts ganged, or gone over one by one. */
  protected gang({ contacts }: ContactGroup, sweep: boolean): string {
    return contacts.join(sweep ? ' ' : ' + ');
  }

  /** It is the first lead that goes over several. */
  protected overFrom({ from, sweep }: AskedTouch): boolean {
    return sweep && from.contacts.length > 1;
  }

  protected cost(way: ProbeWay): string {
    const { touches, seconds } = this.costs()[way];
    return `${touches} touches, about ${seconds < 90 ? `${Math.round(seconds / 5) * 5} s` : `${Math.round(seconds / 60)} min`}`;
  }

  protected why(touch: AskedTouch): string {
    if (touch.why === 'isolation')
      return touch.sweep
        ? 'Sweep: nothing should beep'
        : touch.to.contacts.length > 1
          ? 'Gang these contacts, and these: nothing should beep'
          : 'Between these nothing should beep';
    return touch.why === 'path' ? 'This path should beep' : 'Looking for where it goes';
  }
}

/** Contacts as they are read aloud, with pauses between. */
const spoken = ({ end, contacts }: ContactGroup): string => `${end} ${contacts.join(', ')}`;
