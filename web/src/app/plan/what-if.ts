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
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import type { Job, Kit, Link } from '@near-spoke/contracts';
import {
  AS_IT_IS,
  besideEachOther,
  fedBy,
  findingHeadline,
  planIf,
  POWER_TYPES,
  runsALink,
  type FindingsIf,
  type JobFindings,
  type PlanFinding,
  type WhatIf,
} from '@near-spoke/core';
import { NumberField } from '../ui/number-field';
import { plannedLinks } from './planned-links';
import { Planning } from './planning';

export interface WhatIfAsked {
  job: Job;
  kit: Kit;
  links: readonly Link[];
  findings: JobFindings;
  mayWork: boolean;
}

/** Changes of links that a thought comes to, to be kept as the plan. */
export type LinksThought = { id: string; version: number; cableTypeId?: string; carries?: Link['carries'] }[];

const FAHRENHEIT_A_KELVIN = 1.8;

/** A plan as it is beside one that is thought otherwise: warmer air, another cable, another way to feed. Nothing is kept unless it is asked for. */
@Component({
  selector: 'ns-what-if',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatSelectModule,
    NumberField,
  ],
  providers: [Planning],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './what-if.html',
  styleUrl: './what-if.scss',
})
export class WhatIfPlan {
  protected readonly data = inject<WhatIfAsked>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<WhatIfPlan, LinksThought>>(MatDialogRef);
  private readonly planning = inject(Planning);
  protected readonly imperial = this.data.job.units === 'imperial';
  protected readonly powers = POWER_TYPES;
  protected readonly cables = this.data.kit.cables.filter(runsALink);
  /** Kinds of cable that the plan has. */
  protected readonly planned = this.cables.filter(({ id }) =>
    this.data.links.some((link) => link.cableTypeId === id),
  );
  protected readonly fed = this.data.links.filter(({ carries }) => carries.power).length;
  protected readonly form = inject(NonNullableFormBuilder).group({
    warmer: [null as number | null],
    from: [this.planned[0]?.id ?? ''],
    to: [''],
    power: [''],
  });
  private readonly value = toSignal(this.form.valueChanges, { initialValue: this.form.getRawValue() });
  private readonly thought = computed((): WhatIf => {
    const { warmer, from = '', to = '', power = '' } = this.value();
    const other = this.cables.find(({ id }) => id === to);
    return {
      warmerC: (warmer ?? 0) / (this.imperial ? FAHRENHEIT_A_KELVIN : 1),
      cable: other && from !== '' && from !== to ? { from, to: other } : null,
      powerType: power === '' ? null : power,
    };
  });
  protected readonly asItIs = computed(() => {
    const { warmerC, cable, powerType } = this.thought();
    return warmerC === AS_IT_IS.warmerC && cable === null && powerType === null;
  });
  protected readonly beside = signal<FindingsIf | null>(null);
  /** What of it can be kept: the air is as it is. */
  protected readonly changes = computed((): LinksThought => {
    const { cable, powerType } = this.thought();
    return this.data.links.flatMap(({ id, version, cableTypeId, carries }) => {
      const other = fedBy(carries, powerType);
      const exchanged = cable?.from === cableTypeId ? { cableTypeId: cable.to.id } : {};
      const fed = other === carries ? {} : { carries: other };
      return 'cableTypeId' in exchanged || 'carries' in fed ? [{ id, version, ...exchanged, ...fed }] : [];
    });
  });

  constructor() {
    effect(() => {
      const thought = this.thought();
      const { job, kit, links, findings } = this.data;
      const then = planIf(plannedLinks(links, kit), job.stretches, thought);
      untracked(() =>
        this.planning.ask({ ...then, cables: kit.cables }, (after) =>
          this.beside.set(besideEachOther(findings, after)),
        ),
      );
    });
  }

  protected words(finding: PlanFinding | null): string {
    return finding ? findingHeadline(finding, { units: this.data.job.units }) : 'nothing against it';
  }

  protected keep(): void {
    this.dialog.close(this.changes());
  }
}
