import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  conductorCode,
  conductorPaint,
  insulationName,
  insulationOf,
  isUnread,
  readBack,
  SCREEN,
  type AssignedContact,
  type ColourReading,
} from '@near-spoke/core';
import { PlugFace } from '../drawing/plug-face';
import { Keys } from '../keys/keys';
import { Preferences } from '../preferences/preferences';

/** Solid colours by the letter that tells them apart; W first makes the white mate. */
const LETTERS: Record<string, string> = { o: 'OG', g: 'GN', u: 'BU', n: 'BN' };
/** Conductors that are no insulation, as a person would say them. */
const METAL: Record<string, string> = { [SCREEN]: 'drain under the clip', CENTRE: 'centre', SHELL: 'shell' };

/** What a person saw on each contact: a conductor, that nothing is there, or too little to tell. */
export type Sight = Pick<ColourReading, 'colours' | 'empty'>;

const NOT_READ: Sight = { colours: {} };

/** Reads the colours seen at one end, contact by contact, and says which have slipped. */
@Component({
  selector: 'ns-colour-check',
  imports: [MatButtonModule, PlugFace],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './colour-check.html',
  styleUrl: './colour-check.scss',
})
export class ColourCheck {
  protected readonly preferences = inject(Preferences);
  /** The conductor that should lie on each contact, in reading order. */
  readonly card = input.required<readonly AssignedContact[]>();
  /** All that is in the cable: another pair than the plan's may lie here. */
  readonly inCable = input<readonly string[]>([]);
  /** "far plug". */
  readonly where = input.required<string>();
  /** Drawn as a plug in the hand. */
  readonly plug = input(false);
  /** What the big button does. */
  readonly action = input('Save what was seen');
  /** Offered where the link is simulated: the stand-in shows what a person would see. */
  readonly simulated = input(false);
  readonly seen = input<Sight | null>(null);
  readonly look = output<void>();
  readonly taken = output<Sight>();
  readonly left = output<void>();

  private readonly saveButton = viewChild('saveKey', { read: ElementRef<HTMLButtonElement> });
  protected readonly contacts = computed(() => this.card().map((line) => line.contact));
  protected readonly palette = computed(() =>
    [...new Set([...this.card().map(({ conductor }) => conductor), ...this.inCable()])]
      .map((conductor) => ({
        conductor,
        code: conductorCode(conductor),
        name: METAL[conductor] ?? insulationName(insulationOf(conductor)),
        paint: conductorPaint(conductor),
      }))
      // Not in the card's order: that would give the answer away.
      .sort((a, b) => (a.code < b.code ? -1 : 1)),
  );
  private readonly answers = signal(NOT_READ);
  protected readonly at = signal(0);
  private readonly white = signal(false);
  protected readonly complete = computed(() => this.at() >= this.contacts().length);
  protected readonly lines = computed(() =>
    this.contacts().map((contact) => ({ contact, conductor: this.answers().colours[contact] ?? null })),
  );
  /** Contacts not asked for yet, and those that could not be read. */
  protected readonly unread = computed(() =>
    this.contacts().filter(
      (contact) => !(contact in this.answers().colours) || isUnread(this.answers(), contact),
    ),
  );
  protected readonly differing = computed(() =>
    this.verdict().slipped.filter((contact) => contact in this.answers().colours),
  );
  protected readonly verdict = computed(() => readBack(this.card(), this.answers()));

  private readonly title = viewChild.required('title', { read: ElementRef<HTMLElement> });

  constructor() {
    // The keys are for reading from now on, not for whatever was pressed last.
    afterNextRender(() => this.title().nativeElement.focus());
    effect(() => {
      const seen = this.seen();
      if (!seen) return;
      this.answers.set(seen);
      this.at.set(this.contacts().length);
      // The next press of Enter saves, wherever the last one was.
      setTimeout(() => this.saveButton()?.nativeElement.focus());
    });
    const letter = (key: string) => ({
      key,
      words: key === 'o' ? 'orange; G green, U blue, N brown (W first for the white mate)' : '',
      run: () => this.say(`${this.white() ? 'WH-' : ''}${LETTERS[key]}`),
    });
    inject(Keys).use(
      [
        ...Object.keys(LETTERS).map(letter),
        { key: 'w', words: 'white, with the colour that follows', run: () => this.white.set(true) },
        { key: '0', words: 'nothing there', run: () => this.say(null) },
        { key: '-', words: 'cannot be read', run: () => this.pass() },
        {
          key: 'd',
          words: 'drain under the clip',
          run: () => this.say(SCREEN),
          when: () => this.contacts()[this.at()] === 'S',
        },
        { key: '=', words: 'all the rest as they should be', run: () => this.asMeant() },
        { key: 'Backspace', words: 'back one', run: () => this.back() },
        { key: 'Enter', words: 'done reading', run: () => this.save(), when: () => this.complete() },
        { key: 'Escape', words: 'leave without saving', run: () => this.left.emit() },
      ],
      inject(DestroyRef),
    );
  }

  /** A conductor seen on the contact that is asked for, or that nothing lies there. */
  protected say(conductor: string | null): void {
    this.answer(conductor, conductor === null);
  }

  /** Nobody can tell what lies on the contact that is asked for, nor whether anything does. */
  protected pass(): void {
    this.answer(null, false);
  }

  private answer(conductor: string | null, isEmpty: boolean): void {
    const contact = this.contacts()[this.at()];
    this.white.set(false);
    if (contact === undefined) return;
    this.answers.update(({ colours, empty = [] }) => ({
      colours: { ...colours, [contact]: conductor },
      empty: isEmpty ? [...empty, contact] : empty,
    }));
    this.at.update((at) => at + 1);
  }

  protected asMeant(): void {
    const rest = this.card().slice(this.at());
    const asMeant = Object.fromEntries(rest.map(({ contact, conductor }) => [contact, conductor]));
    this.answers.update((all) => ({ ...all, colours: { ...all.colours, ...asMeant } }));
    this.at.set(this.contacts().length);
  }

  protected back(): void {
    const contact = this.contacts()[this.at() - 1];
    if (contact === undefined) return;
    this.answers.update(({ colours: { [contact]: _, ...colours }, empty = [] }) => ({
      colours,
      empty: empty.filter((one) => one !== contact),
    }));
    this.at.update((at) => at - 1);
  }

  protected answerFor(contact: string): string {
    const { colours } = this.answers();
    if (!(contact in colours)) return '';
    return isUnread(this.answers(), contact) ? 'unread' : conductorCode(colours[contact] ?? null);
  }

  protected save(): void {
    if (!this.complete()) return;
    const { colours, empty = [] } = this.answers();
    this.taken.emit({ colours, ...(empty.length > 0 ? { empty } : {}) });
  }
}
