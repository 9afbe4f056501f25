import { lineOf, UNKNOWN_LOSS, type CableType, type TraceSetting } from '@near-spoke/core';
import type { TraceTold } from '@near-spoke/contracts';

const NORMAL_95 = 1.96;
/** A lead is taped to this, as a deviation. */
export const LEAD_TAPED_M = 0.005;

/** What core reads a trace with, from what a person told of it. */
export function traceSettingOf(cable: CableType | null, told: TraceTold): TraceSetting {
  const given = { impedanceOhm: told.impedanceOhm, velocityFactor: told.velocityFactor };
  return {
    line: cable ? lineOf(cable, given) : { ...given, ...UNKNOWN_LOSS },
    velocityDeviation: told.velocityU95 / NORMAL_95,
    lossKnown: cable !== null,
    lead: { lengthM: told.leadM, velocityFactor: told.leadVelocityFactor, deviationM: LEAD_TAPED_M },
    ...(told.shape ? { shape: told.shape } : {}),
  };
}
