import type { CableType } from '../cabling/cable-types.js';
import { NoLaunch } from '../reflectometry/launch.js';
import { roundTripS } from '../reflectometry/line.js';
import { readTrace, type TraceReading } from '../reflectometry/read-trace.js';
import { traceSettingOf, type ToldOfTrace } from '../reflectometry/told-trace.js';
import type { Trace } from '../reflectometry/trace.js';
import type { ReportTrace } from './report-data.js';

/** A trace as it is kept. */
export interface KeptTrace {
  id: string;
  turn: number;
  at: string;
  by: string;
  end: 'near' | 'far';
  pair: string | null;
  name: string;
  trace: { intervalS: number; startS: number; volts: readonly number[] };
  told: ToldOfTrace;
}

/** Points that a printed line is drawn with: more than a page can show. */
const POINTS = 360;
/** The line is drawn so far beyond its planned length. */
const BEYOND = 1.4;
/** Before its near end, as a share of its length. */
const BEFORE = 0.08;

/** A kept trace read as a whole, for print: the trace with what explains it, over the metres from where it was taken. */
export function fitTrace(
  { id, turn, at, by, end, pair, name, trace, told }: KeptTrace,
  cable: CableType | null,
  lengthM: number,
): ReportTrace {
  const head = { id, turn, at, by, end, pair, name, velocityFactor: told.velocityFactor };
  const given: Trace = { ...trace, volts: Float64Array.from(trace.volts) };
  let read: TraceReading;
  try {
    read = readTrace(given, { ...traceSettingOf(cable, told, lengthM), thorough: true });
  } catch (error) {
    if (!(error instanceof NoLaunch)) throw error;
    return { ...head, from: 0, to: lengthM, seen: [], model: [], events: [], main: null, unexplained: true };
  }
  const { explained, events, main, unexplained } = read;
  const { trace: fitted, fit, launch, modelV } = explained;
  const startS =
    fitted.startS + fit.launch.at * fitted.intervalS + roundTripS(told.leadM, told.leadVelocityFactor);
  const [from, to] = [-BEFORE * lengthM, BEYOND * lengthM];
  const level = launch.baselineV + fit.level;
  const height = Math.abs(fit.launch.height) || 1;
  const drawn = (volts: Float64Array): number[] =>
    Array.from({ length: POINTS }, (_, n) => {
      const placeM = from + ((to - from) * n) / (POINTS - 1);
      const timeS = startS + Math.sign(placeM) * roundTripS(Math.abs(placeM), told.velocityFactor);
      return round((between(volts, (timeS - fitted.startS) / fitted.intervalS) - level) / height);
    });
  return {
    ...head,
    from,
    to,
    seen: drawn(fitted.volts),
    model: drawn(modelV),
    events: events.map(({ kind, distanceM, u95M, probability }) => ({
      kind,
      distanceM: round(distanceM),
      u95M: round(u95M),
      probability: round(probability),
    })),
    main,
    unexplained,
  };
}

const round = (value: number): number => Math.round(value * 10_000) / 10_000;

/** A value between samples; before the first and after the last, theirs. */
function between(volts: Float64Array, at: number): number {
  const below = Math.max(0, Math.min(volts.length - 1, Math.floor(at)));
  const above = Math.min(volts.length - 1, below + 1);
  const share = Math.max(0, Math.min(1, at - below));
  return (volts[below] ?? 0) * (1 - share) + (volts[above] ?? 0) * share;
}
