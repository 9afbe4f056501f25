import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import {
  allowanceOf,
  cableLengthFromM,
  cableLengthToM,
  cableLengthUnit,
  formatCableLength,
  BOX_M,
  ENDS_M,
  pieceLengthM,
  reelStanding,
  surelyLeftM,
  takeOff,
  type Allowance,
  type Brought,
  type CuttingPlan,
  type Piece,
  type Pull,
  type TakeOffLine,
  workLeft,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { jobStations } from '../jobs/job-stations';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { ReelsStore } from '../reels/reels-store';
import { sessionFeature } from '../session/session.state';
import { NumberField } from '../ui/number-field';
import { saveFile } from '../ui/save-file';
import { CutStrips } from './cut-strips';
import { Cutting, type CutAnswer } from './cutting';
import { OfferForm } from './offer-form';
import { PullIn } from './pull-in';
import { drawsOf, pulledLinks } from './pulled-links';
import { shoppingCsv } from './shopping-csv';
import { spoiltBy } from './spoilt';

const [AT_ONCE, CONFIDENCE] = [4, 95];

interface CableCut {
  cableId: string;
  name: string;
  pieces: Piece[];
  plan: CuttingPlan | null;
  pulls: Pull[];
  trouble: string;
  /** Something better is still looked for. */
  searching: boolean;
}

/** What a job takes: how to cut its cable, in which order to pull it, what to buy with which spares. */
@Component({
  selector: 'ns-materials-page',
  imports: [
    ReactiveFormsModule,
    RouterLink,
    MatButtonModule,
    MatProgressBarModule,
    CutStrips,
    NumberField,
    OfferForm,
    ProblemNote,
    PullIn,
  ],
  providers: [Cutting],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './materials-page.html',
  styleUrl: './materials-page.scss',
})
export class MaterialsPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly cutting = inject(Cutting);
  protected readonly reels = inject(ReelsStore);
  readonly jobId = input.required<string>();

  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);
  private readonly allLinks = this.store.selectSignal(jobsFeature.selectAllLinks);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly problem = this.store.selectSignal(jobsFeature.selectProblem);
  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  protected readonly loaded = computed(() => this.linksOf() === this.jobId() && this.reels.loaded());
  protected readonly links = computed(() => (this.linksOf() === this.jobId() ? this.allLinks() : []));
  protected readonly units = computed(() => this.job()?.units ?? 'metric');
  protected readonly unit = computed(() => cableLengthUnit(this.units()));
  private readonly spoils = rxResource({ stream: () => this.api.call('spoilCounts', {}), defaultValue: [] });
  protected readonly spoilt = computed(() => spoiltBy(this.spoils.value()));

  protected readonly form = inject(FormBuilder).group({
    ends: [null as number | null],
    box: [null as number | null],
    price: [null as number | null],
    atOnce: [AT_ONCE as number | null],
    confidence: [CONFIDENCE as number | null],
  });
  protected readonly asked = toSignal(this.form.valueChanges, { initialValue: this.form.value });

  /** What was cut for this job's links so far, against their plan. */
  protected readonly allowance = computed((): Allowance => {
    const planned = new Map(this.links().map(({ id, lengthM }) => [id, lengthM]));
    return allowanceOf(
      this.drawn().flatMap(({ linkId, lengthM }) => {
        const plannedM = planned.get(linkId);
        return plannedM === undefined ? [] : [{ plannedM, drawnM: lengthM }];
      }),
    );
  });
  private readonly drawn = computed(() => drawsOf(this.reels.reels()));
  /** Links whose cable is not in yet: nothing was made on them, and nothing cut for them. */
  protected readonly open = computed(() => {
    const pulled = pulledLinks(this.links(), this.reels.reels());
    return this.links().map((link) => ({ link, pulled: pulled.has(link.id) }));
  });
  private readonly pieces = computed(() =>
    this.open().map(({ link, pulled }) => ({
      link,
      pulled,
      pieceM: pieceLengthM(link.lengthM, this.allowance(), this.inM(this.asked().ends) ?? ENDS_M),
    })),
  );

  private readonly openLinks = computed(() =>
    this.pieces().map(({ link, pulled, pieceM }) => ({
      label: link.label,
      cableTypeId: link.cableTypeId,
      pieceM,
      pulled,
      nearConnectorId: link.near.connectorId,
      farConnectorId: link.far.connectorId,
      nearDone: link.near.done,
      farDone: link.far.done,
      proved: link.stage === 'proved' || link.stage === 'handed-over',
    })),
  );

  protected readonly cuts = signal<readonly CableCut[]>([]);
  protected readonly lit = signal<string | null>(null);
  protected readonly lines = computed((): TakeOffLine[] => {
    const kit = this.kit();
    if (!kit) return [];
    return takeOff(this.openLinks(), {
      connectors: kit.connectors,
      cableName: (id) => kit.cables.find((cable) => cable.id === id)?.name ?? id,
      spoilt: this.spoilt(),
      confidence: Math.min(99.9, Math.max(50, this.asked().confidence ?? CONFIDENCE)) / 100,
    });
  });
  /** What there is to buy: boxes by the cutting, everything else by the count. */
  protected readonly shopping = computed(() => [
    ...this.cuts().flatMap(({ name, plan }) =>
      (plan?.buy ?? []).map(({ size, count }) => ({ name: `${name}, ${size.name}`, count, spare: 0 })),
    ),
    ...this.lines().flatMap((line) =>
      line.what === 'cable' ? [] : [{ name: line.name, count: line.needed, spare: line.bring - line.needed }],
    ),
  ]);

  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  /** The pull that is being told of. */
  protected readonly openPull = signal<string | null>(null);
  protected readonly mayPull = computed(() => this.mayWork() && this.job()?.closedAt === undefined);
  protected readonly idOf = computed(() => new Map(this.links().map(({ label, id }) => [label, id])));
  protected readonly brought = computed((): Brought[] =>
    this.shopping().map(({ name, count, spare }) => ({ item: name, count: count + spare })),
  );
  /** What is left to be done by hand. */
  protected readonly work = computed(() => workLeft(this.openLinks(), this.kit()?.connectors ?? []));

  constructor() {
    const header = inject(Header);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => {
        this.store.dispatch(JobEvents.jobOpened({ jobId }));
        this.store.dispatch(JobEvents.kitNeeded());
        void this.reels.load();
      });
    });
    effect(() => {
      const job = this.job();
      if (!job) return;
      header.show(
        [
          { name: job.site, link: '/jobs' },
          { name: job.title, link: ['/jobs', job.id] },
          { name: 'Materials' },
        ],
        jobStations(job.id, this.links(), 'plan'),
      );
    });
    effect(() => {
      if (!this.loaded() || !this.kit() || !this.job()) return;
      const pieces = this.pieces().filter(({ pulled }) => !pulled);
      const [asked, boxM] = [this.asked(), this.boxM()];
      untracked(() => this.cutAll(pieces, boxM, asked));
    });
  }

  private cutAll(
    open: readonly { link: { label: string; cableTypeId: string; far: { room: string } }; pieceM: number }[],
    boxM: number,
    asked: { price?: number | null; atOnce?: number | null },
  ): void {
    const names = new Map(this.kit()?.cables.map(({ id, name }) => [id, name]) ?? []);
    const byCable = new Map<string, Piece[]>();
    for (const { link, pieceM } of open) {
      const piece: Piece = { label: link.label, lengthM: pieceM, pull: link.far.room };
      byCable.set(link.cableTypeId, [...(byCable.get(link.cableTypeId) ?? []), piece]);
    }
    for (const { cableId } of this.cuts()) this.cutting.stop(cableId);
    this.cuts.set(
      [...byCable].map(([cableId, pieces]) => ({
        cableId,
        name: names.get(cableId) ?? cableId,
        pieces,
        plan: null,
        pulls: [],
        trouble: '',
        searching: true,
      })),
    );
    // What surely comes out of it, as of one that is there: a label is good to a hundredth.
    const { leftM, u95M } = reelStanding([{ what: 'labelled', lengthM: boxM }]);
    const lengthM = surelyLeftM({ leftM, u95M });
    const sizes = [
      { name: `box of ${formatCableLength(boxM, this.units())}`, lengthM, price: asked.price ?? boxM },
    ];
    for (const [cableId, pieces] of byCable) {
      const held = this.reels
        .standing()
        .filter(({ reel, standing }) => reel.cableTypeId === cableId && standing.leftM !== null)
        .map(({ reel, standing }) => ({
          id: reel.id,
          name: reel.name,
          lengthM: surelyLeftM(standing),
        }));
      const question = { pieces, held, sizes, atOnce: asked.atOnce ?? AT_ONCE };
      this.cutting.ask(cableId, question, (answer) => this.take(cableId, answer));
    }
  }

  private take(cableId: string, answer: CutAnswer): void {
    const change = (cut: CableCut): CableCut => {
      if (answer.say === 'round') return cut;
      if (answer.say === 'bad') return { ...cut, trouble: answer.message, searching: false };
      return { ...cut, plan: answer.plan, pulls: answer.pulls, searching: answer.say === 'so far' };
    };
    this.cuts.update((cuts) => cuts.map((cut) => (cut.cableId === cableId ? change(cut) : cut)));
  }

  /** What a new box holds by its label, metres. */
  private readonly boxM = computed(() => this.inM(this.asked().box) ?? BOX_M[this.units()]);

  private inM(figure: number | null | undefined): number | null {
    return figure === null || figure === undefined ? null : cableLengthToM(figure, this.units());
  }

  protected stop(cableId: string): void {
    this.cutting.stop(cableId);
    this.cuts.update((cuts) =>
      cuts.map((cut) => (cut.cableId === cableId ? { ...cut, searching: false } : cut)),
    );
  }

  protected long = (m: number): string => formatCableLength(m, this.units());
  protected readonly usual = computed(() => ({
    ends: cableLengthFromM(ENDS_M, this.units()),
    box: cableLengthFromM(BOX_M[this.units()], this.units()),
  }));
  protected readonly basis = computed(() => {
    const { share, u95, links } = this.allowance();
    const ends = this.long(this.inM(this.asked().ends) ?? ENDS_M);
    const learned = links === 0 ? 'typical' : `learned from ${links} cut so far`;
    return `Each piece has ${ends} for its ends and ${(100 * share).toFixed(1)} % (± ${(100 * u95).toFixed(1)}, ${learned}) on top. No piece is joined.`;
  });
  protected keyOf = ({ pieces }: Pull): string => pieces.map(({ label }) => label).join(' ');
  /** What each new box of a plan is to hold by its label. */
  protected holds = ({ sources }: CuttingPlan): ReadonlyMap<string, number> =>
    new Map(sources.flatMap(({ heldId, name }) => (heldId === null ? [[name, this.boxM()]] : [])));

  protected gapWords({ gap, price }: CuttingPlan): string {
    if (price === 0) return 'all from what is there';
    return gap === 0 ? 'no plan buys less' : `at most ${(100 * gap).toFixed(1)} % over the least possible`;
  }

  protected print(): void {
    window.print();
  }

  /** The shopping list as a file. */
  protected save(): void {
    saveFile('shopping-list.csv', new Blob([shoppingCsv(this.shopping())], { type: 'text/csv' }));
  }
}
