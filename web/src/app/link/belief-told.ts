import { believe, pictureExplanation, pictureOf, readingsThatHold, storyOf } from '@near-spoke/core';
import type { BeliefJob, Told } from './belief-work';

/** Works belief out and tells what was asked of it. */
export function workOut(job: BeliefJob): Told {
  const { expected, evidence, practice } = job.question;
  if (job.want === 'story') return storyOf(expected, evidence, practice);
  const { hypotheses } = believe(expected, evidence, practice);
  const byKey = new Map(hypotheses.map((one) => [one.key, one]));
  return {
    picture: pictureOf(expected, readingsThatHold(evidence), job.wrong ? hypotheses : []),
    explanations: job.keys.map((key) => {
      const hypothesis = byKey.get(key);
      return hypothesis ? pictureExplanation(expected, hypothesis) : null;
    }),
  };
}
