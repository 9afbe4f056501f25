import type { CableType, LossPoint } from '../cabling/cable-types.js';
import { NORMAL_95 } from '../chance/normal.js';
import type { FarEnd } from './chain/explain-by-chain.js';
import { lineOf, lossThrough, UNKNOWN_LOSS } from './cable-loss.js';
import type { LineFigures } from './line.js';
import type { PlannedLength } from './loaded-end.js';
import type { TraceSetting } from './read-trace.js';

/** What a person told of a kept trace. */
export interface ToldOfTrace {
  velocityFactor: number;
  /** Half width of its 95 % interval. */
  velocityU95: number;
  impedanceOhm: number;
  leadM: number;
  leadVelocityFactor: number;
  shape: 'pulse' | 'step' | null;
  loss?: readonly LossPoint[] | undefined;
  farEnd?: FarEnd | undefined;
}

/** A lead is taped to this, as a deviation. */
export const LEAD_TAPED_M = 0.005;

/** The line of a cable with what was told of it; a loss that was told stands before what is typical. */
function lineTold(cable: CableType | null, { impedanceOhm, velocityFactor, loss }: ToldOfTrace): LineFigures {
  if (cable) return lineOf(cable, { impedanceOhm, velocityFactor, loss });
  const bare = { impedanceOhm, velocityFactor, ...UNKNOWN_LOSS };
  return loss ? { ...bare, ...lossThrough(loss, bare) } : bare;
}

/** A planned length is good to this share, as a deviation, and to no less than so many metres. */
export const PLAN_KNOWN_TO = 0.03;
const PLAN_KNOWN_TO_M = 0.5;

/** A length that a plan gives, with how well plans are known. */
export const plannedLength = (lengthM: number): PlannedLength => ({
  lengthM,
  deviationM: Math.max(PLAN_KNOWN_TO_M, PLAN_KNOWN_TO * lengthM),
});

/**
 * What a kept trace is read with, from what a person told of it.
 * @param plannedM length of the link by its plan, where there is one
 */
export function traceSettingOf(cable: CableType | null, told: ToldOfTrace, plannedM?: number): TraceSetting {
  return {
    line: lineTold(cable, told),
    velocityDeviation: told.velocityU95 / NORMAL_95,
    lossKnown: told.loss ? 'measured' : cable !== null,
    farEnd: told.farEnd,
    ...(plannedM ? { planned: plannedLength(plannedM) } : {}),
    lead: { lengthM: told.leadM, velocityFactor: told.leadVelocityFactor, deviationM: LEAD_TAPED_M },
    ...(told.shape ? { shape: told.shape } : {}),
  };
}
