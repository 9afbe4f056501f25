import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { CrewPractice, OwnPractice } from '@near-spoke/contracts';
import { conductorPaint, insulationName } from '@near-spoke/core';
import {
  calledFor,
  DRILL_KINDS,
  DRILLS,
  isRightReply,
  makeDrill,
  type Drill,
  type DrillKind,
  type DrillOption,
  type DrillReply,
} from '@near-spoke/core/drills';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { BenchKinds } from '../bench/bench-kinds';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { Keys } from '../keys/keys';
import { Tones } from '../preferences/tones';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { DrillLaying } from './drill-laying';
import { DrillPictureView } from './drill-picture';
import { nextKind, standingsOf, type Standing } from './schedule';

/** Drills, one after another: asked again when they are about to be forgotten, or when work shows that they are needed. */
@Component({
  selector: 'ns-practice-page',
  imports: [MatButtonModule, BenchKinds, DrillLaying, DrillPictureView, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './practice-page.html',
  styleUrl: './practice-page.scss',
})
export class PracticePage {
  private readonly api = inject(Api);
  private readonly tones = inject(Tones);
  private readonly role = inject(Store).selectSignal(sessionFeature.selectCrew);
  /** A kind from the address: only that is asked. */
  readonly drill = input<string>();

  protected readonly asking = new Asking();
  protected readonly own = signal<OwnPractice | null>(null);
  protected readonly crew = signal<CrewPractice | null>(null);
  protected readonly names = DRILLS;
  private readonly fixed = computed(
    (): DrillKind | null => DRILL_KINDS.find((kind) => kind === this.drill()) ?? null,
  );
  protected readonly standings = computed((): Standing[] => standingsOf(this.own()?.answers ?? []));
  protected readonly called = computed(() => calledFor(this.own()?.found ?? []));
  /** The drill in hand, and what was answered. */
  private readonly asked = signal<{ kind: DrillKind; seed: number } | null>(null);
  protected readonly now = computed((): Drill | null => {
    const asked = this.asked();
    return asked && makeDrill(asked.kind, asked.seed);
  });
  /** What was answered; null while it is asked. */
  protected readonly reply = signal<DrillReply | null>(null);
  protected readonly chosen = computed(() => this.reply()?.chosen ?? null);
  protected readonly isRight = computed(() => {
    const [drill, reply] = [this.now(), this.reply()];
    return drill !== null && reply !== null && isRightReply(drill, reply);
  });
  protected readonly choice = computed(() => {
    const drill = this.now();
    return drill?.by === 'choice' ? drill : null;
  });
  protected readonly laying = computed(() => {
    const drill = this.now();
    return drill?.by === 'laying' ? drill : null;
  });
  protected readonly weak = computed(() =>
    (this.crew()?.kinds ?? [])
      .filter(({ asked }) => asked > 0)
      .map((each) => ({ ...each, share: each.right / each.asked }))
      .sort((a, b) => a.share - b.share),
  );

  constructor() {
    inject(Header).show([{ name: 'Bench', link: '/bench' }, { name: 'Practice' }]);
    this.asking.ask(this.api.call('ownPractice', {}), (own) => this.own.set(own));
    effect(() => {
      if (this.own() && untracked(this.asked) === null) untracked(() => this.next());
    });
    effect(() => {
      if (this.role()?.role !== 'lead') return;
      untracked(() =>
        this.api
          .call('crewPractice', {})
          .subscribe({ next: (crew) => this.crew.set(crew), error: () => undefined }),
      );
    });
    const answers = Array.from({ length: 4 }, (_, n) => ({
      key: String(n + 1),
      words: n === 0 ? 'the first answer; 2, 3, 4 the others' : '',
      run: () => this.choose(n),
      when: () => this.reply() === null && (this.choice()?.options.length ?? 0) > n,
    }));
    const onward = { run: () => this.next(), when: () => this.reply() !== null };
    inject(Keys).use(
      [
        ...answers,
        { key: 'PageDown', words: 'the next drill', ...onward },
        { key: 'Enter', words: '', ...onward },
      ],
      inject(DestroyRef),
    );
  }

  protected choose(option: number): void {
    this.answer({ chosen: option, laid: null });
  }

  protected answer({ chosen, laid }: { chosen: number | null; laid: number[] | null }): void {
    const asked = this.asked();
    if (!asked || this.reply() !== null) return;
    this.reply.set({ chosen, laid });
    if (this.isRight()) this.tones.right();
    else this.tones.wrong();
    const body = { id: crypto.randomUUID(), ...asked, chosen, laid };
    this.asking.ask(this.api.call('answerDrill', { body }), (own) => this.own.set(own));
  }

  protected next(): void {
    const kind =
      this.fixed() ?? nextKind(this.standings(), this.called(), new Date(), this.asked()?.kind ?? null);
    const seed = (crypto.getRandomValues(new Uint32Array(1))[0] ?? 0) % 2 ** 31;
    this.reply.set(null);
    this.asked.set({ kind, seed });
  }

  protected paint(conductor: string): { base: string; band: string | null } {
    return conductorPaint(conductor);
  }

  protected wordsOf({ words, conductor }: DrillOption): string {
    return conductor === null ? words : `${words}, ${insulationName(conductor)}`;
  }

  protected dueWords({ due, answered }: Standing): string {
    if (!due || answered === 0) return 'not yet asked';
    const hours = (due.getTime() - Date.now()) / 3_600_000;
    if (hours <= 0) return 'due';
    return hours < 20
      ? 'again today'
      : hours < 44
        ? 'again tomorrow'
        : `again in ${Math.round(hours / 24)} days`;
  }
}
