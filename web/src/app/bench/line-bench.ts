import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { ReelsStore } from '../reels/reels-store';
import { BenchKinds, type BenchKind } from './bench-kinds';
import { BreakALine } from './break-a-line';
import { PlanALaunch } from './plan-a-launch';
import { MeasureVelocity } from './measure-velocity';

/** Tools around a reflectometer that belong to no link: velocity, the launch, a line to break. */
@Component({
  selector: 'ns-line-bench',
  imports: [BenchKinds, BreakALine, MeasureVelocity, PlanALaunch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <h1 class="visually-hidden">Line bench</h1>
      <ns-bench-kinds [open]="open()" />
      @if (cables().length > 0) {
        @switch (open()) {
          @case ('launch') {
            <ns-plan-a-launch [cables]="cables()" />
          }
          @case ('break') {
            <ns-break-a-line [cables]="cables()" />
          }
          @default {
            <ns-measure-velocity [cables]="cables()" [reelId]="reel() ?? null" />
          }
        }
      }
    </main>
  `,
  styles: `
    main {
      display: grid;
      gap: 10px;
      padding: 8px 24px 16px;
    }
    @media (max-width: 1080px) {
      main {
        padding: 8px 12px;
      }
    }
  `,
})
export class LineBench {
  private readonly store = inject(Store);
  /** From the address. */
  readonly tool = input<string>();
  readonly reel = input<string>();
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  /** Cables that a wave can be sent into. */
  protected readonly cables = computed(() =>
    (this.kit()?.cables ?? []).filter(({ family }) => family === 'coax' || family === 'balanced'),
  );
  protected readonly open = computed((): BenchKind => {
    const tool = this.tool();
    return tool === 'launch' || tool === 'break' ? tool : 'velocity';
  });

  constructor() {
    inject(Header).show([{ name: 'Bench', link: '/bench' }, { name: 'Line' }]);
    this.store.dispatch(JobEvents.kitNeeded());
    void inject(ReelsStore).load();
  }
}
