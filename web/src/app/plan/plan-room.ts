import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Link, LinkDetail } from '@near-spoke/contracts';
import {
  cableLengthFromM,
  cableLengthToM,
  cableLengthUnit,
  checkPlan,
  endsALink,
  runsALink,
  type Carries,
  type PlanFinding,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { LinkFacts } from '../link/link-facts';
import { LinkEvents, linkFeature } from '../link/link.state';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { JacketMarks, type ToldByMarks } from '../reels/jacket-marks';
import { sessionFeature } from '../session/session.state';
import { CarriesForm } from './carries-form';
import { FindingList } from './finding-list';
import { plannedLinks } from './planned-links';
import { Planning } from './planning';

type Draft = ReturnType<PlanRoom['form']['getRawValue']>;
const FIELD_NAMES: Record<keyof Omit<Draft, 'route'>, string> = {
  label: 'Label',
  hub: 'Hub',
  panel: 'Panel',
  port: 'Port',
  room: 'Far room',
  outlet: 'Outlet',
  cableTypeId: 'Cable',
  nearConnectorId: 'Near connector',
  farConnectorId: 'Far connector',
  length: 'Length',
};

/** A link's plan: where it goes, with what, how far, and what speaks against it. */
@Component({
  selector: 'ns-plan-room',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    CarriesForm,
    JacketMarks,
    FindingList,
  ],
  providers: [Planning],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-room.html',
  styleUrl: './plan-room.scss',
})
export class PlanRoom {
  private readonly store = inject(Store);
  private readonly builder = inject(NonNullableFormBuilder);
  protected readonly facts = inject(LinkFacts);
  protected readonly kit = this.facts.kit;
  protected readonly cables = computed(() => this.kit()?.cables.filter(runsALink) ?? []);
  protected readonly connectors = computed(() => this.kit()?.connectors.filter(endsALink) ?? []);
  protected readonly busy = this.store.selectSignal(linkFeature.selectBusy);
  private readonly problem = this.store.selectSignal(linkFeature.selectProblem);
  protected readonly kept = this.store.selectSignal(linkFeature.selectKept);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly detail = computed(() => this.facts.detail() as LinkDetail);
  protected readonly unit = computed(() => cableLengthUnit(this.detail().units));
  protected readonly ownHub = computed(() => this.jobs()[this.detail().link.jobId]?.hub ?? 'the job’s own');

  readonly form = this.builder.group({
    label: ['', Validators.required],
    hub: [''],
    panel: ['', Validators.required],
    port: ['', Validators.required],
    room: ['', Validators.required],
    outlet: ['', Validators.required],
    cableTypeId: ['', Validators.required],
    nearConnectorId: ['', Validators.required],
    farConnectorId: ['', Validators.required],
    length: [0, [Validators.required, Validators.min(0.1)]],
    route: this.builder.array([this.stretch('', 0)]),
  });
  private readonly value = toSignal(this.form.valueChanges);
  /** The version this draft began from. */
  private readonly version = signal(0);

  /** What a colleague saved meanwhile, beside what is typed here. */
  protected readonly conflict = computed(() => {
    const problem = this.problem();
    if (problem?.status !== 409 || !problem.current) return null;
    const theirs = this.toDraft(problem.current as Link);
    const mine = this.form.getRawValue();
    const names = Object.keys(FIELD_NAMES) as (keyof typeof FIELD_NAMES)[];
    const fields = names.filter((name) => String(theirs[name]) !== String(mine[name]));
    return {
      by: problem.changedBy ?? 'somebody',
      current: problem.current as Link,
      fields: fields.map((name) => ({
        name: FIELD_NAMES[name],
        mine: String(mine[name]),
        theirs: String(theirs[name]),
      })),
    };
  });

  protected readonly remarks = computed(() => {
    this.value();
    const draft = this.form.getRawValue();
    const kit = this.kit();
    const cable = kit?.cables.find((c) => c.id === draft.cableTypeId);
    const near = kit?.connectors.find((c) => c.id === draft.nearConnectorId);
    const far = kit?.connectors.find((c) => c.id === draft.farConnectorId);
    if (!cable || !near || !far) return [];
    return checkPlan({ cable, near, far, lengthM: this.toM(draft.length), route: this.routeOf(draft) });
  });

  /** What it is to carry, as far as it was changed here; null while a figure is missing. */
  protected readonly carries = signal<Carries | null | undefined>(undefined);
  protected readonly drafted = computed(() => this.carries() ?? this.detail().link.carries);
  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly links = this.store.selectSignal(jobsFeature.selectAllLinks);
  protected readonly cable = computed(() => {
    this.value();
    return this.kit()?.cables.find(({ id }) => id === this.form.controls.cableTypeId.value);
  });
  protected readonly findings = signal<readonly PlanFinding[]>([]);

