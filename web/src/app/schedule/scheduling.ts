import { inject, Injectable, InjectionToken, signal, type OnDestroy } from '@angular/core';
import type { DayPlan, DaysAsked, LinkToDo, TimesOfEnds } from '@near-spoke/core';

/** A job's work that is to be laid over days. */
export interface DaysQuestion {
  links: readonly LinkToDo[];
  minutes: { pull: number; test: number };
  times: readonly TimesOfEnds[];
  asked: DaysAsked;
}

export type DaysAnswer =
  | { say: 'tried'; tried: number; of: number }
  /** The plan, and when it ends nine times in ten; null where it never would. */
  | { say: 'days'; plan: DayPlan; carefully: DayPlan['ends'] }
  | { say: 'bad'; message: string };

export const DAYS_WORKER = new InjectionToken<() => Worker>('days worker', {
  providedIn: 'root',
  factory: () => () => new Worker(new URL('./days.worker', import.meta.url), { type: 'module' }),
});

/** The worker that lays work over days; a new question ends the one before. */
@Injectable()
export class Scheduling implements OnDestroy {
  private readonly make = inject(DAYS_WORKER);
  private worker: Worker | null = null;
  /** Share of the search that is done; null when nothing is searched. */
  readonly searched = signal<number | null>(null);

  ask(question: DaysQuestion, answered: (answer: DaysAnswer) => void): void {
    this.stop();
    const worker = this.make();
    this.worker = worker;
    this.searched.set(0);
    worker.onmessage = ({ data }: MessageEvent<DaysAnswer>) => {
      if (data.say === 'tried') this.searched.set(data.tried / data.of);
      else {
        answered(data);
        this.stop();
      }
    };
    worker.postMessage(question);
  }

  stop(): void {
    this.worker?.terminate();
    this.worker = null;
    this.searched.set(null);
  }

  ngOnDestroy(): void {
    this.worker?.terminate();
  }
}
