import { planJob } from '@near-spoke/core';
import type { PlanAnswer, PlanQuestion } from './planning';

/** Holds a job's links against what limits them, away from the page. */
addEventListener('message', ({ data }: MessageEvent<PlanQuestion>) => {
  const answer: PlanAnswer = { turn: data.turn, findings: planJob(data.links, data) };
  postMessage(answer);
});