  constructor() {
    const planning = inject(Planning);
    effect(() => {
      const { jobId } = this.detail().link;
      untracked(() => this.store.dispatch(JobEvents.jobOpened({ jobId })));
    });
    effect(() => {
      this.value();
      const { link } = this.detail();
      const kit = this.kit();
      const job = this.jobs()[link.jobId];
      if (!kit || !job || this.links().length === 0) return;
      const draft = this.form.getRawValue();
      const mine = {
        ...link,
        cableTypeId: draft.cableTypeId,
        near: { ...link.near, connectorId: draft.nearConnectorId },
        far: { ...link.far, connectorId: draft.farConnectorId },
        lengthM: Math.max(0.1, this.toM(draft.length)),
        route: this.routeOf(draft).filter(({ lengthM }) => lengthM > 0),
        carries: this.drafted(),
      };
      // Its neighbours count: what they carry warms it.
      const all = this.links().map((one) => (one.id === link.id ? mine : one));
      planning.ask(
        { links: plannedLinks(all, kit), conditions: job.stretches, cables: kit.cables },
        ({ links }) => this.findings.set(links.find(({ label }) => label === link.label)?.findings ?? []),
      );
    });
    let filledFrom: string | null = null;
    effect(() => {
      const { link } = this.detail();
      untracked(() => {
        // A newer version elsewhere does not overwrite what is being typed; saving will show both.
        if (filledFrom === link.id && this.form.dirty && this.kept() !== 'plan') return;
        filledFrom = link.id;
        this.fill(link);
      });
    });
  }

  private stretch(name: string, length: number) {
    return this.builder.group({
      name: [name, Validators.required],
      length: [length, [Validators.required, Validators.min(0.1)]],
    });
  }

  /** What is pulled in is measured off its jacket, and takes the place of what was thought. */
  protected takeMarks({ lengthM }: ToldByMarks): void {
    const { length } = this.form.controls;
    length.setValue(Math.round(10 * cableLengthFromM(lengthM, this.detail().units)) / 10);
    length.markAsDirty();
  }

  private toM(length: number): number {
    return cableLengthToM(length, this.detail().units);
  }

  private toDraft(link: Link): Omit<Draft, 'route'> {
    return {
      label: link.label,
      hub: link.near.otherHub ? link.near.hub : '',
      panel: link.near.panel,
      port: link.near.port,
      room: link.far.room,
      outlet: link.far.outlet,
      cableTypeId: link.cableTypeId,
      nearConnectorId: link.near.connectorId,
      farConnectorId: link.far.connectorId,
      length: cableLengthFromM(link.lengthM, this.detail().units),
    };
  }

  private fill(link: Link): void {
    const { route } = this.form.controls;
    route.clear();
    for (const { name, lengthM } of link.route)
      route.push(this.stretch(name, cableLengthFromM(lengthM, this.detail().units)));
    this.form.patchValue(this.toDraft(link));
    this.form.markAsPristine();
    this.carries.set(undefined);
    this.version.set(link.version);
    if (!this.mayWork() || link.out) this.form.disable();
    else this.form.enable({ emitEvent: false });
  }

  private routeOf(draft: Draft) {
    return draft.route.map(({ name, length }) => ({ name, lengthM: this.toM(length) }));
  }

  protected say(carries: Carries | null): void {
    this.carries.set(carries);
    this.form.markAsDirty();
  }

  protected addStretch(): void {
    this.form.controls.route.push(this.stretch('', 0));
    this.form.markAsDirty();
  }

  protected dropStretch(index: number): void {
    this.form.controls.route.removeAt(index);
    this.form.markAsDirty();
  }

  protected keepMine(current: Link): void {
    this.version.set(current.version);
    this.save();
  }

  protected takeTheirs(current: Link): void {
    this.store.dispatch(LinkEvents.problemRead());
    this.form.markAsPristine();
    this.fill(current);
    this.store.dispatch(LinkEvents.linkOpened({ linkId: current.id }));
  }

  protected save(): void {
    if (this.form.invalid) {
      this.form.markAllAsTouched();
      return;
    }
    const draft = this.form.getRawValue();
    const { length, route: _, ...same } = draft;
    const change = {
      version: this.version(),
      ...same,
      lengthM: this.toM(length),
      route: this.routeOf(draft),
      ...(this.carries() ? { carries: this.drafted() } : {}),
    };
    this.store.dispatch(LinkEvents.planEdited({ linkId: this.detail().link.id, change }));
  }
}
