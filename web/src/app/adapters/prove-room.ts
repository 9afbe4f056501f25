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
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import type { AdapterBuild, NewBuild, TouchesByTwo } from '@near-spoke/contracts';
import {
  buildProof,
  gangWords,
  identifySeconds,
  judgeBuild,
  nextTouch,
  planIdentification,
  runWords,
  suspectsOf,
  type AdapterDesign,
  type ApartPlan,
  type HandPlan,
  type HeardTouch,
  type ProofWay,
  type ProofTouch,
  type WorkedUpAdapter,
} from '@near-spoke/core';
import { Keys } from '../keys/keys';
import { Preferences } from '../preferences/preferences';
import { Tones } from '../preferences/tones';
import { ListenPanel } from '../hearing/listen-panel';
import { Speaking } from '../hearing/speaking';
import { CodeSign } from '../together/code-sign';
import { OtherEnd } from '../together/other-end';
import { Together } from '../together/together';
import { MeasuredMap } from './measured-map';
import { builtWords } from './adapter-bench';
import { CrewHands } from './crew-hands';
import { PLAN_TOUCHES, type TouchPlans } from './touch-plans';

/** One question of a proof. */
interface Question {
  part: 'beeped' | 'parts' | 'supplies' | 'functions';
  n: number;
  touch: ProofTouch | null;
  words: string;
}
/** A question as it is read aloud: contacts with pauses between, nothing that eyes alone need. */
const spokenWords = ({ touch, words }: Question): string => {
  if (!touch) return words;
  const said = (places: ProofTouch['one'], lines: (some: ProofTouch['one']) => string[]): string =>
    lines(places).join(', ').replaceAll(' ', ', ');
  const joined = touch.joined ? `${said(touch.joined, gangWords)} joined: ` : '';
  return touch.sweep
    ? `${joined}${said(touch.one, gangWords)}: sweep ${said(touch.other, runWords)}`
    : `${joined}${said(touch.one, gangWords)}, to ${said(touch.other, gangWords)}`;
};
/** Contacts as both ends call them: end and contact. */
const namesOf = (points: ProofTouch['one']): string[] =>
  points.map(({ end, contact }) => `${end} ${contact}`);
const TITLES = {
  beeped: 'Nothing plugged in, parts not yet fitted or held open',
  parts: 'Meter the parts',
  supplies: 'Voltage and polarity, before the device is connected',
  functions: 'Connected: what it has to do',
} as const;
const MOST_SUSPECTS = 4;
/** So much of a name is told to the other end. */
const MOST_WORDS = 120;
const WAYS: readonly { id: ProofWay; name: string }[] = [
  { id: 'probes', name: 'Two probes' },
  { id: 'gangs', name: 'Clips' },
  { id: 'apart', name: 'Ends out of reach' },
];

/** Leads through the proof of a built lead, hands free; names what is wrong from what was heard; keeps the result. */
@Component({
  selector: 'ns-prove-room',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatSelectModule,
    CodeSign,
    ListenPanel,
    MeasuredMap,
    OtherEnd,
    RouterLink,
  ],
  providers: [Together],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './prove-room.html',
  styleUrl: './prove-room.scss',
})
export class ProveRoom {
  private readonly tones = inject(Tones);
  private readonly speaking = inject(Speaking);
  protected readonly together = inject(Together);
  private readonly otherEnd = viewChild(OtherEnd);
  private readonly crewHands = inject(CrewHands);
  private readonly planTouches = inject(PLAN_TOUCHES);
  protected readonly preferences = inject(Preferences);
  readonly design = input.required<AdapterDesign>();
  readonly worked = input.required<WorkedUpAdapter>();
  readonly version = input.required<number>();
  /** Null where none are kept here. */
  readonly builds = input.required<readonly AdapterBuild[] | null>();
  readonly keepWords = input('Keep this build');
  readonly nameWords = input('Mark on the lead');
  readonly needsName = input(true);
  readonly editable = input(true);
  readonly busy = input(false);
  /** Keeps a build; false where it could not be kept, and then every answer stands. */
  readonly keeps = input.required<(build: NewBuild) => Promise<boolean>>();

