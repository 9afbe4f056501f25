import { InjectionToken } from '@angular/core';
import type { AdapterEnd, ApartPlan, HandPlan, Hands, Net } from '@near-spoke/core';

export interface TouchQuestion {
  nets: readonly Net[];
  ends: readonly AdapterEnd[];
  /** What touching costs. */
  hands: Hands;
  /** The end that the meter is at, where the others are out of its reach. */
  meterAt: string;
}

/** The lists that prove a lead, and what touching everything in its order would cost. */
export interface TouchPlans {
  probes: HandPlan;
  gangs: HandPlan;
  apart: ApartPlan;
  inOrderS: number;
}

/** Puts a lead's touches into order, in a web worker. */
export const PLAN_TOUCHES = new InjectionToken<(question: TouchQuestion) => Promise<TouchPlans>>(
  'touch plans',
  {
    providedIn: 'root',
    factory: () => (question) =>
      new Promise((resolve, reject) => {
        const worker = new Worker(new URL('./touch-plans.worker', import.meta.url), { type: 'module' });
        worker.onmessage = ({ data }: MessageEvent<TouchPlans>) => {
          resolve(data);
          worker.terminate();
        };
        worker.onerror = () => {
          reject(new Error('The touches could not be put into order.'));
          worker.terminate();
        };
        worker.postMessage(question);
      }),
  },
);
