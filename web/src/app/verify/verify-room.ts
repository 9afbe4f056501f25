import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import {
  blindnessInWords,
  CABLE_WORK_WORDS,
  endDone,
  INSTRUMENTS,
  takenWith,
  intendedLink,
  isReading,
  isWork,
  type StoryStep,
  type AssignedContact,
  type InstrumentClass,
  type LinkEnd,
  type Look,
  type MendPlace,
  type Reading,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { DeviceTime } from '../field/device-time';
import { StageGlyph } from '../drawing/stage-glyph';
import { jobsFeature } from '../jobs/jobs.state';
import { Keys } from '../keys/keys';
import { WORK_OUT_BELIEF } from '../link/belief-work';
import { LinkFacts } from '../link/link-facts';
import { LinkEvents, linkFeature } from '../link/link.state';
import { Preferences } from '../preferences/preferences';
import { sessionFeature } from '../session/session.state';
import { CableWorkForm } from './cable-work-form';
import { ColourCheck, type Sight } from '../colours/colour-check';
import { MiniStrip } from '../drawing/mini-strip';
import { KeyIn } from './key-in';
import { OpenByTwo } from '../together/open-by-two';
import { OtherReading } from './other-reading';
import { Probe } from './probe';
import { SupplyNote } from './supply-note';

type Mode =
  | { name: 'verdict' }
  | { name: 'unplug'; then: () => void }
  | { name: 'key-in'; straight: boolean }
  | { name: 'colours'; end: LinkEnd }
  | { name: 'cable' }
  | { name: 'probe' }
  | { name: 'other' };

const PLACE_WORDS: Readonly<Record<MendPlace, string>> = {
  near: 'near end',
  far: 'far end',
  cable: 'cable',
  unplug: 'equipment connected',
  outlet: 'wrong outlet',
  plan: 'another length',
  unknown: 'nothing of ours fits',
};
const WORK_WORDS = {
  near: 'near end redone',
  far: 'far end redone',
  cable: CABLE_WORK_WORDS.mended,
  replaced: CABLE_WORK_WORDS.replaced,
  outlet: CABLE_WORK_WORDS.outlet,
  unplug: CABLE_WORK_WORDS.unplug,
} as const;

const capitalised = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** A reading, its verdict, what would explain it, and the one thing to do next. */
@Component({
  selector: 'ns-verify-room',
  imports: [
    DatePipe,
    RouterLink,
    MatButtonModule,
    MatMenuModule,
    MatProgressBarModule,
    StageGlyph,
    KeyIn,
    ColourCheck,
    CableWorkForm,
    MiniStrip,
    OpenByTwo,
    OtherReading,
    Probe,
    SupplyNote,
    DeviceTime,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './verify-room.html',
  styleUrl: './verify-room.scss',
})
export class VerifyRoom {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly preferences = inject(Preferences);
  protected readonly facts = inject(LinkFacts);
  protected readonly instrumentNames = INSTRUMENTS;
  protected readonly takenWith = takenWith;
  protected readonly blindness = blindnessInWords;

  protected readonly detail = computed(
    () => this.facts.detail() as NonNullable<ReturnType<typeof this.facts.detail>>,
  );
  protected readonly diagnosis = computed(() => this.detail().diagnosis);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly busy = this.store.selectSignal(linkFeature.selectBusy);
  protected readonly reading = this.store.selectSignal(linkFeature.selectReading);
  private readonly kept = this.store.selectSignal(linkFeature.selectKept);
  private readonly unplugged = this.store.selectSignal(linkFeature.selectUnplugged);
  protected readonly coloursSeen = this.store.selectSignal(linkFeature.selectColoursSeen);
  private readonly instruments = this.store.selectSignal(linkFeature.selectInstruments);
  private readonly links = this.store.selectSignal(jobsFeature.selectAllLinks);

  protected readonly mode = signal<Mode>({ name: 'verdict' });
  /** The test record that the next reading corrects. */
  protected readonly correcting = signal<string | null>(null);
  /** Why the reading that showed a fault was no good, where enough clean ones stand against it. */
  protected readonly misread = signal('');
  private readonly keyIn = viewChild(KeyIn);
  private readonly mainAction = viewChild('mainAction', { read: ElementRef<HTMLButtonElement> });

  protected readonly connected = computed(() =>
    this.instruments().find((instrument) => instrument.connected),
  );
  protected readonly meters = computed(() => this.connected()?.classes.filter((id) => id !== 'eye') ?? []);
  protected readonly meter = computed((): InstrumentClass | null => {
    const meters = this.meters();
    return meters.find((id) => id === this.preferences.instrument()) ?? meters[0] ?? null;
  });
  protected readonly simulated = computed(() => this.connected()?.simulated ?? false);
  /** A reading that the verdict rests on came from a simulated instrument. */
  protected readonly restsOnSimulated = computed(() => this.diagnosis()?.simulated ?? false);
  protected readonly terminated = computed(
    () => endDone(this.detail(), 'near') && endDone(this.detail(), 'far'),
  );
  protected readonly history = computed(() => {
    const corrected = new Set(this.detail().tests.map((test) => test.corrects));
    return this.detail()
      .tests.map((test) => ({ ...test, corrected: corrected.has(test.id) }))
      .reverse();
  });
  protected readonly lastTest = computed(() => this.history().find((test) => !test.corrected));
  /** Work was done since the last reading: that reading no longer speaks for the link. */
  protected readonly stale = computed(() => this.diagnosis() === null && this.detail().tests.length > 0);
  protected readonly unexplained = computed(() => {
    const shown = this.diagnosis()?.explanations.reduce((sum, e) => sum + e.probability, 0) ?? 1;
    return 1 - shown;
  });
  protected readonly nextLink = computed(() => {
    const { id } = this.detail().link;
    const waiting = this.links().filter(
      (link) => link.id !== id && (link.stage === 'both-ends' || link.stage === 'failed'),
    );
    const here = this.links().find((link) => link.id === id)?.position ?? 0;
    return (
      waiting.find((link) => link.stage === 'both-ends' && link.position > here) ??
      waiting.find((link) => link.stage === 'both-ends') ??
      waiting[0]
    );
  });

  constructor() {
    this.tellStory();
    effect(() => {
      if (this.kept()) {
        this.mode.set({ name: 'verdict' });
        this.correcting.set(null);
        this.misread.set('');
        // Enter now does what is next, wherever the focus was while the reading was taken.
        setTimeout(() => this.mainAction()?.nativeElement.focus());
      }
    });
    effect(() => {
      const mode = this.mode();
      const keyIn = this.keyIn();
      if (mode.name === 'key-in' && mode.straight && keyIn) untracked(() => keyIn.allStraight());
    });
    const idle = (): boolean => this.mode().name === 'verdict' && this.mayWork() && !this.busy();
    inject(Keys).use(
      [
        { key: 'Enter', words: 'do what is next', run: () => this.doNext(), when: idle },
        {
          key: 'r',
          words: 'read the instrument',
          run: () => this.readMeter(),
          when: () => idle() && this.meter() !== null,
        },
        { key: 'k', words: 'key a reading in', run: () => this.startKeyIn(false), when: idle },
        { key: 'b', words: 'be led through a beeper’s touches', run: () => this.startProbe(), when: idle },
        { key: 'o', words: 'key another observation in', run: () => this.startOther(), when: idle },
        { key: '=', words: 'key in: all straight', run: () => this.startKeyIn(true), when: idle },
        {
          key: 'c',
          words: 'read the colours at the far end',
          run: () => this.startColours('far'),
          when: idle,
        },
        {
          key: 'h',
          words: 'hand it over',
          run: () => this.goTo('hand-over'),
          when: () => idle() && this.detail().link.stage === 'proved',
        },
        {
          key: 'Enter',
          words: 'both ends are unplugged and dead',
          run: () => this.confirmUnplugged(),
          when: () => this.mode().name === 'unplug',
        },
      ],
      inject(DestroyRef),
    );
  }

  /** The one thing to do next, as the main button says it. */
  protected readonly next = computed((): { words: string; minutes?: number; run: () => void } => {
    const diagnosis = this.diagnosis();
    const look = diagnosis?.nextLook;
    if (look) return { words: look.words, minutes: look.minutes, run: () => this.take(look) };
    const places = diagnosis?.repair?.places ?? [];
    const [place] = places;
    const several = places.length > 1;
    if (place === 'cable')
      return { words: 'Mend the cable and record it', run: () => this.mode.set({ name: 'cable' }) };
    if (place === 'plan') return { words: 'Correct the planned length', run: () => this.goTo('plan') };
    if (place === 'unplug' || place === 'outlet')
      return {
        words: place === 'unplug' ? 'Unplug both ends, then say so' : 'Find the right outlet, then say so',
        run: () => this.madeSure(place),
      };
    if (place === 'near' || place === 'far')
      return {
        words: several ? `Redo the ${place} end` : capitalised(diagnosis?.repair?.words ?? ''),
        run: () => this.goTo('terminate', place),
      };
    if (!this.terminated() && diagnosis?.result !== 'fail') {
      const end = endDone(this.detail(), 'near') ? 'far' : 'near';
      return { words: `Terminate the ${end} end`, run: () => this.goTo('terminate', end) };
    }
    if (diagnosis?.result === 'pass' && diagnosis.proves === 'map') {
      const next = this.nextLink();
      if (this.detail().link.stage === 'proved')
        return { words: 'Hand it over', run: () => this.goTo('hand-over') };
      if (next) return { words: `Go on to ${next.label}`, run: () => this.open(next.id) };
      return {
        words: 'Back to the job',
        run: () => void this.router.navigate(['/jobs', this.detail().link.jobId]),
      };
    }
    const meter = this.meter();
    if (meter) return { words: `Read the ${INSTRUMENTS[meter].name}`, run: () => this.readMeter() };
    return { words: 'Key the reading in', run: () => this.startKeyIn(false) };
  });

  protected doNext(): void {
    this.next().run();
  }

  protected take(look: Look): void {
    if (look.instrument === 'eye') this.startColours(look.end);
    else if (look.instrument === 'beeper') this.startProbe();
    else if (this.meters().includes(look.instrument)) this.read(look.instrument, look.end, look.plan);
    else if (look.instrument === 'wiggle' || look.instrument === 'pair-reflectometer') this.startOther();
    else this.startKeyIn(false);
  }

  protected readMeter(): void {
    const meter = this.meter();
    if (meter) this.read(meter, 'near');
  }

  protected readWith(instrument: InstrumentClass): void {
    this.preferences.useInstrument(instrument);
    this.read(instrument, 'near');
  }

  private read(instrument: InstrumentClass, end: LinkEnd, plan?: Reading): void {
    this.onceUnplugged(() => {
      this.mode.set({ name: 'verdict' });
      const ask = {
        id: crypto.randomUUID(),
        instrument,
        end,
        ...(plan ? { plan } : {}),
        corrects: this.correcting(),
        misread: this.misread().trim(),
        unplugged: true as const,
      };
      this.store.dispatch(LinkEvents.readingAsked({ linkId: this.detail().link.id, ask }));
    });
  }

  /** Recorded like work: what was read before it no longer speaks for the link. */
  private madeSure(what: 'outlet' | 'unplug'): void {
    const work = { id: crypto.randomUUID(), kind: what, atM: null, note: '' };
    this.store.dispatch(LinkEvents.cableWorked({ linkId: this.detail().link.id, work }));
  }

  protected startKeyIn(straight: boolean): void {
    this.onceUnplugged(() => this.mode.set({ name: 'key-in', straight }));
  }

  protected startProbe(): void {
    this.comesTo.set(null);
    this.onceUnplugged(() => this.mode.set({ name: 'probe' }));
  }

  /** The end of a proof that is going on which this person comes to. */
  protected readonly comesTo = signal<LinkEnd | null>(null);

  /** Whoever began it unplugged both ends. */
  protected comeTo(end: LinkEnd): void {
    this.comesTo.set(end);
    this.mode.set({ name: 'probe' });
  }

  protected startOther(): void {
    this.onceUnplugged(() => this.mode.set({ name: 'other' }));
  }

  /** What each piece of evidence did to the belief; worked out when it is asked for. */
  protected readonly storyShown = signal(false);
  private readonly storyTold = signal<readonly StoryStep[]>([]);
  protected readonly story = computed(() =>
    this.storyTold().map(({ evidence, moved }) => ({
      what: isWork(evidence)
        ? WORK_WORDS[evidence.work]
        : isReading(evidence)
          ? takenWith(evidence)
          : `said why: ${evidence.misread}`,
      moved: moved.map(({ place, before, after }) => ({
        words: `${PLACE_WORDS[place]}: ${this.percent(before)} to ${this.percent(after)}`,
        up: after > before,
      })),
    })),
  );
  protected readonly storyWaits = signal(false);

  /** Works the story out when it is asked for, and again when a reading comes. */
  private tellStory(): void {
    const workOut = inject(WORK_OUT_BELIEF);
    effect((onCleanup) => {
      const expected = this.facts.expected();
      if (!this.storyShown() || !expected) return;
      const evidence = this.facts.evidence();
      const first = evidence.findIndex((item) => !isWork(item));
      this.storyWaits.set(true);
      const { done, cancel } = workOut({
        want: 'story',
        question: {
          expected,
          evidence: evidence.slice(Math.max(0, first)),
          practice: this.detail().practice,
        },
      });
      onCleanup(cancel);
      void done
        .then((steps) => this.storyTold.set(steps as readonly StoryStep[]))
        .finally(() => this.storyWaits.set(false));
    });
  }

  protected startColours(end: LinkEnd): void {
    this.mode.set({ name: 'colours', end });
  }

  /** The order an end should have, as the colour check asks for it. */
  protected meant(end: LinkEnd): AssignedContact[] {
    const expected = this.facts.expected();
    if (!expected) return [];
    return Object.entries(intendedLink(expected)[end]).flatMap(([contact, conductor]) =>
      conductor === null ? [] : [{ contact, conductor }],
    );
  }

  protected readonly inCable = computed(() => (this.facts.expected()?.conductors ?? []).map(({ id }) => id));

  protected where(end: LinkEnd): string {
    const connector = this.facts.expected()?.[end].connector ?? 'other';
    return `${end} ${connector === 'other' ? 'end' : connector}`;
  }

  protected seenAt(end: LinkEnd): Sight | null {
    const reading = this.coloursSeen()?.reading;
    return reading?.instrument === 'eye' && reading.end === end ? reading : null;
  }

  protected keepSight(end: LinkEnd, sight: Sight): void {
    this.keepReading({ instrument: 'eye', end, ...sight });
  }

  protected lookAtSimulated(end: LinkEnd): void {
    this.store.dispatch(
      LinkEvents.coloursAsked({ ask: { linkId: this.detail().link.id, instrument: 'eye', end } }),
    );
  }

  protected keepReading(reading: Reading, id: string = crypto.randomUUID()): void {
    const seen = this.coloursSeen();
    // What the stand-in showed of a simulated end, kept as it was, is its reading and nobody's own.
    const shown = seen !== null && JSON.stringify(seen.reading) === JSON.stringify(reading);
    const test = {
      id,
      ...(shown ? { takenId: seen.takenId } : {}),
      instrumentName: takenWith(reading),
      reading,
      corrects: this.correcting(),
      misread: this.misread().trim(),
      unplugged: true as const,
    };
    this.store.dispatch(LinkEvents.readingTaken({ linkId: this.detail().link.id, test }));
  }

  protected correct(testId: string): void {
    this.correcting.set(testId);
    this.startKeyIn(false);
  }

  protected leave(): void {
    this.mode.set({ name: 'verdict' });
    this.correcting.set(null);
  }

  /** The reminder comes before the first reading of a round, not before every one. */
  private onceUnplugged(then: () => void): void {
    if (this.unplugged()) then();
    else this.mode.set({ name: 'unplug', then });
  }

  protected confirmUnplugged(): void {
    const mode = this.mode();
    if (mode.name !== 'unplug') return;
    this.store.dispatch(LinkEvents.roundBegun());
    mode.then();
  }

  protected goTo(room: string, end?: LinkEnd): void {
    const { jobId, id } = this.detail().link;
    void this.router.navigate(['/jobs', jobId, 'links', id, room], { queryParams: end ? { end } : {} });
  }

  private open(linkId: string): void {
    void this.router.navigate(['/jobs', this.detail().link.jobId, 'links', linkId, 'verify']);
  }

  protected percent(share: number): string {
    return `${Math.round(share * 100)} %`;
  }
}
