import {
  lineOf,
  lossThrough,
  UNKNOWN_LOSS,
  type AskedFigure,
  type CableType,
  type LineFigures,
  type TraceSetting,
  NORMAL_95,
} from '@near-spoke/core';
import type { TraceTold } from '@near-spoke/contracts';

/** What a record says of how its figure was read, where it was no trace. */
export const BY_EYE = 'read by eye off a screen';

/** A lead is taped to this, as a deviation. */
export const LEAD_TAPED_M = 0.005;

/** What the fields that tell of a trace ask for: as wide as the server takes it. */
export const TRACE_FIELDS = {
  velocity: { what: 'Velocity factor', least: 0.3, most: 1 },
  velocityU95: { what: 'How good the velocity is', least: 0, most: 0.3 },
  lead: { what: 'Lead', unit: 'metres', least: 0, most: 1000 },
  leadVelocity: { what: 'Lead’s velocity factor', least: 0.3, most: 1 },
} as const satisfies Record<string, AskedFigure>;

/** The line of a cable with what was told of it; a loss that was told stands before what is typical. */
function lineTold(cable: CableType | null, { impedanceOhm, velocityFactor, loss }: TraceTold): LineFigures {
  if (cable) return lineOf(cable, { impedanceOhm, velocityFactor, loss });
  const bare = { impedanceOhm, velocityFactor, ...UNKNOWN_LOSS };
  return loss ? { ...bare, ...lossThrough(loss, bare) } : bare;
}

/** What core reads a trace with, from what a person told of it. */
export function traceSettingOf(cable: CableType | null, told: TraceTold): TraceSetting {
  return {
    line: lineTold(cable, told),
    velocityDeviation: told.velocityU95 / NORMAL_95,
    lossKnown: told.loss ? 'measured' : cable !== null,
    farEnd: told.farEnd,
    lead: { lengthM: told.leadM, velocityFactor: told.leadVelocityFactor, deviationM: LEAD_TAPED_M },
    ...(told.shape ? { shape: told.shape } : {}),
  };
}