  private readonly proof = computed(() => buildProof(this.design(), this.worked()));
  /** The lists of this lead; null until they are put into order. */
  protected readonly plans = signal<TouchPlans | null>(null);
  protected readonly failed = signal('');
  protected readonly ways = WAYS;
  /** The end that the meter is at, where the others are out of its reach. */
  protected readonly meterAt = linkedSignal(() => this.design().ends[0]?.id ?? '');
  protected readonly plan = computed(
    (): HandPlan | null => this.plans()?.[this.preferences.proofWay()] ?? null,
  );
  protected readonly apart = computed((): ApartPlan | null =>
    this.preferences.proofWay() === 'apart' ? (this.plans()?.apart ?? null) : null,
  );
  /** What one person alone would need, walking to and fro; null where walking tells nothing. */
  protected readonly aloneS = computed(() => {
    const count = this.apart()?.across ?? 0;
    if (count < 3) return null;
    const plan = planIdentification({ count, hasReturn: false });
    return identifySeconds(plan, this.crewHands.hands() ?? undefined);
  });
  protected readonly questions = computed((): Question[] => {
    const { parts, supplies, functions } = this.proof();
    const plan = this.plan();
    if (!plan) return [];
    const { touches } = plan;
    const asked = (part: Question['part'], words: readonly string[]): Question[] =>
      words.map((each, n) => ({ part, n, touch: null, words: each }));
    return [
      ...touches.map((touch, n): Question => ({ part: 'beeped', n, touch, words: '' })),
      ...asked('parts', parts),
      ...asked('supplies', supplies),
      ...asked('functions', functions),
    ];
  });
  /** Answers of this device alone, in the order of the questions: to touches too, where no other end is shown them. */
  private readonly own = linkedSignal<readonly (boolean | null)[]>(() => {
    this.questions();
    return [];
  });
  /** Answers in the order of the questions; null for one that was passed over. */
  protected readonly answers = computed((): readonly (boolean | null)[] => [
    ...(this.together.state()?.answers ?? []),
    ...this.own(),
  ]);
  /** Touches beyond the list, made to find out which suspect it is. */
  protected readonly extra = linkedSignal<readonly HeardTouch[]>(() => {
    this.questions();
    return [];
  });
  protected readonly searching = signal(false);
  protected readonly name = linkedSignal(() =>
    this.needsName() ? `No. ${(this.builds()?.length ?? 0) + 1}` : '',
  );
  /** Of the record to be kept: the same for a retry, so that nothing is added twice, and another for other answers. */
  private readonly id = linkedSignal<string>(() => {
    for (const told of [this.answers, this.extra, this.name]) told();
    return crypto.randomUUID();
  });
  protected readonly titles = TITLES;
  protected readonly built = computed(() => builtWords(this.builds() ?? []));

  private readonly heard = computed((): HeardTouch[] => [
    ...this.answers().flatMap((beeped, n) => {
      const touch = this.questions()[n]?.touch;
      return touch && beeped !== null ? [{ touch, beeped }] : [];
    }),
    ...this.extra(),
  ]);
  protected readonly suspects = computed(() =>
    suspectsOf(this.worked().nets, this.heard(), this.design().ends),
  );
  protected readonly shownSuspects = computed(() => this.suspects().slice(0, MOST_SUSPECTS));
  /** Something was heard that should not be. */
  protected readonly surprised = computed(() =>
    this.heard().some(({ touch, beeped }) => beeped !== (touch.should === 'beep')),
  );
  protected readonly telling = computed(() =>
    this.suspects().length > 1 ? nextTouch(this.suspects(), this.worked().nets, this.apart()) : null,
  );
  protected readonly question = computed((): Question | null => {
    const telling = this.searching() ? this.telling() : null;
    if (telling) return { part: 'beeped', n: -1, touch: telling, words: '' };
    return this.questions()[this.answers().length] ?? null;
  });
  /** The question is one that the other end is shown. */
  protected readonly sharedNext = computed(() => {
    const state = this.together.state();
    return state !== null && !state.ended && !this.searching() && this.question()?.part === 'beeped';
  });
  protected readonly verdict = computed(() => judgeBuild(this.design(), this.sorted()));

  constructor() {
    effect((onCleanup) => {
      let current = true;
      onCleanup(() => (current = false));
      this.plans.set(null);
      this.failed.set('');
      const hands = this.crewHands.hands();
      if (!hands) return;
      const question = {
        nets: this.worked().nets,
        ends: this.design().ends,
        hands,
        meterAt: this.meterAt(),
      };
      this.planTouches(question).then(
        (plans) => current && this.plans.set(plans),
        (error: Error) => current && this.failed.set(error.message),
      );
    });
    effect(() => {
      const question = this.question();
      if (question) this.speaking.say(spokenWords(question));
    });
    inject(DestroyRef).onDestroy(() => {
      this.speaking.hush();
      // Answers are kept with the build alone: who leaves before that ends it, and the other end is told so.
      this.together.finish();
    });
    const asking = (): boolean => this.editable() && this.question() !== null;
    const shared = (): boolean => asking() && this.sharedNext();
    inject(Keys).use(
      [
        { key: 'o', words: 'my probe is on', run: () => this.otherEnd()?.on(), when: shared },
        { key: 'c', words: 'call the other end', run: () => this.otherEnd()?.call(), when: shared },
        { key: 'PageDown', words: 'it beeps; right', run: () => this.answer(true), when: asking },
        { key: 'PageUp', words: 'it stays silent; wrong', run: () => this.answer(false), when: asking },
        {
          key: 'Backspace',
          words: 'take the last answer back',
          run: () => this.undo(),
          when: () => this.answers().length + this.extra().length > 0,
        },
      ],
      inject(DestroyRef),
    );
  }

