import { InjectionToken } from '@angular/core';
import type { Evidence, LinkExpectation, LinkPicture, Practice, StoryStep } from '@near-spoke/core';

/** All that belief about a link rests on. */
export interface BeliefQuestion {
  expected: LinkExpectation;
  evidence: readonly Evidence[];
  practice: Practice;
}

/** A link as belief lets it be drawn. */
export interface BeliefPictures {
  /** With what is wrong marked by its share. */
  picture: LinkPicture;
  /** Under each explanation asked for, in their order; null for one that belief no longer has. */
  explanations: readonly (LinkPicture | null)[];
}

export type BeliefJob =
  | { want: 'pictures'; question: BeliefQuestion; wrong: boolean; keys: readonly string[] }
  | { want: 'story'; question: BeliefQuestion };

/** What a job tells. */
export type Told = BeliefPictures | readonly StoryStep[];

/** What comes of a job, unless it is no longer wanted. */
export interface Working {
  done: Promise<Told>;
  cancel(): void;
}

/** Works belief out away from the page, in a web worker; a job that is cancelled ends at once and tells nothing. */
export const WORK_OUT_BELIEF = new InjectionToken<(job: BeliefJob) => Working>('belief', {
  providedIn: 'root',
  factory: () => (job) => {
    const worker = new Worker(new URL('./belief.worker', import.meta.url), { type: 'module' });
    const done = new Promise<Told>((resolve, reject) => {
      worker.onmessage = ({ data }: MessageEvent<Told>) => {
        resolve(data);
        worker.terminate();
      };
      worker.onerror = ({ message }) => {
        reject(new Error(`What explains the readings could not be worked out: ${message}`));
        worker.terminate();
      };
    });
    worker.postMessage(job);
    return { done, cancel: () => worker.terminate() };
  },
});
