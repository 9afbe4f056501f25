import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Link, NewTest, Problem, TestingRound } from '@near-spoke/contracts';
import {
  expectLink,
  INSTRUMENTS,
  straightReading,
  wrongLabel,
  type InstrumentClass,
  type Reading,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Reach } from '../api/reach';
import { ProblemNote } from '../drawing/problem-note';
import { StageGlyph } from '../drawing/stage-glyph';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Keys } from '../keys/keys';
import { LinkEvents, linkFeature } from '../link/link.state';
import { Preferences } from '../preferences/preferences';
import { Tones } from '../preferences/tones';
import { CodeSign } from '../together/code-sign';
import { OtherEnd } from '../together/other-end';
import { Together } from '../together/together';
import { sessionFeature } from '../session/session.state';
import { ImportReadings } from './import-readings';
import { keepCarried, lastCarried } from './carried';
import { scansLabels, scanLabel } from './label-scan';
import { SaveTable } from '../ui/save-table';

/** A reading to be kept: keyed in, or one that an instrument gave under an id. */
type Given = Pick<NewTest, 'instrumentName' | 'takenId'> & { reading: Reading };

/** So much of a name is told to the other end. */
const MOST_WORDS = 120;

/** Many links, one after another: label, reading, next. What is kept is on the server, so any device can go on. */
@Component({
  selector: 'ns-round-of-tests',
  imports: [
    RouterLink,
    MatButtonModule,
    MatProgressBarModule,
    ProblemNote,
    StageGlyph,
    ImportReadings,
    SaveTable,
    CodeSign,
    OtherEnd,
  ],
  providers: [Together],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './round-of-tests.html',
  styleUrl: './round-of-tests.scss',
})
export class RoundOfTests {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly tones = inject(Tones);
  private readonly preferences = inject(Preferences);
  private readonly reach = inject(Reach);
  readonly jobId = input.required<string>();

  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);
  protected readonly links = this.store.selectSignal(jobsFeature.selectAllLinks);
  protected readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  private readonly instruments = this.store.selectSignal(linkFeature.selectInstruments);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  protected readonly loaded = computed(() => this.linksOf() === this.jobId() && this.kit() !== null);

  protected readonly round = signal<TestingRound | null>(null);
  protected readonly known = signal(false);
  protected readonly busy = signal(false);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly typed = signal('');
  protected readonly suspicion = signal<{ words: string; keep: () => void } | null>(null);
  protected readonly said = signal('');
  protected readonly cord = signal<{ right: boolean; words: string } | null>(null);
  protected readonly importing = signal(false);
  protected readonly mayScan = scansLabels();
  /** Somebody who carries the tester's remote is shown on a device of their own where it goes next. */
  protected readonly together = inject(Together);
  private readonly otherEnd = viewChild(OtherEnd);
  /** The links whose outlets they go to, in that order. */
  private readonly carried = signal<readonly string[]>([]);
  /** The link that the remote is at, or goes to. */
  protected readonly remoteAt = computed((): Link | null => {
    const state = this.together.state();
    const id = state && !state.ended ? this.carried()[state.answers.length] : undefined;
    return this.links().find((link) => link.id === id) ?? null;
  });
  private readonly label = viewChild<ElementRef<HTMLInputElement>>('label');

  protected readonly testable = computed(() =>
    this.links().filter((link) => link.near.done && link.far.done),
  );
  protected readonly done = computed(() => new Map(this.round()?.tested.map((t) => [t.linkId, t])));
  protected readonly left = computed(() => this.testable().filter((link) => !this.done().has(link.id)));
  protected readonly here = computed((): Link | null => {
    const typed = this.typed().trim().toLowerCase();
    if (typed === '') return null;
    return this.links().find((link) => link.label.toLowerCase() === typed) ?? null;
  });
  protected readonly last = computed(() => {
    const tested = this.round()?.tested.at(-1);
    return tested ? { ...tested, label: this.labelOf(tested.linkId) } : null;
  });
  protected readonly meter = computed((): InstrumentClass | null => {
    // Instruments are read by the server.
    if (this.reach.awaySince() !== null) return null;
    const classes = this.instruments()
      .find((one) => one.connected)
      ?.classes.filter((id) => INSTRUMENTS[id].proves !== 'nothing');
    return classes?.find((id) => id === this.preferences.instrument()) ?? classes?.[0] ?? null;
  });
  protected readonly names = INSTRUMENTS;

  constructor() {
    const header = inject(Header);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => {
        this.store.dispatch(JobEvents.jobOpened({ jobId }));
        this.store.dispatch(JobEvents.kitNeeded());
        void this.ask(async () => {
          this.round.set(await firstValueFrom(this.api.call('currentRound', { params: { jobId } })));
          this.known.set(true);
        });
      });
    });
    effect(() => {
      const job = this.job();
      if (job) header.show([{ name: job.title, link: ['/jobs', job.id] }, { name: 'Testing round' }]);
    });
    effect(() => {
      const before = lastCarried(this.jobId());
      if (!before) return;
      untracked(() => {
        this.carried.set(before.links);
        this.together.goOn(before.id);
      });
    });
    effect(() => {
      const id = this.together.state()?.id;
      if (id) untracked(() => keepCarried(this.jobId(), { id, links: [...this.carried()] }));
    });
    effect(() => {
      const at = this.remoteAt();
      if (at) untracked(() => !this.done().has(at.id) && this.typed.set(at.label));
    });
    // The instrument belongs to no link; what it is was learned when a link was opened, or is asked here.
    firstValueFrom(this.api.call('listInstruments', {})).then(
      (instruments) => this.store.dispatch(LinkEvents.instrumentsRead({ instruments })),
      // Without an instrument readings are keyed in.
      () => undefined,
    );
    const ready = (): boolean => this.round() !== null && !this.busy() && !this.importing();
    inject(Keys).use(
      [
        {
          key: 'PageDown',
          words: 'read the instrument, keep it, next',
          run: () => void this.read(),
          when: ready,
        },
        {
          key: 'c',
          words: 'call who carries the remote',
          run: () => this.otherEnd()?.call(),
          when: () => ready() && this.remoteAt() !== null,
        },
        { key: 'PageUp', words: 'take the last reading again', run: () => this.again(), when: ready },
      ],
      inject(DestroyRef),
    );
  }

  protected labelOf(linkId: string): string {
    return this.links().find((link) => link.id === linkId)?.label ?? '';
  }

  /** What the tester says of a cord known to be good: with a bad tester no round is worth beginning. */
  protected checkCord(): void {
    const instrument = this.meter();
    if (!instrument) return;
    void this.ask(async () => {
      const { right, headline } = await firstValueFrom(this.api.call('checkCord', { body: { instrument } }));
      this.cord.set({ right, words: `${INSTRUMENTS[instrument].name}: ${headline}` });
      if (right) this.tones.right();
      else this.tones.wrong();
    });
  }

  protected begin(): void {
    const params = { jobId: this.jobId() };
    void this.ask(async () => {
      const body = { id: crypto.randomUUID() };
      this.round.set(await firstValueFrom(this.api.call('beginRound', { params, body })));
      this.next();
    });
  }

  protected end(): void {
    void this.ask(async () => {
      await firstValueFrom(this.api.call('closeRound', { params: { jobId: this.jobId() } }));
      this.round.set(null);
      this.together.finish();
    });
  }

  /** Shows somebody at the outlets where the remote goes, one after the other. */
  protected show(): void {
    const left = this.left();
    this.carried.set(left.map(({ id }) => id));
    this.together.beginTouches({
      label: `Testing round, ${this.job()?.title ?? ''}`.slice(0, MOST_WORDS),
      ends: { near: this.job()?.hub ?? 'the hub', far: 'the outlets' },
      over: 'remote',
      touches: left.map(({ label, near, far }) => ({
        from: { end: 'near', contacts: [`${near.panel} ${near.port}`.trim() || label] },
        to: { end: 'far', contacts: [`${label}: ${far.outlet}, ${far.room}`.slice(0, MOST_WORDS)] },
        should: true,
      })),
    });
  }

  /** The remote is sent on from the link that it is at. */
  protected sendOn(): void {
    const [state, at] = [this.together.state(), this.remoteAt()];
    if (!state || !at) return;
    const closed = this.done().get(at.id)?.result === 'pass';
    this.together.tell({ does: 'answered', touch: state.answers.length, closed });
  }

  /** The outlet that the remote is at comes first; else the next one of the list. */
  protected next(): void {
    const at = this.remoteAt();
    const open = at && !this.done().has(at.id) ? at : this.left()[0];
    this.typed.set(open?.label ?? '');
    setTimeout(() => this.label()?.nativeElement.select());
  }

  protected scan(): void {
    scanLabel().then(
      (label) => {
        if (label === null) this.said.set('No label was seen: hold it flat before the camera, or type it.');
        else this.typed.set(label);
      },
      (error: unknown) =>
        this.said.set(`The camera cannot be used (${(error as Error).message}): type the label.`),
    );
  }

  protected read(): Promise<void> {
    const link = this.here();
    const instrument = this.meter();
    if (!link || !instrument || this.busy()) return Promise.resolve();
    return this.ask(async () => {
      const taken = await firstValueFrom(
        this.api.call('takeReading', { body: { linkId: link.id, instrument, end: 'near' } }),
      );
      this.consider(link, taken);
    });
  }

  /** A reading by one key: everything arrives where it should. */
  protected straight(): void {
    const link = this.here();
    const expected = link ? this.expectation(link) : null;
    if (link && expected)
      this.consider(link, {
        reading: straightReading(expected),
        instrumentName: INSTRUMENTS['coded-mapper'].name,
      });
  }

  private consider(link: Link, given: Given): void {
    const { reading } = given;
    const keep = (): void => void this.keep(link, given);
    const passed = link.stage === 'proved' || link.stage === 'handed-over';
    const words = wrongLabel(link.label, reading, passed);
    if (words === null) keep();
    else {
      this.tones.wrong();
      this.suspicion.set({ words, keep });
    }
  }

  private keep(
    link: Link,
    { reading, instrumentName, takenId }: Given,
    corrects: string | null = null,
  ): Promise<void> {
    this.suspicion.set(null);
    return this.ask(async () => {
      const test = {
        id: crypto.randomUUID(),
        ...(takenId === undefined ? {} : { takenId }),
        instrumentName,
        reading,
        corrects,
        unplugged: true as const,
      };
      const detail = await firstValueFrom(
        this.api.call('addTest', { params: { linkId: link.id }, body: test }),
      );
      this.store.dispatch(JobEvents.linkChanged({ link: detail.link }));
      this.tones.verdict(detail.diagnosis?.result);
      this.said.set(`${link.label}: ${detail.diagnosis?.headline ?? 'kept'}`);
      const params = { jobId: this.jobId() };
      this.round.set(await firstValueFrom(this.api.call('currentRound', { params })));
      // Where it did not pass it may be read again, so the remote stays until it is sent on.
      if (detail.diagnosis?.result === 'pass' && this.remoteAt()?.id === link.id) this.sendOn();
      this.next();
    });
  }

  /** Undo: the last link's reading is taken anew; the old one stays on record, corrected. */
  protected again(): void {
    const last = this.last();
    const link = this.links().find((one) => one.id === last?.linkId);
    const instrument = this.meter();
    if (!last || !link || !instrument) return;
    void this.ask(async () => {
      const body = { linkId: link.id, instrument, end: 'near' as const };
      const taken = await firstValueFrom(this.api.call('takeReading', { body }));
      await this.keep(link, taken, last.testId);
    });
  }

  private expectation(link: Link): ReturnType<typeof expectLink> | null {
    const [kit, job] = [this.kit(), this.job()];
    const cable = kit?.cables.find((c) => c.id === link.cableTypeId);
    const [near, far] = [link.near, link.far].map((end) =>
      kit?.connectors.find((c) => c.id === end.connectorId),
    );
    return cable && near && far && job
      ? expectLink({
          cable,
          near,
          far,
          lengthM: link.lengthM,
          scheme: job.scheme,
          label: link.label,
        })
      : null;
  }

  protected readonly expectationOf = (label: string): ReturnType<typeof expectLink> | null => {
    const link = this.links().find((one) => one.label.toLowerCase() === label.toLowerCase());
    return link ? this.expectation(link) : null;
  };

  protected imported(kept: number): void {
    this.importing.set(false);
    this.said.set(`${kept} readings kept`);
    this.store.dispatch(JobEvents.jobOpened({ jobId: this.jobId() }));
    void this.ask(async () => {
      this.round.set(
        await firstValueFrom(this.api.call('currentRound', { params: { jobId: this.jobId() } })),
      );
    });
  }

  private async ask(work: () => Promise<void>): Promise<void> {
    this.busy.set(true);
    this.problem.set(null);
    try {
      await work();
    } catch (error) {
      this.problem.set(problemOf(error));
    } finally {
      this.busy.set(false);
    }
  }
}
