import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  linkedSignal,
  model,
  output,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  buildCard,
  followsScheme,
  formatStripLength,
  readBack,
  conductorsOf,
  sameNeed,
  toolsToLookAt,
  type CardStep,
  type Choices,
  type CableType,
  type ConnectorType,
  type SchemeId,
  type UnitSystem,
  type ReadBack,
  type TerminationInput,
  type ToolNeed,
  type ToolType,
  type WayOn,
  type WorkCard,
} from '@near-spoke/core';
import { StripPlanPicture } from '../drawing/strip-plan';
import { ThreadedParts } from '../drawing/threaded-parts';
import { Keys } from '../keys/keys';
import { Preferences } from '../preferences/preferences';
import { ColourCheck, type Sight } from '../colours/colour-check';
import { Tones } from '../preferences/tones';
import { BagFigures } from './bag-figures';
import { LeftOut } from './left-out';
import { StepPictureView } from './step-picture';
import { ToolInHand, type ToolAnswer } from './tool-in-hand';

/** How one end went. */
export interface EndRecord {
  outcome: 'good' | 'spoiled';
  connectorsSpoiled: number;
  lot: string;
  tool: string;
  reason: string;
  stopgap: string;
}

/** The work card of one cable end: one step at a time or whole, and how it went. */
@Component({
  selector: 'ns-end-card',
  imports: [
    MatButtonModule,
    StripPlanPicture,
    ThreadedParts,
    StepPictureView,
    ToolInHand,
    LeftOut,
    BagFigures,
    ColourCheck,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './end-card.html',
  styleUrl: './end-card.scss',
})
export class EndCard {
  private readonly tones = inject(Tones);
  protected readonly preferences = inject(Preferences);
  /** Which end this is: another one begins at its first step. */
  readonly key = input.required<string>();
  /** What the end is called: near, far, or nothing. */
  readonly end = input('');
  readonly place = input('');
  readonly cable = input.required<CableType | null>();
  readonly connector = input.required<ConnectorType | null>();
  readonly scheme = input.required<SchemeId>();
  readonly units = input.required<UnitSystem>();
  readonly tools = input<readonly ToolType[]>([]);
  readonly doneBefore = input(false);
  readonly mayWork = input(true);
  readonly busy = input(false);
  /** Its keys work; not while something else stands before it. */
  readonly active = input(true);
  /** Colours are kept with the record: they can be read once all steps are done, too. */
  readonly keepsColours = input(false);
  readonly printAddress = input<string | null>(null);
  protected readonly inCable = computed(() => {
    const cable = this.cable();
    return cable ? conductorsOf(cable).map(({ id }) => id) : [];
  });
  readonly recorded = output<EndRecord>();
  /** What was read on the contacts. */
  readonly coloursRead = output<Sight>();

  protected readonly followsScheme = computed(() => {
    const connector = this.connector();
    return !!connector && followsScheme(connector);
  });
  /** Which way of working where schools differ; the job's scheme is not one of them. */
  readonly choices = model<Partial<Choices>>({});
  /** What the card is made from; null while the kit is on its way. */
  protected readonly termination = computed((): TerminationInput | null => {
    const [cable, connector] = [this.cable(), this.connector()];
    if (!cable || !connector) return null;
    const choices = { ...this.choices(), scheme: this.scheme() };
    return { cable, connector, choices, units: this.units() };
  });
  protected readonly card = computed((): { card: WorkCard | null; why: string } => {
    const termination = this.termination();
    if (!termination) return { card: null, why: '' };
    try {
      return { card: buildCard({ ...termination, tools: this.tools() }), why: '' };
    } catch (error) {
      return { card: null, why: error instanceof RangeError ? error.message : String(error) };
    }
  });
  protected readonly misfits = computed(
    () => this.card().card?.fit.filter((check) => check.verdict !== 'fits') ?? [],
  );
  protected readonly steps = computed((): readonly CardStep[] => this.card().card?.steps ?? []);
  /** The step in hand; one past the last is the record. */
  protected readonly at = linkedSignal({ source: this.key, computation: () => 0 });
  protected readonly step = computed(() => this.steps()[this.at()] ?? null);
  /** What the middle of the card shows: the step, or one of the helps beside it. */
  protected readonly mode = linkedSignal({
    source: () => `${this.key()} ${this.at()}`,
    computation: (): 'step' | 'read-back' | 'left-out' | 'bag' => 'step',
  });
  /** What was read back at this step, and whether it was right. */
  protected readonly seen = linkedSignal({
    source: this.step,
    computation: (): ReadBack | null => null,
  });
  /** Dies, blades and adapters of this end, looked at once before its first step. */
  private readonly gates = computed(() => toolsToLookAt(this.steps(), this.tools()));
  private readonly toolAnswers = linkedSignal({
    source: computed(() => `${this.key()} ${this.connector()?.id ?? ''}`),
    computation: (): Readonly<Record<string, ToolAnswer>> => ({}),
  });
  private readonly open = computed(() =>
    this.gates().filter((need) => !this.toolAnswers()[toolKey(need)]?.fine),
  );
  /** All of them at the first step; further on only one that a jump has passed by. */
  protected readonly asksForTools = computed((): readonly ToolNeed[] => {
    if (this.at() === 0) return this.gates();
    const need = this.step()?.tool;
    return this.jumpedPast().filter((gate) => need && sameNeed(gate, need));
  });
  /** Gates that were open when this step was come to: one that is answered here stays in sight. */
  private readonly jumpedPast = linkedSignal({
    source: this.step,
    computation: (): readonly ToolNeed[] => untracked(this.open),
  });
  protected readonly held = computed(() =>
    this.asksForTools().some((need) => !this.toolAnswers()[toolKey(need)]?.fine),
  );
  /** Stopgaps used at this end, by tool, and by the way chosen where something was left out. */
  private readonly stopgaps = linkedSignal({
    source: this.key,
    computation: (): Readonly<Record<string, string>> => ({}),
  });
  protected readonly stopgap = computed(() =>
    Object.values(this.stopgaps())
      .filter((words) => words !== '')
      .join(' '),
  );
  protected readonly lot = signal('');
  /** The tool in hand, as it is marked: the same until another is taken up. */
  protected readonly tool = signal(localStorage.getItem(TOOL_IN_HAND) ?? '');
  /** What spoiled the connectors that were spoiled. */
  protected readonly why = signal('');
  protected readonly recording = computed(() => this.at() >= this.steps().length);
  protected readonly canReadAtEnd = computed(
    () => this.keepsColours() && this.recording() && (this.card().card?.order.length ?? 0) > 1,
  );
  protected readonly spoiled = signal(0);
  constructor() {
    const works = (): boolean => this.active() && this.mayWork() && this.mode() === 'step';
    inject(Keys).use(
      [
        {
          key: 'PageDown',
          words: 'next step; at the end, record it as good',
          run: () => this.forward(),
          when: works,
        },
        {
          key: 'Enter',
          words: 'next step; at the end, record it as good',
          run: () => this.forward(),
          when: works,
        },
        { key: 'PageUp', words: 'back one step', run: () => this.back(), when: () => this.active() },
        {
          key: 'c',
          words: 'read the colours back',
          run: () => this.mode.set('read-back'),
          when: () =>
            this.active() && this.mode() === 'step' && (this.step()?.readBack ?? this.canReadAtEnd()),
        },
        {
          key: 'o',
          words: 'something was left out',
          run: () => this.mode.set('left-out'),
          when: () => this.active() && this.mode() === 'step' && this.card().card !== null,
        },
        {
          key: 'w',
          words: 'whole card or one step',
          run: () => this.preferences.toggleWholeCard(),
          when: () => this.active(),
        },
        {
          key: 'x',
          words: 'one connector spoiled',
          run: () => this.spoiled.update((n) => n + 1),
          when: works,
        },
      ],
      inject(DestroyRef),
    );
  }

  protected forward(): void {
    if (this.recording()) this.record('good');
    else if (this.held() || this.seen()?.right === false) this.tones.wrong();
    else this.at.update((at) => at + 1);
  }

  protected answerTool(need: ToolNeed, answer: ToolAnswer): void {
    const key = toolKey(need);
    this.toolAnswers.update((all) => ({ ...all, [key]: answer }));
    this.stopgaps.update((all) => ({ ...all, [key]: answer.stopgap }));
  }

  /** What was read through the plug, held against the card before anything is spent. */
  protected readBackTaken(sight: Sight): void {
    const verdict = readBack(this.card().card?.order ?? [], sight);
    this.mode.set('step');
    this.seen.set(verdict);
    this.coloursRead.emit(sight);
    if (verdict.right) this.tones.right();
    else this.tones.wrong();
  }

  /** Goes on the way that was chosen for an end that is not as it should be. */
  protected goOnBy(way: WayOn): void {
    const first = way.order[0];
    const to = this.steps().findIndex((step) => first !== undefined && step.operations.includes(first));
    if (way.connectors > 0) this.spoiled.update((n) => n + way.connectors);
    if (way.kind === 'leave out' || way.kind === 'split part')
      this.stopgaps.update((all) => ({ ...all, [way.kind]: way.words }));
    this.mode.set('step');
    this.at.set(to >= 0 ? to : this.steps().length);
  }

  protected chooseSchool(key: keyof Choices, value: Choices[keyof Choices]): void {
    this.choices.update((all) => ({ ...all, [key]: value }));
  }

  protected back(): void {
    this.at.update((at) => Math.max(0, at - 1));
  }

  protected figure(mm: number): string {
    return formatStripLength(mm, this.units());
  }

  protected record(outcome: EndRecord['outcome']): void {
    if (!this.connector() || this.busy()) return;
    const tool = this.tool().trim();
    localStorage.setItem(TOOL_IN_HAND, tool);
    this.recorded.emit({
      outcome,
      connectorsSpoiled: outcome === 'spoiled' ? Math.max(1, this.spoiled()) : this.spoiled(),
      lot: this.lot().trim(),
      tool,
      reason: this.spoiled() > 0 || outcome === 'spoiled' ? this.why().trim() : '',
      stopgap: outcome === 'good' ? this.stopgap() : '',
    });
  }

  /** What was recorded is kept: the next one begins at the first step. */
  again(): void {
    this.at.set(0);
    this.spoiled.set(0);
    this.why.set('');
  }
}

/** Where this device remembers the tool. */
const TOOL_IN_HAND = 'tool in hand';

const toolKey = ({ kind, size }: ToolNeed): string => `${kind} ${size ?? ''}`;
