import { inject, Injectable, InjectionToken, type OnDestroy } from '@angular/core';
import type { BoxSize, CuttingPlan, HeldStock, Piece, Pull } from '@near-spoke/core';

/** One cable type's cutting problem. */
export interface CutQuestion {
  pieces: readonly Piece[];
  held: readonly HeldStock[];
  sizes: readonly BoxSize[];
  /** Boxes that stand side by side at the most. */
  atOnce: number;
}

export type CutAnswer =
  | { say: 'so far' | 'cut'; plan: CuttingPlan; pulls: Pull[] }
  | { say: 'round'; round: number }
  | { say: 'bad'; message: string };

export const CUT_WORKER = new InjectionToken<() => Worker>('cut worker', {
  providedIn: 'root',
  factory: () => () => new Worker(new URL('./cut.worker', import.meta.url), { type: 'module' }),
});

/** Workers that cut, one for each kind of cable; a new question ends the one before. */
@Injectable()
export class Cutting implements OnDestroy {
  private readonly make = inject(CUT_WORKER);
  private readonly workers = new Map<string, Worker>();

  ask(cableId: string, question: CutQuestion, answered: (answer: CutAnswer) => void): void {
    this.stop(cableId);
    const worker = this.make();
    this.workers.set(cableId, worker);
    worker.onmessage = ({ data }: MessageEvent<CutAnswer>) => {
      answered(data);
      if (data.say === 'cut' || data.say === 'bad') this.stop(cableId);
    };
    worker.postMessage(question);
  }

  /** Ends a search; what it found so far stands. */
  stop(cableId: string): void {
    this.workers.get(cableId)?.terminate();
    this.workers.delete(cableId);
  }

  ngOnDestroy(): void {
    for (const worker of this.workers.values()) worker.terminate();
  }
}
