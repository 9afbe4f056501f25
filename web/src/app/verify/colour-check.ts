import {
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
  insulationName,
  intendedLink,
  SCREEN,
  type LinkEnd,
  type LinkExpectation,
  type Reading,
} from '@near-spoke/core';
import { PlugFace } from '../drawing/plug-face';
import { codeOf, paintOf } from '../drawing/wire';
import { Keys } from '../keys/keys';
import { Preferences } from '../preferences/preferences';

/** Solid colours by the letter that tells them apart; W first makes the white mate. */
const LETTERS: Record<string, string> = { o: 'OG', g: 'GN', u: 'BU', n: 'BN' };

/** Reads the colours seen at one end, contact by contact. */
@Component({
  selector: 'ns-colour-check',
  imports: [MatButtonModule, PlugFace],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './colour-check.html',
  styleUrl: './colour-check.scss',
})
export class ColourCheck {
  protected readonly preferences = inject(Preferences);
  readonly expected = input.required<LinkExpectation>();
  readonly end = input.required<LinkEnd>();
  /** Offered where the link is simulated: the stand-in shows what a person would see. */
  readonly simulated = input(false);
  readonly seen = input<Reading | null>(null);
  readonly look = output<void>();
  readonly taken = output<Reading>();
  readonly left = output<void>();

  private readonly saveButton = viewChild('saveKey', { read: ElementRef<HTMLButtonElement> });
  private readonly intended = computed(() => intendedLink(this.expected())[this.end()]);
  protected readonly contacts = computed(() => Object.keys(this.intended()));
  protected readonly isPlug = computed(() => this.expected()[this.end()].connector === 'plug');
  protected readonly palette = computed(() => {
    const wires = Object.values(this.intended()).flatMap((c) => (c === null ? [] : [c]));
    return wires.map((conductor) => ({
      conductor,
      code: codeOf(conductor),
      name: this.nameOf(conductor),
      paint: paintOf(conductor),
    }));
  });
  private readonly answers = signal<Readonly<Record<string, string | null>>>({});
  protected readonly at = signal(0);
  private readonly white = signal(false);
  protected readonly complete = computed(() => this.at() >= this.contacts().length);
  protected readonly lines = computed(() =>
    this.contacts().map((contact) => ({ contact, conductor: this.answers()[contact] ?? null })),
  );
  protected readonly differing = computed(() =>
    this.contacts().filter(
      (contact) =>
        contact in this.answers() && this.answers()[contact] !== (this.intended()[contact] ?? null),
    ),
  );

  constructor() {
    effect(() => {
      const seen = this.seen();
      if (seen?.instrument !== 'eye' || seen.end !== this.end()) return;
      this.answers.set(seen.colours);
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
        {
          key: 'd',
          words: 'drain under the clip',
          run: () => this.say(SCREEN),
          when: () => this.contacts()[this.at()] === 'S',
        },
        { key: '=', words: 'all the rest as they should be', run: () => this.asMeant() },
        { key: 'Backspace', words: 'back one', run: () => this.back() },
        { key: 'Enter', words: 'save what was seen', run: () => this.save(), when: () => this.complete() },
        { key: 'Escape', words: 'leave without saving', run: () => this.left.emit() },
      ],
      inject(DestroyRef),
    );
  }

  protected say(conductor: string | null): void {
    const contact = this.contacts()[this.at()];
    this.white.set(false);
    if (contact === undefined) return;
    this.answers.update((all) => ({ ...all, [contact]: conductor }));
    this.at.update((at) => at + 1);
  }

  protected asMeant(): void {
    const rest = this.contacts().slice(this.at());
    this.answers.update((all) => ({
      ...all,
      ...Object.fromEntries(rest.map((c) => [c, this.intended()[c] ?? null])),
    }));
    this.at.set(this.contacts().length);
  }

  protected back(): void {
    const contact = this.contacts()[this.at() - 1];
    if (contact === undefined) return;
    this.answers.update(({ [contact]: _, ...rest }) => rest);
    this.at.update((at) => at - 1);
  }

  protected answerFor(contact: string): string {
    return contact in this.answers() ? codeOf(this.answers()[contact] ?? null) : '';
  }

  protected save(): void {
    if (this.complete()) this.taken.emit({ instrument: 'eye', end: this.end(), colours: this.answers() });
  }

  private nameOf(conductor: string): string {
    return conductor === SCREEN
      ? 'drain under the clip'
      : conductor === 'CENTRE' || conductor === 'SHELL'
        ? conductor.toLowerCase()
        : insulationName(conductor);
  }
}
