import { inject, Injectable, InjectionToken, type OnDestroy } from '@angular/core';
import type { CableType, JobFindings, PlannedLink, StretchConditions } from '@near-spoke/core';

/** What a job's plan is worked out from. */
export interface Planned {
  links: readonly PlannedLink[];
  conditions: readonly StretchConditions[];
  cables: readonly CableType[];
}
export interface PlanQuestion extends Planned {
  turn: number;
}
export interface PlanAnswer {
  turn: number;
  findings: JobFindings;
}

export const PLAN_WORKER = new InjectionToken<() => Worker>('plan worker', {
  providedIn: 'root',
  factory: () => () => new Worker(new URL('./plan.worker', import.meta.url), { type: 'module' }),
});

/** Asks the worker; of several questions only the last is answered. */
@Injectable()
export class Planning implements OnDestroy {
  private readonly make = inject(PLAN_WORKER);
  private worker: Worker | null = null;
  private turn = 0;

  ask(planned: Planned, answered: (findings: JobFindings) => void): void {
    const turn = ++this.turn;
    this.worker ??= this.make();
    this.worker.onmessage = ({ data }: MessageEvent<PlanAnswer>) => {
      if (data.turn === this.turn) answered(data.findings);
    };
    this.worker.postMessage({ ...planned, turn } satisfies PlanQuestion);
  }

  ngOnDestroy(): void {
    this.worker?.terminate();
  }
}
