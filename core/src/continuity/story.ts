import { believe } from './belief.js';
import type { LinkExpectation } from './expectation.js';
import type { Practice } from './practice.js';
import { MEND_PLACES, mendingOf, type MendPlace } from './repair.js';
import type { Evidence } from './timeline.js';

/** What one piece of evidence did to the belief that a place needs work. */
export interface StoryStep {
  evidence: Evidence;
  /** Places whose belief it moved by a tenth or more, most moved first. */
  moved: readonly { place: MendPlace; before: number; after: number }[];
}

const WORTH_TELLING = 0.1;

/** Evidence in its order, with what each piece ruled in or out. */
export function storyOf(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  practice?: Practice,
): StoryStep[] {
  let before = placesIn(expected, [], practice);
  return evidence.map((item, i) => {
    const after = placesIn(expected, evidence.slice(0, i + 1), practice);
    const moved = MEND_PLACES.map((place) => ({
      place,
      before: before.get(place) ?? 0,
      after: after.get(place) ?? 0,
    }))
      .filter((m) => Math.abs(m.after - m.before) >= WORTH_TELLING)
      .sort((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before));
    before = after;
    return { evidence: item, moved };
  });
}

function placesIn(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  practice?: Practice,
): Map<MendPlace, number> {
  const shares = new Map<MendPlace, number>();
  for (const hypothesis of believe(expected, evidence, practice).hypotheses)
    for (const place of mendingOf(hypothesis))
      shares.set(place, (shares.get(place) ?? 0) + hypothesis.weight);
  return shares;
}
