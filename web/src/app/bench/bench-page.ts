import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Header } from '../header';
import { Store } from '@ngrx/store';
import { sessionFeature } from '../session/session.state';
import { OpenByTwo } from '../together/open-by-two';
import { BenchKinds } from './bench-kinds';
import { HeatShrink } from './heat-shrink';
import { LampTesterDesigner } from './lamp-tester';
import { PairHuntBench } from './pair-hunt';
import { Practice } from './practice';
import { SupervisedLoopBench } from './supervised-loop';
import { UnmarkedWires } from './unmarked-wires';

/** Tools that belong to no job: wires nobody marked, a link to practise on, a pair to find, a loop to meter, a tester, tube for a joint. */
@Component({
  selector: 'ns-bench-page',
  imports: [
    BenchKinds,
    HeatShrink,
    LampTesterDesigner,
    OpenByTwo,
    PairHuntBench,
    Practice,
    SupervisedLoopBench,
    UnmarkedWires,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <h1 class="visually-hidden">Bench</h1>
      <ns-bench-kinds class="kinds" open="hand" />
      @if (mayWork()) {
        <ns-open-by-two class="kinds" />
      }
      <div class="column">
        <ns-unmarked-wires class="sheet" />
        <ns-practice class="sheet" />
        <ns-supervised-loop class="sheet" />
      </div>
      <div class="column">
        <ns-pair-hunt class="sheet" />
        <ns-lamp-tester class="sheet" />
        <ns-heat-shrink class="sheet" />
      </div>
    </main>
  `,
  styles: `
    main {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 400px;
      gap: 14px;
      padding: 8px 24px 16px;
      align-items: start;
    }
    .kinds {
      grid-column: 1 / -1;
    }
    .column {
      display: grid;
      gap: 14px;
      min-width: 0;
    }
    .column > * {
      padding: 16px 20px;
      min-width: 0;
    }
    @media (max-width: 1080px) {
      main {
        grid-template-columns: minmax(0, 1fr);
        padding: 12px;
      }
    }
  `,
})
export class BenchPage {
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);

  constructor() {
    inject(Header).show([{ name: 'Bench' }]);
  }
}
