import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Header } from '../header';
import { HeatShrink } from './heat-shrink';
import { UnmarkedWires } from './unmarked-wires';

/** Tools that belong to no job: tube for a joint, wires nobody marked. */
@Component({
  selector: 'ns-bench-page',
  imports: [HeatShrink, UnmarkedWires],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <h1 class="visually-hidden">Bench</h1>
      <ns-unmarked-wires class="sheet" />
      <ns-heat-shrink class="sheet" />
    </main>
  `,
  styles: `
    main {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 400px;
      gap: 14px;
      padding: 16px 24px;
      align-items: start;
    }
    main > * {
      padding: 16px 20px;
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
  constructor() {
    inject(Header).show([{ name: 'Bench' }]);
  }
}