  protected gang(places: ProofTouch['one']): string {
    return gangWords(places).join('\n');
  }

  /** Contacts that the other lead touches: one, all at once, or one after the other. */
  protected others({ other, sweep }: ProofTouch): string {
    return (sweep ? runWords(other) : gangWords(other)).join('\n');
  }

  /** A touch that goes from one site to the other. */
  protected reaches({ one, other }: ProofTouch): boolean {
    const isHere = ({ end }: ProofTouch['one'][number]): boolean => end === this.meterAt();
    return [...one, ...other].some(isHere) && ![...one, ...other].every(isHere);
  }

  protected minutes(seconds: number): string {
    return seconds < 90 ? `${Math.round(seconds / 5) * 5} s` : `${Math.round(seconds / 60)} min`;
  }

  protected answer(yes: boolean): void {
    const question = this.question();
    if (!question) return;
    const { touch } = question;
    if (this.together.waiting()) return;
    if (question.n < 0 && touch) {
      this.extra.update((extra) => [...extra, { touch, beeped: yes }]);
      if (this.telling() === null) this.searching.set(false);
    } else if (this.sharedNext())
      this.together.tell({ does: 'answered', touch: this.answers().length, closed: yes });
    else this.own.update((answers) => [...answers, yes]);
    if (touch ? yes === (touch.should === 'beep') : yes) this.tones.right();
    else this.tones.wrong();
  }

  /** Leaves the question open: the lead is not proved, and not failed by it. */
  protected pass(): void {
    if (this.question() && !this.sharedNext()) this.own.update((answers) => [...answers, null]);
  }

  protected undo(): void {
    if (this.searching() && this.extra().length > 0) this.extra.update((extra) => extra.slice(0, -1));
    else if (this.own().length > 0) this.own.update((answers) => answers.slice(0, -1));
    else if (this.answers().length > 0 && !this.together.waiting())
      this.together.tell({ does: 'took-back', touch: this.answers().length - 1 });
  }

  /** Shows every touch of the list at the other end too. */
  protected show(): void {
    const plan = this.apart();
    if (!plan) return;
    const place = (points: ProofTouch['one']): TouchesByTwo['touches'][number]['from'] => ({
      end: points.every(({ end }) => end === this.meterAt()) ? 'near' : 'far',
      contacts: namesOf(points),
    });
    const { ends, name } = this.design();
    const there = ends.filter(({ id }) => id !== this.meterAt());
    this.together.beginTouches({
      label: name.slice(0, MOST_WORDS),
      ends: {
        near: (ends.find(({ id }) => id === this.meterAt())?.name ?? this.meterAt()).slice(0, MOST_WORDS),
        far: there
          .map((end) => end.name)
          .join(', ')
          .slice(0, MOST_WORDS),
      },
      over: plan.by,
      touches: plan.touches.map(({ one, other, joined = [], should, sweep = false }) => ({
        from: place(one),
        to: place(other),
        join: namesOf(joined),
        should: should === 'beep',
        sweep,
      })),
    });
  }

  /** Where the meter is: the list is another then. */
  protected standAt(end: string): void {
    this.meterAt.set(end);
  }

  protected again(): void {
    this.together.finish();
    this.own.set([]);
    this.extra.set([]);
    this.searching.set(false);
  }

  protected async keep(): Promise<void> {
    if (this.needsName() && this.name().trim() === '') return;
    const found = this.shownSuspects().map(({ words }) => words);
    const kept = await this.keeps()({
      id: this.id(),
      version: this.version(),
      name: this.name().trim(),
      ...this.sorted(),
      note: found.length > 0 ? `One of: ${found.join(' ')}` : '',
    });
    if (kept) this.again();
  }

  private sorted(): Required<Pick<NewBuild, 'beeped' | 'touched'>> & {
    touched: (Pick<ProofTouch, 'one' | 'other' | 'joined'> & { beeped: boolean })[];
    beeped: [];
    parts: (boolean | null)[];
    supplies: (boolean | null)[];
    functions: (boolean | null)[];
  } {
    const of = (part: Question['part']): (boolean | null)[] =>
      this.questions().flatMap((question, n) => (question.part === part ? [this.answers()[n] ?? null] : []));
    return {
      beeped: [],
      touched: this.heard().map(({ touch: { one, other, joined }, beeped }) => ({
        one,
        other,
        ...(joined ? { joined } : {}),
        beeped,
      })),
      parts: of('parts'),
      supplies: of('supplies'),
      functions: of('functions'),
    };
  }
}
