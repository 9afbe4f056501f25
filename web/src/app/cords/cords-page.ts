import { ChangeDetectionStrategy, Component, computed, effect, inject, untracked } from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { Router, RouterLink } from '@angular/router';
import {
  BadBatch,
  cableLengthToM,
  cableLengthUnit,
  cordAsLead,
  fittingOn,
  followsScheme,
  formatCableLength,
  formatStripLength,
  planCords,
  type AdapterDesign,
  type CordPlan,
  type SchemeId,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { BenchKinds } from '../bench/bench-kinds';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Preferences } from '../preferences/preferences';
import { AdapterBench } from '../adapters/adapter-bench';
import { sessionFeature } from '../session/session.state';
import { spoiltBy } from '../materials/spoilt';
import { NumberField } from '../ui/number-field';
import { SaveTable } from '../ui/save-table';
import { CordCuts } from './cord-cuts';
import { keepDraft, lastDraft, type CordDraft } from './cord-draft';

/** Spares are brought so that they are enough this surely. */
const CONFIDENCE = 0.95;

/** Cords of one kind in a batch: what to lay out and cut, how long it takes, what each costs, and whether to make or buy. */
@Component({
  selector: 'ns-cords-page',
  imports: [
    ReactiveFormsModule,
    RouterLink,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    BenchKinds,
    CordCuts,
    NumberField,
    SaveTable,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cords-page.html',
  styleUrl: './cords-page.scss',
})
export class CordsPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  protected readonly preferences = inject(Preferences);
  protected readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  private readonly spoils = rxResource({ stream: () => this.api.call('spoilCounts', {}), defaultValue: [] });
  protected readonly unit = computed(() => cableLengthUnit(this.preferences.units()));
  protected readonly form = inject(NonNullableFormBuilder).group<CordDraft>(lastDraft());
  private readonly typed = toSignal(this.form.valueChanges);
  protected readonly draft = computed((): CordDraft => {
    this.typed();
    return this.form.getRawValue();
  });
  protected readonly cable = computed(
    () => this.kit()?.cables.find(({ id }) => id === this.draft().cable) ?? null,
  );
  /** What fits on the cable. */
  protected readonly fitting = computed(() => {
    const cable = this.cable();
    return cable ? fittingOn(cable, this.kit()?.connectors ?? []).map(({ connector }) => connector) : [];
  });
  protected readonly ends = computed(() => {
    const { near, far } = this.draft();
    const one = (id: string) => this.fitting().find((connector) => connector.id === id) ?? null;
    return [one(near), one(far)] as const;
  });
  protected readonly plan = computed((): { plan: CordPlan | null; why: string } => {
    const [draft, cable, [near, far]] = [this.draft(), this.cable(), this.ends()];
    if (!cable) return { plan: null, why: 'Choose a cable.' };
    if (!near || !far)
      return { plan: null, why: 'Choose what goes on both ends: it has to fit on this cable.' };
    if (draft.count === null || draft.length === null)
      return { plan: null, why: 'Give how many there are, and how long one is.' };
    try {
      const plan = planCords(
        {
          count: draft.count,
          lengthM: cableLengthToM(draft.length, this.preferences.units()),
          cable,
          ends: [near, far],
        },
        {
          cablePerM: draft.cablePerM && draft.cablePerM / cableLengthToM(1, this.preferences.units()),
          connectors: [draft.nearEach, near.id === far.id ? draft.nearEach : draft.farEach],
          hour: draft.hour,
          once: draft.once ?? 0,
          boughtEach: draft.boughtEach,
        },
        { spoilt: spoiltBy(this.spoils.value()), confidence: CONFIDENCE },
      );
      return { plan, why: '' };
    } catch (error) {
      if (error instanceof BadBatch) return { plan: null, why: error.message };
      throw error;
    }
  });
  protected readonly minutes = computed(() => {
    const { cut = 0, terminate = 0, test = 0, label = 0 } = this.plan().plan?.minutes ?? {};
    return cut + terminate + test + label;
  });
  /** Make or buy, in one sentence. */
  protected readonly verdict = computed((): string => {
    const { plan } = this.plan();
    const { boughtEach, count } = this.draft();
    if (!plan || plan.costEach === null)
      return 'With a price for the cable, a connector and an hour of work it is said what one costs.';
    if (boughtEach === null) return 'With the price of one that is bought it is said which is cheaper.';
    if (plan.turnsAt === null) return 'Buy them: made, each costs more than bought, however many there are.';
    return (count ?? 0) >= plan.turnsAt
      ? `Make them: from ${plan.turnsAt} on making is cheaper.`
      : `Buy them: making is cheaper only from ${plan.turnsAt} on.`;
  });

  protected readonly byScheme = computed(() => this.ends().some((end) => end && followsScheme(end)));
  /** The whole cord as a lead that is proved with two probes; null where it is none of pairs or coax. */
  protected readonly lead = computed((): AdapterDesign | null => {
    const [draft, cable, [near, far]] = [this.draft(), this.cable(), this.ends()];
    if (!cable || !near || !far || draft.length === null || draft.length <= 0) return null;
    const [first, second]: [SchemeId, SchemeId] =
      draft.wiring === 'crossed' ? ['T568A', 'T568B'] : [draft.wiring, draft.wiring];
    const design = cordAsLead(
      cable,
      [
        { connector: near, choices: { scheme: first } },
        { connector: far, choices: { scheme: second } },
      ],
      cableLengthToM(draft.length, this.preferences.units()),
    );
    return design && { ...design, name: `${draft.name.trim() || 'Cords'}: ${design.name}`.slice(0, 80) };
  });
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  private readonly bench = inject(AdapterBench);
  private readonly router = inject(Router);

  constructor() {
    void this.bench.load();
    inject(Header).show([{ name: 'Bench', link: '/bench' }, { name: 'Cords' }]);
    if (!untracked(this.kit)) this.store.dispatch(JobEvents.kitNeeded());
    effect(() => keepDraft(this.draft()));
  }

  /** To where these cords are proved one by one: what is kept of them, or a lead that is to be kept. */
  protected prove(design: AdapterDesign): void {
    const kept = this.bench.list().find(({ name }) => name === design.name);
    void this.router.navigate(['/bench/adapters', kept?.id ?? this.bench.begin(design)]);
  }

  protected lengthWords(metres: number): string {
    return formatCableLength(metres, this.preferences.units());
  }

  /** A piece as it is cut: to the millimetre. */
  protected pieceWords(metres: number): string {
    return formatStripLength(1000 * metres, this.preferences.units());
  }

  protected money(amount: number): string {
    return `${amount.toFixed(2)} ${this.draft().currency}`.trim();
  }

  protected timeWords(minutes: number): string {
    return minutes < 90 ? `${Math.round(minutes)} min` : `${(minutes / 60).toFixed(1)} h`;
  }
}
