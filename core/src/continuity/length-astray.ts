import { contactPairsAt, type LinkExpectation } from './expectation.js';
import { commonEnd } from './findings.js';
import type { Reading } from './readings.js';
import { erasOf, type Evidence } from './timeline.js';

/** From so many times the plan's length on another link is likelier than a plan so wrong. */
const LIKELIER_ANOTHER = 2;
const AT_THE_CONNECTOR_M = 1;
/** Lengths of one cable differ by no more than this share, beside what each is read to. */
const SAME_LENGTH = 0.15;

/** Two lengths that cannot both be this cable's, in metres. */
export interface LengthAstray {
  against: 'plan' | 'before';
  readM: number;
  /** The plan's length, or what this cable was measured to be. */
  otherM: number;
}

/**
 * A length at which every pair of a reading ends that speaks against the link that was read: nowhere near the plan's,
 * or another than this cable was measured to be before; null where none does.
 */
export function lengthAstray(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  readings: readonly Reading[],
): LengthAstray | null {
  const pairs = contactPairsAt(expected, expected.near.wiring).length;
  const measured = (some: readonly Reading[]): number[] =>
    some.flatMap((reading) => {
      const end = reading.instrument === 'pair-reflectometer' ? commonEnd(reading, pairs) : null;
      // What ends in the connector is no length.
      return end === null || end < AT_THE_CONNECTOR_M ? [] : [end];
    });
  const now = measured(readings);
  const eras = erasOf(evidence);
  const cable = eras[eras.length - 1]?.make.cable;
  const ever = measured(eras.filter(({ make }) => make.cable === cable).flatMap((era) => era.readings));
  for (const readM of now) {
    const otherM = ever.find((m) => Math.abs(readM - m) > 1 + SAME_LENGTH * Math.min(readM, m));
    if (otherM !== undefined) return { against: 'before', readM, otherM };
  }
  const { lengthM } = expected;
  const off = now.find((m) => Math.max(m, lengthM) > LIKELIER_ANOTHER * Math.min(m, lengthM));
  return off === undefined ? null : { against: 'plan', readM: off, otherM: lengthM };
}
