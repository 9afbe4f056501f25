import { DatePipe, DecimalPipe } from '@angular/common';
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
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import type { Link, NewReelEntry, ReelEntry } from '@near-spoke/contracts';
import { canGive, typedNumber, type CableType } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { ReelPicture } from '../drawing/reel-picture';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Keys } from '../keys/keys';
import { KitKinds } from '../kit/kit-kinds';
import { sessionFeature } from '../session/session.state';
import { JacketMarks, type ToldByMarks } from './jacket-marks';
import { MeasureReel, type ReelMeasured } from './measure-reel';
import { NewReelForm } from './new-reel';
import { ReelsStore, velocityWords, type StandingReel } from './reels-store';
import { SaveTable } from '../ui/save-table';

/** What the hand is at. */
type Doing = 'looking' | 'measuring' | 'drawing' | 'entering';

/** Drums and boxes: what is left on each by its ledger, and what a measurement says to that. */
@Component({
  selector: 'ns-reels-page',
  imports: [
    DatePipe,
    DecimalPipe,
    RouterLink,
    MatButtonModule,
    KitKinds,
    JacketMarks,
    MeasureReel,
    NewReelForm,
    ProblemNote,
    ReelPicture,
    SaveTable,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reels-page.html',
  styleUrl: './reels-page.scss',
})
export class ReelsPage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  protected readonly shelf = inject(ReelsStore);
  /** From the address. */
  readonly reelId = input<string>();
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly cables = computed(() => this.kit()?.cables ?? []);
  protected readonly words = velocityWords;
  protected readonly doing = signal<Doing>('looking');
  protected readonly open = computed(
    (): StandingReel | null =>
      this.shelf.standing().find(({ reel }) => reel.id === this.reelId()) ?? this.shelf.standing()[0] ?? null,
  );
  protected readonly cable = computed(() => this.cableOf(this.open()?.reel.cableTypeId));
  protected readonly velocity = computed(() => {
    const [cable, open] = [this.cable(), this.open()];
    return cable && open ? this.shelf.velocityOf(cable, open.reel) : null;
  });
  /** The ledger, newest first, with what a later entry took the place of. */
  protected readonly lines = computed(() => {
    const entries = this.open()?.reel.entries ?? [];
    const corrected = new Set(entries.map(({ corrects }) => corrects));
    return entries.map((entry) => ({ entry, corrected: corrected.has(entry.id) })).reverse();
  });

  protected readonly drawM = signal('');
  protected readonly drawFor = signal('');
  protected readonly drawWords = signal('');
  protected readonly correcting = signal<ReelEntry | null>(null);
  /** Of the entry to be made: the same for a retry, so that no metre is drawn twice, and another for other figures. */
  private readonly entryId = linkedSignal<string>(() => {
    for (const told of [this.doing, this.drawM, this.drawFor, this.drawWords, this.correcting]) told();
    return crypto.randomUUID();
  });
  /** Links that are planned in this reel's cable. */
  protected readonly links = signal<readonly Link[]>([]);
  protected readonly fitting = computed(() =>
    this.links().filter(({ cableTypeId }) => cableTypeId === this.open()?.reel.cableTypeId),
  );
  protected readonly metres = computed(() => {
    const metres = typedNumber(this.drawM());
    return metres >= 0 ? metres : null;
  });
  protected readonly gives = computed(() => {
    const [open, metres] = [this.open(), this.metres()];
    return open && metres !== null && metres > 0 && !this.correcting()
      ? canGive(open.standing, metres)
      : null;
  });

  constructor() {
    inject(Header).show([{ name: 'Kit', link: '/kit' }, { name: 'Reels' }]);
    this.store.dispatch(JobEvents.kitNeeded());
    this.shelf.clear();
    void this.shelf.load();
    effect(() => {
      this.reelId();
      untracked(() => this.leave());
    });
    const idle = (): boolean => this.doing() === 'looking' && this.mayWork() && this.open() !== null;
    inject(Keys).use(
      [
        {
          key: 'm',
          words: 'measure what is left on the reel',
          run: () => this.doing.set('measuring'),
          when: idle,
        },
        { key: 'd', words: 'enter a draw', run: () => this.startDraw(null), when: idle },
        { key: 'Escape', words: 'leave it', run: () => this.leave(), when: () => this.doing() !== 'looking' },
      ],
      inject(DestroyRef),
    );
  }

  protected cableOf(id: string | undefined): CableType | null {
    return this.cables().find((cable) => cable.id === id) ?? null;
  }

  /** What is left by what it held at most, as far as the ledger tells. */
  protected shareOf({ reel, standing }: StandingReel): number | null {
    const most = Math.max(...reel.entries.map(({ lengthM }) => lengthM), 0);
    return standing.leftM === null || most === 0 ? null : standing.leftM / most;
  }

  protected leave(): void {
    this.doing.set('looking');
    this.correcting.set(null);
    this.shelf.clear();
  }

  protected startDraw(correcting: ReelEntry | null): void {
    this.doing.set('drawing');
    this.correcting.set(correcting);
    this.drawM.set(correcting ? String(correcting.lengthM) : '');
    this.drawFor.set(correcting?.linkId ?? '');
    this.drawWords.set(correcting?.words ?? '');
    if (this.links().length === 0) void this.readLinks();
  }

  /** The marks are kept in words: where the next piece begins is read off the last. */
  protected takeMarks({ lengthM, words }: ToldByMarks): void {
    this.drawM.set(String(Math.round(100 * lengthM) / 100));
    this.drawWords.update((before) => (before === '' ? words : before));
  }

  protected async enterDraw(): Promise<void> {
    const lengthM = this.metres();
    if (lengthM === null) return;
    await this.enter({
      id: this.entryId(),
      what: 'drawn',
      lengthM,
      linkId: this.drawFor() || null,
      words: this.drawWords(),
      corrects: this.correcting()?.id ?? null,
    });
  }

  protected async enterMeasured({ lengthM, u95M, velocityFactor, name }: ReelMeasured): Promise<void> {
    await this.enter({
      id: this.entryId(),
      what: 'measured',
      lengthM,
      u95M,
      velocityFactor,
      words: name,
    });
  }

  private async enter(entry: NewReelEntry): Promise<void> {
    const open = this.open();
    if (open && (await this.shelf.enter(open.reel.id, entry))) this.leave();
  }

  protected added(reelId: string): void {
    this.leave();
    void this.router.navigate(['/kit/reels', reelId]);
  }

  private async readLinks(): Promise<void> {
    try {
      const jobs = await firstValueFrom(this.api.call('listJobs', {}));
      const links = await Promise.all(
        jobs.map(({ id }) => firstValueFrom(this.api.call('listLinks', { params: { jobId: id } }))),
      );
      this.links.set(links.flat());
    } catch {
      // Without the list a draw is entered in words.
      this.links.set([]);
    }
  }
}
