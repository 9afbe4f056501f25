import type { TraceEvent, TraceReading } from './read-trace.js';
import type { Trace } from './trace.js';

/** A trace that was read, as far as two are compared. */
export interface ReadForComparison {
  trace: Trace;
  /** Middle of the launch's leading edge, its height, and the level it stands on. */
  launchAtS: number;
  launchV: number;
  levelV: number;
  reading: Pick<TraceReading, 'events' | 'noiseV' | 'resolutionM' | 'deadZoneM' | 'main'>;
}

/** An event that one trace has and the other has not, or has otherwise. */
export interface TraceChange {
  what: 'new' | 'gone' | 'changed';
  /** As it is now; as it was, where it is gone. */
  event: TraceEvent;
  was: TraceEvent | null;
}

/** What is new on a line since an earlier trace. */
export interface TraceDifference {
  /** Now less then on the samples of now, as a share of the launch; nought where then has ended. */
  share: Float64Array;
  /** Deviation of the difference where nothing changed. */
  noiseShare: number;
  /** Whether both were launched alike; where not, the difference shows the launches as well. */
  alike: boolean;
  /** Nearest first. */
  changes: TraceChange[];
}

/** Launches differ by no more than this share of their height where they were set alike. */
const ALIKE = 0.08;
/** What of a launch's length is compared sample by sample: its edge, without what comes after. */
const EDGE_SHARE = 0.5;
/** Turns in which one launch is laid on the other, and by how much their heights may be wrong. */
const ALIGN_TURNS = 3;
const GAIN_KEEPS = 0.03;
/** Pulses differ in width by no more than this share, or so many samples, where they were set alike. */
const WIDTH_KEEPS = 0.15;
const WIDTH_SAMPLES = 2;
/** Reflections differ by more than this before something is said to have changed. */
const REFLECTION_KEEPS = 0.06;

/**
 * The difference of two traces of one line from one end, each taken by its own launch (time, height
 * and level), and what the events of the two say to each other. Events are the same where their
 * distances agree within their uncertainty or cannot be told apart; velocities and leads are each
 * trace's own.
 */
export function compareTraces(now: ReadForComparison, then: ReadForComparison): TraceDifference {
  const { trace } = now;
  const share = new Float64Array(trace.volts.length);
  const thenShare = (timeS: number): number => {
    const at = (timeS + then.launchAtS - then.trace.startS) / then.trace.intervalS;
    const n = Math.floor(at);
    const [before, low, high, after] = [-1, 0, 1, 2].map((k) => then.trace.volts[n + k]);
    if (before === undefined || low === undefined || high === undefined || after === undefined) return NaN;
    // Cubic between samples (Catmull and Rom): a straight line cuts an edge's corners.
    const x = at - n;
    const volts =
      low +
      (x / 2) *
        (high -
          before +
          x * (2 * before - 5 * low + 4 * high - after + x * (3 * (low - high) + after - before)));
    return (volts - then.levelV) / then.launchV;
  };
  let launchOff = 0;
  const [lengthS, thenLengthS] = [launchLength(now), launchLength(then)];
  const launchEndsS = EDGE_SHARE * lengthS;
  const { shiftS, gain } = launchOnLaunch(now, thenShare, launchEndsS);
  for (let n = 0; n < share.length; n++) {
    const timeS = trace.startS + n * trace.intervalS - now.launchAtS;
    const was = gain * thenShare(timeS + shiftS);
    const is = (trace.volts[n]! - now.levelV) / now.launchV;
    share[n] = Number.isNaN(was) ? 0 : is - was;
    if (Math.abs(timeS) < launchEndsS) launchOff = Math.max(launchOff, Math.abs(share[n]!));
  }
  return {
    share,
    noiseShare: Math.hypot(
      now.reading.noiseV / Math.abs(now.launchV),
      then.reading.noiseV / Math.abs(then.launchV),
    ),
    alike:
      launchOff < ALIKE &&
      Math.abs(lengthS - thenLengthS) <
        Math.max(WIDTH_KEEPS * lengthS, WIDTH_SAMPLES * Math.max(trace.intervalS, then.trace.intervalS)),
    changes: changesOf(now.reading, then.reading),
  };
}

/**
 * How far the other launch has to be moved, and what it has to be multiplied by, to lie on this one: least squares over
 * the leading edge. Each trace's own launch is known to a part of a sample and of its noise; on a steep edge that is
 * more than what is looked for.
 */
