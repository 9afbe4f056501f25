import type { TraceTold } from '@near-spoke/contracts';
import { echoDistanceM, EVENT_WORDS, roundTripS } from '@near-spoke/core';
import type { PlottedTrace } from '../drawing/trace-chart';
import type { TraceAnswer } from './tracing';

/** Metres to the decimetre, without a minus before nought. */
export const metres = (value: number): string => (Math.abs(value) < 0.05 ? 0 : value).toFixed(1);

/** Where times on a trace lie along the line, from its near end. */
export interface TraceAxis {
  /** Metres from the near end of what comes back at a time on the trace's own time. */
  placeOf: (timeS: number) => number;
  /** And back again. */
  timeOf: (placeM: number) => number;
}

/** The axis of a trace that was taken with what is told, from one end of a line. */
export function axisOf(
  { launchAtS }: Pick<TraceAnswer, 'launchAtS'>,
  { leadM, leadVelocityFactor, velocityFactor }: TraceTold,
  { lengthM, fromFar }: { lengthM: number; fromFar: boolean },
): TraceAxis {
  const startS = launchAtS + roundTripS(leadM, leadVelocityFactor);
  return {
    placeOf: (timeS) => {
      const distanceM = echoDistanceM(timeS - startS, velocityFactor);
      return fromFar ? lengthM - distanceM : distanceM;
    },
    timeOf: (placeM) => startS + roundTripS(fromFar ? lengthM - placeM : placeM, velocityFactor),
  };
}

/** What is drawn beside the trace itself. */
export interface Shown {
  residual?: boolean;
  profile?: boolean;
  events?: boolean;
  /** Difference to an earlier trace, sample by sample, as a share of the launch. */
  difference?: Float64Array | null;
}

/** A trace as it is drawn: over the line's own metres, as a share of its launch. */
export function plotTrace(
  answer: TraceAnswer,
  told: TraceTold,
  line: { lengthM: number; fromFar: boolean },
  { residual = false, profile = false, events = true, difference = null }: Shown = {},
): PlottedTrace {
  const { seen, modelV, launchV, levelV, reading, nominalOhm } = answer;
  const { placeOf } = axisOf(answer, told, line);
  const series = (share: (n: number) => number): { x: number; y: number }[] => {
    const points = Array.from(seen.volts, (_, n) => ({
      x: placeOf(seen.startS + n * seen.intervalS),
      y: share(n),
    }));
    return line.fromFar ? points.reverse() : points;
  };
  const height = Math.abs(launchV);
  return {
    points: series((n) => ((seen.volts[n] ?? 0) - levelV) / height),
    residual: residual ? series((n) => ((seen.volts[n] ?? 0) - (modelV[n] ?? 0)) / height) : null,
    difference: difference ? series((n) => difference[n] ?? 0) : null,
    profile: profile
      ? Array.from(answer.profile.ohm, (ohm, n) => ({
          x: placeOf(answer.launchAtS + n * answer.profile.layerS),
          y: ohm / nominalOhm - 1,
        }))
          .filter(({ y }) => Number.isFinite(y))
          .sort((one, other) => one.x - other.x)
      : null,
    events: events
      ? reading.events.map((event, n) => ({
          atM: line.fromFar ? line.lengthM - event.distanceM : event.distanceM,
          u95M: event.u95M,
          main: n === reading.main,
          ghost: event.kind === 'ghost',
          label:
            event.kind === 'ghost' ? 'ghost' : `${EVENT_WORDS[event.kind]}, ${metres(event.distanceM)} m`,
        }))
      : [],
  };
}