function launchOnLaunch(
  { trace, launchAtS, launchV, levelV }: ReadForComparison,
  thenShare: (timeS: number) => number,
  launchEndsS: number,
): { shiftS: number; gain: number } {
  const { intervalS, startS, volts } = trace;
  const from = Math.max(0, Math.ceil((launchAtS - launchEndsS - startS) / intervalS));
  const to = Math.min(volts.length - 1, Math.floor((launchAtS + launchEndsS - startS) / intervalS));
  let [shiftS, gain] = [0, 1];
  for (let turn = 0; turn < ALIGN_TURNS; turn++) {
    let [aa, ab, bb, ay, by] = [0, 0, 0, 0, 0];
    for (let n = from; n <= to; n++) {
      const timeS = startS + n * intervalS - launchAtS + shiftS;
      const was = thenShare(timeS);
      const slope = (thenShare(timeS + intervalS / 2) - thenShare(timeS - intervalS / 2)) / intervalS;
      const off = (volts[n]! - levelV) / launchV - gain * was;
      if (Number.isNaN(off) || Number.isNaN(slope)) continue;
      aa += slope * slope;
      ab += slope * was;
      bb += was * was;
      ay += slope * off;
      by += was * off;
    }
    const determinant = aa * bb - ab * ab;
    if (!(determinant > 1e-6 * aa * bb)) return { shiftS: 0, gain: 1 };
    const move = (ay * bb - by * ab) / determinant;
    // Launches that lie further apart than a sample are not one launch seen twice.
    shiftS = Math.max(-intervalS, Math.min(intervalS, shiftS + move));
    gain = Math.max(1 - GAIN_KEEPS, Math.min(1 + GAIN_KEEPS, gain + (by * aa - ay * ab) / determinant));
  }
  return { shiftS, gain };
}

/** How long a pulse stands above half its height, seconds; nought for a step, which has no width. */
function launchLength({ trace, launchAtS, launchV, levelV }: ReadForComparison): number {
  const { volts, intervalS, startS } = trace;
  const from = Math.max(0, Math.ceil((launchAtS - startS) / intervalS));
  const high = (n: number): boolean => Math.abs(volts[n]! - levelV) > Math.abs(launchV) / 2;
  let n = from;
  while (n < volts.length && (n - from < 2 || high(n))) n++;
  return n - from > volts.length / 3 ? 0 : (n - from) * intervalS;
}

function changesOf(now: ReadForComparison['reading'], then: ReadForComparison['reading']): TraceChange[] {
  const own = (events: readonly TraceEvent[]): TraceEvent[] => events.filter(({ kind }) => kind !== 'ghost');
  const [present, past] = [own(now.events), own(then.events)];
  const resolutionM = Math.max(now.resolutionM, then.resolutionM);
  const left = new Set(past);
  const changes = present.flatMap((event): TraceChange[] => {
    const near = [...left].filter(
      (was) =>
        Math.abs(was.distanceM - event.distanceM) <
        Math.max(resolutionM / 2, Math.hypot(was.u95M, event.u95M)),
    );
    const was = near.sort(
      (a, b) => Math.abs(a.distanceM - event.distanceM) - Math.abs(b.distanceM - event.distanceM),
    )[0];
    if (!was) return [{ what: 'new', event, was: null }];
    left.delete(was);
    const same = was.kind === event.kind && Math.abs(was.reflection - event.reflection) < REFLECTION_KEEPS;
    const bigger = Math.sign(was.reflection) !== Math.sign(event.reflection);
    const ends = event.kind === 'open' || event.kind === 'short';
    // An end whose height alone differs has other loss in front of it, which is told where it is.
    return same || (ends && was.kind === event.kind && !bigger) ? [] : [{ what: 'changed', event, was }];
  });
  // What lies behind a new end is hidden, not gone.
  const hiddenFromM = Math.min(
    ...present.filter(({ kind }) => kind === 'open' || kind === 'short').map(({ distanceM }) => distanceM),
    Infinity,
  );
  const gone = [...left]
    .filter(({ distanceM }) => distanceM < hiddenFromM + resolutionM / 2)
    .map((event): TraceChange => ({ what: 'gone', event, was: event }));
  return [...changes, ...gone].sort((a, b) => a.event.distanceM - b.event.distanceM);
}
